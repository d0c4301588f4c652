#include "inspect/lattice.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <map>
#include <set>
#include <unordered_map>

namespace anvil {
namespace {

constexpr double kSameStep_mm = 0.05;
constexpr double kSquare = 0.01;  // cosine
constexpr size_t kNeighbours = 8, kSteps = 6;
constexpr double kFilled = 0.75;

// Points found by place, in cells of about their mean distance.
class Places {
 public:
  explicit Places(const FlatPoints& points) : points_(points) {
    Eigen::AlignedBox2d box;
    for (const auto& p : points) box.extend(p);
    const double area = std::max(1e-6, box.sizes().prod()), span = std::max(1e-3, box.sizes().maxCoeff());
    cell_ = std::max(std::sqrt(area / static_cast<double>(points.size())),
                     span / static_cast<double>(points.size()));
    for (size_t i = 0; i < points.size(); ++i) cells_[key(points[i])].push_back(i);
  }

  [[nodiscard]] std::optional<size_t> near(const Eigen::Vector2d& at, double within) const {
    std::optional<size_t> best;
    visit(at, within, [&](size_t i, double off) {
      if (off > within || (best && off >= (points_[*best] - at).norm())) return;
      best = i;
    });
    return best;
  }

  [[nodiscard]] std::vector<size_t> nearest(size_t own, size_t count) const {
    for (double reach = 2 * cell_;; reach *= 2) {
      std::vector<std::pair<double, size_t>> found;
      visit(points_[own], reach, [&](size_t i, double off) {
        if (i != own && off <= reach) found.emplace_back(off, i);
      });
      if (found.size() < count && found.size() + 1 < points_.size()) continue;
      std::sort(found.begin(), found.end());
      std::vector<size_t> near;
      for (size_t k = 0; k < std::min(count, found.size()); ++k) near.push_back(found[k].second);
      return near;
    }
  }

 private:
  using Key = std::pair<std::int64_t, std::int64_t>;
  [[nodiscard]] Key key(const Eigen::Vector2d& p) const {
    return {static_cast<std::int64_t>(std::floor(p.x() / cell_)),
            static_cast<std::int64_t>(std::floor(p.y() / cell_))};
  }
  template <class Visit>
  void visit(const Eigen::Vector2d& at, double within, Visit see) const {
    const Key low = key(at - Eigen::Vector2d(within, within)),
              high = key(at + Eigen::Vector2d(within, within));
    for (std::int64_t x = low.first; x <= high.first; ++x)
      for (std::int64_t y = low.second; y <= high.second; ++y)
        if (const auto cell = cells_.find({x, y}); cell != cells_.end())
          for (const size_t i : cell->second) see(i, (points_[i] - at).norm());
  }

  const FlatPoints& points_;
  double cell_ = 1;
  std::map<Key, std::vector<size_t>> cells_;
};

class LatticeFinder {
 public:
  explicit LatticeFinder(const FlatPoints& points) : points_(points), places_(points) {}

  std::optional<Lattice> run() {
    const FlatPoints steps = usual_steps();
    std::optional<Lattice> best;
    for (size_t i = 0; i < steps.size(); ++i)
      for (size_t j = 0; j < steps.size(); ++j) {
        if (i == j || std::abs(steps[i].normalized().dot(steps[j].normalized())) > kSquare) continue;
        if (std::abs(steps[i].x()) < std::abs(steps[j].x()))
          continue;  // the pitch that runs more along X is first
        grow_all(steps[i], steps[j], best);
      }
    return best;
  }

 private:
  // Steps between neighbours that occur most, with one sense.
  [[nodiscard]] FlatPoints usual_steps() const {
    std::vector<std::pair<int, Eigen::Vector2d>> found;
    std::map<std::pair<std::int64_t, std::int64_t>, size_t> by_size;
    for (size_t i = 0; i < points_.size(); ++i)
      for (const size_t j : places_.nearest(i, kNeighbours)) {
        Eigen::Vector2d step = points_[j] - points_[i];
        if (step.x() < -kSameStep_mm || (step.x() < kSameStep_mm && step.y() < 0)) continue;  // j finds it
        const std::pair cell(std::llround(step.x() / kSameStep_mm / 2),
                             std::llround(step.y() / kSameStep_mm / 2));
        const auto [at, is_new] = by_size.try_emplace(cell, found.size());
        if (is_new) found.emplace_back(0, step);
        ++found[at->second].first;
      }
    std::stable_sort(found.begin(), found.end(), [](const auto& a, const auto& b) {
      return a.first != b.first ? a.first > b.first : a.second.norm() < b.second.norm() - kSameStep_mm;
    });
    FlatPoints steps;
    for (const auto& [count, step] : found)
      if (steps.size() < kSteps && count >= 2) steps.push_back(step);
    return steps;
  }

  void grow_all(const Eigen::Vector2d& a, const Eigen::Vector2d& b, std::optional<Lattice>& best) const {
    std::vector<bool> seen(points_.size(), false);
    for (size_t i = 0; i < points_.size(); ++i) {
      if (seen[i]) continue;
      const auto lattice = grown(i, a, b, seen);
      if (lattice && (!best || lattice->points.size() > best->points.size())) best = lattice;
    }
  }

  std::optional<Lattice> grown(size_t start, const Eigen::Vector2d& a, const Eigen::Vector2d& b,
                               std::vector<bool>& seen) const {
    const double within = std::min(kEvenlyMeant_mm, 0.1 * std::min(a.norm(), b.norm()));
    std::map<std::pair<int, int>, size_t> at;
    std::vector<std::pair<size_t, Eigen::Vector2i>> open{{start, {0, 0}}};
    seen[start] = true;
    while (!open.empty()) {
      const auto [point, steps] = open.back();
      open.pop_back();
      at[{steps.y(), steps.x()}] = point;
      for (const auto& [move, by] :
           {std::pair(a, Eigen::Vector2i(1, 0)), std::pair(Eigen::Vector2d(-a), Eigen::Vector2i(-1, 0)),
            std::pair(b, Eigen::Vector2i(0, 1)), std::pair(Eigen::Vector2d(-b), Eigen::Vector2i(0, -1))}) {
        const auto next = places_.near(points_[point] + move, within);
        if (!next || seen[*next]) continue;
        seen[*next] = true;
        open.emplace_back(*next, steps + by);
      }
    }
    return as_lattice(at, a, b);
  }

  [[nodiscard]] std::optional<Lattice> as_lattice(const std::map<std::pair<int, int>, size_t>& at,
                                                  const Eigen::Vector2d& a, const Eigen::Vector2d& b) const {
    int left = 0, right = 0;
    for (const auto& [place, point] : at) {
      left = std::min(left, place.second);
      right = std::max(right, place.second);
    }
    const int low = at.begin()->first.first;
    Lattice lattice;
    lattice.columns = right - left + 1;
    lattice.rows = at.rbegin()->first.first - low + 1;
    const size_t whole = static_cast<size_t>(lattice.columns) * static_cast<size_t>(lattice.rows);
    if (lattice.columns < 2 || lattice.rows < 2) return std::nullopt;
    const bool large = lattice.columns >= 3 && lattice.rows >= 3;
    if (at.size() < whole &&
        (!large || static_cast<double>(at.size()) < kFilled * static_cast<double>(whole)))
      return std::nullopt;
    const bool four = at.size() == 4;
    if (four && (points_.size() > 4 || std::abs(a.norm() - b.norm()) < kSameStep_mm)) return std::nullopt;
    for (const auto& [place, point] : at) {
      lattice.points.push_back(point);
      lattice.steps.emplace_back(place.second - left, place.first - low);
    }
    return lattice;
  }

  const FlatPoints& points_;
  Places places_;
};

}  // namespace

std::optional<Lattice> largest_lattice(const FlatPoints& points) {
  if (points.size() < 4) return std::nullopt;
  return LatticeFinder(points).run();
}

}  // namespace anvil
