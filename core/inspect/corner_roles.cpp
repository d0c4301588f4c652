#include "inspect/corner_roles.h"

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

constexpr double kHalfTurn_rad = kPi;
constexpr double kTurnSlack_rad = 1e-3;

Role role_of_cylinder(const TopologyIndex& topology, const Patch& patch) {
  if (!patch.surface.inside) return Role::kWall;
  const double turn = angular_coverage(topology, patch);
  if (turn > kHalfTurn_rad + kTurnSlack_rad) return Role::kHole;
  return turn > kHalfTurn_rad - kTurnSlack_rad ? Role::kSlotEnd : Role::kWallCorner;
}

Role role_alone(const TopologyIndex& topology, const Patch& patch, const gp_Dir& axis) {
  const Surface& s = patch.surface;
  const gp_Dir d = s.position.Direction();
  switch (s.kind) {
    case SurfaceKind::kPlane:
      if (square(d, axis, kWall_rad)) return Role::kWall;
      return d.IsEqual(axis, kWall_rad) ? Role::kFloor : Role::kOther;
    case SurfaceKind::kCylinder:
      return parallel(d, axis, kWall_rad) ? role_of_cylinder(topology, patch) : Role::kOther;
    case SurfaceKind::kCone:
      if (!s.inside || !parallel(d, axis, kWall_rad)) return Role::kOther;
      return angular_coverage(topology, patch) < kHalfTurn_rad - kTurnSlack_rad ? Role::kTaper : Role::kHole;
    default:
      return Role::kOther;
  }
}

// A concave rounding that leads smoothly from something upright to a floor.
bool is_floor_fillet(const TopologyIndex& topology, int index, const std::vector<Role>& roles,
                     const gp_Dir& axis) {
  const Patch& patch = topology.patches[index];
  const Surface& s = patch.surface;
  const bool rolls = (s.kind == SurfaceKind::kCylinder && square(s.position.Direction(), axis, kWall_rad)) ||
                     (s.kind == SurfaceKind::kTorus && parallel(s.position.Direction(), axis, kWall_rad)) ||
                     s.kind == SurfaceKind::kSphere;
  if (!rolls || !s.inside) return false;
  bool floor = false, upright = false;
  for (int edge : patch.border) {
    if (topology.edges[edge].convexity != Convexity::kSmooth) continue;
    const int across = patch_across(topology, index, edge);
    if (across < 0) continue;
    floor = floor || roles[across] == Role::kFloor;
    upright = upright || roles[across] == Role::kWall || roles[across] == Role::kWallCorner ||
              roles[across] == Role::kSlotEnd || roles[across] == Role::kHole;
  }
  return floor && (upright || s.kind == SurfaceKind::kSphere);
}

}  // namespace

std::vector<Role> roles_for(const TopologyIndex& topology, const gp_Dir& axis) {
  std::vector<Role> roles;
  roles.reserve(topology.patches.size());
  for (const Patch& patch : topology.patches) roles.push_back(role_alone(topology, patch, axis));
  for (size_t i = 0; i < roles.size(); ++i)
    if (roles[i] == Role::kOther && is_floor_fillet(topology, static_cast<int>(i), roles, axis))
      roles[i] = Role::kFloorFillet;
  return roles;
}

}  // namespace anvil
