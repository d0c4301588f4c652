// Reads a coaxial chain as a hole: which end is the entry, which step is what. Internal to core/inspect.
#pragma once

#include <optional>

#include "inspect/hole_chain.h"
#include "inspect/holes.h"

namespace anvil {

// Both ends are open and alike: which is the entry is a matter of what the other holes do.
bool looks_alike_from_both_ends(const Chain& chain);

// Nothing when both ends are closed (a void inside the material). `prefer` decides the entry of a hole that
// looks alike from both ends: the one whose axis points that way.
std::optional<Hole> hole_from(const TopologyIndex& topology, const Chain& chain,
                              const std::optional<gp_Dir>& prefer = {});

// Both openings of a hole along an axis, its direction, and whether it goes through.
void set_ends(Hole& hole, const gp_Ax1& axis, const ChainEnd& entry, const ChainEnd& end, bool from_high);

}  // namespace anvil
