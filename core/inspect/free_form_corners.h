// Walls of free form: how steep they are to a tool axis, and how tightly they turn. Internal to core/inspect.
#pragma once

#include <TopoDS_Face.hxx>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <optional>

namespace anvil {

enum class Steepness {
  kUpright,  // square to the axis everywhere, within kWall_rad
  kSteep,    // within 45 degrees of that everywhere: a wall for a cutter
  kNoWall
};
// On a net of samples of the face.
Steepness steepness_of(const TopoDS_Face& face, const gp_Dir& axis);

// Where sections square to the axis turn most tightly round the void, from the surface's first and second
// derivatives, within 0.5 %.
struct TightestTurn {
  double radius_mm = 0;
  gp_Pnt centre;  // of that turn, square to the axis
};
// Nothing where it is nowhere hollow, or less than a radius of `largest_mm`.
std::optional<TightestTurn> tightest_turn(const TopoDS_Face& face, const gp_Dir& axis, double largest_mm);

}  // namespace anvil
