// The scans of a part: regions that were grown on its meshes are kept with it.
#pragma once

#include "part/part.h"
#include "scan/region.h"

namespace anvil {

bool operator==(const RegionWish& a, const RegionWish& b);

// Grown on the body at that place of the part, or taken from what was grown before. The first of a body takes
// about 0.3 s per million triangles to learn its neighbours. Refuses a body that is no mesh (kUnknownName),
// else as grow_region().
Result<RegionPtr> region_at(const Part& part, int body, const RegionWish& wish,
                            const Progress& progress = {});

// Whether region_at() would answer at once. Never waits for one that is being grown.
bool is_region_known(const Part& part, int body, const RegionWish& wish);

}  // namespace anvil
