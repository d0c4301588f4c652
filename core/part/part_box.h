// Boxes around a part and its bodies.
#pragma once

#include "part/measure.h"
#include "part/part.h"

namespace anvil {

// Around the vertices alone: quick, and too small where a round side bulges beyond them.
Box vertex_box(const Part& part);
std::vector<Box> vertex_boxes(const Part& part);  // one a body

// The part's box after a motion: exact where that is quick, else around its vertices.
struct PlacedBox {
  Box box;
  bool exact = false;
};
PlacedBox placed_box(const Part& part, const gp_Trsf& motion);

}  // namespace anvil
