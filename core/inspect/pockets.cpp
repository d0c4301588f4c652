#include "inspect/pockets.h"

#include <fmt/format.h>

#include "base/tolerance.h"
#include "base/union_find.h"
#include "geom/primitives.h"
#include "part/mesh.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

class PocketFinder {
 public:
  PocketFinder(const Part& part, const std::vector<Role>& roles, CornerReport& report)
      : topology_(part.topology()),
        rays_(rays_of(part)),
        roles_(roles),
        report_(report),
        axis_(report.options.axis),
        joined_(roles.size()) {}

  void run() {
    connect();
    collect();
    assign_corners();
    measure_passages();
    drop_plain_ones();
    finish();
  }

 private:
  void connect() {
    for (const EdgeInfo& edge : topology_.edges) {
      if (edge.is_open() || edge.is_seam()) continue;
      const int a = topology_.faces[edge.face_a].patch, b = topology_.faces[edge.face_b].patch;
      if (a == b || !bounds_pocket(roles_[a]) || !bounds_pocket(roles_[b])) continue;
      if (edge.convexity == Convexity::kConcave || edge.convexity == Convexity::kSmooth) joined_.join(a, b);
    }
  }

  void collect() {
    pocket_of_.assign(roles_.size(), -1);
    std::map<int, int> pocket_of_root;
    for (size_t i = 0; i < roles_.size(); ++i) {
      if (!bounds_pocket(roles_[i])) continue;
      const auto [at, is_new] =
          pocket_of_root.try_emplace(joined_.root(static_cast<int>(i)), static_cast<int>(pockets_.size()));
      if (is_new) {
        pockets_.push_back({});
        pockets_.back().bottom_mm = 1e300;
        pockets_.back().top_mm = -1e300;
        pockets_.back().through = true;
      }
      pocket_of_[i] = at->second;
      add(pockets_[at->second], static_cast<int>(i));
    }
  }

  void add(Pocket& pocket, int index) {
    const Patch& patch = topology_.patches[index];
    const auto [low, high] = patch_levels(topology_, patch, axis_);
    pocket.bottom_mm = std::min(pocket.bottom_mm, low);
    pocket.top_mm = std::max(pocket.top_mm, high);
    if (roles_[index] == Role::kFloor) pocket.through = false;
    if (roles_[index] == Role::kWall && patch.surface.kind != SurfaceKind::kPlane)
      pocket.has_passages_not_looked_at = true;
    for (int face : patch.faces) pocket.faces.push_back(face);
    for (int edge : patch.border) {
      if (topology_.edges[edge].convexity != Convexity::kConvex) continue;
      const int across = patch_across(topology_, index, edge);
      const bool floor_edge = roles_[index] == Role::kFloor && across >= 0 && roles_[across] == Role::kWall;
      const bool upright_edge = roles_[index] == Role::kWall && topology_.edges[edge].straight_along &&
                                across >= 0 && roles_[across] == Role::kWall &&
                                parallel(*topology_.edges[edge].straight_along, axis_, kWall_rad);
      pocket.open = pocket.open || floor_edge || upright_edge;
    }
    if (roles_[index] != Role::kSlotEnd) return;
    keep_smaller(pocket.smallest_corner_mm, patch.surface.radius_mm);
    keep_smaller(report_.smallest_slot_end_mm, patch.surface.radius_mm);
  }

  static void keep_smaller(std::optional<double>& smallest, double value) {
    if (!smallest || value < *smallest) smallest = value;
  }

  void assign_corners() {
    for (size_t i = 0; i < report_.corners.size(); ++i) {
      Corner& corner = report_.corners[i];
      const int face =
          !corner.faces.empty() ? corner.faces.front() : topology_.edges[corner.edges.front()].face_a;
      corner.pocket = pocket_of_[topology_.faces[face].patch];
      if (corner.pocket < 0) continue;
      Pocket& pocket = pockets_[corner.pocket];
      pocket.corners.push_back(static_cast<int>(i));
      if (corner.undercut) continue;
      if (corner.kind == CornerKind::kWallSharp) pocket.has_sharp_corner = true;
      if (corner.kind == CornerKind::kWallRound || corner.kind == CornerKind::kTaper)
        keep_smaller(pocket.smallest_corner_mm, corner.radius_mm);
      if (corner.kind == CornerKind::kFloorRound) keep_smaller(pocket.floor_radius_mm, corner.radius_mm);
    }
  }

  // A ray from each triangle of a flat wall finds what it faces; where that is a parallel wall of the same
  // pocket the distance is taken between the exact planes.
  void measure_passages() {
    for (const Triangle& t : rays_.triangles()) {
      const int patch = topology_.faces[t.face].patch;
      if (roles_[patch] != Role::kWall || pocket_of_[patch] < 0) continue;
      const Surface& wall = topology_.patches[patch].surface;
      if (wall.kind != SurfaceKind::kPlane) continue;
      const gp_Pnt middle((t.a.XYZ() + t.b.XYZ() + t.c.XYZ()) / 3.0);
      const auto hit = rays_.first_hit(middle, wall.position.Direction());
      if (!hit) continue;
      const int faced = topology_.faces[hit->face].patch;
      const Surface& other = topology_.patches[faced].surface;
      if (pocket_of_[faced] != pocket_of_[patch] || other.kind != SurfaceKind::kPlane ||
          !parallel(other.position.Direction(), wall.position.Direction(), kWall_rad))
        continue;
      keep_smaller(pockets_[pocket_of_[patch]].narrowest_mm,
                   std::abs(height_over(wall.plane(), other.position.Location())));
    }
  }

  // Outer sides and tops hang together too; only what holds a corner or a slot end is a pocket.
  void drop_plain_ones() {
    std::vector<int> renamed(pockets_.size(), -1);
    std::vector<Pocket> kept;
    for (size_t i = 0; i < pockets_.size(); ++i) {
      if (pockets_[i].corners.empty() && !pockets_[i].smallest_corner_mm) continue;
      renamed[i] = static_cast<int>(kept.size());
      kept.push_back(std::move(pockets_[i]));
    }
    pockets_ = std::move(kept);
    for (Corner& corner : report_.corners)
      if (corner.pocket >= 0) corner.pocket = renamed[corner.pocket];
  }

  void finish() {
    for (size_t i = 0; i < pockets_.size(); ++i) {
      Pocket& pocket = pockets_[i];
      pocket.name = "P" + fmt::format("{}", i + 1);
      pocket.undercut = !pocket.corners.empty() &&
                        std::all_of(pocket.corners.begin(), pocket.corners.end(),
                                    [&](int corner) { return report_.corners[corner].undercut; });
      pocket.depth_mm = pocket.top_mm - pocket.bottom_mm;
      std::optional<double> limit;
      if (pocket.smallest_corner_mm)
        keep_smaller(limit, 2 * *pocket.smallest_corner_mm * report_.options.margin);
      if (pocket.narrowest_mm) keep_smaller(limit, *pocket.narrowest_mm);
      pocket.largest_cutter_mm = limit;
    }
    report_.pockets = std::move(pockets_);
  }

  const TopologyIndex& topology_;
  const RayCaster& rays_;
  const std::vector<Role>& roles_;
  CornerReport& report_;
  gp_Dir axis_;
  UnionFind joined_;
  std::vector<int> pocket_of_;
  std::vector<Pocket> pockets_;
};

}  // namespace

void find_pockets(const Part& part, const std::vector<Role>& roles, CornerReport& report) {
  PocketFinder(part, roles, report).run();
}

}  // namespace anvil
