// Whether a tool comes straight down to a hole.
#pragma once

#include <vector>

#include "inspect/holes.h"

namespace anvil {

// kBlocked: it looks along the hole, but material stands above the opening within the bore's radius.
enum class HoleReach { kFromEntry, kFromExit, kBlocked, kAslant };

// From a tool that comes down against `tool_axis` (from the part towards the spindle), for each hole of the
// report; along it within 0.05 degrees. Material is looked for in the display mesh.
std::vector<HoleReach> reach_of_holes(const Part& part, const HoleReport& report, const gp_Dir& tool_axis);

}  // namespace anvil
