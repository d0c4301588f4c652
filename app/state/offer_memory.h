// What was last made of picks of which kinds, over all jobs of this user.
#pragma once

#include <string>
#include <vector>

#include "pick/given.h"

namespace anvil::app {

class OfferMemory {
 public:
  // Constructions, the latest first; twice where it was made twice.
  [[nodiscard]] std::vector<std::string> used_with(const std::vector<Given>& picks) const;
  void note(const std::vector<Given>& picks, const std::string& construction);
};

}  // namespace anvil::app
