#include "construct/helpers.h"

#include <fmt/format.h>

#include <cctype>
#include <sstream>

namespace anvil {
namespace {

constexpr double kMargin = 0.08;
constexpr double kLeast_mm = 2.0;

bool is_kind(const Given& given, std::initializer_list<SurfaceKind> kinds) {
  return given.surface && std::find(kinds.begin(), kinds.end(), given.surface->kind) != kinds.end();
}

}  // namespace

bool gives(const Given& given, Need need) {
  switch (need) {
    case Need::kPoint:
      return given.point.has_value();
    case Need::kAxis:
      return given.axis.has_value();
    case Need::kDirection:
      return given.direction.has_value();
    case Need::kPlane:
      return given.plane.has_value();
    case Need::kFlatFace:
      return given.surface && given.surface->kind == SurfaceKind::kPlane;
    case Need::kStraightEdge:
      return given.is_straight_edge;
    case Need::kEdge:
      return !given.shape.IsNull() && given.shape.ShapeType() == TopAbs_EDGE;
    case Need::kCircle:
      return given.is_circular_edge;
    case Need::kRevolution:
      return given.is_circular_edge || (given.surface && given.surface->is_revolution());
    case Need::kFrame:
      return given.frame.has_value();
    case Need::kMeasurable:
      return given.point || given.axis || given.plane || !given.shape.IsNull();
    case Need::kSpot:
      return given.point || given.hole;
    case Need::kFitted:
      return given.point || given.hole || gives(given, Need::kFlatFace);
    case Need::kFace:
      return given.surface.has_value();
    case Need::kCentred:
      return is_kind(given, {SurfaceKind::kSphere, SurfaceKind::kCone, SurfaceKind::kTorus});
    case Need::kHole:
      return given.hole.has_value();
    case Need::kCylinder:
      return is_kind(given, {SurfaceKind::kCylinder});
    case Need::kRound:
      return is_kind(given, {SurfaceKind::kCylinder, SurfaceKind::kCone});
    case Need::kSphere:
      return is_kind(given, {SurfaceKind::kSphere});
    case Need::kRegion:
      return given.region != nullptr;
    case Need::kSide:
      return given.is_straight_edge || given.plane;
    case Need::kOfBody:
      return !given.body.IsNull();
    case Need::kOutline:
      return !given.drawn.empty() || (gives(given, Need::kFlatFace) && given.picked);
    case Need::kLimit:
      return given.plane || given.surface;
    case Need::kCorrection:
      return given.correction.has_value();
  }
  return false;
}

const char* need_text(Need need) {
  switch (need) {
    case Need::kPoint:
      return "a point";
    case Need::kAxis:
      return "an axis or straight edge";
    case Need::kDirection:
      return "a direction";
    case Need::kPlane:
      return "a plane or flat face";
    case Need::kFlatFace:
      return "a flat face";
    case Need::kStraightEdge:
      return "a straight edge";
    case Need::kEdge:
      return "an edge";
    case Need::kCircle:
      return "a circular edge";
    case Need::kRevolution:
      return "a cylinder, cone or circular edge";
    case Need::kFrame:
      return "a frame";
    case Need::kMeasurable:
      return "something to measure to";
    case Need::kSpot:
      return "a point or hole";
    case Need::kFitted:
      return "a point, hole or flat face";
    case Need::kFace:
      return "a face";
    case Need::kCentred:
      return "a sphere, cone or torus";
    case Need::kHole:
      return "a face of a hole";
    case Need::kCylinder:
      return "a cylinder";
    case Need::kRound:
      return "a cylinder or cone";
    case Need::kSphere:
      return "a sphere";
    case Need::kRegion:
      return "a region of a scan";
    case Need::kSide:
      return "a straight edge or a plane";
    case Need::kOfBody:
      return "a body";
    case Need::kOutline:
      return "closed lines drawn on a plane, or a flat face";
    case Need::kLimit:
      return "a plane or face";
    case Need::kCorrection:
      return "a correction that adds or cuts";
  }
  return "a pick";
}

const char* makes_name(Makes makes) {
  switch (makes) {
    case Makes::kPoint:
      return "point";
    case Makes::kAxis:
      return "axis";
    case Makes::kPlane:
      return "plane";
    case Makes::kFrame:
      return "frame";
    case Makes::kMeasurement:
      return "measurement";
    case Makes::kPlacement:
      return "placement";
    case Makes::kCorrection:
      return "correction";
    case Makes::kFigure:
      return "figure";
  }
  return "datum";
}

AxisDatum drawn_axis(const gp_Ax1& axis, const std::vector<gp_Pnt>& around) {
  AxisDatum datum{axis, -kLeast_mm, kLeast_mm};
  if (around.empty()) return datum;
  double low = 1e300, high = -1e300;
  for (const gp_Pnt& p : around) {
    const double level = gp_Vec(axis.Location(), p).Dot(gp_Vec(axis.Direction()));
    low = std::min(low, level);
    high = std::max(high, level);
  }
  const double margin = std::max(kLeast_mm, kMargin * (high - low) * 2);
  datum.from_mm = low - margin;
  datum.to_mm = high + margin;
  return datum;
}

PlaneDatum drawn_plane(const gp_Pln& plane, const std::vector<gp_Pnt>& around) {
  PlaneDatum datum{plane, plane.Location(), 5 * kLeast_mm, 5 * kLeast_mm};
  if (around.empty()) return datum;
  const gp_Vec x(plane.XAxis().Direction()), y(plane.YAxis().Direction());
  double x0 = 1e300, x1 = -1e300, y0 = 1e300, y1 = -1e300;
  for (const gp_Pnt& p : around) {
    const gp_Vec v(plane.Location(), p);
    x0 = std::min(x0, v.Dot(x));
    x1 = std::max(x1, v.Dot(x));
    y0 = std::min(y0, v.Dot(y));
    y1 = std::max(y1, v.Dot(y));
  }
  const double margin = std::max({kLeast_mm, kMargin * (x1 - x0), kMargin * (y1 - y0)});
  datum.half_x_mm = (x1 - x0) / 2 + margin;
  datum.half_y_mm = (y1 - y0) / 2 + margin;
  datum.centre = plane.Location().Translated(x * ((x0 + x1) / 2) + y * ((y0 + y1) / 2));
  return datum;
}

std::vector<gp_Pnt> extents(const Inputs& inputs) {
  std::vector<gp_Pnt> all;
  for (const Given* given : inputs.picks) all.insert(all.end(), given->extent.begin(), given->extent.end());
  return all;
}

Construction measuring(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                       std::function<Solutions(const Inputs&)> solve) {
  return described(Makes::kMeasurement, id, sentence, std::move(roles), rank, std::move(solve),
                   {{"limit", "Limit", Quantity::kText, ""}});
}

Result<gp_Dir> direction_from(const std::string& text) {
  std::vector<double> numbers;
  std::istringstream in(text);
  for (std::string part; std::getline(in, part, ',');) {
    auto value = evaluate_number(part, {});
    if (!value) return refuse(value);
    numbers.push_back(*value);
  }
  if (numbers.size() != 3)
    return refuse(RefusalCode::kBadInput, "a direction is three numbers with commas between them: 0, 0, 1");
  const gp_Vec v(numbers[0], numbers[1], numbers[2]);
  if (v.Magnitude() < 1e-9) return refuse(RefusalCode::kBadInput, "0, 0, 0 is no direction");
  return gp_Dir(v);
}

std::string direction_numbers(const gp_Dir& d) {
  return fmt::format("{:.9g}, {:.9g}, {:.9g}", d.X(), d.Y(), d.Z());
}

gp_Trsf shortest_turn(const gp_Dir& from, const gp_Dir& to) {
  gp_Trsf turn;
  const double angle = from.Angle(to);
  if (angle < 1e-12) return turn;
  const gp_Dir about = kPi - angle < 1e-9 ? square_to(to, gp_Dir(1, 0, 0)) : from.Crossed(to);
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), about), angle);
  return turn;
}

Construction placement_step(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                            std::function<Solutions(const Inputs&)> solve,
                            std::vector<Parameter> parameters) {
  return described(Makes::kPlacement, id, sentence, std::move(roles), rank, std::move(solve),
                   std::move(parameters));
}

namespace {

std::string kept_as_usual(const Construction& c) {
  if (c.makes == Makes::kMeasurement || c.makes == Makes::kFigure || c.makes == Makes::kCorrection)
    return c.sentence.substr(0, c.sentence.find_first_of(" ,"));
  std::string kind = makes_name(c.makes);
  kind.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(kind.front())));
  return kind;
}

}  // namespace

Construction described(Makes makes, const char* id, const char* sentence, std::vector<Need> roles, int rank,
                       std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters) {
  Construction c;
  c.id = id;
  c.makes = makes;
  c.sentence = sentence;
  c.roles = std::move(roles);
  c.rank = rank;
  c.solve = std::move(solve);
  c.parameters = std::move(parameters);
  c.kept_as = kept_as_usual(c);
  return c;
}

Solutions one(DatumValue value, std::string note) {
  return std::vector<Solution>{{std::move(value), "only", std::move(note)}};
}

tl::unexpected<Refusal> refused(std::string sentence, std::map<std::string, double> facts,
                                std::string instead) {
  Refusal refusal{RefusalCode::kGeometry, std::move(sentence)};
  refusal.facts = std::move(facts);
  refusal.instead = std::move(instead);
  return refuse(std::move(refusal));
}

gp_Pln plane_at(const gp_Pnt& at, const gp_Dir& normal, const gp_Dir& x_wish) {
  return gp_Pln(gp_Ax3(make_frame(at, normal, x_wish)));
}

gp_Pnt spot_of(const Given& given) {
  return given.point ? *given.point : given.hole->opening;
}

std::vector<gp_Pnt> spots_of(const Inputs& inputs) {
  std::vector<gp_Pnt> points;
  for (const Given* pick : inputs.picks) points.push_back(spot_of(*pick));
  return points;
}

gp_Pnt tip_of(const Surface& cone) {
  const double to_tip = -cone.radius_mm / std::tan(cone.semi_angle_rad);
  return cone.position.Location().Translated(gp_Vec(cone.position.Direction()) * to_tip);
}

double angle_to_plane(const gp_Dir& line, const gp_Pln& plane) {
  return kPi / 2 - acute_angle(line, plane.Axis().Direction());
}

std::string fitted_text(const Given& given, const Display& display) {
  return given.region ? region_quality_text(*given.region, given.region->quality, display) : std::string();
}

std::string quality_text(const FitQuality& quality, const Display& display) {
  return fmt::format("RMS {}, largest {} at {{{}}}", format_length(quality.rms_mm, display),
                     format_length(quality.largest_mm, display), quality.worst + 1);
}

}  // namespace anvil
