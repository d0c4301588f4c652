// Holes in words.
#pragma once

#include <string>

#include "base/units.h"
#include "inspect/holes.h"

namespace anvil {

// "Ø6.6 through, counterbore Ø11 × 6.8"; lengths in `unit`, angles in degrees, without closing zeros (to a
// micron, or a ten-thousandth of an inch).
std::string form_text(const Hole& hole, Unit unit = Unit::kMillimetre);

// The same of a group, which all its holes have.
std::string form_text(const HoleReport& report, const HoleGroup& group, Unit unit);
std::string form_text(const HoleReport& report, int group, Unit unit);

}  // namespace anvil
