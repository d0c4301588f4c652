// Pockets: connected sets of walls and floors. Internal to core/inspect.
#pragma once

#include "inspect/corner_roles.h"
#include "inspect/corners.h"

namespace anvil {

// Fills report.pockets, the pocket of each corner, and the smallest slot end.
void find_pockets(const Part& part, const std::vector<Role>& roles, CornerReport& report);

}  // namespace anvil
