#include "demo/surface_net.h"

#include <array>
#include <gp_Vec.hxx>
#include <map>

#include "geom/coordinate.h"

namespace anvil::demo {
namespace {

using Distance = std::function<double(const gp_Pnt&)>;

// A few steps down the distance, which is none exactly but grows like one.
gp_Pnt on_surface(const Distance& distance, gp_Pnt p) {
  constexpr double kH = 1e-4;
  for (int i = 0; i < 6; ++i) {
    const double here = distance(p);
    const auto slope = [&](const gp_Vec& d) {
      return (distance(p.Translated(d * kH)) - distance(p.Translated(d * -kH))) / (2 * kH);
    };
    const gp_Vec gradient(slope({1, 0, 0}), slope({0, 1, 0}), slope({0, 0, 1}));
    if (gradient.SquareMagnitude() < 1e-6) break;
    p.Translate(gradient * (-here / gradient.SquareMagnitude()));
  }
  return p;
}

class Net {
 public:
  Net(const Distance& distance, const gp_Pnt& low, const gp_Pnt& high, double step)
      : distance_(distance), low_(low), step_(step) {
    for (int i = 0; i < 3; ++i)
      count_[i] = static_cast<int>(std::ceil((coordinate(high, i) - coordinate(low, i)) / step)) + 1;
    values_.reserve(static_cast<size_t>(count_[0]) * count_[1] * count_[2]);
    for (int z = 0; z < count_[2]; ++z)
      for (int y = 0; y < count_[1]; ++y)
        for (int x = 0; x < count_[0]; ++x) values_.push_back(distance(place({x, y, z})));
  }

  SurfaceNet run() {
    for (int z = 1; z + 1 < count_[2]; ++z)
      for (int y = 1; y + 1 < count_[1]; ++y)
        for (int x = 1; x + 1 < count_[0]; ++x)
          for (int axis = 0; axis < 3; ++axis) cross_edge({x, y, z}, axis);
    return std::move(net_);
  }

 private:
  using Cell = std::array<int, 3>;

  [[nodiscard]] gp_Pnt place(const Cell& c) const {
    return low_.Translated(gp_Vec(c[0], c[1], c[2]) * step_);
  }
  [[nodiscard]] double value(const Cell& c) const {
    return values_[(static_cast<size_t>(c[2]) * count_[1] + c[1]) * count_[0] + c[0]];
  }

  // The node of a cell through which the surface goes.
  int node(const Cell& cell) {
    const auto [at, is_new] = nodes_.try_emplace(cell, static_cast<int>(net_.nodes.size()));
    if (is_new)
      net_.nodes.push_back(on_surface(distance_, place(cell).Translated(gp_Vec(1, 1, 1) * (step_ / 2))));
    return at->second;
  }

  // Where the surface crosses the edge of the grid that begins at `cell`, the four cells around make a
  // square.
  void cross_edge(const Cell& cell, int axis) {
    Cell end = cell;
    ++end[axis];
    const bool inside = value(cell) < 0;
    if (inside == (value(end) < 0)) return;
    const int u = (axis + 1) % 3, v = (axis + 2) % 3;
    std::array<int, 4> square{};
    for (int i = 0; i < 4; ++i) {
      Cell around = cell;
      around[u] -= i == 1 || i == 2 ? 0 : 1;
      around[v] -= i == 2 || i == 3 ? 0 : 1;
      square[i] = node(around);
    }
    if (!inside) std::swap(square[1], square[3]);
    net_.triangles.push_back({square[0], square[1], square[2]});
    net_.triangles.push_back({square[0], square[2], square[3]});
  }

  const Distance& distance_;
  gp_Pnt low_;
  double step_;
  std::array<int, 3> count_{};
  std::vector<double> values_;
  std::map<Cell, int> nodes_;
  SurfaceNet net_;
};

}  // namespace

SurfaceNet surface_net(const Distance& distance, const gp_Pnt& low, const gp_Pnt& high, double step) {
  return Net(distance, low, high, step).run();
}

}  // namespace anvil::demo
