// What the frame constructions share. Internal to core/construct.
#pragma once

#include "construct/helpers.h"
#include "part/measure.h"

namespace anvil {

// One frame a quarter turn after the other about Z, the preferred one first.
std::vector<Solution> quarter_turns(const gp_Ax2& frame);

gp_Ax2 moved_to(const gp_Ax2& frame, const gp_Pnt& zero);

// Whether a frame's shift and turn is what it is made for, or an afterthought that stands aside.
enum class ShiftIs { kAside, kMain };

// A construction that makes frames. Every one can be shifted along and turned about its own axes at the end
// (about X, then the new Y, then the new Z).
Construction framing(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                     std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters = {},
                     ShiftIs shift = ShiftIs::kAside);
std::vector<std::string> shift_and_turn_ids();

// The twenty-seven points of a box, lowest first; keys say the side in X, Y and Z ("x-.y0.z+").
struct BoxPoint {
  gp_Pnt at;
  std::string key, name;
};
std::vector<BoxPoint> box_points(const Box& box);
gp_Pnt box_point(const Box& box, int i);  // 0 to 26, X first

// "1 2 3; 4 5 6": refuses (kBadInput) what are not three numbers each, with which.
Result<std::vector<gp_Pnt>> points_from(const std::string& text, double mm_per_number);

}  // namespace anvil
