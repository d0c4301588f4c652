// What a user can do to setups, each a function from a job to a new one; as in edits.h none of them fails.
#pragma once

#include "job/edits.h"

namespace anvil {

// A new setup zeroed in a frame, with the next free work offset and the next name (OP10, OP20 …); it is read
// in from then on. Machine and stock are those of the setup before it, if there is one.
Job with_setup(Job job, int frame, int* added = nullptr);
Job with_setup_changed(Job job, int id, const Setup& setup);
// The same again, under the next name and offset.
Job with_copied_setup(Job job, int id, int* added = nullptr);
// The part turned over for the next operation: a setup whose frame is that of `id` turned half round about
// its X or Y, in the same stock, with the next offset. `about`: 'X' or 'Y'.
Job with_flipped_setup(Job job, int id, char about, int* added = nullptr);

// A tool plane on a frame, named after it. Nothing where the frame is made from the setup itself (its stock).
Job with_tool_plane(Job job, int setup, int frame);
Job without_tool_plane(Job job, int setup, size_t plane);  // its frame stays
Job with_moved_tool_plane(Job job, int setup, size_t plane, int by);
// Which tool plane of the setup that is read in is looked along: 0 its own, then in order.
Job with_active_plane(Job job, int plane);

Job with_machine(Job job, const Machine& machine);  // known to the job from then on, or known anew

}  // namespace anvil
