#include "inspect/line_up.h"

#include <algorithm>
#include <cmath>

#include "base/units.h"

namespace anvil {
namespace {

Eigen::Vector2d mean_of(const FlatPoints& points) {
  Eigen::Vector2d mean = Eigen::Vector2d::Zero();
  for (const auto& p : points) mean += p / static_cast<double>(points.size());
  return mean;
}

// Best a + k p through values at k = 0, 1, 2, …
std::pair<double, double> even_steps(const std::vector<double>& values) {
  const double n = static_cast<double>(values.size()), middle = (n - 1) / 2;
  double mean = 0, upper = 0, lower = 0;
  for (const double v : values) mean += v / n;
  for (size_t k = 0; k < values.size(); ++k) {
    const double from = static_cast<double>(k) - middle;
    upper += from * (values[k] - mean);
    lower += from * from;
  }
  const double pitch = lower > 0 ? upper / lower : 0;
  return {mean - middle * pitch, pitch};
}

// Geometric fit: the algebraic circle (Kasa), then Gauss-Newton steps on the distances.
std::optional<std::pair<Eigen::Vector2d, double>> best_circle(const FlatPoints& points) {
  const Eigen::Vector2d mean = mean_of(points);
  Eigen::MatrixXd rows(points.size(), 3);
  Eigen::VectorXd right(points.size());
  for (size_t i = 0; i < points.size(); ++i) {
    const Eigen::Vector2d p = points[i] - mean;
    rows.row(static_cast<Eigen::Index>(i)) << 2 * p.x(), 2 * p.y(), 1;
    right(static_cast<Eigen::Index>(i)) = p.squaredNorm();
  }
  const auto solver = rows.colPivHouseholderQr();
  if (solver.rank() < 3) return std::nullopt;
  const Eigen::Vector3d solved = solver.solve(right);
  Eigen::Vector3d circle(solved.x(), solved.y(),
                         std::sqrt(std::max(0.0, solved.z() + solved.head<2>().squaredNorm())));
  for (int round = 0; round < 8; ++round) {
    for (size_t i = 0; i < points.size(); ++i) {
      const Eigen::Vector2d from = points[i] - mean - circle.head<2>();
      const double away = std::max(1e-12, from.norm());
      rows.row(static_cast<Eigen::Index>(i)) << -from.x() / away, -from.y() / away, -1;
      right(static_cast<Eigen::Index>(i)) = circle.z() - away;
    }
    circle += rows.colPivHouseholderQr().solve(right);
  }
  if (!circle.allFinite()) return std::nullopt;
  return std::pair(Eigen::Vector2d(mean + circle.head<2>()), circle.z());
}

}  // namespace

RowFit fit_row(const FlatPoints& points) {
  RowFit row;
  row.centre = mean_of(points);
  Eigen::Matrix2d spread = Eigen::Matrix2d::Zero();
  for (const auto& p : points) spread += (p - row.centre) * (p - row.centre).transpose();
  row.direction = Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d>(spread).eigenvectors().col(1);
  // The sense must not hang on last digits.
  if (row.direction.x() < -1e-6 || (row.direction.x() < 1e-6 && row.direction.y() < 0)) row.direction *= -1;
  const Eigen::Vector2d side(-row.direction.y(), row.direction.x());
  for (size_t i = 0; i < points.size(); ++i) row.order.push_back(i);
  const auto along = [&](size_t i) { return (points[i] - row.centre).dot(row.direction); };
  std::sort(row.order.begin(), row.order.end(), [&](size_t a, size_t b) { return along(a) < along(b); });
  std::vector<double> levels;
  for (const size_t i : row.order) levels.push_back(along(i));
  const auto [first, pitch] = even_steps(levels);
  for (size_t k = 0; k < levels.size(); ++k)
    row.largest_along_mm =
        std::max(row.largest_along_mm, std::abs(levels[k] - first - pitch * static_cast<double>(k)));
  row.evenly_meant = row.largest_along_mm <= std::min(kEvenlyMeant_mm, kEvenlyMeant * pitch);
  row.pitch_mm =
      row.evenly_meant ? pitch : (levels.back() - levels.front()) / static_cast<double>(levels.size() - 1);
  for (size_t k = 0; k < levels.size(); ++k) {
    const double level = row.evenly_meant ? first + pitch * static_cast<double>(k) : levels[k];
    const double across = (points[row.order[k]] - row.centre).dot(side);
    row.largest_across_mm = std::max(row.largest_across_mm, std::abs(across));
    row.off.push_back({levels[k] - level, across, row.centre + row.direction * level});
  }
  return row;
}

std::optional<CircleFit> fit_circle_of(const FlatPoints& points) {
  const auto best = best_circle(points);
  if (!best) return std::nullopt;
  CircleFit circle;
  std::tie(circle.centre, circle.radius_mm) = *best;
  std::vector<std::pair<double, size_t>> around;
  for (size_t i = 0; i < points.size(); ++i) {
    const Eigen::Vector2d from = points[i] - circle.centre;
    double angle = std::atan2(from.y(), from.x());
    if (angle < -1e-9) angle += 2 * kPi;
    around.emplace_back(angle, i);
  }
  std::sort(around.begin(), around.end());
  const double step = 2 * kPi / static_cast<double>(points.size());
  double first = 0;
  for (size_t k = 0; k < around.size(); ++k)
    first += (around[k].first - step * static_cast<double>(k)) / static_cast<double>(around.size());
  for (size_t k = 0; k < around.size(); ++k)
    circle.largest_along_mm =
        std::max(circle.largest_along_mm,
                 circle.radius_mm * std::abs(around[k].first - first - step * static_cast<double>(k)));
  circle.evenly_meant =
      circle.largest_along_mm <= std::min(kEvenlyMeant_mm, kEvenlyMeant * step * circle.radius_mm);
  circle.start_rad = circle.evenly_meant ? first : around.front().first;
  for (size_t k = 0; k < around.size(); ++k) {
    const auto [angle, i] = around[k];
    const double meant = circle.evenly_meant ? first + step * static_cast<double>(k) : angle;
    const double across = (points[i] - circle.centre).norm() - circle.radius_mm;
    circle.largest_across_mm = std::max(circle.largest_across_mm, std::abs(across));
    circle.order.push_back(i);
    circle.off.push_back(
        {circle.radius_mm * (angle - meant), across,
         circle.centre + circle.radius_mm * Eigen::Vector2d(std::cos(meant), std::sin(meant))});
  }
  return circle;
}

GridFit fit_grid(const FlatPoints& points, const std::vector<Eigen::Vector2i>& steps) {
  Eigen::MatrixXd rows(points.size(), 3), right(points.size(), 2);
  for (size_t i = 0; i < points.size(); ++i) {
    rows.row(static_cast<Eigen::Index>(i)) << 1, steps[i].x(), steps[i].y();
    right.row(static_cast<Eigen::Index>(i)) = points[i].transpose();
  }
  const Eigen::MatrixXd solved = rows.colPivHouseholderQr().solve(right);
  GridFit grid{solved.row(0).transpose(), solved.row(1).transpose(), solved.row(2).transpose(), {}, 0};
  const Eigen::Vector2d along = grid.step_a.normalized(), side(-along.y(), along.x());
  for (size_t i = 0; i < points.size(); ++i) {
    const Eigen::Vector2d place = grid.origin + grid.step_a * steps[i].x() + grid.step_b * steps[i].y();
    const Eigen::Vector2d off = points[i] - place;
    grid.off.push_back({off.dot(along), off.dot(side), place});
    grid.largest_mm = std::max({grid.largest_mm, std::abs(off.dot(along)), std::abs(off.dot(side))});
  }
  return grid;
}

}  // namespace anvil
