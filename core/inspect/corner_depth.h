// Whether a tool can come down to a corner, and how far it must reach. Internal to core/inspect.
#pragma once

#include "inspect/corners.h"
#include "part/ray_caster.h"

namespace anvil {

// Fills `undercut` and `reach_mm`. Both use rays against the display mesh: reach samples the disc of the
// holder radius on three rings of twelve rays, so a narrower peak between them is not seen.
void measure_reach(const Part& part, const RayCaster& rays, const CornerOptions& options,
                   std::vector<Corner>& corners);

}  // namespace anvil
