// Small solids that the demo parts are cut from.
#pragma once

#include <TopoDS_Shape.hxx>
#include <array>
#include <gp_Ax2.hxx>
#include <vector>

namespace anvil::demo {

TopoDS_Shape block(const gp_Pnt& low, const gp_Pnt& high);
// Cylinder of `length` along the axis of `at`.
TopoDS_Shape rod(const gp_Ax2& at, double diameter, double length);
// Cone from diameter d0 at `at` to d1 after `length`.
TopoDS_Shape taper(const gp_Ax2& at, double d0, double d1, double length);

// Prism of a rectangle with corners rounded by r[0..3] (anticlockwise from low-left; 0: sharp), from the
// plane of `at` (centre, X along the width) downward by `depth`; `floor_radius` rounds its lower edges.
struct PocketShape {
  double width, height, depth;
  std::array<double, 4> r;
  double floor_radius = 0;
};
TopoDS_Shape pocket(const gp_Ax2& at, const PocketShape& shape);

TopoDS_Shape cut(const TopoDS_Shape& from, const std::vector<TopoDS_Shape>& tools);
TopoDS_Shape join(const TopoDS_Shape& a, const std::vector<TopoDS_Shape>& others);
// Rounds the straight edges parallel to `along` that belong to the outline of a block.
TopoDS_Shape round_edges(const TopoDS_Shape& solid, const gp_Dir& along, double radius);

}  // namespace anvil::demo
