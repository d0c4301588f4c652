// What someone wants a hole to be: some of its numbers, the others as they are.
#pragma once

#include <optional>

#include "correct/hole_tool.h"

namespace anvil {

struct HoleWish {
  enum class Head { kAsItIs, kNone, kCounterbore, kCountersink } head = Head::kAsItIs;
  enum class End { kAsItIs, kThrough, kBlind } end = End::kAsItIs;
  enum class Tip { kAsItIs, kDrillPoint, kFlat } tip = Tip::kAsItIs;
  // Of the main bore; of a blind hole the depth to the end of its full diameter.
  std::optional<double> diameter_mm = {}, depth_mm = {};
  std::optional<double> head_diameter_mm = {}, head_depth_mm = {}, head_angle_rad = {};
  std::optional<double> tip_angle_rad = {};
};

// A drill's point where none is told (DIN 338, type N).
inline constexpr double kDrillPoint_rad = 118 * 3.14159265358979323846 / 180;
inline constexpr double kHeadAngle_rad = 90 * 3.14159265358979323846 / 180;

// The form with what is wished for. `through_mm`: how deep it is where it is made to go through. Refuses
// (kBadInput) what does not fit together, with the numbers: a head narrower than its bore, a head deeper than
// the hole, an angle that is none.
Result<HoleForm> with_wish(const HoleForm& form, const HoleWish& wish, double through_mm);

}  // namespace anvil
