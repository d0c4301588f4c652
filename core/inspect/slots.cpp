#include "inspect/slots.h"

#include <fmt/format.h>

#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/hole_chain.h"

namespace anvil {
namespace {

constexpr double kSame_mm = 1e-3;

bool is_half_cylinder(const TopologyIndex& topology, const Patch& patch) {
  return patch.surface.kind == SurfaceKind::kCylinder && patch.surface.inside &&
         std::abs(angular_coverage(topology, patch) - kPi) < 1e-3;
}

// Patches met smoothly over straight edges along the axis.
std::vector<int> smooth_sides(const TopologyIndex& topology, int patch, const gp_Dir& axis) {
  std::vector<int> sides;
  for (int index : topology.patches[patch].border) {
    const EdgeInfo& edge = topology.edges[index];
    if (!edge.straight_along || edge.convexity != Convexity::kSmooth) continue;
    if (!parallel(*edge.straight_along, axis, 1e-4)) continue;
    sides.push_back(patch_across(topology, patch, index));
  }
  std::sort(sides.begin(), sides.end());
  sides.erase(std::unique(sides.begin(), sides.end()), sides.end());
  return sides;
}

// The two flat walls a half cylinder runs into; nothing when it is no end of a slot.
std::optional<std::pair<int, int>> walls_of(const TopologyIndex& topology, int half) {
  const std::vector<int> walls =
      smooth_sides(topology, half, topology.patches[half].surface.position.Direction());
  if (walls.size() != 2) return std::nullopt;
  for (const int wall : walls)
    if (wall < 0 || topology.patches[wall].surface.kind != SurfaceKind::kPlane) return std::nullopt;
  return std::pair(walls[0], walls[1]);
}

// The other half cylinder reached over both walls, or -1.
int opposite(const TopologyIndex& topology, int half, const std::pair<int, int>& walls) {
  const Surface& s = topology.patches[half].surface;
  int found = -1;
  for (const int wall : {walls.first, walls.second}) {
    int beyond = -1;
    for (int other : smooth_sides(topology, wall, s.position.Direction()))
      if (other != half && other >= 0 && is_half_cylinder(topology, topology.patches[other])) beyond = other;
    if (beyond < 0 || (found >= 0 && beyond != found)) return -1;
    found = beyond;
  }
  const Surface& other = topology.patches[found].surface;
  return std::abs(other.radius_mm - s.radius_mm) < kSame_mm &&
                 parallel(other.position.Direction(), s.position.Direction(), 1e-4)
             ? found
             : -1;
}

// Where a wall that begins at the half cylinder runs out of the part: how far it reaches from the cylinder's
// axis along `direction`; nothing when material ends it.
std::optional<double> runs_out(const TopologyIndex& topology, int wall, const gp_Ax1& axis,
                               const gp_Dir& direction) {
  const std::vector<int>& border = topology.patches[wall].border;
  double farthest = 0;
  std::vector<std::pair<double, double>> reach;
  for (const int edge : border) {
    const auto [low, high] = level_range(topology.edges[edge].edge, direction);
    const double origin = axis.Location().XYZ().Dot(direction.XYZ());
    reach.emplace_back(low - origin, high - origin);
    farthest = std::max(farthest, high - origin);
  }
  if (farthest < kSame_mm) return std::nullopt;
  for (size_t i = 0; i < border.size(); ++i)
    if (reach[i].first > farthest - kSame_mm && topology.edges[border[i]].convexity != Convexity::kConvex)
      return std::nullopt;
  return farthest;
}

bool enter_at_high(const ChainEnd& low, const ChainEnd& high, const gp_Dir& d) {
  if (high.open != low.open) return high.open;
  for (const double component : {d.Z(), d.Y(), d.X()})
    if (std::abs(component) > 1e-6) return component > 0;
  return true;
}

class SlotFinder {
 public:
  SlotFinder(const TopologyIndex& topology, std::vector<bool>& used) : topology_(topology), used_(used) {}

  std::vector<Slot> run() {
    for (size_t i = 0; i < topology_.patches.size(); ++i)
      if (!used_[i] && is_half_cylinder(topology_, topology_.patches[i])) look_at(static_cast<int>(i));
    return std::move(slots_);
  }

 private:
  void look_at(int a) {
    const auto walls = walls_of(topology_, a);
    if (!walls) return;
    const int b = opposite(topology_, a, *walls);
    if (b >= 0 && used_[b]) return;
    const gp_Ax1 axis = topology_.patches[a].surface.axis();
    gp_Vec to_b;
    if (b >= 0) {
      to_b = gp_Vec(axis.Location(), foot_on(topology_.patches[b].surface.axis(), axis.Location()));
    } else if (const auto end = open_end(*walls, axis)) {
      to_b = *end;
    } else {
      return;
    }
    const Chain chain = half_turn_chain(topology_, a);
    if (!chain.low.open && !chain.high.open) return;
    take(a, b, *walls, chain, to_b);
  }

  // From the axis to where both walls run out of the part.
  std::optional<gp_Vec> open_end(const std::pair<int, int>& walls, const gp_Ax1& axis) const {
    const gp_Dir side = topology_.patches[walls.first].surface.position.Direction();
    if (!parallel(side, topology_.patches[walls.second].surface.position.Direction(), 1e-4))
      return std::nullopt;
    for (const double sense : {1.0, -1.0}) {
      const gp_Dir along(gp_Vec(side).Crossed(gp_Vec(axis.Direction())) * sense);
      const auto first = runs_out(topology_, walls.first, axis, along),
                 second = runs_out(topology_, walls.second, axis, along);
      if (first && second) return gp_Vec(along) * ((*first + *second) / 2);
    }
    return std::nullopt;
  }

  void take(int a, int b, const std::pair<int, int>& walls, const Chain& chain, const gp_Vec& to_b) {
    const bool from_high = enter_at_high(chain.low, chain.high, chain.axis.Direction());
    const ChainEnd &entry = from_high ? chain.high : chain.low, &end = from_high ? chain.low : chain.high;
    Slot slot;
    slot.name = "S" + fmt::format("{}", slots_.size() + 1);
    slot.body = chain.body;
    slot.axis = from_high ? chain.axis.Direction() : chain.axis.Direction().Reversed();
    slot.open_end = b < 0;
    slot.centre_a = point_on(chain.axis, entry.level);
    slot.centre_b = slot.centre_a.Translated(to_b);
    slot.direction = gp_Dir(to_b);
    slot.width_mm = 2 * topology_.patches[a].surface.radius_mm;
    slot.length_mm = to_b.Magnitude() + slot.width_mm * (slot.open_end ? 0.5 : 1.0);
    slot.depth_mm = std::abs(entry.level - end.level);
    slot.through = end.open;
    own(slot, chain);
    if (b >= 0) own(slot, half_turn_chain(topology_, b));
    for (const int wall : {walls.first, walls.second})
      for (int face : topology_.patches[wall].faces) slot.faces.push_back(face);
    slots_.push_back(std::move(slot));
  }

  void own(Slot& slot, const Chain& chain) {
    for (const ChainPiece& piece : chain.pieces) {
      used_[piece.patch] = true;
      for (int face : topology_.patches[piece.patch].faces) slot.faces.push_back(face);
    }
  }

  const TopologyIndex& topology_;
  std::vector<bool>& used_;
  std::vector<Slot> slots_;
};

}  // namespace

std::vector<Slot> find_slots(const TopologyIndex& topology, std::vector<bool>& used) {
  return SlotFinder(topology, used).run();
}

}  // namespace anvil
