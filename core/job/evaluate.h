// From a job to geometry: every entry's value or the reason there is none. Results are kept by what they were
// made from (result_cache.h), so that evaluating after an edit computes only what depends on it, and undoing
// the edit nothing at all.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>

#include "base/content_key.h"
#include "base/progress.h"
#include "job/entry.h"

namespace anvil {

class ResultCache;
struct CorrectionReport;

enum class EntryState { kCurrent, kAttention, kRefused, kSuppressed };
const char* state_name(EntryState state);  // "current", …

struct Evaluated {
  EntryState state = EntryState::kCurrent;
  std::string reason;                                      // why not current, for the user
  std::optional<DatumValue> value;                         // refused: the last good one, if there was one
  std::vector<std::string> step_reasons;                   // placement: per step, empty when it is good
  ContentKey key;                                          // over everything it was made from
  Tolerance tolerance;                                     // it was made with
  std::shared_ptr<const SetupValue> setup = {};            // of a setup, beside its frame as `value`
  bool stopped = false;                                    // it was not computed, because it was left out
  bool fresh = false;                                      // the value was made now, whatever the state says
  bool names_others = false;                               // its texts name other entries
  std::shared_ptr<const HealReport> healed = {};           // of a healing that was done
  std::shared_ptr<const CorrectionReport> corrected = {};  // of a correction that was carried out
  ContentKey on_part;                                      // the state of the part it was evaluated on
  PartPtr tried_on = {};  // of a correction that found no time, memory or room
};

struct Evaluation {
  std::vector<PartState> states;  // of the part: as composed from its files, healed, arranged
  ContentKey part_key;            // what picks depend on: the geometry and numbering of all states
  PartPtr part;                   // the last of them; references end on it
  gp_Trsf placement;              // from part coordinates to placed ones
  std::map<int, Evaluated> entries;
  std::map<int, std::shared_ptr<const Names>>
      numbers;           // of entries that can be built, by their short names (names.h)
  SharedList<Entry> of;  // the entries it is of, and what they were told and taken to meet by
  Display display;
  Tolerance tolerance;
  int computed = 0;                    // entries that were not known before
  std::shared_ptr<ResultCache> cache;  // what was worked out for it, and for those before and after it
};

inline constexpr const char* kStoppedReason =
    "not computed, because it was cancelled: compute it from the menu of this row";

struct Evaluating {
  Progress progress = {};                   // tells the entry under way; cancelled, the result is of no use
  std::set<int> left_out = {};              // datums that are not computed (the user would not wait for them)
  bool only_known = false;                  // nothing is computed that is not known
  std::shared_ptr<ResultCache> cache = {};  // null: that of the evaluation before, else a new one
};
// `before`: gives what cannot be built now its last good value.
Evaluation evaluate(const Job& job, const Evaluation* before = nullptr, const Evaluating& how = {});

// Solves one recipe on top of an evaluation, for ghosts. Solutions are flipped when the recipe says so. Its
// expressions may name entries before `before` (0: all).
Solutions solve_recipe(const Job& job, const Evaluation& evaluation, const Recipe& recipe, int before = 0);

// Where a pick stands now: found on the state of the part it was made on, then followed (follow.h). From the
// cache where it has been looked for. Entries are as described.
Result<Located> located_pick(const Evaluation& evaluation, const Reference& pick);
// A pick of the part as it is now.
TopologyReference describe_now(const Evaluation& evaluation, int part_entry, TopologyKind kind, int index,
                               Snap snap = Snap::kWhole);

// What a reference gives on top of an evaluation.
Result<Given> give(const Job& job, const Evaluation& evaluation, const Reference& reference);

// Whether an entry is something to see on its own: all but placements, and corrections that make no body.
bool can_be_seen(const Evaluation& evaluation, const Entry& entry);

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
