#include "inspect/disc_heights.h"

#include <algorithm>
#include <cmath>

namespace anvil {
namespace {

constexpr int kMostCells = 192;  // each way

bool inside(double ax, double ay, double bx, double by, double cx, double cy, double x, double y) {
  const double p = (bx - ax) * (y - ay) - (by - ay) * (x - ax),
               q = (cx - bx) * (y - by) - (cy - by) * (x - bx),
               r = (ax - cx) * (y - cy) - (ay - cy) * (x - cx);
  return (p >= 0 && q >= 0 && r >= 0) || (p <= 0 && q <= 0 && r <= 0);
}

}  // namespace

DiscHeights::DiscHeights(const std::vector<Triangle>& triangles, const gp_Dir& axis,
                         const std::function<bool(const Triangle&)>& wanted)
    : frame_(gp_Pnt(0, 0, 0), axis) {
  for (const Triangle& t : triangles) {
    if (wanted && !wanted(t)) continue;
    Flat f{flat(t.a), flat(t.b), flat(t.c), 0, t.face};
    f.top = std::max({f.a.level, f.b.level, f.c.level});
    flats_.push_back(f);
  }
  if (!flats_.empty()) fill_cells();
}

DiscHeights::Corner DiscHeights::flat(const gp_Pnt& p) const {
  return {p.XYZ().Dot(frame_.XDirection().XYZ()), p.XYZ().Dot(frame_.YDirection().XYZ()),
          p.XYZ().Dot(frame_.Direction().XYZ())};
}

int DiscHeights::column_of(double x) const {
  return std::clamp(static_cast<int>(std::floor((x - left_) / cell_)), 0, columns_ - 1);
}

int DiscHeights::row_of(double y) const {
  return std::clamp(static_cast<int>(std::floor((y - low_) / cell_)), 0, rows_ - 1);
}

void DiscHeights::fill_cells() {
  double right = -1e300, high = -1e300;
  left_ = low_ = 1e300;
  for (const Flat& f : flats_)
    for (const Corner* c : {&f.a, &f.b, &f.c}) {
      left_ = std::min(left_, c->x);
      right = std::max(right, c->x);
      low_ = std::min(low_, c->y);
      high = std::max(high, c->y);
    }
  const double extent = std::max({right - left_, high - low_, 1e-6});
  const int across =
      std::clamp(static_cast<int>(std::sqrt(static_cast<double>(flats_.size()))), 1, kMostCells);
  cell_ = extent / across;
  columns_ = static_cast<int>((right - left_) / cell_) + 1;
  rows_ = static_cast<int>((high - low_) / cell_) + 1;
  cells_.resize(static_cast<size_t>(columns_) * rows_);
  std::vector<int> order(flats_.size());
  for (size_t i = 0; i < order.size(); ++i) order[i] = static_cast<int>(i);
  std::sort(order.begin(), order.end(), [&](int a, int b) { return flats_[a].top > flats_[b].top; });
  for (const int i : order) {
    const Flat& f = flats_[i];
    const int first = column_of(std::min({f.a.x, f.b.x, f.c.x})),
              last = column_of(std::max({f.a.x, f.b.x, f.c.x}));
    const int bottom = row_of(std::min({f.a.y, f.b.y, f.c.y})), top = row_of(std::max({f.a.y, f.b.y, f.c.y}));
    for (int row = bottom; row <= top; ++row)
      for (int column = first; column <= last; ++column)
        cells_[static_cast<size_t>(row) * columns_ + column].push_back(i);
  }
}

// The height of a triangle over its plane is linear, so it is highest at a corner within the disc, where an
// edge crosses the circle, or where the circle lies farthest uphill.
std::optional<double> DiscHeights::height_in_disc(const Flat& t, const Corner& centre, double radius_mm) {
  std::optional<double> highest;
  const auto take = [&](double level) { highest = highest ? std::max(*highest, level) : level; };
  const double r2 = radius_mm * radius_mm;
  const Corner* corners[3] = {&t.a, &t.b, &t.c};
  for (int i = 0; i < 3; ++i) {
    const Corner &a = *corners[i], &b = *corners[(i + 1) % 3];
    const double px = a.x - centre.x, py = a.y - centre.y, dx = b.x - a.x, dy = b.y - a.y;
    if (px * px + py * py <= r2) take(a.level);
    const double aa = dx * dx + dy * dy, bb = px * dx + py * dy, cc = px * px + py * py - r2;
    const double root = bb * bb - aa * cc;
    if (aa < 1e-24 || root < 0) continue;
    for (const double s : {(-bb - std::sqrt(root)) / aa, (-bb + std::sqrt(root)) / aa})
      if (s >= 0 && s <= 1) take(a.level + s * (b.level - a.level));
  }
  const double ux = t.b.x - t.a.x, uy = t.b.y - t.a.y, vx = t.c.x - t.a.x, vy = t.c.y - t.a.y;
  const double area = ux * vy - uy * vx;
  if (std::abs(area) < 1e-15) return highest;
  const double ul = t.b.level - t.a.level, vl = t.c.level - t.a.level;
  const double gx = (ul * vy - vl * uy) / area, gy = (vl * ux - ul * vx) / area, slope = std::hypot(gx, gy);
  const double x = centre.x + (slope > 1e-12 ? radius_mm * gx / slope : 0),
               y = centre.y + (slope > 1e-12 ? radius_mm * gy / slope : 0);
  if (inside(t.a.x, t.a.y, t.b.x, t.b.y, t.c.x, t.c.y, x, y))
    take(t.a.level + gx * (x - t.a.x) + gy * (y - t.a.y));
  return highest;
}

std::optional<DiscHeights::Highest> DiscHeights::within(const gp_Pnt& at, double radius_mm,
                                                        double above_mm) const {
  std::optional<Highest> highest;
  if (cells_.empty()) return highest;
  const Corner centre = flat(at);
  double best = above_mm;
  for (int row = row_of(centre.y - radius_mm); row <= row_of(centre.y + radius_mm); ++row) {
    for (int column = column_of(centre.x - radius_mm); column <= column_of(centre.x + radius_mm); ++column) {
      for (const int i : cells_[static_cast<size_t>(row) * columns_ + column]) {
        if (flats_[i].top <= best) break;
        const auto level = height_in_disc(flats_[i], centre, radius_mm);
        if (!level || *level <= best) continue;
        best = *level;
        highest = Highest{best, flats_[i].face};
      }
    }
  }
  return highest;
}

}  // namespace anvil
