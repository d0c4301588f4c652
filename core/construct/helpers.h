// What several constructions share. Internal to core/construct.
#pragma once

#include "construct/construction.h"
#include "geom/fits.h"
#include "geom/primitives.h"

namespace anvil {

// Datums drawn large enough to hold `around`, with a little margin.
AxisDatum drawn_axis(const gp_Ax1& axis, const std::vector<gp_Pnt>& around);
PlaneDatum drawn_plane(const gp_Pln& plane, const std::vector<gp_Pnt>& around);

std::vector<gp_Pnt> extents(const Inputs& inputs);

// A construction that measures; it has a parameter for what the measurement may be (limits.h).
Construction measuring(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                       std::function<Solutions(const Inputs&)> solve);

// The smallest turn about the origin that brings `from` onto `to`; for opposite directions half a turn about
// an axis square to both.
gp_Trsf shortest_turn(const gp_Dir& from, const gp_Dir& to);

// A construction that makes a placement step.
Construction placement_step(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                            std::function<Solutions(const Inputs&)> solve,
                            std::vector<Parameter> parameters = {});

Solutions one(DatumValue value, std::string note = {});

// A description, all but what few need.
Construction described(Makes makes, const char* id, const char* sentence, std::vector<Need> roles, int rank,
                       std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters = {});

// A refusal by geometry, with the measured facts and, where there is one, the construction that would work.
tl::unexpected<Refusal> refused(std::string sentence, std::map<std::string, double> facts = {},
                                std::string instead = {});

gp_Pln plane_at(const gp_Pnt& at, const gp_Dir& normal, const gp_Dir& x_wish = gp_Dir(1, 0, 0));

// Where a need for a spot is: the point, or the opening of the hole.
gp_Pnt spot_of(const Given& given);

// The same of every pick.
std::vector<gp_Pnt> spots_of(const Inputs& inputs);

gp_Pnt tip_of(const Surface& cone);

// The angle between a line and a plane, 0 (parallel) to pi/2.
double angle_to_plane(const gp_Dir& line, const gp_Pln& plane);

// How well the surface of a scan's region fits; nothing of other picks.
std::string fitted_text(const Given& given, const Display& display);

// "RMS 0.012, largest 0.020 at {3}".
std::string quality_text(const FitQuality& quality, const Display& display);

}  // namespace anvil
