// Rows, grids, circles and mirror pairs among the holes of a group. A pattern tolerates holes that miss it
// (that is what it is for): a group that lies within kOffRow_mm of a line is a row, and how far each hole is
// off is told.
#include <algorithm>
#include <map>
#include <numeric>
#include <set>

#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/hole_groups.h"
#include "inspect/lattice.h"
#include "inspect/line_up.h"

namespace anvil {
namespace {

constexpr double kOffRow_mm = 0.5;
constexpr double kOffCircle_mm = 0.05;  // of a pattern found among other holes, and of circles
constexpr size_t kMostForTriples = 48;
constexpr size_t kMostForPairs = 200;

// A group's holes laid into the plane square to them.
class Laid {
 public:
  Laid(const HoleReport& report, const std::vector<int>& holes)
      : frame_(make_frame(report.holes[holes.front()].entry, report.holes[holes.front()].axis,
                          gp_Dir(1, 0, 0))) {
    for (const int hole : holes) {
      const gp_Pnt p = read_in(frame_, report.holes[hole].entry);
      points_.emplace_back(p.X(), p.Y());
    }
  }
  [[nodiscard]] const FlatPoints& points() const { return points_; }
  [[nodiscard]] gp_Pnt lifted(const Eigen::Vector2d& p) const {
    return frame_.Location().Translated(vector(p));
  }
  [[nodiscard]] gp_Vec vector(const Eigen::Vector2d& v) const {
    return gp_Vec(frame_.XDirection()) * v.x() + gp_Vec(frame_.YDirection()) * v.y();
  }
  [[nodiscard]] gp_Dir normal() const { return frame_.Direction(); }
  [[nodiscard]] gp_Dir x() const { return frame_.XDirection(); }

 private:
  gp_Ax2 frame_;
  FlatPoints points_;
};

void add_deviation(HolePattern& pattern, const Laid& laid, const Eigen::Vector2d& at, const OffPlace& off) {
  pattern.deviations.push_back({off.along_mm, off.across_mm, laid.vector(off.place - at)});
}

// What a fitted row and a fitted circle have in common.
template <class FitOfPoints>
HolePattern as_pattern(HolePattern::Kind kind, const FitOfPoints& fit, const std::vector<int>& holes,
                       const Laid& laid, const FlatPoints& points) {
  HolePattern pattern;
  pattern.kind = kind;
  pattern.even = fit.evenly_meant && fit.largest_along_mm < kEven_mm;
  pattern.largest_deviation_mm = fit.largest_across_mm;
  pattern.centre = laid.lifted(fit.centre);
  pattern.normal = laid.normal();
  for (size_t k = 0; k < fit.order.size(); ++k) {
    pattern.holes.push_back(holes[fit.order[k]]);
    add_deviation(pattern, laid, points[fit.order[k]], fit.off[k]);
  }
  return pattern;
}

HolePattern as_row(const RowFit& fit, const std::vector<int>& holes, const Laid& laid,
                   const FlatPoints& points) {
  HolePattern row = as_pattern(HolePattern::Kind::kRow, fit, holes, laid, points);
  row.pitch_mm = fit.pitch_mm;
  row.direction = gp_Dir(laid.vector(fit.direction));
  return row;
}

HolePattern as_circle(const CircleFit& fit, const std::vector<int>& holes, const Laid& laid,
                      const FlatPoints& points) {
  HolePattern circle = as_pattern(HolePattern::Kind::kCircle, fit, holes, laid, points);
  circle.pitch_mm = 2 * fit.radius_mm;
  circle.start_angle_rad = fit.start_rad;
  circle.direction = laid.x();
  return circle;
}

HolePattern as_grid(const Lattice& lattice, const std::vector<int>& holes, const Laid& laid,
                    const FlatPoints& points) {
  FlatPoints on_grid;
  for (const size_t i : lattice.points) on_grid.push_back(points[i]);
  const GridFit fit = fit_grid(on_grid, lattice.steps);
  HolePattern grid;
  grid.kind = HolePattern::Kind::kGrid;
  grid.pitch_mm = fit.step_a.norm();
  grid.second_pitch_mm = fit.step_b.norm();
  grid.columns = lattice.columns;
  grid.rows = lattice.rows;
  grid.even = fit.largest_mm < kEven_mm;
  grid.largest_deviation_mm = fit.largest_mm;
  grid.centre = laid.lifted(fit.origin);
  grid.normal = laid.normal();
  grid.direction = gp_Dir(laid.vector(fit.step_a));
  for (size_t k = 0; k < lattice.points.size(); ++k) {
    grid.holes.push_back(holes[lattice.points[k]]);
    add_deviation(grid, laid, on_grid[k], fit.off[k]);
  }
  return grid;
}

class PatternFinder {
 public:
  PatternFinder(HoleReport& report, const std::vector<int>& group)
      : report_(report), laid_(report, group), holes_(group), points_(laid_.points()) {}

  void run() {
    if (whole_row()) return;
    while (take_grid()) {
    }
    while (take_circle()) {
    }
    while (take_row()) {
    }
    take_mirror_pairs();
  }

 private:
  // A group in one row, even where holes miss it by half a millimetre.
  bool whole_row() {
    if (points_.size() < 3) return false;
    const RowFit fit = fit_row(points_);
    if (fit.largest_across_mm > kOffRow_mm) return false;
    report_.patterns.push_back(as_row(fit, holes_, laid_, points_));
    return true;
  }

  bool take_grid() {
    const auto lattice = largest_lattice(points_);
    if (!lattice) return false;
    report_.patterns.push_back(as_grid(*lattice, holes_, laid_, points_));
    drop(lattice->points);
    return true;
  }

  void drop(const std::vector<size_t>& taken) {
    const std::set<size_t> gone(taken.begin(), taken.end());
    std::vector<int> holes;
    FlatPoints points;
    for (size_t i = 0; i < points_.size(); ++i) {
      if (gone.count(i) > 0) continue;
      holes.push_back(holes_[i]);
      points.push_back(points_[i]);
    }
    holes_ = std::move(holes);
    points_ = std::move(points);
  }

  [[nodiscard]] std::vector<size_t> on_circle(const Eigen::Vector2d& centre, double radius) const {
    std::vector<size_t> on;
    for (size_t i = 0; i < points_.size(); ++i)
      if (std::abs((points_[i] - centre).norm() - radius) <= kOffCircle_mm) on.push_back(i);
    return on;
  }

  [[nodiscard]] FlatPoints these(const std::vector<size_t>& chosen) const {
    FlatPoints points;
    for (const size_t i : chosen) points.push_back(points_[i]);
    return points;
  }

  // Which points belong to a circle that is worth telling: an even one of four or more, an uneven one of
  // five; of three or four when there are no others.
  struct Candidate {
    std::vector<size_t> on;
    CircleFit fit;
    bool even = false;
  };
  [[nodiscard]] std::optional<Candidate> judged(std::vector<size_t> on) const {
    if (on.size() < 3) return std::nullopt;
    const auto fit = fit_circle_of(these(on));
    if (!fit || fit->largest_across_mm > kOffCircle_mm) return std::nullopt;
    const bool even = fit->evenly_meant && fit->largest_along_mm < 2 * kOffCircle_mm;
    const bool all = on.size() == points_.size();
    const size_t needed = even ? (all ? 3 : 4) : (all ? 4 : 5);
    if (on.size() < needed) return std::nullopt;
    return Candidate{std::move(on), *fit, even};
  }

  bool take_circle() {
    if (points_.size() < 3) return false;
    std::optional<Candidate> best;
    const auto consider = [&](std::vector<size_t> on) {
      if (best && on.size() < 3) return;
      auto candidate = judged(std::move(on));
      if (!candidate) return;
      if (best && std::pair(best->even, best->on.size()) >= std::pair(candidate->even, candidate->on.size()))
        return;
      best = std::move(candidate);
    };
    std::vector<size_t> all(points_.size());
    std::iota(all.begin(), all.end(), 0);
    consider(all);
    if (!best && points_.size() <= kMostForTriples) try_triples(consider);
    if (!best) return false;
    std::vector<int> holes;
    for (const size_t i : best->on) holes.push_back(holes_[i]);
    report_.patterns.push_back(as_circle(best->fit, holes, laid_, these(best->on)));
    drop(best->on);
    return true;
  }

  template <class Consider>
  void try_triples(Consider consider) const {
    std::set<std::vector<size_t>> seen;
    for (size_t i = 0; i < points_.size(); ++i)
      for (size_t j = i + 1; j < points_.size(); ++j)
        for (size_t k = j + 1; k < points_.size(); ++k) {
          const auto fit = circle_through(points_[i], points_[j], points_[k]);
          if (!fit) continue;
          std::vector<size_t> on = on_circle(fit->first, fit->second);
          if (on.size() > 3 && seen.insert(on).second) consider(on);
        }
  }

  static std::optional<std::pair<Eigen::Vector2d, double>> circle_through(const Eigen::Vector2d& a,
                                                                          const Eigen::Vector2d& b,
                                                                          const Eigen::Vector2d& c) {
    Eigen::Matrix2d sides;
    sides.row(0) = (b - a).transpose();
    sides.row(1) = (c - a).transpose();
    if (std::abs(sides.determinant()) < 1e-6 * (b - a).norm() * (c - a).norm()) return std::nullopt;
    const Eigen::Vector2d from =
        sides.inverse() * Eigen::Vector2d((b - a).squaredNorm(), (c - a).squaredNorm()) / 2;
    return std::pair(Eigen::Vector2d(a + from), from.norm());
  }

  // The longest row of three or more among what is left.
  bool take_row() {
    if (points_.size() < 3 || points_.size() > kMostForPairs) return false;
    std::vector<size_t> best;
    for (size_t i = 0; i < points_.size(); ++i)
      for (size_t j = i + 1; j < points_.size(); ++j) {
        const Eigen::Vector2d along = (points_[j] - points_[i]).normalized(), side(-along.y(), along.x());
        std::vector<size_t> on;
        for (size_t k = 0; k < points_.size(); ++k)
          if (std::abs((points_[k] - points_[i]).dot(side)) <= kOffCircle_mm) on.push_back(k);
        if (on.size() >= 3 && on.size() > best.size()) best = on;
      }
    if (best.empty()) return false;
    std::vector<int> holes;
    holes.reserve(best.size());
    for (const size_t i : best) holes.push_back(holes_[i]);
    report_.patterns.push_back(as_row(fit_row(these(best)), holes, laid_, these(best)));
    drop(best);
    return true;
  }

  // The line that mirrors most pairs of what is left onto each other: two holes, or two pairs and more.
  void take_mirror_pairs() {
    if (points_.size() < 2 || points_.size() > kMostForPairs) return;
    std::map<std::array<long, 3>, std::vector<std::pair<size_t, size_t>>> by_line;
    for (size_t i = 0; i < points_.size(); ++i)
      for (size_t j = i + 1; j < points_.size(); ++j) {
        Eigen::Vector2d across = (points_[j] - points_[i]).normalized();
        if (across.x() < -1e-6 || (across.x() < 1e-6 && across.y() < 0)) across *= -1;
        const double level = across.dot(points_[i] + points_[j]) / 2;
        by_line[{std::lround(across.x() * 1e3), std::lround(across.y() * 1e3), std::lround(level * 50)}]
            .emplace_back(i, j);
      }
    const auto most = std::max_element(by_line.begin(), by_line.end(), [](const auto& a, const auto& b) {
      return a.second.size() < b.second.size();
    });
    if (points_.size() > 2 && most->second.size() < 2) return;
    add_mirror(most->second);
  }

  void add_mirror(const std::vector<std::pair<size_t, size_t>>& pairs) {
    HolePattern mirror;
    mirror.kind = HolePattern::Kind::kMirror;
    const Eigen::Vector2d &a = points_[pairs.front().first], &b = points_[pairs.front().second];
    const Eigen::Vector2d across = (b - a).normalized(), along(-across.y(), across.x());
    mirror.pitch_mm = (b - a).norm();
    mirror.centre = laid_.lifted((a + b) / 2);
    mirror.normal = gp_Dir(laid_.vector(across));
    mirror.direction = gp_Dir(laid_.vector(along));
    for (const auto& [i, j] : pairs) {
      // Each half of a pair is half of what it is off.
      const Eigen::Vector2d middle = (points_[i] + points_[j]) / 2 - (a + b) / 2,
                            span = points_[j] - points_[i];
      const double off_across = middle.dot(across), off_along = span.dot(along) / 2;
      mirror.largest_deviation_mm =
          std::max({mirror.largest_deviation_mm, std::abs(off_across), std::abs(off_along)});
      for (const auto& [point, sense] : {std::pair(i, -1.0), std::pair(j, 1.0)}) {
        mirror.holes.push_back(holes_[point]);
        const Eigen::Vector2d mend = -off_across * across - sense * off_along * along;
        mirror.deviations.push_back({sense * off_along, off_across, laid_.vector(mend)});
      }
    }
    mirror.even = mirror.largest_deviation_mm < kEven_mm;
    report_.patterns.push_back(std::move(mirror));
  }

  HoleReport& report_;
  Laid laid_;
  std::vector<int> holes_;
  FlatPoints points_;
};

}  // namespace

const char* pattern_name(HolePattern::Kind kind) {
  switch (kind) {
    case HolePattern::Kind::kRow:
      return "row";
    case HolePattern::Kind::kGrid:
      return "grid";
    case HolePattern::Kind::kCircle:
      return "circle";
    case HolePattern::Kind::kMirror:
      return "mirror";
  }
  return "row";
}

void find_patterns(HoleReport& report) {
  for (const HoleGroup& group : report.groups)
    if (group.holes.size() >= 2) PatternFinder(report, group.holes).run();
}

Result<HolePattern> line_up(const HoleReport& report, const std::vector<int>& holes, HolePattern::Kind kind) {
  if (holes.size() < 3)
    return refuse(RefusalCode::kBadInput, "a row, grid or circle needs three holes or more");
  for (const int hole : holes)
    if (!parallel(report.holes[hole].axis, report.holes[holes.front()].axis, 1e-3))
      return refuse(RefusalCode::kGeometry, "the axes of " + report.holes[hole].name + " and " +
                                                report.holes[holes.front()].name + " are not parallel");
  const Laid laid(report, holes);
  switch (kind) {
    case HolePattern::Kind::kRow:
      return as_row(fit_row(laid.points()), holes, laid, laid.points());
    case HolePattern::Kind::kCircle:
      if (const auto fit = fit_circle_of(laid.points())) return as_circle(*fit, holes, laid, laid.points());
      return refuse(RefusalCode::kGeometry, "these holes lie in one line: no circle goes through them");
    case HolePattern::Kind::kGrid:
      if (const auto lattice = largest_lattice(laid.points());
          lattice && lattice->points.size() == holes.size())
        return as_grid(*lattice, holes, laid, laid.points());
      return refuse(RefusalCode::kGeometry, "these holes fill no grid with square-on pitches");
    case HolePattern::Kind::kMirror:
      break;
  }
  return refuse(RefusalCode::kBadInput, "only rows, grids and circles line holes up");
}

}  // namespace anvil
