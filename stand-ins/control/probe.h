// A probe of no size that touches a solid where it really lies in the machine, with a seeded spread.
#pragma once

#include <TopoDS_Shape.hxx>
#include <gp_Dir.hxx>
#include <gp_Trsf.hxx>
#include <optional>
#include <random>

namespace anvil::control {

class Probe {
 public:
  // `lies` brings the shape to where it really lies; `spread_mm` is the standard deviation along the move.
  Probe(const TopoDS_Shape& shape, const gp_Trsf& lies, double spread_mm, unsigned seed);
  // The first surface met; nothing when there is none within reach.
  std::optional<gp_Pnt> touch(const gp_Pnt& start, const gp_Dir& along, double reach_mm);

 private:
  TopoDS_Shape shape_;  // where it lies
  std::mt19937 generator_;
  std::normal_distribution<double> spread_;
};

// A part put down by hand: off by up to so much along and about each axis of the machine, about `about`.
gp_Trsf put_down_by_hand(const gp_Pnt& about, double most_mm, double most_rad, unsigned seed);

}  // namespace anvil::control
