// Shells that only repeat the boundary of a solid in the same file. Internal to core/exchange.
#pragma once

#include <vector>

#include "part/part.h"

namespace anvil {

// Takes out every shell that has as many faces as one of the solids, each in the place of one of its faces:
// the same faces, or others with the same middle of their corners, within 1e-3 mm. Some writers add a surface
// model beside each solid; as a body of its own it would be a second part in the same place. Returns how many
// went.
int drop_repeated_shells(std::vector<Body>& bodies);

}  // namespace anvil
