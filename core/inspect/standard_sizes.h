// What a bore's diameter could have been drilled or reamed for. The tables are data (core/inspect/standards,
// one file for each standard, which names its number); adding one is a file there and its name in
// core/CMakeLists.txt.
#pragma once

#include <string>
#include <vector>

namespace anvil {

struct StandardSize {
  std::string standard;  // "ISO 273"
  std::string use;       // "clearance, medium"
  std::string size;      // "M6"
  double nominal_mm = 0;
  double low_mm = 0,
         high_mm = 0;  // diameters that are taken for it: 0.02 mm either way, of reamed ones the tolerance
};

const std::vector<StandardSize>& standard_sizes();

// Those a diameter could be, in the order of the tables. A guess, to be told as one: "could be M6 clearance,
// medium".
std::vector<StandardSize> could_be(double diameter_mm);
std::string could_be_text(double diameter_mm);  // "M6 clearance, medium; …"; empty for none

}  // namespace anvil
