// Planes through an axis.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

Solutions turned(const Inputs& in) {
  const gp_Pln& plane = *in[0].plane;
  const gp_Ax1& axis = *in[1].axis;
  const double lean = angle_to_plane(axis.Direction(), plane);
  if (lean > in.tolerance.angular_rad)
    return refused(
        fmt::format("{{2}} is not parallel to {{1}}: it stands at {} to it", format_angle(lean, in.display)),
        {{"angle_rad", lean}}, "plane.axis-and-plane");
  gp_Pln start = plane;
  if (in.choices.at("start") == "its parallel through the axis")
    start.Translate(gp_Vec(plane.Axis().Direction()) * height_over(plane, axis.Location()));
  std::vector<Solution> solutions;
  for (const auto& [sense, key] : {std::pair{1.0, "plus"}, std::pair{-1.0, "minus"}}) {
    const gp_Pln made = start.Rotated(axis, sense * in.numbers.at("angle"));
    solutions.push_back({drawn_plane(made, extents(in)), key, sense > 0 ? "" : "turned to the other side"});
  }
  return solutions;
}

Solutions with_plane(const Inputs& in) {
  const gp_Ax1& axis = *in[0].axis;
  const gp_Pln& plane = *in[1].plane;
  const gp_Dir normal = plane.Axis().Direction();
  const double lean = angle_to_plane(axis.Direction(), plane);
  std::vector<Solution> solutions;
  const auto add = [&](const gp_Dir& n, const char* key, const std::string& note) {
    solutions.push_back(
        {drawn_plane(plane_at(axis.Location(), n, axis.Direction()), extents(in)), key, note});
  };
  if (lean < in.tolerance.angular_rad) add(normal, "parallel", "parallel to {2}");
  if (kPi / 2 - lean > in.tolerance.angular_rad)
    add(axis.Direction().Crossed(normal), "square", "square to {2}");
  if (solutions.empty())
    return refused("{1} stands square to {2}: every plane through it does", {}, "plane.turned");
  return solutions;
}

}  // namespace

Construction plane_turned() {
  Construction c = described(Makes::kPlane, "plane.turned", "Plane turned from {1} about {2}",
                             {Need::kPlane, Need::kAxis}, 13, turned,
                             {{"angle", "Angle", Quantity::kAngle, "30"},
                              {"start",
                               "Turned",
                               Quantity::kChoice,
                               "its parallel through the axis",
                               {"its parallel through the axis", "the plane itself"}}});
  return c;
}

Construction plane_of_axis_and_plane() {
  return described(Makes::kPlane, "plane.axis-and-plane", "Plane through axis {1}, parallel or square to {2}",
                   {Need::kAxis, Need::kPlane}, 15, with_plane);
}

}  // namespace anvil
