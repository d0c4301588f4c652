// The job: an ordered list of entries, a value. Copies are cheap (entries, parts and source bytes are shared
// and immutable). A user's act is a function Job -> Job (edits.h); undo is the list of earlier values
// (history.h).
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/shared_list.h"
#include "base/units.h"
#include "construct/construction.h"
#include "construct/solve.h"
#include "inspect/cutters.h"
#include "job/composed_part.h"
#include "part/heal.h"
#include "pick/reference.h"
#include "setup/setup.h"

namespace anvil {

// How an entry is made: a construction, what it refers to, its parameters as typed, and which solution is
// meant.
struct Recipe {
  std::string construction;
  std::vector<Reference> inputs;  // in role order
  ParameterTexts parameters;
  std::string choice;             // key of the solution; empty: the preferred one
  bool flipped = false;           // plane normal or axis sense turned round
  std::vector<int> bodies = {};   // placement steps: the delivered bodies that move; empty: all
  Unit unit = Unit::kMillimetre;  // what bare lengths in the parameters are in, whatever is shown
};

// One file that was brought in.
struct SourceFile {
  PartPtr part;                              // as imported
  std::shared_ptr<const std::string> bytes;  // the file, byte for byte
  double scale = 1.0;                        // the user's, beyond what the file's own unit says
  int missing_bodies =
      0;  // a file that could not be read again: how many it had, so that the rest keep theirs
};

// What the user decided about one delivered body.
struct BodySetting {
  bool included = true;
  bool visible = true;
  std::optional<Colour> colour = {};
  double transparency = 0;
  std::string name = {};  // empty: as in the file
  bool operator==(const BodySetting&) const = default;
};

// All files of the job together, as one part whose bodies can be chosen.
struct PartEntry {
  std::vector<SourceFile> sources;
  std::vector<BodySetting> bodies;                   // one for each delivered body, file by file
  std::shared_ptr<ComposedPart> composed = nullptr;  // by compose()

  // The chosen bodies under their names; how they are shown is read from the settings by whoever draws. The
  // part of a single file with all bodies included is that of the file.
  [[nodiscard]] PartPtr part() const;
};

// Gives settings to bodies that have none yet, and has the part made anew when it is next asked for.
PartEntry compose(PartEntry entry);

// The part healed: how. What comes of it is evaluated, like anything else.
struct HealingEntry {
  HealOptions options;
  bool operator==(const HealingEntry&) const = default;
};

// One entry for the whole placement; its steps are applied in order.
struct PlacementEntry {
  std::vector<Recipe> steps;
};

struct DatumEntry {
  Makes makes = Makes::kPoint;
  Recipe recipe;
};

struct Entry {
  int id = 0;
  std::string name;
  bool visible = true;
  std::variant<PartEntry, HealingEntry, PlacementEntry, DatumEntry, Setup> content;
  bool suppressed = false;            // datums: kept, but not built
  std::optional<Colour> colour = {};  // datums: drawn in it
  std::string group = {};             // datums: under this heading; empty: none

  [[nodiscard]] const PartEntry* part() const { return std::get_if<PartEntry>(&content); }
  [[nodiscard]] const HealingEntry* healing() const { return std::get_if<HealingEntry>(&content); }
  [[nodiscard]] const PlacementEntry* placement() const { return std::get_if<PlacementEntry>(&content); }
  [[nodiscard]] const DatumEntry* datum() const { return std::get_if<DatumEntry>(&content); }
  [[nodiscard]] const Setup* setup() const { return std::get_if<Setup>(&content); }
  // A recipe that changes the part.
  [[nodiscard]] bool is_correction() const { return datum() && datum()->makes == Makes::kCorrection; }
  [[nodiscard]] bool is_frame() const { return datum() && datum()->makes == Makes::kFrame; }
};

// What is true of a kind of entry, in the order of Entry::content: its name in files and reports, and the
// section it stands in: parts first, then what builds on them. A new kind is a row here, its content in
// Entry, and a case in the visitors of entry_parts.h, gate.cpp and evaluate.cpp.
struct EntryKind {
  const char* name;
  int section;
};
inline constexpr EntryKind kEntryKinds[] = {
    {"part", 0}, {"healing", 1}, {"placement", 2}, {"datum", 3}, {"setup", 3}};
static_assert(std::size(kEntryKinds) == std::variant_size_v<decltype(Entry::content)>);
inline const EntryKind& kind_of(const Entry& entry) {
  return kEntryKinds[entry.content.index()];
}

// "part", …; of a datum what it makes: "plane".
const char* kind_name(const Entry& entry);

// Reading frames that are no entries.
inline constexpr int kReadPlaced = 0;      // the part after its placement
inline constexpr int kReadDelivered = -1;  // the coordinates of the source file

// A camera worth coming back to, in placed coordinates.
struct KeptView {
  std::string name;
  gp_Pnt eye, centre;
  gp_Dir up{0, 0, 1};
  double scale_mm = 100;  // height of what is seen
};

// What corners are judged by: the cutters at hand, how much of a corner's radius a cutter may fill, and the
// holder that reach is told for.
struct Inspection {
  std::vector<Cutter> cutters;
  double margin = 1.0;
  double holder_mm = 40;  // diameter
  bool operator==(const Inspection&) const = default;
};

// A hole or slot that the user named, by one of its faces.
struct HoleName {
  TopologyReference face;
  std::string name;
};

struct Job {
  SharedList<Entry> entries;
  int next_id = 1;
  int reading_frame = kReadPlaced;          // or the id of a frame or setup entry
  int tool_plane = 0;                       // of the setup that is read in: 0 its own, then in order
  std::map<std::string, Machine> machines;  // by id: those its setups know
  Display display;
  Tolerance tolerance;  // what counts as meeting and parallel in its constructions
  std::vector<KeptView> views;
  Inspection inspection;
  SharedList<HoleName> hole_names;

  [[nodiscard]] const Entry* find(int id) const;
  [[nodiscard]] const Entry* first_part() const;
  [[nodiscard]] const Entry* placement() const;
  [[nodiscard]] const Entry* healing() const;
  [[nodiscard]] BodySetting body(int delivered) const;
  // The chosen bodies as they were delivered; what everything is measured on is the evaluation's part, which
  // comes of it. Null without a part.
  [[nodiscard]] PartPtr part() const;
};

// A part in the colours the user gave its bodies.
PartPtr in_chosen_colours(const PartPtr& part, const Job& job);

// Entries that refer to `id`, by a pick or in an expression, directly or through others, in order.
std::vector<int> dependents(const Job& job, int id);
// Of those, the ones that cannot be without it: a setup can do without one of its tool planes.
std::vector<int> lost_with(const Job& job, int id);
// Entries that `id` refers to, directly or through others, in order.
std::vector<int> sources_of(const Job& job, int id);
std::vector<Reference> inputs_of(const Entry& entry);
// All the texts in it that may hold expressions.
ParameterTexts texts_of(const Entry& entry);

}  // namespace anvil
