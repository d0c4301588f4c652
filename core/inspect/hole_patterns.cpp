// Rows and circles. A row tolerates holes that miss it (that is what it is for): holes within kOffRow_mm of
// the line through its ends belong to it, and the largest deviation from the best line is told.
#include <Eigen/Dense>
#include <numeric>

#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/hole_groups.h"

namespace anvil {
namespace {

constexpr double kOffRow_mm = 0.5;
constexpr double kOffCircle_mm = 0.05;
constexpr double kEven_mm = 0.01;

using Points = std::vector<Eigen::Vector2d>;

// Total least squares line: direction of largest spread through the mean.
struct Line {
  Eigen::Vector2d centre, direction;
};
Line best_line(const Points& points) {
  Eigen::Vector2d mean = Eigen::Vector2d::Zero();
  for (const auto& p : points) mean += p;
  mean /= static_cast<double>(points.size());
  Eigen::Matrix2d spread = Eigen::Matrix2d::Zero();
  for (const auto& p : points) spread += (p - mean) * (p - mean).transpose();
  const Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> solver(spread);
  return {mean, solver.eigenvectors().col(1)};
}

// Algebraic circle fit (Kasa): least squares of x^2 + y^2 = 2ax + 2by + c.
struct Circle {
  Eigen::Vector2d centre;
  double radius;
};
Circle best_circle(const Points& points) {
  Eigen::MatrixXd a(points.size(), 3);
  Eigen::VectorXd b(points.size());
  for (size_t i = 0; i < points.size(); ++i) {
    a.row(static_cast<Eigen::Index>(i)) << 2 * points[i].x(), 2 * points[i].y(), 1;
    b(static_cast<Eigen::Index>(i)) = points[i].squaredNorm();
  }
  const Eigen::Vector3d solution = a.colPivHouseholderQr().solve(b);
  const Eigen::Vector2d centre = solution.head<2>();
  return {centre, std::sqrt(std::max(0.0, solution.z() + centre.squaredNorm()))};
}

class PatternFinder {
 public:
  explicit PatternFinder(HoleReport& report) : report_(report) {}

  void run() {
    for (const HoleGroup& group : report_.groups)
      if (group.holes.size() >= 3) look_at(group);
  }

 private:
  void look_at(const HoleGroup& group) {
    const Hole& first = report_.holes[group.holes.front()];
    const gp_Ax2 frame = make_frame(first.entry, first.axis, gp_Dir(1, 0, 0));
    Points points;
    for (int hole : group.holes) {
      const gp_Pnt p = read_in(frame, report_.holes[hole].entry);
      points.emplace_back(p.X(), p.Y());
    }
    if (try_row(group, points)) return;
    try_circle(group, points, frame);
  }

  bool try_row(const HoleGroup& group, const Points& points) {
    const Line line = best_line(points);
    std::vector<std::pair<double, int>> along;
    double deviation = 0;
    for (size_t i = 0; i < points.size(); ++i) {
      const Eigen::Vector2d from = points[i] - line.centre;
      along.emplace_back(from.dot(line.direction), group.holes[i]);
      deviation =
          std::max(deviation, std::abs(from.x() * line.direction.y() - from.y() * line.direction.x()));
    }
    if (deviation > kOffRow_mm) return false;
    std::sort(along.begin(), along.end());
    if (along.back().second < along.front().second) {
      std::reverse(along.begin(), along.end());
      for (auto& a : along) a.first = -a.first;
    }
    HolePattern row;
    row.largest_deviation_mm = deviation;
    for (const auto& [level, hole] : along) row.holes.push_back(hole);
    row.pitch_mm = (along.back().first - along.front().first) / static_cast<double>(along.size() - 1);
    for (size_t i = 1; i < along.size(); ++i)
      row.even = row.even && std::abs(along[i].first - along[i - 1].first - row.pitch_mm) < kEven_mm;
    report_.patterns.push_back(std::move(row));
    return true;
  }

  void try_circle(const HoleGroup& group, const Points& points, const gp_Ax2& frame) {
    const Circle circle = best_circle(points);
    if (points.size() < 4) return;  // three holes lie on a circle whatever they are
    std::vector<std::pair<double, int>> around;
    double deviation = 0;
    for (size_t i = 0; i < points.size(); ++i) {
      const Eigen::Vector2d from = points[i] - circle.centre;
      deviation = std::max(deviation, std::abs(from.norm() - circle.radius));
      around.emplace_back(std::atan2(from.y(), from.x()), group.holes[i]);
    }
    if (deviation > kOffCircle_mm) return;
    std::sort(around.begin(), around.end());
    HolePattern pattern;
    pattern.kind = HolePattern::Kind::kCircle;
    pattern.pitch_mm = 2 * circle.radius;
    pattern.largest_deviation_mm = deviation;
    const double step = 2 * kPi / static_cast<double>(around.size());
    for (size_t i = 0; i < around.size(); ++i) {
      pattern.holes.push_back(around[i].second);
      const double next = i + 1 < around.size() ? around[i + 1].first : around.front().first + 2 * kPi;
      pattern.even = pattern.even && std::abs(next - around[i].first - step) * circle.radius < kEven_mm;
    }
    pattern.centre = frame.Location().Translated(gp_Vec(frame.XDirection()) * circle.centre.x() +
                                                 gp_Vec(frame.YDirection()) * circle.centre.y());
    report_.patterns.push_back(std::move(pattern));
  }

  HoleReport& report_;
};

}  // namespace

void find_patterns(HoleReport& report) {
  PatternFinder(report).run();
}

}  // namespace anvil
