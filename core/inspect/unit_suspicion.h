// "It came in 25.4 times too big": noticed from the sizes themselves.
#pragma once

#include <optional>
#include <string>

#include "part/part.h"

namespace anvil {

struct UnitSuspicion {
  double scale = 1.0;    // what the lengths would have to be multiplied by
  std::string sentence;  // for the user, with the numbers
};

// Judged by two things together: the part is implausibly large (over 1.5 m) or small (under 8 mm), and at
// least 60 % of its diameters and straight edges become round numbers (tenths of a millimetre, or sixteenths
// of an inch) when resized by 25.4, 1/25.4 or 1000, while, for small parts, fewer than half are as they came.
// Nothing otherwise: an unusual part is not nagged about.
std::optional<UnitSuspicion> suspect_unit(const Part& part);

}  // namespace anvil
