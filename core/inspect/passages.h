// Where two walls face each other most closely, from the medial axis of what a section leaves free. Internal
// to core/inspect.
#pragma once

#include "inspect/section_stack.h"

namespace anvil {

struct Passage {
  double width_mm = 0;
  gp_Pnt on_a, on_b;  // of the walls, where it is narrowest
  int face_a = -1, face_b = -1;
  bool approximate = false;  // a wall of free form, or one that leans: as good as the sections
};

// The narrowest between any two faces at any level, narrowest first: one for each pair of patches. Between
// planes and cylinders along the axis exact; else within the bound of the stack.
//
// Candidates are where the largest disc touches two sides of the section that lie opposite each other: the
// points where the distance to the material, followed along the medial axis, has an extreme or stays the
// same. `sides` (by face) are the faces that may be a side of one; levels without any are passed over.
std::vector<Passage> passages_in(const Part& part, const SectionStack& stack, const std::vector<bool>& sides,
                                 const Progress& progress = {});

}  // namespace anvil
