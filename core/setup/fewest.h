// The fewest sets that cover everything that can be covered. Internal to core/setup.
#pragma once

#include <cstddef>
#include <vector>

namespace anvil {

// `covered_by` lists for every thing the sets (0 … sets-1) that hold it; things in none are left out. Exact
// by branch and bound over at most a million steps, beyond that the best found so far. Of equally few the one
// whose sets come earlier.
std::vector<size_t> fewest_covering(const std::vector<std::vector<size_t>>& covered_by, size_t sets);

}  // namespace anvil
