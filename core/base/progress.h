// How long work tells where it is and learns that it should stop.
#pragma once

#include <functional>
#include <string>

namespace anvil {

struct Progress {
  // Phase in words ("reading", "meshing") and the share of the whole that is done, 0..1; -1 when unknown.
  std::function<void(const std::string& phase, double share)> report;
  // True once the user has asked to stop; long work asks at least ten times a second.
  std::function<bool()> cancelled;

  void say(const std::string& phase, double share) const {
    if (report) report(phase, share);
  }
  [[nodiscard]] bool stop() const { return cancelled && cancelled(); }
};

}  // namespace anvil
