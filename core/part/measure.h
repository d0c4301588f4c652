// Exact measures of shapes: from the surfaces, never from the display mesh.
#pragma once

#include <TopoDS_Shape.hxx>
#include <gp_Trsf.hxx>

#include "geom/box.h"

namespace anvil {

// The smallest box along the axes after `placement`, within 1e-6 mm for prismatic and revolved shapes.
// Cost grows with faces: seconds at 50,000.
Box exact_box(const TopoDS_Shape& shape, const gp_Trsf& placement = gp_Trsf());

struct VolumeProperties {
  double volume_mm3 = 0;
  gp_Pnt centroid;
};

struct AreaProperties {
  double area_mm2 = 0;
  gp_Pnt centroid;
};

// Both at once, within 1e-8; the volume means something for closed bodies only.
struct ShapeProperties {
  VolumeProperties volume;
  AreaProperties area;
};
ShapeProperties shape_properties(const TopoDS_Shape& shape);
inline VolumeProperties volume_properties(const TopoDS_Shape& solid) {
  return shape_properties(solid).volume;
}
inline AreaProperties area_properties(const TopoDS_Shape& faces) {
  return shape_properties(faces).area;
}

// The same of the triangles: for bodies that have nothing else. The volume means something for a closed mesh
// only.
VolumeProperties mesh_properties(const TopoDS_Shape& mesh);
AreaProperties mesh_area(const TopoDS_Shape& mesh);
inline ShapeProperties mesh_shape_properties(const TopoDS_Shape& mesh) {
  return {mesh_properties(mesh), mesh_area(mesh)};
}

}  // namespace anvil
