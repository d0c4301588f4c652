// A copy that can be meshed while the original is drawn.
#pragma once

#include <TopoDS_Shape.hxx>

namespace anvil {

// Faces and edges of its own, to which a mesh can be written; vertices, curves, surfaces and the triangles
// that are there are shared. Faces, edges and vertices come in the same order.
TopoDS_Shape shallow_copy(const TopoDS_Shape& shape);

}  // namespace anvil
