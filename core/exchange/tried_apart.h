// Finds out what a library dies on, by trying it in processes of its own.
#pragma once

#include <functional>
#include <vector>

namespace anvil {

// Those of 0 … count-1 on which `attempt(begin, end)` ends the process, or takes longer than `seconds`. All
// are tried in one child, and in halves where that does not come back: few processes where few are fatal.
// What an attempt does to memory is lost; what it throws ends it as done. To be called while no other thread
// runs.
std::vector<int> fatal_ones(int count, unsigned seconds, const std::function<void(int, int)>& attempt);

}  // namespace anvil
