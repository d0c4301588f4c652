// How long something takes.
#pragma once

#include <chrono>

namespace anvil::bench {

template <class Work>
double seconds(Work&& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

}  // namespace anvil::bench
