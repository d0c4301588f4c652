// Growing a region triangle by triangle. Internal to core/scan.
#pragma once

#include "base/progress.h"
#include "scan/surface_fit.h"

namespace anvil {

// Around a triangle, as far as triangles face within 40 degrees of the mean of those found so far; at most
// `most` of them.
std::vector<int> patch_around(const MeshGraph& graph, int seed, size_t most);

// A region grows within so many times what its first patch scatters, when nothing else is wished.
inline constexpr double kScattersToGrow = 4;

struct Grown {
  Surface surface;  // kMesh: nothing fits
  double within_mm = 0;
  std::vector<int> triangles;
};

// From a patch, in the kinds asked for. Without a kind that fits, the whole of what faces one way.
Result<Grown> grow(const MeshGraph& graph, int seed, const std::vector<SurfaceKind>& kinds, double within_mm,
                   const Progress& progress);

}  // namespace anvil
