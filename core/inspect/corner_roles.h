// What each patch is to a tool axis. Internal to core/inspect.
#pragma once

#include <vector>

#include "part/part.h"

namespace anvil {

enum class Role {
  kOther,
  kWall,        // plane, outside or partial inside cylinder, along the axis
  kFloor,       // plane facing the spindle
  kWallCorner,  // concave cylinder along the axis, less than half a turn
  kSlotEnd,     // half a turn of one
  kHole,        // more than half a turn, cone or cylinder
  kTaper,       // concave cone along the axis, less than half a turn
  kFloorFillet  // concave rounding between a wall and a floor
};

std::vector<Role> roles_for(const TopologyIndex& topology, const gp_Dir& axis);

inline bool bounds_pocket(Role role) {
  return role == Role::kWall || role == Role::kFloor || role == Role::kWallCorner || role == Role::kSlotEnd ||
         role == Role::kTaper || role == Role::kFloorFillet;
}

}  // namespace anvil
