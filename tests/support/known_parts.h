// Random plates with features whose numbers are known from how they were made, and ways to write the same
// solid otherwise: turned, far away, small, mirrored, split, as splines.
#pragma once

#include <TopoDS_Shape.hxx>
#include <gp_Trsf.hxx>
#include <string>
#include <vector>

#include "support/random.h"

namespace anvil::test {

struct KnownHole {
  std::string form;  // how it was made, for messages
  gp_Pnt entry;
  gp_Dir axis{0, 0, 1};
  double diameter = 0, depth = 0;
  bool through = false, full_turn = true;
  std::string steps;  // "counterbore bore flat"
};

struct KnownPlate {
  TopoDS_Shape shape;
  std::vector<KnownHole> holes;
};

// Straight and tilted holes of every form, blind and through, some crossed by bores through the plate's
// sides.
KnownPlate random_plate(Random& random);

// How the walls of a pocket were made.
enum class PocketMaking { kUpright, kFloorRadius, kDraft, kUndercut, kOpenSide, kFreeForm };

struct KnownCorner {
  double radius = 0, largest_radius = 0;  // 0: sharp; the other where it tapers
  double depth = 0;
  bool undercut = false;
};

struct KnownPocket {
  PocketMaking making = PocketMaking::kUpright;
  TopoDS_Shape shape;  // a block of 100 x 100 x 20 with one pocket, open to +z
  gp_Dir axis{0, 0, 1};
  double depth = 0, floor_radius = 0;
  std::vector<KnownCorner> corners;  // of its walls
  double passage = 0;                // between an island in the middle and the wall nearest to it; 0: none

  // Of the corners that a cutter comes down to.
  [[nodiscard]] double smallest_radius() const;  // of the round ones; 0: there are none
  [[nodiscard]] int sharp_corners() const;
};

// Three to eight walls with mixed radii, in a convex outline, upright or with draft, with a round island,
// with a rounding at the foot, wider below than above, open to the side; or a wall of free form.
KnownPocket random_pocket(Random& random, PocketMaking making);
const char* making_name(PocketMaking making);

struct Disguise {
  const char* name;
  gp_Trsf motion;  // with its scale
  bool mirrored = false;
  TopoDS_Shape (*made)(const TopoDS_Shape&, const gp_Trsf&) = nullptr;
  double within_mm = 1e-5;  // of positions and sizes, after the scale
};
std::vector<Disguise> disguises(Random& random);

}  // namespace anvil::test
