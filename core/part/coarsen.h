// A light stand-in for a display mesh, to be drawn while a large part is turned.
#pragma once

#include <TopoDS_Shape.hxx>

namespace anvil {

// The shape's triangles with all corners within one cell of a grid of `cell_mm` drawn together; those that
// vanish are left out, so holes and slots smaller than a cell close and the outline stays. Corners of
// triangles that look to different sides stay apart, so edges stay crisp. No corner moves by more than the
// diagonal of a cell. One face without a surface; null when nothing is left. Linear in triangles; safe beside
// threads that only read the shape.
TopoDS_Shape coarsened(const TopoDS_Shape& shape, double cell_mm);

}  // namespace anvil
