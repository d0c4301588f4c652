// A setup (OP10, OP20 …): where the part is zeroed, which work offset holds that, on which machine, out of
// which stock, and from which directions it is cut.
#pragma once

#include <gp_Ax2.hxx>
#include <optional>
#include <string>
#include <vector>

#include "pick/reference.h"
#include "setup/kinematics.h"
#include "setup/stock.h"
#include "setup/work_offset.h"

namespace anvil {

// A frame whose Z points from the part back along the tool and whose X fixes the turn about it.
struct ToolPlane {
  std::string name;
  Reference frame;          // a frame entry: never bare angles
  std::string pose = {};    // key of the rotary solution that is meant; empty: the preferred one
  std::string offset = {};  // the work offset it is indexed to; empty: none of its own
  bool operator==(const ToolPlane&) const = default;
};

struct Setup {
  Reference frame;                                // of its work coordinate system: an entry
  std::string offset = "G54";                     // as typed
  std::string machine = {};                       // id of a machine of the job; empty: none
  std::map<std::string, std::string> place = {};  // "x", "y", "z", "turn": the work zero in the machine, with
                                                  // all rotary axes at zero; "gauge": length of the tool
  Stock stock = {};
  std::vector<ToolPlane> planes = {};  // after the setup's own (tool along +Z), in order
  Unit unit = Unit::kMillimetre;       // what bare lengths in `place` and the stock's texts are in
  bool operator==(const Setup&) const = default;
};

// What came of a tool plane.
struct PlaneValue {
  std::string name;
  gp_Ax2 frame;             // in placed coordinates
  gp_Ax2 in_setup;          // the same, read in the work coordinate system
  std::vector<Pose> poses;  // on the machine, the preferred one first
  size_t chosen = 0;
  std::string problem;  // why it cannot be reached, or has no frame
  bool has_frame = true;
  [[nodiscard]] const Pose* pose() const { return chosen < poses.size() ? &poses[chosen] : nullptr; }
};

struct SetupValue {
  gp_Ax2 frame;  // the work coordinate system, in placed coordinates
  std::optional<StockBlock> stock;
  std::vector<PlaneValue> planes;  // the first is the setup's own
};

// Numbers of `place`, as typed, with what they mean.
struct PlaceInMachine {
  gp_Pnt zero;
  double turn_rad = 0;                       // of the work coordinate system about machine Z
  double gauge_mm = 0;                       // from the spindle's gauge point to the tip
  [[nodiscard]] gp_Trsf from_setup() const;  // work coordinates to machine ones
};
Result<PlaceInMachine> place_of(const Setup& setup, const Names& names);

// Rotary angles of the planes one after the other, each by the shortest way from the one before. A plane the
// machine cannot reach keeps its reason.
void reach_planes(const Machine& machine, const Setup& setup, const PlaceInMachine& place,
                  std::vector<PlaneValue>& planes, double within_rad = kPointing_rad);

}  // namespace anvil
