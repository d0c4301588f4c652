// Which of two sets belong together at the least total cost. Internal to core/inspect.
#pragma once

#include <vector>

namespace anvil {

struct Pairing {
  int left = -1, right = -1;
  double cost = 0;  // not below zero
};

// For each of `lefts` things the right one it is paired with, or -1: of all assignments along the given pairs
// one with the least total, where leaving a left one alone costs `alone`. Shortest augmenting paths (Jonker
// and Volgenant 1987, on a sparse graph): lefts * pairs * log in the worst case, near linear where few pairs
// compete.
std::vector<int> least_assignment(int lefts, int rights, const std::vector<Pairing>& pairs, double alone);

}  // namespace anvil
