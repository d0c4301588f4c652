// Nearest points of triangles and of lengths of line (Ericson, Real-Time Collision Detection, 5.1.5
// and 5.1.9).
#pragma once

#include <gp_Pnt.hxx>
#include <utility>

namespace anvil {

gp_Pnt nearest_of_triangle(const gp_Pnt& to, const gp_Pnt& a, const gp_Pnt& b, const gp_Pnt& c);

// One on the line from a0 to a1, one on that from b0 to b1.
std::pair<gp_Pnt, gp_Pnt> nearest_points(const gp_Pnt& a0, const gp_Pnt& a1, const gp_Pnt& b0,
                                         const gp_Pnt& b1);

}  // namespace anvil
