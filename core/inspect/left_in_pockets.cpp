#include "inspect/left_in_pockets.h"

#include "geom/nearest.h"
#include "inspect/box_tree.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

class Walls {
 public:
  Walls(const Part& part, const CornerReport& report)
      : triangles_(rays_of(part).triangles()), tree_(triangles_in_tree(part)) {
    pocket_of_.assign(part.topology().faces.size(), -1);
    for (size_t p = 0; p < report.pockets.size(); ++p)
      for (const int face : report.pockets[p].faces) pocket_of_[face] = static_cast<int>(p);
  }

  // Of the outline's point that lies nearest to any triangle, of some of them: part of every outline runs
  // along a wall. -1: of none.
  [[nodiscard]] int pocket_at(const std::vector<gp_Pnt>& outline) const {
    constexpr size_t kPoints = 24;
    constexpr double kOnIt_mm = 1e-4;
    int pocket = -1;
    double nearest = 1e300;
    for (size_t i = 0; i < outline.size() && nearest > kOnIt_mm; i += 1 + outline.size() / kPoints) {
      const gp_Pnt& p = outline[i];
      const BoxPoint at(p.X(), p.Y(), p.Z());
      nearest_first(tree_, at, [&](double at_least, int triangle) {
        if (at_least >= nearest) return false;
        const Triangle& t = triangles_[static_cast<size_t>(triangle)];
        const double apart = nearest_of_triangle(p, t.a, t.b, t.c).Distance(p);
        if (apart >= nearest) return true;
        nearest = apart;
        pocket = pocket_of_[static_cast<size_t>(t.face)];
        return true;
      });
    }
    return pocket;
  }

 private:
  const std::vector<Triangle>& triangles_;
  std::vector<int> pocket_of_;
  const BoxTree& tree_;
};

}  // namespace

double area_of(const std::vector<gp_Pnt>& outline, const gp_Dir& axis) {
  gp_XYZ twice(0, 0, 0);
  for (size_t i = 0; i < outline.size(); ++i) {
    const gp_XYZ a = outline[i].XYZ() - outline.front().XYZ(),
                 b = outline[(i + 1) % outline.size()].XYZ() - outline.front().XYZ();
    twice += a ^ b;
  }
  return twice.Dot(axis.XYZ()) / 2;
}

std::vector<double> left_in_pockets(const Part& part, const CornerReport& report, const LeftByCutter& left) {
  std::vector<double> volumes(report.pockets.size(), 0);
  if (left.layers.empty() || volumes.empty()) return volumes;
  const Walls walls(part, report);
  for (const LeftLayer& layer : left.layers)
    for (const std::vector<gp_Pnt>& outline : layer.outlines)
      if (const int pocket = walls.pocket_at(outline); pocket >= 0)
        volumes[static_cast<size_t>(pocket)] +=
            area_of(outline, report.options.axis) * (layer.top_mm - layer.bottom_mm);
  return volumes;
}

}  // namespace anvil
