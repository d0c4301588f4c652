// What each patch is to a tool axis. Internal to core/inspect.
#pragma once

#include <vector>

#include "part/part.h"

namespace anvil {

enum class Role {
  kOther,
  kWall,        // plane, outside cylinder, or of free form but extruded: along the axis
  kDraftWall,   // a plane, or the outside of a cone, that leans back from the axis: draft
  kFreeWall,    // of free form, steep but not along the axis
  kFloor,       // plane facing the spindle
  kWallCorner,  // concave cylinder along the axis, less than half a turn
  kSlotEnd,     // half a turn of one
  kRelief,      // more than half a turn of one, that walls run into: the cleared corner of a pocket
  kRoundWall,   // a full turn of one, wider than deep, on a floor of its own: a round pocket
  kHole,        // any other of more than half a turn, cone or cylinder
  kTaper,       // concave cone along the axis, less than half a turn
  kFloorFillet  // concave rounding between a wall and a floor
};

std::vector<Role> roles_for(const Part& part, const gp_Dir& axis);

inline bool is_upright(Role role) {
  return role == Role::kWall || role == Role::kWallCorner || role == Role::kSlotEnd ||
         role == Role::kRelief || role == Role::kRoundWall;
}

inline bool bounds_pocket(Role role) {
  return role != Role::kOther && role != Role::kHole;
}

}  // namespace anvil
