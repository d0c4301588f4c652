// Whether a face that was made anew is valid, at the cost of what is new about it.
#pragma once

#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>
#include <optional>

#include "correct/body_change.h"

namespace anvil {

// By the kernel's checker. Of a face with many outlines most of which were there before (a plate with a
// thousand holes, one of them moved) only the new ones are judged, against the outer one and those near them:
// the others were valid beside each other already, and checking every pair takes seconds.
bool is_valid_face(const TopoDS_Face& face, const ShapeSet& old_edges);

// Some place on the face that is not on its border; nothing where the kernel finds none.
std::optional<gp_Pnt> place_inside(const TopoDS_Face& face);

}  // namespace anvil
