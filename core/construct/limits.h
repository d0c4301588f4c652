// What a kept measurement may be: "12.0 ±0.05", "12 +0.1 -0.05", "11.95..12.05", "<= 6", ">= 5".
#pragma once

#include <optional>
#include <string>

#include "base/expression.h"
#include "construct/construction.h"

namespace anvil {

struct Limits {
  std::optional<double> least, most;  // mm, radians, mm², mm³: as the measurement
};

// Numbers are expressions in the unit they were typed in (areas and volumes in its square and cube). Refuses
// (kBadInput) what cannot be read and limits nothing can keep. An empty text limits nothing.
Result<Limits> limits_from(const std::string& text, Measurement::Kind kind, Unit typed_in,
                           const Names& names);

// Nothing while it is kept; else by how much it is not: "12.080 is 0.030 over 12.050".
std::string limits_broken(const Measurement& measurement, const Limits& limits, const Display& display);

}  // namespace anvil
