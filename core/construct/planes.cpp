#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

Solutions offset_plane(const Inputs& in) {
  const double distance = in.numbers.at("distance");
  const gp_Pln plane = in[0].plane->Translated(gp_Vec(in[0].plane->Axis().Direction()) * distance);
  return one(drawn_plane(plane, extents(in)));
}

Solutions midway_plane(const Inputs& in) {
  const gp_Pln &a = *in[0].plane, &b = *in[1].plane;
  const double angle = acute_angle(a.Axis().Direction(), b.Axis().Direction());
  if (angle > kExact.angular_rad) {
    Refusal refusal{RefusalCode::kGeometry, fmt::format("{{1}} and {{2}} are not parallel: they stand at {}",
                                                        format_angle(angle, in.display))};
    refusal.facts["angle_rad"] = angle;
    refusal.instead = "axis.of-two-planes";
    return refuse(refusal);
  }
  const double gap = height_over(a, b.Location());
  if (std::abs(gap) < kExact.linear_mm)
    return refuse(RefusalCode::kGeometry, "{1} and {2} lie in the same plane: there is nothing midway");
  const gp_Pln plane = a.Translated(gp_Vec(a.Axis().Direction()) * (gap / 2));
  return one(drawn_plane(plane, extents(in)),
             fmt::format("{} from each", format_length(std::abs(gap) / 2, in.display)));
}

// How far the third point stands off the line through the other two that are farthest apart.
double off_line(const gp_Pnt& a, const gp_Pnt& b, const gp_Pnt& c) {
  const gp_Pnt* p[3] = {&a, &b, &c};
  double least = 1e300;
  for (int i = 0; i < 3; ++i) {
    const gp_Vec along(*p[(i + 1) % 3], *p[(i + 2) % 3]);
    if (along.Magnitude() < kExact.linear_mm) return 0;
    least = std::min(least, along.Crossed(gp_Vec(*p[(i + 1) % 3], *p[i])).Magnitude() / along.Magnitude());
  }
  return least;
}

Solutions plane_of_three(const Inputs& in) {
  const gp_Pnt &a = *in[0].point, &b = *in[1].point, &c = *in[2].point;
  const double off = off_line(a, b, c);
  if (off < kExact.linear_mm) {
    Refusal refusal{
        RefusalCode::kGeometry,
        fmt::format("the three points lie in one line (within {:.6f} mm): they determine no plane", off)};
    refusal.facts["off_line_mm"] = off;
    return refuse(refusal);
  }
  const gp_Dir normal(gp_Vec(a, b).Crossed(gp_Vec(a, c)));
  return one(drawn_plane(gp_Pln(gp_Ax3(a, normal, gp_Dir(gp_Vec(a, b)))), extents(in)));
}

}  // namespace

Construction plane_on_face() {
  Construction c;
  c.id = "plane.on-face";
  c.makes = Makes::kPlane;
  c.sentence = "Plane on {1}";
  c.roles = {Need::kPlane};
  c.rank = 14;
  c.solve = [](const Inputs& in) { return one(drawn_plane(*in[0].plane, in[0].extent)); };
  c.rank_for = [](const Inputs& in) { return in[0].is_circular_edge ? 24 : 14; };
  return c;
}

Construction plane_offset() {
  Construction c;
  c.id = "plane.offset";
  c.makes = Makes::kPlane;
  c.sentence = "Plane offset from {1}";
  c.roles = {Need::kPlane};
  c.rank = 18;
  c.parameters = {{"distance", "Distance", Quantity::kLength, "10mm"}};
  c.solve = offset_plane;
  return c;
}

Construction plane_midway() {
  Construction c;
  c.id = "plane.midway";
  c.makes = Makes::kPlane;
  c.sentence = "Plane midway between {1} and {2}";
  c.roles = {Need::kPlane, Need::kPlane};
  c.rank = 8;
  c.solve = midway_plane;
  return c;
}

Construction plane_through_three_points() {
  Construction c;
  c.id = "plane.three-points";
  c.makes = Makes::kPlane;
  c.sentence = "Plane through {1}, {2} and {3}";
  c.roles = {Need::kPoint, Need::kPoint, Need::kPoint};
  c.rank = 10;
  c.solve = plane_of_three;
  return c;
}

}  // namespace anvil
