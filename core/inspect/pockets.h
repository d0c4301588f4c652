// Pockets: connected sets of walls and floors. Internal to core/inspect.
#pragma once

#include "inspect/corner_roles.h"
#include "inspect/corners.h"
#include "inspect/section_stack.h"

namespace anvil {

// Fills report.pockets, the pocket of each corner, the smallest slot end, and passages that belong to no
// pocket. Without report.sections there are no passages, and no pocket is told to be open.
void find_pockets(const Part& part, const std::vector<Role>& roles, CornerReport& report,
                  const Progress& progress);

}  // namespace anvil
