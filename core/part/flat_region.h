// Pieces of a plane between outlines of numbered points, filled with triangles.
#pragma once

#include <array>
#include <gp_Pnt2d.hxx>
#include <optional>
#include <vector>

namespace anvil {

using FlatTriangle = std::array<int, 3>;  // places among the points, anticlockwise
using FlatPoints = std::vector<gp_Pnt2d>;

// Simple closed outlines, and which triangles they reach into or touch.
class FlatOutlines {
 public:
  FlatOutlines(const FlatPoints& points, const std::vector<std::vector<int>>& outlines);
  bool touch(const FlatTriangle& triangle) const;

 private:
  struct Outline {
    std::vector<gp_Pnt2d> points;
    gp_XY low, high;
  };
  const FlatPoints& points_;
  std::vector<Outline> outlines_;
};

// What `removed` triangles covered, and what they lay around where all points of an outline are gone, covered
// anew but for the insides of the given outlines. No point is added. Nothing where that cannot be done: the
// outlines do not lie inside, cross, or what comes out differs from the area to cover by more than a
// millionth.
std::optional<std::vector<FlatTriangle>> filled_region(const FlatPoints& points,
                                                       const std::vector<FlatTriangle>& removed,
                                                       const std::vector<bool>& gone,
                                                       const std::vector<std::vector<int>>& outlines);

}  // namespace anvil
