// Faces without an outline that goes round them. Internal to core/exchange.
#pragma once

#include "part/part.h"

namespace anvil {

// Takes out the faces of a body that have no finite extent. Returns how many; 0 when the whole body is of
// such.
int remove_endless_faces(Body& body);

}  // namespace anvil
