// What lies on one line, found without comparing every pair. Internal to core/inspect.
#pragma once

#include <array>
#include <cstdint>
#include <gp_Ax1.hxx>
#include <vector>

#include "part/part.h"

namespace anvil {

// Wider than exact geometry: exporters round the axes of the pieces of one hole differently.
inline constexpr double kCoaxial_mm = 2e-3;
inline constexpr double kCoaxial_rad = 1e-4;

// On one line, either sense.
bool coaxial(const gp_Ax1& a, const gp_Ax1& b);

// Cells of a grid over direction and foot of a point near the part: two coaxial lines share at least one.
using AxisCell = std::array<std::int64_t, 6>;
std::vector<AxisCell> cells_near(const gp_Ax1& axis, const gp_Pnt& near);
// A point of the part, wherever it lies: far from it the feet of nearly parallel lines drift apart.
gp_Pnt point_near(const TopologyIndex& topology);

// How far round its axis the surface of each patch goes, radians (0 for what does not turn): its own piece
// and those of the same inside cylinder or cone at the same height taken together, where nothing but void
// lies between them and the axis. A bore that keyways cut into four is one bore; the outer walls of three
// curved slots on one circle are not.
struct WholeTurns {
  std::vector<double> by_patch;
  std::vector<int> first_piece;  // by patch: the same for all pieces that were taken together
};
const WholeTurns& whole_turns(const Part& part);  // worked out once a part

}  // namespace anvil
