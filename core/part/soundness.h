// Is the body a closed, valid solid? Told at import, so that nobody finds out when a later operation fails.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "part/part.h"

namespace anvil {

struct Finding {
  std::string kind;  // "open-edge", "non-manifold-edge", "invalid-face", "not-a-solid"
  std::optional<gp_Pnt> where;
  std::string text;  // a sentence
  int face = -1, edge = -1;
};

// Findings of one body; empty means sound. Cost is about that of reading the file: run it in the background.
// Edges whose gap to their surfaces is wider than `tolerance_mm` count as a finding too.
std::vector<Finding> check_soundness(const Part& part, int body, double tolerance_mm = 0.02);

}  // namespace anvil
