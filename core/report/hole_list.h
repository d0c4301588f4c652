// The hole list as CSV, in the frame it is read in, ready to be compared with or handed over.
#pragma once

#include <string>

#include "base/units.h"
#include "inspect/holes.h"

namespace anvil {

// Header comment with unit and frame, a line of column names, one line a hole; four decimals (mm) or five
// (inch). A name with a comma or quote is quoted (RFC 4180). `report` is already in the frame.
std::string hole_list_csv(const HoleReport& report, const std::string& frame, Unit unit);

}  // namespace anvil
