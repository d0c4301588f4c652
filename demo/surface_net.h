// A closed mesh of an implicit shape, as a scanner would deliver it: triangles of one size, no matter what
// the surface is.
#pragma once

#include <functional>
#include <gp_Pnt.hxx>
#include <vector>

namespace anvil::demo {

struct SurfaceNet {
  std::vector<gp_Pnt> nodes;
  std::vector<std::array<int, 3>> triangles;  // anticlockwise seen from outside
};

// Of what lies where `distance` is negative, within the box from `low` to `high`; nodes lie on the surface to
// about 1e-6. Naive surface nets (S. Gibson, Constrained Elastic Surface Nets, 1998).
SurfaceNet surface_net(const std::function<double(const gp_Pnt&)>& distance, const gp_Pnt& low,
                       const gp_Pnt& high, double step);

}  // namespace anvil::demo
