// The text of a STEP file (ISO 10303-21) taken into the kernel's model.
#pragma once

#include <StepData_Protocol.hxx>
#include <StepData_StepModel.hxx>
#include <string>

#include "base/progress.h"
#include "base/refusal.h"

namespace anvil {

struct StepText {
  Handle(StepData_StepModel) model;
  size_t skipped = 0;             // instances that do not follow the format (scopes too) and were left out
  size_t first_skipped_line = 0;  // where the first of them goes wrong
};

// The model of `text`, as the kernel's own scanner would make it, in a fraction of the time: that one takes
// its input one character at a time, walks every list from its start for each value it adds, and crashes on
// some broken texts. Knows simple and complex instances, typed values and lists of any depth, comments,
// several data sections; passes over sections of other kinds. Refuses (kUnreadable), naming the line, a text
// without header or data. `text` is used up: the kernel wants every value to end in a zero byte, which is put
// behind it in place.
Result<StepText> load_step_text(std::string& text, const Handle(StepData_Protocol) & protocol,
                                const Progress& progress);

}  // namespace anvil
