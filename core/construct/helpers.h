// What several constructions share. Internal to core/construct.
#pragma once

#include "construct/construction.h"
#include "geom/primitives.h"

namespace anvil {

// Datums drawn large enough to hold `around`, with a little margin.
AxisDatum drawn_axis(const gp_Ax1& axis, const std::vector<gp_Pnt>& around);
PlaneDatum drawn_plane(const gp_Pln& plane, const std::vector<gp_Pnt>& around);

std::vector<gp_Pnt> extents(const Inputs& inputs);

// Which work offset a frame is told to the control as; every frame construction has it.
Parameter work_offset_parameter();

// The smallest turn about the origin that brings `from` onto `to`; for opposite directions half a turn about
// an axis square to both.
gp_Trsf shortest_turn(const gp_Dir& from, const gp_Dir& to);

// A construction that makes a placement step.
Construction placement_step(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                            std::function<Solutions(const Inputs&)> solve,
                            std::vector<Parameter> parameters = {});

Solutions one(DatumValue value, std::string note = {});

}  // namespace anvil
