// Where a function is highest on a face, for curvatures of free form. Internal to core/inspect.
#pragma once

#include <TopoDS_Face.hxx>
#include <functional>
#include <optional>

namespace anvil {

struct HighestOnFace {
  double value = 0, u = 0, v = 0;
};

// Positive values only. Every span between the surface's knots is sampled, as the curvature of a spline peaks
// at knots; then a finer net is laid about each of the highest samples until it gains less than 0.05 %.
std::optional<HighestOnFace> highest_on_face(
    const TopoDS_Face& face, const std::function<std::optional<double>(double u, double v)>& value);

}  // namespace anvil
