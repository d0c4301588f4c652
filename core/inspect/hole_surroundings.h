// What stands around a hole: the next hole, the next edge of the face it opens in, the thinnest wall and what
// is left under its bottom, and the holes that cross it. From the exact surfaces.
//
//   const auto around = look_around(part, report);   // one for each of report.holes
//   (*around)[3].wall->thickness_mm, (*around)[3].wall->face
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "inspect/holes.h"

namespace anvil {

struct NextHole {
  int hole = -1;           // in the report
  double distance_mm = 0;  // between the axes: square to them where they are parallel, else the shortest
};

struct EdgeDistance {
  double distance_mm = 0;  // from the axis to the edge, in the face the hole opens in
  int edge = -1;           // of the part's topology
  gp_Pnt at;
};

struct WallThickness {
  double thickness_mm = 0;
  int face = -1;  // on its other side
  gp_Pnt on_hole, on_face;
};

struct CrossedHole {
  int hole = -1;
  gp_Pnt place;  // midway where their axes come nearest
};

struct HoleSurroundings {
  std::optional<NextHole> next;
  std::optional<EdgeDistance> edge;    // nothing for a mouth in no flat face, or one bordered by holes alone
  std::optional<WallThickness> wall;   // through material; faces that meet the hole are no wall's other side
  std::optional<WallThickness> floor;  // of a blind hole: along its axis, from its deepest point
  std::vector<CrossedHole> crossed;    // holes that break into it, or it into them
};

// In the coordinates of the report, which are the part's. Distances to 1e-6 mm on analytic surfaces, and as
// good as the kernel's nearest points on free form. Refuses when cancelled.
Result<std::vector<HoleSurroundings>> look_around(const Part& part, const HoleReport& report,
                                                  const Progress& progress = {});

// The same, moved with its report.
std::vector<HoleSurroundings> moved(const std::vector<HoleSurroundings>& around, const gp_Trsf& placement);

}  // namespace anvil
