#include "demo/demo_part.h"
#include "demo/shapes.h"

namespace anvil::demo {

TopoDS_Shape plate_of_holes(int rows, int columns) {
  constexpr double kPitch = 20, kThickness = 15;
  std::vector<TopoDS_Shape> tools;
  for (int i = 0; i < columns; ++i) {
    for (int j = 0; j < rows; ++j) {
      const gp_Pnt at(kPitch * (i + 0.5), kPitch * (j + 0.5), kThickness);
      const gp_Ax2 down(at, gp_Dir(0, 0, -1), gp_Dir(1, 0, 0));
      if ((i + j) % 3 == 0) {
        tools.push_back(pocket(gp_Ax2(at, gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), {14, 12, 6, {2, 2, 2, 2}}));
      } else {
        tools.push_back(rod(down, 5.5, kThickness));
        if ((i + j) % 3 == 1) tools.push_back(rod(down, 10, 5));
      }
    }
  }
  return cut(block(gp_Pnt(0, 0, 0), gp_Pnt(kPitch * columns, kPitch * rows, kThickness)), tools);
}

}  // namespace anvil::demo
