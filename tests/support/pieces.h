// A part made for trying constructions on, and pieces of it by name, as picks: as drawn, moved, mirrored,
// scaled, or with every surface and curve stored as a B-spline.
#pragma once

#include <gp_Trsf.hxx>
#include <string>

#include "pick/given.h"

namespace anvil::test {

// Block 80 x 40 x 20 with corner in the origin and, from above: through holes of diameter 10 at (20, 20) and
// 14 at (50, 20), flat blind ones of 6 at (65, 30), 12 deep, and of 8 at (10, 30), 10 deep; a bar leaning 30
// degrees about the line x = 100, z = 0; a cone from diameter 20 to 10 over 10 at (130, 20, 0); a ball of
// radius 8 at (170, 20, 10); a ring 12 and 3 at (210, 20, 0); a prism of an ellipse 9 and 5 at (250, 20, 0).
class Pieces {
 public:
  explicit Pieces(const gp_Trsf& motion = {}, bool as_splines = false);

  // "top", "bore", "rim", …; "scan outer" and the other places of the scan in scans.h, and "scan sliver", a
  // single triangle; or "point x y z", "axis x y z dx dy dz", "plane x y z nx ny nz", "frame x y z":
  // datums in the coordinates the part is drawn in. Picks are clicked at the place they are named for.
  [[nodiscard]] Given operator()(const std::string& name) const;
  [[nodiscard]] const gp_Trsf& motion() const { return motion_; }
  [[nodiscard]] const PartPtr& part() const { return part_; }

 private:
  [[nodiscard]] Given scanned(const std::string& name) const;

  gp_Trsf motion_;
  PartPtr part_, scan_;
};

}  // namespace anvil::test
