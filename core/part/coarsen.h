// Light stand-ins for a display mesh: to be drawn while a large part is turned, and where it is so small on
// the screen that nobody sees the difference.
#pragma once

#include <TopoDS_Shape.hxx>
#include <optional>

#include "part/mesh.h"
#include "part/part.h"

namespace anvil {

// The shape's triangles with all corners within one cell of a grid of `cell_mm` drawn together; those that
// vanish are left out, so holes and slots smaller than a cell close and the outline stays. Corners of
// triangles that look to different sides stay apart, so edges stay crisp. No corner moves by more than the
// diagonal of a cell. One face without a surface; null when nothing is left. Linear in triangles; safe beside
// threads that only read the shape.
TopoDS_Shape coarsened(const TopoDS_Shape& shape, double cell_mm);

// Off by a third of a pixel where a body is a thousand pixels across: fewer triangles than the usual mesh has
// on small holes and roundings, which is what parts of thousands of faces are full of.
constexpr MeshQuality kLightMesh{0.0003, 1.0};

// The shape with such a mesh of its own, off by deflection_mm(shape, kLightMesh): surfaces, curves and
// vertices are shared, faces and edges stay in their order. Meshed by the calling thread alone, half a second
// for a thousand faces; safe beside threads that only read the shape. Faces that cannot be meshed so stay
// empty.
TopoDS_Shape lightened(const TopoDS_Shape& shape);

// What most of the body's surface wears, by its mesh: the colour of a stand-in that has no faces.
std::optional<Colour> colour_of_most(const Body& body);

}  // namespace anvil
