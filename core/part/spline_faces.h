// Rebuilds a shape with exact surfaces where its B-spline ones are recognised. Internal to core/part.
#pragma once

#include <BRepTools_History.hxx>
#include <TopoDS_Shape.hxx>
#include <utility>
#include <vector>

#include "part/face_info.h"

namespace anvil {

struct SplineFaces {
  TopoDS_Shape shape;
  std::vector<std::pair<SurfaceKind, double>> faces;  // what was exchanged, and how far off it was
  Handle(BRepTools_History) history = {};             // null when nothing was
};

// Faces that run into a point (tips of drilled holes, poles) stay B-splines: the kernel cannot close their
// outline anew.
SplineFaces with_exact_surfaces(const TopoDS_Shape& shape, double tolerance_mm);

}  // namespace anvil
