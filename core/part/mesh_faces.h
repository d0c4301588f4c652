// Triangles for some faces of a body.
#pragma once

#include <TopoDS_Face.hxx>
#include <vector>

namespace anvil {

bool has_triangles(const TopoDS_Face& face);

// As fine as the whole body they are of asks for (mesh.h); where they share edges with faces that are meshed
// they keep those edges' points. Returns how many stay empty.
int mesh_faces(const std::vector<TopoDS_Face>& faces, const TopoDS_Shape& body);

}  // namespace anvil
