#include "inspect/coaxial.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <cmath>
#include <map>
#include <memory>
#include <mutex>
#include <numeric>
#include <tuple>

#include "base/union_find.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

constexpr double kFullTurn_rad = 2 * kPi - 1e-4;
constexpr double kShortest_mm = 1e-3;  // of a height that two pieces share

bool may_be_a_piece(const Patch& patch, double turn) {
  const SurfaceKind kind = patch.surface.kind;
  return (kind == SurfaceKind::kCylinder || kind == SurfaceKind::kCone) && patch.surface.inside &&
         turn < kFullTurn_rad;
}

// Nothing stands between the middle of the face and the axis.
bool sees_its_axis(const Part& part, const FaceInfo& face) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face.face, u0, u1, v0, v1);
  const gp_Pnt from = BRepAdaptor_Surface(face.face, false).Value((u0 + u1) / 2, (v0 + v1) / 2);
  const gp_Vec to(from, foot_on(face.surface.axis(), from));
  const double radius = to.Magnitude();
  if (radius < kShortest_mm) return true;
  const RayCaster& rays = rays_of(part);
  const double start = std::min(0.2 * radius, rays.deviation_mm() + kShortest_mm);
  return !rays.first_hit(from, gp_Dir(to), start, radius);
}

class TurnsTogether {
 public:
  explicit TurnsTogether(const Part& part)
      : part_(part),
        topology_(part.topology()),
        near_(point_near(topology_)),
        together_(topology_.patches.size()) {}

  WholeTurns run() {
    first_piece_.resize(topology_.patches.size());
    std::iota(first_piece_.begin(), first_piece_.end(), 0);
    turns_.assign(topology_.patches.size(), 0.0);
    for (size_t i = 0; i < turns_.size(); ++i) {
      const Patch& patch = topology_.patches[i];
      if (patch.surface.is_revolution()) turns_[i] = angular_coverage(topology_, patch);
      if (!may_be_a_piece(patch, turns_[i])) continue;
      levels_[static_cast<int>(i)] = patch_levels(topology_, patch, patch.surface.position.Direction());
      for (const AxisCell& cell : cells_near(patch.surface.axis(), near_))
        join_with(by_cell_[{patch.body, cell}], static_cast<int>(i));
    }
    sum_up();
    return {std::move(turns_), std::move(first_piece_)};
  }

 private:
  void join_with(std::vector<int>& others, int own) {
    for (const int other : others)
      if (together_.root(own) != together_.root(other) && one_surface(own, other)) together_.join(own, other);
    others.push_back(own);
  }

  bool one_surface(int a, int b) {
    const Surface &own = topology_.patches[a].surface, &other = topology_.patches[b].surface;
    if (!same_surface(own, other, kCoaxial_mm, kCoaxial_rad)) return false;
    auto [low, high] = levels_[b];
    if (own.position.Direction().Dot(other.position.Direction()) < 0)
      std::tie(low, high) = std::pair(-high, -low);
    return std::min(high, levels_[a].second) - std::max(low, levels_[a].first) > kShortest_mm;
  }

  void sum_up() {
    std::map<int, std::vector<int>> sets;
    for (const auto& [patch, levels] : levels_) sets[together_.root(patch)].push_back(patch);
    for (const auto& [root, set] : sets) {
      if (set.size() < 2) continue;
      Patch all{topology_.patches[root].body, topology_.patches[root].surface, {}, {}};
      for (const int patch : set)
        all.faces.insert(all.faces.end(), topology_.patches[patch].faces.begin(),
                         topology_.patches[patch].faces.end());
      const double turn = angular_coverage(topology_, all);
      if (turn < kPi) continue;
      if (!std::all_of(all.faces.begin(), all.faces.end(),
                       [&](int face) { return sees_its_axis(part_, topology_.faces[face]); }))
        continue;
      for (const int patch : set) {
        turns_[patch] = turn;
        first_piece_[patch] = set.front();
      }
    }
  }

  const Part& part_;
  const TopologyIndex& topology_;
  gp_Pnt near_;
  UnionFind together_;
  std::vector<double> turns_;
  std::vector<int> first_piece_;
  std::map<int, std::pair<double, double>> levels_;
  std::map<std::pair<int, AxisCell>, std::vector<int>> by_cell_;
};

}  // namespace

bool coaxial(const gp_Ax1& a, const gp_Ax1& b) {
  return parallel(a.Direction(), b.Direction(), kCoaxial_rad) && distance(a, b.Location()) <= kCoaxial_mm;
}

std::vector<AxisCell> cells_near(const gp_Ax1& axis, const gp_Pnt& near) {
  gp_Dir d = axis.Direction();
  if (std::make_tuple(std::round(d.Z() * 1e4), std::round(d.Y() * 1e4), d.X()) <
      std::make_tuple(0.0, 0.0, 0.0))
    d.Reverse();
  const gp_Pnt foot = foot_on(axis, near);
  const double value[6] = {d.X() * 100, d.Y() * 100, d.Z() * 100, foot.X(), foot.Y(), foot.Z()};
  const double slack[6] = {0.05, 0.05, 0.05, 0.01, 0.01, 0.01};
  std::vector<AxisCell> cells{AxisCell{}};
  for (int i = 0; i < 6; ++i) {
    const auto low = static_cast<std::int64_t>(std::floor(value[i] - slack[i])),
               high = static_cast<std::int64_t>(std::floor(value[i] + slack[i]));
    std::vector<AxisCell> next;
    for (AxisCell cell : cells)
      for (std::int64_t k = low; k <= high; ++k) {
        cell[i] = k;
        next.push_back(cell);
      }
    cells = std::move(next);
  }
  return cells;
}

gp_Pnt point_near(const TopologyIndex& topology) {
  return topology.vertices.empty() ? gp_Pnt(0, 0, 0) : topology.vertices.front().point;
}

const WholeTurns& whole_turns(const Part& part) {
  struct Once {
    std::once_flag done;
    WholeTurns turns;
  };
  Once& once = part.kept().get<Once>([] { return std::make_shared<Once>(); });
  // Outside of what is kept, for it asks for the part's rays, which are kept as well.
  std::call_once(once.done, [&] { once.turns = TurnsTogether(part).run(); });
  return once.turns;
}

}  // namespace anvil
