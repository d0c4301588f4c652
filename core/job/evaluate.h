// From a job to geometry: every entry's value or the reason there is none. Evaluating after an edit
// recomputes only what depends on it; everything else is taken over from the evaluation before.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>

#include "base/progress.h"
#include "job/entry.h"

namespace anvil {

enum class EntryState { kCurrent, kAttention, kRefused, kSuppressed };
const char* state_name(EntryState state);  // "current", …

struct Evaluated {
  EntryState state = EntryState::kCurrent;
  std::string reason;                            // why not current, for the user
  std::optional<DatumValue> value;               // refused: the last good one, if there was one
  std::vector<std::string> step_reasons;         // placement: per step, empty when it is good
  size_t fingerprint = 0;                        // of everything it was made from
  Tolerance tolerance;                           // it was made with
  std::shared_ptr<const SetupValue> setup = {};  // of a setup, beside its frame as `value`
  bool stopped = false;                          // it was not computed, because it was left out
  bool fresh = false;                            // the value was made now, whatever the state says
};

struct Evaluation {
  std::string part_key;           // what of `part` picks depend on: its geometry and numbering
  PartPtr part;                   // the job's part with its bodies arranged; references resolve on it
  gp_Trsf placement;              // from part coordinates to placed ones
  PartPtr arranged_from;          // what `part` was arranged from, and how
  std::vector<gp_Trsf> arranged;  // one a body
  std::map<int, Evaluated> entries;
  std::map<int, Names> numbers;  // of entries that can be built, by their short names (names.h)
  int computed = 0;              // entries that were not taken over from before
};

inline constexpr const char* kStoppedReason =
    "not computed, because it was cancelled: compute it from the menu of this row";

struct Evaluating {
  Progress progress = {};       // tells the entry under way; cancelled, the result is of no use
  std::set<int> left_out = {};  // datums that are not computed (the user would not wait for them)
  bool only_known = false;      // nothing is computed that is not taken over from before
};
Evaluation evaluate(const Job& job, const Evaluation* before = nullptr, const Evaluating& how = {});

// Solves one recipe on top of an evaluation, for ghosts. Solutions are flipped when the recipe says so. Its
// expressions may name entries before `before` (0: all).
Solutions solve_recipe(const Job& job, const Evaluation& evaluation, const Recipe& recipe, int before = 0);

// What a reference gives on top of an evaluation.
Result<Given> give(const Job& job, const Evaluation& evaluation, const Reference& reference);

// What of an entry can be picked: itself, and of a figure its edges and their points.
std::vector<EntryReference> pickable(const Evaluation& evaluation, int entry);

// The frame the user reads in, in placed coordinates; a frame entry that cannot be built falls back to the
// placed part.
gp_Ax2 reading_frame(const Job& job, const Evaluation& evaluation);
// From part coordinates into the reading frame.
gp_Trsf part_to_reading(const Job& job, const Evaluation& evaluation);
// Along which the tool stands: the active tool plane of the setup that is read in, else the reading frame.
gp_Ax2 active_tool_plane(const Job& job, const Evaluation& evaluation);
std::string tool_plane_name(const Job& job);  // "TP2 of OP10 · G54", or the reading frame's
std::string reading_frame_name(const Job& job, int frame);

}  // namespace anvil
