// A box along the axes, empty until something is in it.
#pragma once

#include <algorithm>

#include "geom/coordinate.h"

namespace anvil {

struct Box {
  gp_Pnt min{1e300, 1e300, 1e300}, max{-1e300, -1e300, -1e300};

  void add(const gp_Pnt& p) {
    for (int axis = 0; axis < 3; ++axis) {
      set_coordinate(min, axis, std::min(coordinate(min, axis), coordinate(p, axis)));
      set_coordinate(max, axis, std::max(coordinate(max, axis), coordinate(p, axis)));
    }
  }
  [[nodiscard]] bool is_empty() const { return min.X() > max.X(); }
  [[nodiscard]] gp_Pnt centre() const { return gp_Pnt((min.XYZ() + max.XYZ()) * 0.5); }
  [[nodiscard]] gp_XYZ size() const { return max.XYZ() - min.XYZ(); }
  [[nodiscard]] double diagonal_mm() const { return is_empty() ? 0 : min.Distance(max); }
};

template <class Points>
Box box_around(const Points& points) {
  Box box;
  for (const gp_Pnt& p : points) box.add(p);
  return box;
}

}  // namespace anvil
