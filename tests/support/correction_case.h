// A correction, a part to make it on, and the same part built directly.
#pragma once

#include "support/mending.h"

namespace anvil::test {

using Picks = std::vector<Reference>;

struct CorrectionCase {
  const char* name;
  TopoDS_Shape start;
  const char* id;
  std::function<Picks(Mending&)> picks;  // may keep other entries first
  ParameterTexts numbers;
  TopoDS_Shape made;                    // directly
  TopoDS_Shape before = {};             // the correction, where others were kept first
  std::optional<double> adds_mm3 = {};  // where bodies lie in each other
};

std::vector<CorrectionCase> cases_of_raised_and_repeated();

}  // namespace anvil::test
