#include <fmt/format.h>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

// Datum axes and planes have no end; for a shortest distance this much of them is enough.
constexpr double kReach_mm = 1e5;

TopoDS_Shape measurable_shape(const Given& given) {
  if (!given.shape.IsNull()) return given.shape;
  if (given.frame || (given.point && !given.plane && !given.axis))
    return BRepBuilderAPI_MakeVertex(*given.point).Shape();
  if (given.plane)
    return BRepBuilderAPI_MakeFace(*given.plane, -kReach_mm, kReach_mm, -kReach_mm, kReach_mm).Shape();
  if (given.axis) return BRepBuilderAPI_MakeEdge(gp_Lin(*given.axis), -kReach_mm, kReach_mm).Shape();
  return BRepBuilderAPI_MakeVertex(*given.point).Shape();
}

bool is_flat(const Given& g) {
  return g.plane && !g.is_circular_edge && !g.frame;
}
// Cylinders and the like are measured axis to axis, edges as what they are.
bool is_centre_line(const Given& g) {
  return g.axis && !g.is_straight_edge && !g.is_circular_edge && !g.frame;
}

Solutions measured(const gp_Pnt& from, const gp_Pnt& to, const Inputs& in, const std::string& more = {}) {
  const double distance = from.Distance(to);
  return one(Measurement{Measurement::Kind::kDistance, distance, from, to},
             format_length(distance, in.display) + more);
}

Solutions distance_between(const Inputs& in) {
  const Given &a = in[0], &b = in[1];
  if (is_flat(a) && is_flat(b) && parallel(a.plane->Axis().Direction(), b.plane->Axis().Direction())) {
    const gp_Pnt from = drawn_plane(*a.plane, a.extent).centre;
    return measured(from, foot_on(*b.plane, from), in);
  }
  if (is_centre_line(a) && is_centre_line(b)) {
    const Bridge between = bridge(*a.axis, *b.axis);
    return measured(
        between.on_a, between.on_b, in,
        between.parallel
            ? ""
            : " (axes, " + format_angle(acute_angle(a.axis->Direction(), b.axis->Direction()), in.display) +
                  ")");
  }
  if (is_centre_line(a) && b.point) return measured(foot_on(*a.axis, *b.point), *b.point, in);
  if (is_centre_line(b) && a.point) return measured(*a.point, foot_on(*b.axis, *a.point), in);
  if (is_flat(a) && b.point) return measured(foot_on(*a.plane, *b.point), *b.point, in);
  if (is_flat(b) && a.point) return measured(*a.point, foot_on(*b.plane, *a.point), in);
  if (a.point && b.point) return measured(*a.point, *b.point, in);
  const BRepExtrema_DistShapeShape extrema(measurable_shape(a), measurable_shape(b));
  if (!extrema.IsDone() || extrema.NbSolution() == 0)
    return refuse(RefusalCode::kGeometry, "the distance between {1} and {2} cannot be measured");
  return measured(extrema.PointOnShape1(1), extrema.PointOnShape2(1), in);
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

}  // namespace

Construction measure_distance() {
  Construction c;
  c.id = "measure.distance";
  c.makes = Makes::kMeasurement;
  c.sentence = "Distance {1} to {2}";
  c.roles = {Need::kMeasurable, Need::kMeasurable};
  c.rank = 12;
  c.solve = distance_between;
  return c;
}

Construction measure_angle() {
  Construction c;
  c.id = "measure.angle";
  c.makes = Makes::kMeasurement;
  c.sentence = "Angle between {1} and {2}";
  c.roles = {Need::kDirection, Need::kDirection};
  c.rank = 26;
  c.solve = angle_between;
  // Nobody asks for the angle of what is parallel.
  c.rank_for = [](const Inputs& in) {
    const gp_Dir &a = *in[0].direction, &b = *in[1].direction;
    const bool mixed = static_cast<bool>(in[0].plane) != static_cast<bool>(in[1].plane);
    return parallel(a, b) || (mixed && square(a, b)) ? 40 : 11;
  };
  return c;
}

}  // namespace anvil
