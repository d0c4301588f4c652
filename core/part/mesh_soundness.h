// Is a body of triangles a closed, consistent surface? Internal to core/part; asked through
// check_soundness().
#pragma once

#include <TopoDS_Shape.hxx>
#include <vector>

#include "part/soundness.h"

namespace anvil {

// Corners at the very same place are one. Triangles without area and repeated ones are told and set aside; of
// the rest: borders of one triangle only (each connected border a finding, with its edges and its length),
// edges of more than two, neighbours that disagree which side is out, shells apart from the largest, and a
// closed mesh that is inside out. Of one kind the largest kMostTold are told one by one, the rest as a sum.
// Time n log n in triangles.
std::vector<Finding> check_mesh(const TopoDS_Shape& mesh, int body);

inline constexpr int kMostTold = 50;

}  // namespace anvil
