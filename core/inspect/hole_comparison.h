// Compares the holes found with a list of what should be there.
//
// The list is CSV with a header line naming its columns: name, x, y, z, diameter, depth, and optionally
// tolerance (true position) and diameter_tolerance, in any order; lines beginning with # are comments, and "#
// unit: inch" sets the unit (default mm). An empty depth means through.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/refusal.h"
#include "base/units.h"
#include "inspect/holes.h"

namespace anvil {

struct ListedHole {
  std::string name;
  gp_Pnt at;
  double diameter_mm = 0;
  std::optional<double> depth_mm;
  double position_tolerance_mm = 0.2;
  double diameter_tolerance_mm = 0.1;
};

// Refuses with the line and what is wrong with it.
Result<std::vector<ListedHole>> parse_hole_list(const std::string& csv);

struct ComparedHole {
  enum class State { kPass, kFail, kMissing, kExtra } state = State::kPass;
  std::string listed, found;  // names; empty where there is none
  gp_Vec deviation;           // found minus listed, frame axes
  double diameter_deviation_mm = 0;
  std::optional<double> depth_deviation_mm;
  double true_position_mm = 0;  // 2 * distance square to the hole's axis
};
const char* state_name(ComparedHole::State state);

// Both sides in one frame. Each listed hole takes the nearest free hole of about its size within reach_mm.
std::vector<ComparedHole> compare_holes(const std::vector<Hole>& found, const std::vector<ListedHole>& listed,
                                        double reach_mm = 5.0);

}  // namespace anvil
