// Faces of one body that are no neighbours and yet meet. Internal to core/part.
#pragma once

#include <gp_Pnt.hxx>
#include <vector>

#include "part/part.h"

namespace anvil {

struct Crossing {
  int face_a = -1, face_b = -1;  // in the part's topology
  gp_Pnt where;                  // on both surfaces, within 1e-6 mm, and inside at least one of the outlines
};

// Candidates come from the display mesh (boxes of triangles in a tree, then triangle against triangle), and
// are confirmed on the exact surfaces by projecting from one to the other. Faces that only touch at their
// borders are none: what was never sewn together is told as open edges. The body must be meshed; an overlap
// thinner than the mesh's deviation is not seen.
std::vector<Crossing> crossing_faces(const Part& part, int body);

}  // namespace anvil
