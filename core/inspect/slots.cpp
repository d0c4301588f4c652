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

// The other half cylinder reached over both walls, or -1.
int opposite(const TopologyIndex& topology, int half) {
  const Surface& s = topology.patches[half].surface;
  int found = -1;
  const std::vector<int> walls = smooth_sides(topology, half, s.position.Direction());
  if (walls.size() != 2) return -1;
  for (int wall : walls) {
    if (wall < 0 || topology.patches[wall].surface.kind != SurfaceKind::kPlane) return -1;
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

bool enter_at_high(const ChainEnd& low, const ChainEnd& high, const gp_Dir& d) {
  if (high.open != low.open) return high.open;
  for (const double component : {d.Z(), d.Y(), d.X()})
    if (std::abs(component) > 1e-6) return component > 0;
  return true;
}

}  // namespace

std::vector<Slot> find_slots(const TopologyIndex& topology, std::vector<bool>& used) {
  std::vector<Slot> slots;
  for (size_t i = 0; i < topology.patches.size(); ++i) {
    const int a = static_cast<int>(i);
    if (used[i] || !is_half_cylinder(topology, topology.patches[i])) continue;
    const int b = opposite(topology, a);
    if (b < 0 || used[b]) continue;
    const gp_Ax1 axis = topology.patches[a].surface.axis();
    const ChainPiece piece = measure_piece(topology, axis, a);
    const ChainEnd low = measure_end(topology, axis, piece, -1),
                   high = measure_end(topology, axis, piece, +1);
    if (!low.open && !high.open) continue;
    used[a] = used[b] = true;
    const bool from_high = enter_at_high(low, high, axis.Direction());
    const ChainEnd &entry = from_high ? high : low, &end = from_high ? low : high;
    Slot slot;
    slot.name = "S" + fmt::format("{}", slots.size() + 1);
    slot.body = topology.patches[a].body;
    slot.axis = from_high ? axis.Direction() : axis.Direction().Reversed();
    slot.centre_a = point_on(axis, entry.level);
    slot.centre_b = slot.centre_a.Translated(
        gp_Vec(slot.centre_a, foot_on(topology.patches[b].surface.axis(), slot.centre_a)));
    slot.direction = gp_Dir(gp_Vec(slot.centre_a, slot.centre_b));
    slot.width_mm = 2 * topology.patches[a].surface.radius_mm;
    slot.length_mm = slot.centre_a.Distance(slot.centre_b) + slot.width_mm;
    slot.depth_mm = std::abs(entry.level - end.level);
    slot.through = end.open;
    for (int patch : {a, b})
      for (int face : topology.patches[patch].faces) slot.faces.push_back(face);
    for (int wall : smooth_sides(topology, a, axis.Direction()))
      for (int face : topology.patches[wall].faces) slot.faces.push_back(face);
    slots.push_back(std::move(slot));
  }
  return slots;
}

}  // namespace anvil
