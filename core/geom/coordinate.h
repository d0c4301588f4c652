// A coordinate by number: 0 is X, 1 is Y, 2 is Z. And the numbers of a motion, row by row.
//
// Instead of the kernel's own access by number (also to a motion's fourth column), which counts on from the
// address of X. The language does not allow that, and compilers use it: clang at -O1 ends a loop over the
// axes after X.
#pragma once

#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <gp_Trsf.hxx>

#include <array>

namespace anvil {

inline double coordinate(const gp_XYZ& of, int axis) {
  return axis == 0 ? of.X() : axis == 1 ? of.Y() : of.Z();
}
inline double coordinate(const gp_Pnt& of, int axis) {
  return coordinate(of.XYZ(), axis);
}
inline double coordinate(const gp_Dir& of, int axis) {
  return coordinate(of.XYZ(), axis);
}

inline void set_coordinate(gp_XYZ& of, int axis, double value) {
  if (axis == 0) return of.SetX(value);
  if (axis == 1) return of.SetY(value);
  of.SetZ(value);
}
inline void set_coordinate(gp_Pnt& of, int axis, double value) {
  set_coordinate(of.ChangeCoord(), axis, value);
}

// Three rows of four: how X, Y and Z turn, and the shift in mm.
inline std::array<double, 12> rows_of(const gp_Trsf& motion) {
  std::array<double, 12> rows{};
  const gp_Mat turn = motion.VectorialPart();
  for (int row = 0; row < 3; ++row) {
    for (int column = 0; column < 3; ++column) rows[row * 4 + column] = turn.Value(row + 1, column + 1);
    rows[row * 4 + 3] = coordinate(motion.TranslationPart(), row);
  }
  return rows;
}

}  // namespace anvil
