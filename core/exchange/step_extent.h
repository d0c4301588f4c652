// How large a STEP part is by the file's own numbers. Internal to core/exchange.
#pragma once

#include <StepData_StepModel.hxx>
#include <optional>

#include "exchange/step_operators.h"
#include "geom/box.h"

namespace anvil {

struct Extent {
  Box box;                  // mm
  bool all_corners = true;  // of the built shape, too: no face is without an edge that bounds it
};

// The box of all corners of solids and shells as placed: the points of the file through its units, its
// mapped items, its relations of representations and their operators, worked out without the kernel's reader.
// The model may be one that StepOperators has marked. Which of two related representations is placed in which
// is written either way round by different programs: `reversed` takes it the less usual way. Nothing where
// the file has none, or more than a few million.
std::optional<Extent> extent_by_the_text(const StepData_StepModel& model, const StepOperators& operators,
                                         bool reversed);

// A sentence when the corners of what was built lie elsewhere than the file's own numbers say, or reach less
// far; empty when they agree, or when there is nothing to compare with.
std::string where_size_disagrees(const StepData_StepModel& model, const StepOperators& operators,
                                 const std::vector<Body>& bodies);

}  // namespace anvil
