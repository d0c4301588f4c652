// Internal to core/scan.
#pragma once

#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>
#include <vector>

#include "part/face_info.h"

namespace anvil {

// The surface cut to what the points cover: of a plane their convex outline, of a cylinder or cone their turn
// and height, of a sphere the cap around their middle. Faces as the surface does. Null for kMesh.
TopoDS_Face face_of(const Surface& surface, const std::vector<gp_Pnt>& points);

}  // namespace anvil
