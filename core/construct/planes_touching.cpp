// Planes that touch a cylinder, cone or sphere. Each solution's normal points away from the touched surface,
// and its key says on which side of the other pick it lies.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

gp_Ax1 axis_of_face(const Given& round) {
  return round.surface->axis();
}

double radius_of(const Given& round) {
  return round.surface->radius_mm;
}

Solution touching(const Inputs& in, const gp_Pnt& at, const gp_Dir& normal, const char* key,
                  const std::string& note = {}) {
  return {drawn_plane(plane_at(at, normal), extents(in)), key, note};
}

// Both planes square to `normal` at the radius about `centre`.
std::vector<Solution> on_both_sides(const Inputs& in, const gp_Pnt& centre, const gp_Dir& normal,
                                    double radius) {
  const gp_Vec out = gp_Vec(normal) * radius;
  return {touching(in, centre.Translated(out), normal, "plus"),
          touching(in, centre.Translated(out.Reversed()), normal.Reversed(), "minus", "the other side")};
}

// A plane parallel to the given one touches a cone only where its angle to the axis is the cone's own.
Solutions cone_parallel_to(const Inputs& in) {
  const Surface& cone = *in[0].surface;
  const gp_Dir normal = in[1].plane->Axis().Direction();
  const double lean = angle_to_plane(cone.position.Direction(), *in[1].plane),
               own = std::abs(cone.semi_angle_rad);
  if (std::abs(lean - own) > in.tolerance.angular_rad)
    return refused(fmt::format("{{2}} stands at {} to the axis of {{1}}, whose side stands at {}: no plane "
                               "parallel to it touches the cone along a line",
                               format_angle(lean, in.display), format_angle(own, in.display)),
                   {{"angle_rad", lean}});
  return one(drawn_plane(plane_at(tip_of(cone), normal), extents(in)));
}

Solutions parallel_to_plane(const Inputs& in) {
  if (in[0].surface->kind == SurfaceKind::kCone) return cone_parallel_to(in);
  const gp_Ax1 axis = axis_of_face(in[0]);
  const gp_Dir normal = in[1].plane->Axis().Direction();
  const double lean = angle_to_plane(axis.Direction(), *in[1].plane);
  if (lean > in.tolerance.angular_rad)
    return refused(
        fmt::format("the axis of {{1}} stands at {} to {{2}}: no plane parallel to it touches {{1}}",
                    format_angle(lean, in.display)),
        {{"angle_rad", lean}}, "plane.touching-square");
  return on_both_sides(in, axis.Location(), normal, radius_of(in[0]));
}

Solutions square_to_plane(const Inputs& in) {
  const gp_Ax1 axis = axis_of_face(in[0]);
  const gp_Dir normal = in[1].plane->Axis().Direction();
  if (parallel(axis.Direction(), normal, in.tolerance.angular_rad))
    return refused("the axis of {1} stands square to {2}: every plane touching {1} is square to it", {},
                   "plane.touching-where-clicked");
  return on_both_sides(in, axis.Location(), axis.Direction().Crossed(normal), radius_of(in[0]));
}

// In the section square to `along`: tangents to the circle from the foot of `from`.
Solutions from_outside(const Inputs& in, const gp_Pnt& centre, const gp_Dir& along, const gp_Pnt& from,
                       double radius) {
  const gp_Vec to_point(centre, from);
  const gp_Vec flat = to_point - gp_Vec(along) * to_point.Dot(gp_Vec(along));
  const double off = flat.Magnitude();
  if (off < radius - in.tolerance.linear_mm)
    return refused(fmt::format("{{2}} lies inside {{1}}, {} under its surface: no plane through it touches",
                               format_length(radius - off, in.display)),
                   {{"depth_mm", radius - off}});
  const gp_Vec u = flat.Normalized(), v = gp_Vec(along).Crossed(u);
  if (off <= radius + in.tolerance.linear_mm)
    return one(drawn_plane(plane_at(centre.Translated(u * radius), gp_Dir(u), along), extents(in)));
  const double cosine = radius / off, sine = std::sqrt(1 - cosine * cosine);
  std::vector<Solution> solutions;
  for (const auto& [side, key] : {std::pair{1.0, "left"}, std::pair{-1.0, "right"}}) {
    const gp_Vec normal = u * cosine + v * (side * sine);
    solutions.push_back(touching(in, centre.Translated(normal * radius), gp_Dir(normal), key,
                                 side > 0 ? "" : "the other side"));
  }
  return solutions;
}

Solutions through_line(const Inputs& in) {
  const gp_Ax1 axis = axis_of_face(in[0]);
  const gp_Ax1& line = *in[1].axis;
  if (!parallel(axis.Direction(), line.Direction(), in.tolerance.angular_rad))
    return refused(fmt::format("{{2}} is not parallel to the axis of {{1}}: it stands at {} to it",
                               format_angle(acute_angle(axis.Direction(), line.Direction()), in.display)),
                   {{"angle_rad", acute_angle(axis.Direction(), line.Direction())}});
  return from_outside(in, axis.Location(), axis.Direction(), line.Location(), radius_of(in[0]));
}

Solutions through_point(const Inputs& in) {
  const gp_Ax1 axis = axis_of_face(in[0]);
  return from_outside(in, axis.Location(), axis.Direction(), spot_of(in[1]), radius_of(in[0]));
}

Solutions sphere_parallel(const Inputs& in) {
  return on_both_sides(in, in[0].surface->position.Location(), in[1].plane->Axis().Direction(),
                       radius_of(in[0]));
}

Solutions sphere_through_line(const Inputs& in) {
  return from_outside(in, in[0].surface->position.Location(), in[1].axis->Direction(), in[1].axis->Location(),
                      radius_of(in[0]));
}

}  // namespace

Construction plane_touching_parallel() {
  return described(Makes::kPlane, "plane.touching-parallel", "Plane touching {1}, parallel to {2}",
                   {Need::kRound, Need::kPlane}, 9, parallel_to_plane);
}

Construction plane_touching_square() {
  return described(Makes::kPlane, "plane.touching-square", "Plane touching {1}, square to {2}",
                   {Need::kCylinder, Need::kPlane}, 17, square_to_plane);
}

Construction plane_touching_through_line() {
  Construction c = described(Makes::kPlane, "plane.touching-line", "Plane touching {1}, through {2}",
                             {Need::kCylinder, Need::kAxis}, 17, through_line);
  c.rank_for = [](const Inputs& in) { return in[1].is_straight_edge ? 9 : 24; };
  return c;
}

Construction plane_touching_through_point() {
  return described(Makes::kPlane, "plane.touching-point", "Plane touching {1}, through point {2}",
                   {Need::kCylinder, Need::kPoint}, 13, through_point);
}

Construction plane_touching_sphere_parallel() {
  return described(Makes::kPlane, "plane.touching-sphere", "Plane touching {1}, parallel to {2}",
                   {Need::kSphere, Need::kPlane}, 9, sphere_parallel);
}

Construction plane_touching_sphere_through_line() {
  Construction c = described(Makes::kPlane, "plane.touching-sphere-line", "Plane touching {1}, through {2}",
                             {Need::kSphere, Need::kAxis}, 14, sphere_through_line);
  c.rank_for = [](const Inputs& in) { return in[1].is_straight_edge ? 10 : 14; };
  return c;
}

}  // namespace anvil
