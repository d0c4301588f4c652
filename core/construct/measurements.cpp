// Distances and angles between two picks.
#include <fmt/format.h>
#include <BRepExtrema_DistShapeShape.hxx>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"

namespace anvil {
namespace {

bool is_flat(const Given& g) {
  return g.plane && !g.is_circular_edge && !g.frame;
}
// Cylinders and the like are measured axis to axis, edges as what they are.
bool is_centre_line(const Given& g) {
  return g.axis && !g.is_straight_edge && !g.is_circular_edge && !g.frame;
}

// Axes of real files are off by up to this; what is to be parallel to them is.
constexpr double kParallel_rad = 1e-5;

gp_Pnt middle_of_axis(const Given& round) {
  if (round.extent.empty()) return round.axis->Location();
  double low = 1e300, high = -1e300;
  for (const gp_Pnt& p : round.extent) {
    const double level = gp_Vec(round.axis->Location(), p).Dot(gp_Vec(round.axis->Direction()));
    low = std::min(low, level);
    high = std::max(high, level);
  }
  return round.axis->Location().Translated(gp_Vec(round.axis->Direction()) * ((low + high) / 2));
}

struct Span {
  gp_Pnt from, to;
  std::string note;
};

Solutions measured(const Span& span, const Inputs& in) {
  const double distance = span.from.Distance(span.to);
  return one(Measurement{Measurement::Kind::kDistance, distance, span.from, span.to},
             format_length(distance, in.display) + span.note);
}

// What a hole or a boss is from a flat face or an edge, people mean from its axis: square to it, beside the
// middle of the axis. Nothing where the axis runs into the face.
std::optional<Span> axis_to_flat(const Given& round, const Given& flat, const Tolerance& tolerance) {
  if (!is_centre_line(round) || !is_flat(flat) ||
      !square(round.axis->Direction(), flat.plane->Axis().Direction(),
              std::max(tolerance.angular_rad, kParallel_rad)))
    return std::nullopt;
  const gp_Pnt from = middle_of_axis(round);
  return Span{from, foot_on(*flat.plane, from), " (from the axis)"};
}

std::optional<Span> axis_to_edge(const Given& round, const Given& edge, const Tolerance& tolerance) {
  if (!is_centre_line(round) || !edge.is_straight_edge) return std::nullopt;
  const Bridge between = bridge(*round.axis, *edge.axis, std::max(tolerance.angular_rad, kParallel_rad));
  if (!between.parallel) return Span{between.on_a, between.on_b, " (from the axis)"};
  const gp_Pnt from = middle_of_axis(round);
  return Span{from, foot_on(*edge.axis, from), " (from the axis)"};
}

// Where one of the two is round, or both are: what people mean by their distance.
std::optional<Span> span_from_axis(const Inputs& in) {
  const Given &a = in[0], &b = in[1];
  if (is_centre_line(a) && is_centre_line(b)) {
    const Bridge between = bridge(*a.axis, *b.axis, in.tolerance.angular_rad);
    const double angle = acute_angle(a.axis->Direction(), b.axis->Direction());
    return Span{between.on_a, between.on_b,
                between.parallel ? "" : " (axes, " + format_angle(angle, in.display) + ")"};
  }
  for (const auto& from_axis : {axis_to_flat, axis_to_edge}) {
    if (const auto span = from_axis(a, b, in.tolerance)) return *span;
    if (const auto span = from_axis(b, a, in.tolerance)) return Span{span->to, span->from, span->note};
  }
  return std::nullopt;
}

// Of what is there, wherever it is nearest.
Result<Span> nearest_span(const Inputs& in) {
  const Given &a = in[0], &b = in[1];
  const auto place = [](const Given& g) { return g.extent.empty() ? gp_Pnt() : g.extent.front(); };
  const BRepExtrema_DistShapeShape extrema(measurable_shape(a, place(b)), measurable_shape(b, place(a)));
  if (!extrema.IsDone() || extrema.NbSolution() == 0)
    return refuse(RefusalCode::kGeometry, "the distance between {1} and {2} cannot be measured");
  return Span{extrema.PointOnShape1(1), extrema.PointOnShape2(1), " (nearest points)"};
}

Result<Span> shortest_span(const Inputs& in) {
  const Given &a = in[0], &b = in[1];
  if (is_flat(a) && is_flat(b) &&
      parallel(a.plane->Axis().Direction(), b.plane->Axis().Direction(), in.tolerance.angular_rad)) {
    const gp_Pnt from = drawn_plane(*a.plane, a.extent).centre;
    return Span{from, foot_on(*b.plane, from), ""};
  }
  if (const auto span = span_from_axis(in)) return *span;
  if (is_centre_line(a) && b.point) return Span{foot_on(*a.axis, *b.point), *b.point, ""};
  if (is_centre_line(b) && a.point) return Span{*a.point, foot_on(*b.axis, *a.point), ""};
  if (is_flat(a) && b.point) return Span{foot_on(*a.plane, *b.point), *b.point, ""};
  if (is_flat(b) && a.point) return Span{*a.point, foot_on(*b.plane, *a.point), ""};
  if (a.point && b.point) return Span{*a.point, *b.point, ""};
  return nearest_span(in);
}

Solutions shortest(const Inputs& in) {
  const auto span = shortest_span(in);
  if (!span) return refuse(span);
  return measured(*span, in);
}

Solutions nearest(const Inputs& in) {
  auto span = nearest_span(in);
  if (!span) return refuse(span);
  span->note.clear();  // the sentence says it
  return measured(*span, in);
}

// The part of the shortest span that runs along the third pick.
Solutions along_direction(const Inputs& in) {
  auto span = shortest_span(in);
  if (!span) return refuse(span);
  const gp_Vec along(*in[2].direction);
  span->to = span->from.Translated(along * gp_Vec(span->from, span->to).Dot(along));
  return measured(*span, in);
}

Solutions in_plane(const Inputs& in) {
  auto span = shortest_span(in);
  if (!span) return refuse(span);
  const gp_Vec normal(in[2].plane->Axis().Direction()), whole(span->from, span->to);
  span->to = span->from.Translated(whole - normal * whole.Dot(normal));
  return measured(*span, in);
}

// Between vertices and dense samples of edges: exact for polygons and, to the sampling, for what is round.
std::vector<gp_Pnt> outline(const Given& given) {
  if (given.shape.IsNull()) return given.extent;
  constexpr int kSamples = 256;
  std::vector<gp_Pnt> points;
  for (TopExp_Explorer ex(given.shape, TopAbs_EDGE); ex.More(); ex.Next()) {
    const BRepAdaptor_Curve curve(TopoDS::Edge(ex.Current()));
    const double first = curve.FirstParameter(), last = curve.LastParameter();
    const int count = curve.GetType() == GeomAbs_Line ? 1 : kSamples;
    for (int i = 0; i <= count; ++i) points.push_back(curve.Value(first + (last - first) * i / count));
  }
  return points.empty() ? given.extent : points;
}

Solutions greatest(const Inputs& in) {
  Span longest;
  double distance = -1;
  const std::vector<gp_Pnt> as = outline(in[0]), bs = outline(in[1]);
  for (const gp_Pnt& a : as)
    for (const gp_Pnt& b : bs) {
      const double here = a.SquareDistance(b);
      if (here <= distance) continue;
      distance = here;
      longest = {a, b, ""};
    }
  if (distance < 0) return refused("{1} and {2} have no outline to measure between");
  return measured(longest, in);
}

Solutions angle_between(const Inputs& in) {
  const gp_Dir a = *in[0].direction, b = *in[1].direction;
  const bool planes = in[0].plane && in[1].plane,
             mixed = static_cast<bool>(in[0].plane) != static_cast<bool>(in[1].plane);
  double angle = acute_angle(a, b);
  if (mixed) angle = kPi / 2 - angle;  // a line and a plane: from the plane, not from its normal
  const gp_Pnt at = in[0].extent.empty() ? gp_Pnt() : in[0].extent.front();
  const Measurement acute{Measurement::Kind::kAngle, angle, at, at},
      supplement{Measurement::Kind::kAngle, kPi - angle, at, at};
  std::vector<Solution> solutions{{acute, "acute", format_angle(angle, in.display)}};
  if (planes || !mixed)
    solutions.push_back({supplement, "supplement", format_angle(kPi - angle, in.display) + " (supplement)"});
  return solutions;
}

// Of parallel holes: centre distance, and its parts along X and Y of the frame.
Solutions pitch(const Inputs& in) {
  const Bridge between = bridge(*in[0].axis, *in[1].axis, in.tolerance.angular_rad);
  if (!between.parallel) {
    const double angle = acute_angle(in[0].axis->Direction(), in[1].axis->Direction());
    return refused(fmt::format("{{1}} and {{2}} are not parallel: they stand at {}, {} apart",
                               format_angle(angle, in.display), format_length(between.gap_mm, in.display)),
                   {{"angle_rad", angle}, {"gap_mm", between.gap_mm}}, "measure.distance");
  }
  const gp_Vec whole(between.on_a, between.on_b);
  const double along = whole.Dot(gp_Vec(in[2].frame->XDirection())),
               across = whole.Dot(gp_Vec(in[2].frame->YDirection()));
  return one(Measurement{Measurement::Kind::kDistance,
                         between.gap_mm,
                         between.on_a,
                         between.on_b,
                         {{"along", Measurement::Kind::kDistance, along},
                          {"across", Measurement::Kind::kDistance, across}}},
             fmt::format("{}: along X {}, along Y {}", format_length(between.gap_mm, in.display),
                         format_length(along, in.display), format_length(across, in.display)));
}

// Endless things that cross, and points that lie on them, are at no distance anyone asks for.
bool touch(const Given& a, const Given& b) {
  if (is_flat(a) && b.axis && !b.frame && !b.is_circular_edge)
    return !square(a.plane->Axis().Direction(), b.axis->Direction()) ||
           std::abs(height_over(*a.plane, b.axis->Location())) < kExact.linear_mm;
  if (is_flat(a) && is_flat(b)) return !parallel(a.plane->Axis().Direction(), b.plane->Axis().Direction());
  if (!b.point) return false;
  if (gives(a, Need::kEdge) && !a.is_straight_edge) return lies_on_edge(a, *b.point);
  if (is_flat(a)) return std::abs(height_over(*a.plane, *b.point)) < kExact.linear_mm;
  return a.axis && !a.is_circular_edge && distance(*a.axis, *b.point) < kExact.linear_mm;
}

}  // namespace

Construction measure_distance() {
  Construction c = measuring("measure.distance", "Distance {1} to {2}",
                             {Need::kMeasurable, Need::kMeasurable}, 12, shortest);
  c.rank_for = [](const Inputs& in) { return touch(in[0], in[1]) || touch(in[1], in[0]) ? 35 : 12; };
  return c;
}

// Where one of them is round the distance counts from its axis, and this is another one.
Construction measure_nearest() {
  Construction c = measuring("measure.nearest", "Nearest points of {1} and {2}",
                             {Need::kMeasurable, Need::kMeasurable}, 46, nearest);
  c.kept_as = "Distance";
  c.rank_for = [](const Inputs& in) { return span_from_axis(in) ? 18 : 46; };
  return c;
}

Construction measure_along() {
  return measuring("measure.along", "Distance {1} to {2} along {3}",
                   {Need::kMeasurable, Need::kMeasurable, Need::kDirection}, 22, along_direction);
}

Construction measure_in_plane() {
  return measuring("measure.in-plane", "Distance {1} to {2} seen square to {3}",
                   {Need::kMeasurable, Need::kMeasurable, Need::kPlane}, 24, in_plane);
}

Construction measure_greatest() {
  Construction c = measuring("measure.greatest", "Greatest distance {1} to {2}",
                             {Need::kMeasurable, Need::kMeasurable}, 44, greatest);
  c.kept_as = "Distance";
  return c;
}

Construction measure_angle() {
  Construction c = measuring("measure.angle", "Angle between {1} and {2}",
                             {Need::kDirection, Need::kDirection}, 26, angle_between);
  // Nobody asks for the angle of what is parallel.
  c.rank_for = [](const Inputs& in) {
    const gp_Dir &a = *in[0].direction, &b = *in[1].direction;
    const bool mixed = static_cast<bool>(in[0].plane) != static_cast<bool>(in[1].plane);
    return parallel(a, b) || (mixed && square(a, b)) ? 40 : 11;
  };
  return c;
}

Construction measure_pitch() {
  Construction c = measuring("measure.pitch", "Pitch of {1} and {2}, along and across in {3}",
                             {Need::kRevolution, Need::kRevolution, Need::kFrame}, 15, pitch);
  c.reads_frame = true;
  return c;
}

}  // namespace anvil
