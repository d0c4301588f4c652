// Where a cutter does not go: what a disc of its radius, coming down along the tool axis or from the side,
// cannot sweep without cutting the part. Found level by level by growing what stands in the way by the radius
// and shrinking it again; what that adds is what the cutter leaves.
//
//   const auto left = left_by_cutter(*report.sections, 12.0);
//   left->volume_mm3, left->largest_thickness_mm
//
// On parts of planes and of cylinders along the axis the outlines are within `bound_mm` of the exact ones;
// what is thinner than twice that is not told. Where walls lean or are of free form the bound holds the
// deviation of the display mesh, and the levels stand for what lies between them.
#pragma once

#include <memory>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

struct SectionStack;

struct LeftLayer {
  double bottom_mm = 0, top_mm = 0;  // along the axis, from the origin of the part
  double area_mm2 = 0;
  std::vector<std::vector<gp_Pnt>> outlines;  // at the bottom; outer ones anticlockwise seen from the tool
};

struct LeftByCutter {
  double diameter_mm = 0;
  double volume_mm3 = 0;
  double largest_thickness_mm =
      0;  // of the largest ball-shaped gauge, seen along the axis, that finds room in it
  gp_Pnt thickest;
  double bound_mm = 0;            // of the layers told
  std::vector<LeftLayer> layers;  // the topmost first; levels where nothing is left are not among them
};

enum class LeftDetail { kFull, kWhileDragging };

// Refuses a diameter that is not above zero, and when cancelled.
Result<LeftByCutter> left_by_cutter(const SectionStack& sections, double diameter_mm,
                                    LeftDetail detail = LeftDetail::kFull, const Progress& progress = {});

}  // namespace anvil
