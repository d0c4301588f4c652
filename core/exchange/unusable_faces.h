// Faces that nothing can be done with. Internal to core/exchange.
#pragma once

#include "part/part.h"

namespace anvil {

// Takes out the faces of a body that have no finite extent: no outline goes round them. Returns how many; 0
// when the whole body is of such.
int remove_endless_faces(Body& body);

// Takes out the faces on which the kernel's fixing, checking or meshing dies, found by trying them in
// processes of their own. Returns how many.
int remove_fatal_faces(Body& body);

}  // namespace anvil
