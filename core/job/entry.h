// The job: an ordered list of entries, a value. Copies are cheap (parts and source bytes are shared and
// immutable). A user's act is a function Job -> Job (edits.h); undo is the list of earlier values
// (history.h).
#pragma once

#include <map>
#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "base/units.h"
#include "construct/construction.h"
#include "construct/solve.h"
#include "pick/reference.h"

namespace anvil {

// How an entry is made: a construction, what it refers to, its parameters as typed, and which solution is
// meant.
struct Recipe {
  std::string construction;
  std::vector<Reference> inputs;  // in role order
  ParameterTexts parameters;
  std::string choice;    // key of the solution; empty: the preferred one
  bool flipped = false;  // plane normal or axis sense turned round
};

struct PartEntry {
  PartPtr part;
  std::shared_ptr<const std::string> source_bytes;  // the file as imported, byte for byte
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
  std::variant<PartEntry, PlacementEntry, DatumEntry> content;

  [[nodiscard]] const PartEntry* part() const { return std::get_if<PartEntry>(&content); }
  [[nodiscard]] const PlacementEntry* placement() const { return std::get_if<PlacementEntry>(&content); }
  [[nodiscard]] const DatumEntry* datum() const { return std::get_if<DatumEntry>(&content); }
};

// Reading frames that are no entries.
inline constexpr int kReadPlaced = 0;      // the part after its placement
inline constexpr int kReadDelivered = -1;  // the coordinates of the source file

struct Job {
  std::vector<Entry> entries;
  int next_id = 1;
  int reading_frame = kReadPlaced;  // or the id of a frame entry
  Display display;

  [[nodiscard]] const Entry* find(int id) const;
  [[nodiscard]] const Entry* first_part() const;
  [[nodiscard]] const Entry* placement() const;
};

// Entries that refer to `id`, directly or through others, in order.
std::vector<int> dependents(const Job& job, int id);
std::vector<Reference> inputs_of(const Entry& entry);

}  // namespace anvil
