// The triangles of a flat face that lost or won an outline or two: kept where nothing changed.
#pragma once

#include <TopoDS_Face.hxx>

namespace anvil {

// `before` has triangles; `now` lies in the same plane and has the same outlines but some, and those that are
// new have points already, because what lies beyond them is meshed (mesh_faces.h). Only around what changed
// triangles are made anew. Writes into `now` and its edges. False, with nothing written, where the whole
// face wants meshing: it is not flat, an outline was only changed in part, or the pieces do not add up to the
// area they have to cover (to a millionth).
bool patch_mesh(const TopoDS_Face& before, const TopoDS_Face& now);

}  // namespace anvil
