// Everything a user can do to a job, each a function from a job to a new one. None of them fails: what does
// not make sense for the job leaves it as it was.
#pragma once

#include <functional>

#include "job/evaluate.h"

namespace anvil {

// Adds a file: the first one makes the part entry, the others join it.
Job with_part(Job job, PartPtr part, std::shared_ptr<const std::string> source_bytes, const std::string& name,
              double scale = 1.0);
Job with_body(Job job, int delivered, const BodySetting& setting);  // what is decided about one body
Job with_source(Job job, size_t index, SourceFile file);            // another reading of the same file
Job with_view(Job job, KeptView view);                              // replaces one of that name
Job without_view(Job job, const std::string& name);
// The chain of steps as one, by its numbers: exact, but it no longer follows faces. Left as it is when single
// bodies were moved.
Job with_collapsed_placement(Job job, const gp_Trsf& placement);
Job with_healing(Job job, const HealOptions& options);  // replaces an earlier one
// The same job with a file's part exchanged for its checked and mended self. Not an act of the user: nothing
// to undo.
Job with_checked_part(Job job, const PartPtr& as_shown, const PartPtr& checked);
// Adds a datum with the next free name of its kind ("Plane 2"). `added`, when given, receives its id.
Job with_datum(Job job, const Recipe& recipe, int* added = nullptr);
// The same, or, of a recipe with a count, as many but for the places it skips: each an entry of its own, a
// distance farther than the last.
Job with_copies(Job job, const Recipe& recipe);
Job with_recipe(Job job, int id, const Recipe& recipe);  // edited in place
// With that correction and those after it suppressed: the part as it stands before it. Not an act of the
// user.
Job before_correction(Job job, int id);
Job with_placement_step(Job job, const Recipe& step);          // makes the placement entry when there is none
Job with_placement_steps(Job job, std::vector<Recipe> steps);  // none left: the entry goes
// What an entry will be called that is to have a name: with a number where another one has the name, or the
// word that stands for it in expressions; it would take over what others were typed with.
std::string name_for(const Job& job, int id, const std::string& wanted);
Job with_name(Job job, int id, const std::string& wanted);  // as name_for() says
Job with_visible(Job job, int id, bool visible);
// The picks of an entry described anew, as they are found on the part now: what was found by intent is
// confirmed.
Job with_picks_as_found(Job job, int id, const Evaluation& evaluation);
Job with_suppressed(Job job, int id, bool suppressed);
Job with_colour(Job job, int id, std::optional<Colour> colour);
Job with_group(Job job, int id, const std::string& group);
// A datum once more, under the next free name, after the one it is like.
Job with_duplicate(Job job, int id, int* added = nullptr);
// A datum one place up (-1) or down (+1) among the datums. Refuses (kBadInput) to put an entry before what it
// is made from, and says what that is.
Result<Job> with_moved(Job job, int id, int by);
// Every datum hidden or shown that `which` says.
Job with_visible_where(Job job, bool visible, const std::function<bool(const Entry&)>& which);
// Everything that refers to `id` refers to `other` instead. Refuses (kBadInput) when that comes after them.
Result<Job> with_rebased(Job job, int id, int other);
Job without(Job job, int id);  // and all that depend on it
Job with_reading_frame(Job job, int frame);
Job with_display(Job job, const Display& display);
Job with_tolerance(Job job, const Tolerance& tolerance);  // kept sensible
Job with_inspection(Job job, Inspection inspection);      // kept sensible

}  // namespace anvil
