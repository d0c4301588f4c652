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

struct KnownPocket {
  TopoDS_Shape shape;  // a block with one pocket, its floor at z = 0
  gp_Dir axis{0, 0, 1};
  double depth = 0;
  int round_corners = 0, sharp_corners = 0;
  double smallest_radius = 0;  // of the round ones
  std::vector<double> radii;
  double passage = 0;  // between an island in the middle and the wall nearest to it; 0: there is none
};

// Three to eight walls with mixed radii, in a convex outline; in half of them a round island.
KnownPocket random_pocket(Random& random);

struct Disguise {
  const char* name;
  gp_Trsf motion;  // with its scale
  bool mirrored = false;
  TopoDS_Shape (*made)(const TopoDS_Shape&, const gp_Trsf&) = nullptr;
  double within_mm = 1e-5;  // of positions and sizes, after the scale
};
std::vector<Disguise> disguises(Random& random);

}  // namespace anvil::test
