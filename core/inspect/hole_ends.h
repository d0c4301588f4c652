// Where the hole that a face belongs to begins and ends; looks at nothing but the faces on its axis.
#pragma once

#include <optional>

#include "part/part.h"

namespace anvil {

struct HoleEnds {
  gp_Pnt opening;  // on the axis, in the plane of the opening
  gp_Pnt bottom;   // of a through hole: its other opening
  gp_Dir out;      // out of the material, at the opening
  bool through = false;
};

// Of an inside surface of revolution that reaches half a turn; nothing for other faces, and for holes open at
// neither end. A through hole is entered at its wider opening, else at the end its axis points to. Void that
// interrupts a hole ends it.
std::optional<HoleEnds> hole_ends(const Part& part, int face);

}  // namespace anvil
