#include "inspect/hole_reach.h"

#include "base/tolerance.h"
#include "inspect/disc_heights.h"
#include "part/ray_caster.h"

namespace anvil {

std::vector<HoleReach> reach_of_holes(const Part& part, const HoleReport& report, const gp_Dir& tool_axis) {
  std::vector<HoleReach> reach(report.holes.size(), HoleReach::kAslant);
  const auto is_along = [&](const Hole& hole) { return hole.axis.IsParallel(tool_axis, kWall_rad); };
  if (std::none_of(report.holes.begin(), report.holes.end(), is_along)) return reach;
  const RayCaster& mesh = rays_of(part);
  const DiscHeights heights(mesh.triangles(), tool_axis);
  for (size_t i = 0; i < report.holes.size(); ++i) {
    const Hole& hole = report.holes[i];
    if (!is_along(hole)) continue;
    const bool at_entry = hole.axis.Dot(tool_axis) > 0;
    if (!at_entry && !hole.exit) {
      reach[i] = HoleReach::kBlocked;
      continue;
    }
    const gp_Pnt opening = at_entry ? hole.entry : *hole.exit;
    // The mesh stands into the void of a bore by its deviation.
    const double radius =
        std::max(hole.diameter_mm * 0.25, hole.diameter_mm / 2 - mesh.deviation_mm() - 0.01);
    const double level = gp_Vec(gp_Pnt(), opening).Dot(gp_Vec(tool_axis));
    if (heights.within(opening, radius, level + 0.01))
      reach[i] = HoleReach::kBlocked;
    else
      reach[i] = at_entry ? HoleReach::kFromEntry : HoleReach::kFromExit;
  }
  return reach;
}

}  // namespace anvil
