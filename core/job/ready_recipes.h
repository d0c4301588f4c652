// What the program makes by itself where the user only says yes: the steps of a suggested seat, tool planes
// along proposed axes, what was probed.
#pragma once

#include "inspect/seats.h"
#include "job/evaluate.h"
#include "setup/probing.h"
#include "setup/proposals.h"

namespace anvil {

// The placement replaced by the seat: the face down, then the edge along X.
Job with_seat(Job job, const Evaluation& evaluation, const Seat& seat);

// A frame read on the hole that opens there, or on a flat face with the X of `reading`; turned round where it
// would look the other way.
Recipe frame_along(const Job& job, const Evaluation& evaluation, const ProposedAxis& axis,
                   const Reference& reading);
// The plane of a setup that looks along the axis already; -1: none.
int plane_along(const Evaluation& evaluation, int setup, const ProposedAxis& axis);
// A frame and a tool plane ("TP2") of the setup for each axis that has neither; `kept` receives how many.
Job with_proposed_planes(Job job, const Evaluation& evaluation, int setup,
                         const std::vector<ProposedAxis>& axes, int& kept);

// The touched points as datums where the part lies, and the frame in which it is read as it was measured.
// `contacts` in part coordinates, one a touch.
Job with_probed_frame(Job job, const Evaluation& evaluation, const std::vector<gp_Pnt>& contacts,
                      const std::vector<Touch>& touched);
// Where a setup lies whose zero and X were found in the machine, as texts for its place.
ParameterTexts place_as_probed(ParameterTexts place, const gp_Pnt& zero, const gp_Dir& x);

}  // namespace anvil
