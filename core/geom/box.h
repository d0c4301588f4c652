// A box along the axes, empty until something is in it.
#pragma once

#include <gp_Pnt.hxx>

#include <algorithm>

namespace anvil {

struct Box {
  gp_Pnt min{1e300, 1e300, 1e300}, max{-1e300, -1e300, -1e300};

  void add(const gp_Pnt& p) {
    for (int i = 1; i <= 3; ++i) {
      min.SetCoord(i, std::min(min.Coord(i), p.Coord(i)));
      max.SetCoord(i, std::max(max.Coord(i), p.Coord(i)));
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
