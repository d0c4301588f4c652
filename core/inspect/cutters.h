// The cutters at hand, and which of them fits a pocket.
//
// A list is a table (base/text_table.h) with the columns number, name, diameter, and where they are known
// corner_radius, flute_length, reach (from the tip to the holder) and holder_diameter; or JSON: a list of
// objects with those names, or {"unit": "inch", "cutters": [...]}.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/refusal.h"
#include "base/units.h"
#include "inspect/corners.h"

namespace anvil {

struct Cutter {
  std::string number, name;
  double diameter_mm = 0;
  double corner_radius_mm = 0;
  std::optional<double> flute_mm = std::nullopt, reach_mm = std::nullopt, holder_mm = std::nullopt;
  bool operator==(const Cutter&) const = default;
};

// Refuses with the line and column, or the place in the JSON, what is wrong there: no diameter above zero, a
// corner radius above half of it, numbers below zero.
Result<std::vector<Cutter>> read_cutters(const std::string& text, Unit otherwise = Unit::kMillimetre);
std::string cutters_csv(const std::vector<Cutter>& cutters, Unit unit);
// "T5 end mill Ø6 r0.5"
std::string cutter_text(const Cutter& cutter, const Display& display);
// The largest one of at most that diameter; null for none.
const Cutter* largest_within(const std::vector<Cutter>& cutters, double diameter_mm);

// What a cutter fails in: its diameter in the corners or the passages, its flutes or its reach for the depth,
// its holder on what stands around.
enum class CutterLimit { kCorner, kPassage, kFlute, kReach, kHolder };
const char* limit_name(CutterLimit limit);  // "corner", …

struct CutterFailure {
  CutterLimit limit = CutterLimit::kCorner;
  double allowed_mm = 0;  // at most (diameters), or needed at least (lengths)
  double has_mm = 0;
};
// "Ø8.000 in corners that allow 6.000", "reach 20.000 where 35.000 is needed"
std::string failure_text(const CutterFailure& failure, const Display& display);

struct CutterInPocket {
  int cutter = -1;
  std::vector<CutterFailure> failures;  // none: it fits
  double left_at_floor_mm = 0;          // the radius it leaves where the floor asks for a smaller one
};

struct PocketCutters {
  int pocket = -1;
  std::vector<CutterInPocket> tried;  // all of the list, the largest first
  std::optional<int> largest;         // of the list: the largest diameter, then the stiffest, that fits
};

// For every pocket of the report that can be cut. Lengths that a list does not give are not judged.
std::vector<PocketCutters> judge_cutters(const Part& part, const CornerReport& report,
                                         const std::vector<Cutter>& cutters);

}  // namespace anvil
