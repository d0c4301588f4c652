// Straight slots: two half cylinders and two parallel walls between them. Internal to core/inspect.
#pragma once

#include <vector>

#include "inspect/holes.h"

namespace anvil {

// Slots of the part; marks the patches they use in `used` (by patch), so that no half cylinder is also told
// as a hole.
std::vector<Slot> find_slots(const TopologyIndex& topology, std::vector<bool>& used);

}  // namespace anvil
