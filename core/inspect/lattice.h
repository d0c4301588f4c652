// Grids among points of a plane. Internal to core/inspect.
#pragma once

#include "inspect/line_up.h"

namespace anvil {

// Points that stand on one grid: which, and how many steps along both pitches each is from the first place.
struct Lattice {
  std::vector<size_t> points;  // row by row
  std::vector<Eigen::Vector2i> steps;
  int columns = 0, rows = 0;
};

// The largest grid of square-on pitches with at least two places each way, every place taken (or three
// quarters of them, from three each way up); a single square or rectangle of four counts only when it is all
// there is and its sides differ, for four holes of a square are a circle. Nothing where there is none. Time
// grows with n log n.
std::optional<Lattice> largest_lattice(const FlatPoints& points);

}  // namespace anvil
