// The rows of the case tables: a construction on named pieces, and what comes of it as drawn. Tried
// everywhere by test_construction_cases.cpp.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/units.h"
#include "construct/solve.h"

namespace anvil::test {

struct Fact {
  const char* name;
  double value;
};

struct Case {
  const char* id;
  std::vector<std::string> picks;
  ParameterTexts parameters;  // lengths as "10*s": s is the scale
  std::vector<std::vector<double>>
      expected;                      // point: 3 numbers; axis and plane: place and direction; else the value
  std::optional<Fact> refused = {};  // with this fact
  bool mirrors = true;               // frames have no mirror image
};

inline const double kSin = 0.5, kCos = std::sqrt(3) / 2;

std::vector<Case> point_cases();
std::vector<Case> axis_cases();
std::vector<Case> plane_cases();
std::vector<Case> frame_cases();
std::vector<Case> measure_cases();
std::vector<Case> figure_cases();
std::vector<Case> scan_cases();
std::vector<Case> all_cases();

}  // namespace anvil::test
