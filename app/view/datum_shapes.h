// The lines a datum is drawn with, in placed coordinates: corner brackets for planes, a line for axes, a
// crosshair for points, three arms for frames. Sizes that must not change with the zoom are given in pixels.
#pragma once

#include <gp_Pnt.hxx>
#include <utility>
#include <vector>

#include "construct/construction.h"

namespace anvil::app {

using Segment = std::pair<gp_Pnt, gp_Pnt>;

inline constexpr double kFrameArm_px = 58;

std::vector<Segment> datum_segments(const DatumValue& value, double mm_per_pixel);
std::vector<Segment> curve_segments(const TopoDS_Edge& edge);
std::vector<gp_Pnt> plane_corners(const PlaneDatum& plane);  // four, in order
gp_Pnt datum_anchor(const DatumValue& value);                // where its name stands

}  // namespace anvil::app
