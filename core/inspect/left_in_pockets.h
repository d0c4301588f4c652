// What a cutter leaves, pocket by pocket.
#pragma once

#include <vector>

#include "inspect/corners.h"
#include "inspect/left_by_cutter.h"

namespace anvil {

// Of an outline, signed: anticlockwise seen along the axis counts, what stands in it is taken off.
double area_of(const std::vector<gp_Pnt>& outline, const gp_Dir& axis);

// The volume in each pocket of the report, mm³: each outline counts where the wall lies that it is nearest
// to. What lies at walls of no pocket is in none, so that the sum may be less than the whole.
std::vector<double> left_in_pockets(const Part& part, const CornerReport& report, const LeftByCutter& left);

}  // namespace anvil
