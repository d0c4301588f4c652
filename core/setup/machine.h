// A machine as far as setting up needs it: travels, rotary axes and where they stand. Read from a JSON file
// (docs/machines.md describes every field).
#pragma once

#include <gp_Ax1.hxx>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/refusal.h"
#include "setup/work_offset.h"

namespace anvil {

struct Travel {
  double from = 0, to = 0;  // mm, or radians
  bool operator==(const Travel&) const = default;
};

// A positive angle turns what stands on the axis (on a table the part, on a head the tool) right-handed about
// `axis`, which is given as it lies when all rotary axes are at zero, in machine coordinates.
struct RotaryAxis {
  std::string name;  // "A", "B" or "C"
  bool on_table = true;
  gp_Ax1 axis;
  std::optional<Travel> limits_rad;  // none: it winds endlessly
};

enum class Prefers { kLeastTravel, kFirstPositive, kFirstNegative };

struct Machine {
  std::string id;  // of its file, "cradle-ac"
  std::string name;
  std::map<std::string, Travel> linear_mm;  // "X", "Y", "Z"
  // At most two. Two on one side stand on each other: the first carries the second.
  std::vector<RotaryAxis> rotary;
  Prefers prefers = Prefers::kLeastTravel;
  FurtherOffsets further_offsets = FurtherOffsets::kUnwritten;
};
bool operator==(const Machine& a, const Machine& b);

// Refuses with the field that is wrong and what it may be: "rotary[1].axis: three numbers, not all zero".
Result<Machine> machine_from_json(const std::string& text, const std::string& id);
std::string machine_to_json(const Machine& machine);

// "table A −120…30, table C endless"; "no rotary axes".
std::string machine_summary(const Machine& machine);

}  // namespace anvil
