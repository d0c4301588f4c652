// What a damaged file leaves without something it needs, taken out of the kernel's model before anything is
// built of it: the kernel's builders use what an instance refers to without asking whether it is there, and
// crash where it is not.
#pragma once

#include <IGESData_IGESModel.hxx>
#include <Interface_Graph.hxx>
#include <StepData_StepModel.hxx>
#include <string>

#include "base/refusal.h"

namespace anvil {

// Leaves out instances that could not be read (a reference to nothing or to the wrong kind, a list that is no
// list) with what needs them: of an edge the face, of a face the shell's mention of it, of an empty shell the
// solid; and what leads back to itself. A curve on a surface goes alone. What an instance could do without
// (its name) counts for nothing. `graph` is of the same model. How many instances were left out.
//
// For files that made a reader fail only: many that are read well hold instances of this kind in places that
// nobody looks at.
// Faces on whose building a process of its own dies go as well.
int leave_out_incomplete(const Handle(StepData_StepModel) & model, const Interface_Graph& graph);
int leave_out_incomplete(const Handle(IGESData_IGESModel) & model, const Interface_Graph& graph);

// When that leaves nothing.
Refusal nothing_left(const std::string& file, int left_out);

}  // namespace anvil
