// The mesh that checks want, made without disturbing whoever else reads the part.
#pragma once

#include "part/part.h"

namespace anvil {

// Meshes the bodies that have no mesh yet, at most once however many threads ask. What comes from the worker
// is meshed (Body::meshed), so that nothing of a part is changed while the view draws it; a part read here is
// drawn by nobody.
void mesh_once(const Part& part);

}  // namespace anvil
