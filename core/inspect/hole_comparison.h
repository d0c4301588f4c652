// Compares the holes found with a list of what should be there.
//
// The list is a table (base/text_table.h) with the columns name, x, y, z, diameter and, where they are
// wanted, depth, through, axis_x, axis_y, axis_z, and a tolerance for position (as a diameter), for the
// diameter and for the depth. Their headings may be in any case and order, with a unit ("X [inch]"); usual
// other names are known. A comment
// "# unit: inch" or "# frame: G54" says what the numbers are in. A depth of "through", or a through column,
// asks for a through hole; an empty depth asks for nothing.
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
  int line = 0;  // of the list
  gp_Pnt at;
  double diameter_mm = 0;
  std::optional<double> depth_mm = std::nullopt;
  std::optional<bool> through = std::nullopt;
  std::optional<gp_Dir> axis = std::nullopt;
  double position_tolerance_mm = 0.2;  // those the list does not give
  double diameter_tolerance_mm = 0.1;  // plus or minus
  double depth_tolerance_mm = 0.1;
};

struct HoleList {
  std::vector<ListedHole> holes;
  std::optional<Unit> unit;  // that the list names; without one it is read in the unit asked for
  std::string frame;         // that the list names; empty for none
};

// Refuses with the line, the column and what is wrong there.
Result<HoleList> parse_hole_list(const std::string& text, Unit otherwise = Unit::kMillimetre);

struct ComparedHole {
  // kDouble: listed again at the place of one that has its hole already.
  enum class State { kPass, kFail, kMissing, kExtra, kDouble } state = State::kPass;
  std::string listed, found;  // names; empty where there is none
  int listed_index = -1, found_index = -1;
  gp_Vec deviation;  // found minus listed, frame axes
  double diameter_deviation_mm = 0;
  std::optional<double> depth_deviation_mm = std::nullopt;
  double true_position_mm = 0;  // 2 * distance square to the hole's axis
  bool position_fails = false, diameter_fails = false, depth_fails = false, through_fails = false,
       axis_fails = false;
};
const char* state_name(ComparedHole::State state);
// "true position 0.700 of 0.200, depth 9.000 instead of 10.000"; empty for what passes.
std::string failure_text(const ComparedHole& row, const ListedHole& listed, const Display& display);

// Both sides in one frame. One assignment for all: as many as possible within reach_mm, then the least total
// of distance and difference in diameter. Through holes are looked for at either end. Linear in holes that
// lie apart.
std::vector<ComparedHole> compare_holes(const std::vector<Hole>& found, const std::vector<ListedHole>& listed,
                                        double reach_mm = 5.0);

// The motion of the list, shift only, that would bring it nearest to what was found, and the largest true
// position that would then be left. To be shown beside a comparison, never applied to it.
struct BestShift {
  gp_Vec shift;
  double largest_true_position_mm = 0;
};
std::optional<BestShift> best_shift(const std::vector<ComparedHole>& rows, const std::vector<Hole>& found);

}  // namespace anvil
