// Whether a tool can come down to a corner, and how far it must reach. Internal to core/inspect.
#pragma once

#include "inspect/corners.h"

namespace anvil {

// Fills `undercut` and `reach_mm` from the display mesh. Every triangle within the holder's radius counts,
// widened by the mesh's deviation; levels of flat faces are exact, of others the deviation is added on the
// safe side. A round wall corner is undercut when a cutter of its radius would meet something that hangs over
// it on its way down; the others when something hangs over the middle of one of their faces or edges.
void measure_reach(const Part& part, const CornerOptions& options, std::vector<Corner>& corners);

}  // namespace anvil
