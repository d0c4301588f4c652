// Names that the user gave to holes and slots: kept in the job with a face of the hole, found again on a part
// that has changed as any pick is.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "inspect/holes.h"
#include "job/entry.h"

namespace anvil {

// A hole or a slot of a report.
struct HoleOrSlot {
  bool is_slot = false;
  int index = 0;
};

// Puts the job's names in the place of the report's own, which is of the last of the part's states. What is
// no longer found, or no longer a hole, is left; a hole that bears a given name of another one keeps its own
// with a stroke, so that names stay apart.
void give_names(const Job& job, const std::vector<PartState>& states, HoleReport& report);

// Empty: it goes by its own name again. Refuses a name that another one bears (`report` with its names
// given).
Result<Job> with_hole_name(Job job, const std::vector<PartState>& states, const HoleReport& report,
                           HoleOrSlot which, const std::string& name);

}  // namespace anvil
