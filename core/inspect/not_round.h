// Holes that are no circle square to their axis: extruded ellipses. Internal to core/inspect.
#pragma once

#include "inspect/holes.h"

namespace anvil {

// The direction a face of free form is extruded along: square to its normal everywhere, within kWall_rad on a
// net of samples. Nothing for any other.
std::optional<gp_Dir> extruded_along(const FaceInfo& face);

std::vector<Hole> find_elliptic_holes(const TopologyIndex& topology);

}  // namespace anvil
