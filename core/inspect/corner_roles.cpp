#include "inspect/corner_roles.h"

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/coaxial.h"
#include "inspect/free_form_corners.h"

namespace anvil {
namespace {

constexpr double kHalfTurn_rad = kPi;
constexpr double kTurnSlack_rad = 1e-3;
constexpr double kMostDraft_rad = 30 * kPi / 180;

class RoleFinder {
 public:
  RoleFinder(const Part& part, const gp_Dir& axis)
      : topology_(part.topology()), turns_(whole_turns(part).by_patch), axis_(axis) {}

  std::vector<Role> run() {
    const int count = static_cast<int>(topology_.patches.size());
    for (int i = 0; i < count; ++i) roles_.push_back(role_alone(i));
    for (int i = 0; i < count; ++i)
      if (roles_[i] == Role::kOther && is_floor_fillet(i)) roles_[i] = Role::kFloorFillet;
    for (int i = 0; i < count; ++i) {
      if (roles_[i] != Role::kHole) continue;
      if (is_relief(i))
        roles_[i] = Role::kRelief;
      else if (is_round_pocket(i))
        roles_[i] = Role::kRoundWall;
    }
    return std::move(roles_);
  }

 private:
  Role role_of_plane(const gp_Dir& normal) const {
    if (square(normal, axis_, kWall_rad)) return Role::kWall;
    if (normal.IsEqual(axis_, kWall_rad)) return Role::kFloor;
    const double lean = kPi / 2 - normal.Angle(axis_);
    return lean > 0 && lean <= kMostDraft_rad ? Role::kDraftWall : Role::kOther;
  }

  Role role_of_cylinder(int patch) const {
    if (!topology_.patches[patch].surface.inside) return Role::kWall;
    const double turn = turns_[patch];
    if (turn > kHalfTurn_rad + kTurnSlack_rad) return Role::kHole;
    return turn > kHalfTurn_rad - kTurnSlack_rad ? Role::kSlotEnd : Role::kWallCorner;
  }

  Role role_alone(int index) const {
    const Patch& patch = topology_.patches[index];
    const Surface& s = patch.surface;
    const gp_Dir d = s.position.Direction();
    switch (s.kind) {
      case SurfaceKind::kPlane:
        return role_of_plane(d);
      case SurfaceKind::kCylinder:
        return parallel(d, axis_, kWall_rad) ? role_of_cylinder(index) : Role::kOther;
      case SurfaceKind::kCone:
        if (!parallel(d, axis_, kWall_rad)) return Role::kOther;
        if (!s.inside) return std::abs(s.semi_angle_rad) <= kMostDraft_rad ? Role::kDraftWall : Role::kOther;
        return turns_[index] < kHalfTurn_rad - kTurnSlack_rad ? Role::kTaper : Role::kHole;
      case SurfaceKind::kFreeForm:
        switch (steepness_of(topology_.faces[patch.faces.front()].face, axis_)) {
          case Steepness::kUpright:
            return Role::kWall;
          case Steepness::kSteep:
            return Role::kFreeWall;
          default:
            return Role::kOther;
        }
      default:
        return Role::kOther;
    }
  }

  // A concave rounding that leads smoothly from something upright to a floor, or is all there is of a floor
  // between two walls.
  bool is_floor_fillet(int index) const {
    const Patch& patch = topology_.patches[index];
    const Surface& s = patch.surface;
    const bool rolls =
        (s.kind == SurfaceKind::kCylinder && square(s.position.Direction(), axis_, kWall_rad)) ||
        (s.kind == SurfaceKind::kTorus && parallel(s.position.Direction(), axis_, kWall_rad)) ||
        s.kind == SurfaceKind::kSphere;
    if (!rolls || !s.inside) return false;
    bool floor = false;
    int upright = 0;
    for (int edge : patch.border) {
      if (topology_.edges[edge].convexity != Convexity::kSmooth) continue;
      const int across = patch_across(topology_, index, edge);
      if (across < 0) continue;
      floor = floor || roles_[across] == Role::kFloor;
      if (is_upright(roles_[across]) || roles_[across] == Role::kHole) ++upright;
    }
    const bool full_round = s.kind == SurfaceKind::kCylinder && upright > 1;
    return full_round || (floor && (upright > 0 || s.kind == SurfaceKind::kSphere));
  }

  // Walls run into it along its axis.
  bool is_relief(int index) const {
    const Patch& patch = topology_.patches[index];
    if (patch.surface.kind != SurfaceKind::kCylinder) return false;
    for (const int edge : patch.border) {
      const auto& along = topology_.edges[edge].straight_along;
      const int across = patch_across(topology_, index, edge);
      if (along && across >= 0 && parallel(*along, axis_, kWall_rad) && is_upright(roles_[across]))
        return true;
    }
    return false;
  }

  // Stands on a floor, directly or over a rounding, that holds no hole on the same axis; and is wider than
  // deep.
  bool is_round_pocket(int index) const {
    const Patch& patch = topology_.patches[index];
    const Surface& s = patch.surface;
    if (s.kind != SurfaceKind::kCylinder) return false;
    const auto [low, high] = patch_levels(topology_, patch, axis_);
    if (high - low > 2 * s.radius_mm) return false;
    for (const int edge : patch.border) {
      const int across = patch_across(topology_, index, edge);
      if (across < 0 || topology_.edges[edge].convexity == Convexity::kConvex) continue;
      if (roles_[across] == Role::kFloor) return !holds_coaxial_hole(across, s.axis());
      if (roles_[across] != Role::kFloorFillet) continue;
      for (const int lower : topology_.patches[across].border) {
        const int floor = patch_across(topology_, across, lower);
        if (floor >= 0 && roles_[floor] == Role::kFloor) return !holds_coaxial_hole(floor, s.axis());
      }
    }
    return false;
  }

  bool holds_coaxial_hole(int floor, const gp_Ax1& axis) const {
    for (const int edge : topology_.patches[floor].border) {
      const int across = patch_across(topology_, floor, edge);
      if (across < 0 || topology_.edges[edge].convexity != Convexity::kConvex) continue;
      const Surface& s = topology_.patches[across].surface;
      if (s.is_revolution() && s.inside && coaxial(s.axis(), axis)) return true;
    }
    return false;
  }

  const TopologyIndex& topology_;
  const std::vector<double>& turns_;
  gp_Dir axis_;
  std::vector<Role> roles_;
};

}  // namespace

std::vector<Role> roles_for(const Part& part, const gp_Dir& axis) {
  return RoleFinder(part, axis).run();
}

}  // namespace anvil
