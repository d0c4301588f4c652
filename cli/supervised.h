// Work in a process of its own, so that what a bad file does to it does not reach whoever waits.
#pragma once

#include <functional>
#include <string>

namespace anvil::cli {

// How `work` ended: what it returned, or, when it did not return, why not.
struct Ended {
  int status = 0;
  std::string died;  // "Segmentation fault"; empty when it returned
  bool over_limit = false;
};

// Runs `work` in a copy of this process, whose output is ours, and waits for it. To be called while no other
// thread runs.
Ended supervised(const std::function<int()>& work);

}  // namespace anvil::cli
