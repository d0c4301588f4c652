// Reads a coaxial chain as a hole: which end is the entry, which step is what. Internal to core/inspect.
#pragma once

#include <optional>

#include "inspect/hole_chain.h"
#include "inspect/holes.h"

namespace anvil {

// Nothing when both ends are closed (a void inside the material).
std::optional<Hole> hole_from(const TopologyIndex& topology, const Chain& chain);

// "Ø6.6 through, counterbore Ø11 × 6.8"
std::string form_text(const Hole& hole);

}  // namespace anvil
