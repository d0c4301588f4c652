// Rows, grids and circles that fit points of a plane best, with even pitches, and how far each point is off.
// Least squares. Internal to core/inspect.
#pragma once

#include <Eigen/Dense>
#include <optional>
#include <vector>

namespace anvil {

using FlatPoints = std::vector<Eigen::Vector2d>;

// From its even place, of a hole that was meant to be there: half a millimetre, and of narrow pitches a
// tenth.
inline constexpr double kEvenlyMeant_mm = 0.5, kEvenlyMeant = 0.1;
inline constexpr double kEven_mm = 0.01;

struct OffPlace {
  double along_mm = 0, across_mm = 0;
  Eigen::Vector2d place;  // where the fit has it
};

struct RowFit {
  std::vector<size_t> order;  // of the points along the row
  Eigen::Vector2d centre, direction;
  double pitch_mm = 0;
  bool evenly_meant = true;
  std::vector<OffPlace> off;  // in that order
  double largest_across_mm = 0, largest_along_mm = 0;
};
RowFit fit_row(const FlatPoints& points);  // of at least two that are not one

struct CircleFit {
  std::vector<size_t> order;  // anticlockwise, the first nearest above angle 0
  Eigen::Vector2d centre;
  double radius_mm = 0, start_rad = 0;
  bool evenly_meant = true;
  std::vector<OffPlace> off;
  double largest_across_mm = 0, largest_along_mm = 0;
};
// Nothing when the points lie in one line.
std::optional<CircleFit> fit_circle_of(const FlatPoints& points);

// A grid is given by the steps of each point from its first place along both pitches.
struct GridFit {
  Eigen::Vector2d origin, step_a, step_b;
  std::vector<OffPlace> off;  // in the order of the points
  double largest_mm = 0;
};
GridFit fit_grid(const FlatPoints& points, const std::vector<Eigen::Vector2i>& steps);

}  // namespace anvil
