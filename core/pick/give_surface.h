// Internal to core/pick.
#pragma once

#include "pick/given.h"

namespace anvil {

void give_axis(Given& given, const gp_Ax1& axis);

// The surface, and what it gives by its kind: a plane, an axis, a point.
void give_surface(Given& given, const Surface& surface);

}  // namespace anvil
