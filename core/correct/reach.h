// How far material goes on beyond an end of a hole, so that what is to go through does.
#pragma once

#include "part/part.h"

namespace anvil {

// Beyond `at`, along `along`, within `radius_mm` of it: to where the material first ends, at most of several
// rays; 0 where there is none. By the display mesh: as good as that.
double material_beyond(const Part& part, int body, const gp_Pnt& at, const gp_Dir& along, double radius_mm);

// A body that an axis, or what is within a radius of it, comes into.
struct BodyAlong {
  int body = -1;
  double from_mm = 0, all_from_mm = 0;  // where the first of it and the last of it begins
};
// In the order they are met, from `at` on.
std::vector<BodyAlong> bodies_along(const Part& part, const gp_Pnt& at, const gp_Dir& along,
                                    double radius_mm);

// From `at` to where the body as a whole ends in that direction; through every void on the way.
double end_of_body(const Part& part, int body, const gp_Pnt& at, const gp_Dir& along);

}  // namespace anvil
