// What people type, turned into the arithmetic that is computed. Internal to core/base.
#pragma once

#include <map>
#include <string>

#include "base/refusal.h"

namespace anvil {

// Unit words and what a number before them is multiplied by.
using UnitFactors = std::map<std::string, double>;

// "1 1/4in + P1.x" with {"in", 25.4} -> "((1+1/4)*25.4) + P1.x". Refuses (kBadInput) signs that mean nothing,
// commas that can be read in two ways, and texts that are too long.
Result<std::string> arithmetic_of(const std::string& typed, const UnitFactors& units);

}  // namespace anvil
