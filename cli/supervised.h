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
  bool from_outside = false;  // by a signal that no program brings upon itself
  bool closed_pipe = false;   // nobody reads our answer any more
};

// Runs `work` in a copy of this process, whose output is ours, and waits for it. `until_pipe_closes`: it is
// ended as soon as nobody reads standard output any more. To be called while no other thread runs.
Ended supervised(const std::function<int()>& work, bool until_pipe_closes = false);

}  // namespace anvil::cli
