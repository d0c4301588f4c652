// Same holes together, and the patterns they make. Internal to core/inspect.
#pragma once

#include "inspect/holes.h"

namespace anvil {

// Sorts the holes, groups those of one form, size and direction, and names groups H1… and holes H1.1….
void group_holes(HoleReport& report);

// Rows of three or more and circles of three or more within each group.
void find_patterns(HoleReport& report);

}  // namespace anvil
