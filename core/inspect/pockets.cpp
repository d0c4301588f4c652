#include "inspect/pockets.h"

#include <fmt/format.h>

#include <map>

#include "base/union_find.h"
#include "geom/primitives.h"
#include "inspect/passages.h"

namespace anvil {
namespace {

constexpr double kLeansOver = 1e-3;  // of the unit normal, along the axis

class PocketFinder {
 public:
  PocketFinder(const Part& part, const std::vector<Role>& roles, CornerReport& report)
      : part_(part),
        topology_(part.topology()),
        stack_(report.sections.get()),
        roles_(roles),
        report_(report),
        axis_(report.options.axis),
        joined_(roles.size()) {}

  void run(const Progress& progress) {
    connect();
    collect();
    assign_corners();
    report_.has_passages_not_looked_at = !stack_ && !is_all_mesh(part_);
    if (stack_) measure_passages(progress);
    drop_plain_ones();
    if (stack_) find_open_ones();
    finish();
  }

 private:
  void connect() {
    for (const EdgeInfo& edge : topology_.edges) {
      if (edge.is_open() || edge.is_seam()) continue;
      const int a = topology_.faces[edge.face_a].patch, b = topology_.faces[edge.face_b].patch;
      if (a == b || !bounds_pocket(roles_[a]) || !bounds_pocket(roles_[b])) continue;
      const bool into_relief =
          (roles_[a] == Role::kRelief || roles_[b] == Role::kRelief) && edge.straight_along;
      if (edge.convexity != Convexity::kConvex || into_relief) joined_.join(a, b);
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
        pockets_.back().reach_mm = -1e300;
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
    for (int face : patch.faces) pocket.faces.push_back(face);
    const bool ends_round = roles_[index] == Role::kSlotEnd || roles_[index] == Role::kRelief ||
                            roles_[index] == Role::kRoundWall;
    if (!ends_round) return;
    pocket.round = roles_[index] == Role::kRoundWall;
    keep_smaller(pocket.smallest_corner_mm, patch.surface.radius_mm);
    if (!pocket.round) keep_smaller(report_.smallest_slot_end_mm, patch.surface.radius_mm);
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
      pocket.reach_mm = std::max(pocket.reach_mm, corner.bottom_mm + corner.reach_mm);
      if (corner.kind == CornerKind::kFloorSharp) pocket.has_sharp_floor = true;
      if (corner.is_wall()) pocket.round = false;
      if (corner.is_wall() && corner.kind != CornerKind::kWallSharp &&
          (!pocket.smallest_corner_mm || corner.radius_mm < *pocket.smallest_corner_mm)) {
        pocket.smallest_corner_mm = corner.radius_mm;
        pocket.smallest_is_approximate = corner.kind == CornerKind::kFreeForm;
      }
      if (corner.kind == CornerKind::kFloorRound) keep_smaller(pocket.floor_radius_mm, corner.radius_mm);
    }
  }

  // Between walls of one pocket, or of a pocket and something that belongs to none, the gap narrows the
  // pocket; what lies between two pockets narrows both.
  void measure_passages(const Progress& progress) {
    report_.has_passages_not_looked_at = !stack_->complete;
    std::vector<bool> sides;
    for (size_t face = 0; face < topology_.faces.size(); ++face)
      sides.push_back(is_a_side(static_cast<int>(face)));
    for (const Passage& p : passages_in(part_, *stack_, sides, progress)) {
      const Narrow narrow{p.width_mm, p.on_a, p.on_b, p.face_a, p.face_b, p.approximate};
      const int a = pocket_of_[topology_.faces[p.face_a].patch],
                b = pocket_of_[topology_.faces[p.face_b].patch];
      for (const int pocket : {a, b})
        if (pocket >= 0 && !pockets_[pocket].narrowest) pockets_[pocket].narrowest = narrow;
      if (a < 0 && b < 0 && !report_.narrowest_passage) report_.narrowest_passage = narrow;
    }
  }

  // What faces the spindle and leans more than a wall may comes to nothing further down, like the sides of a
  // groove cut with a pointed cutter: that is told by what a cutter leaves. What leans over stands in the way
  // with its upper edge, like the sides of a dovetail; what bulges, with its middle.
  [[nodiscard]] bool is_a_side(int face) const {
    const int patch = topology_.faces[face].patch;
    const Role role = roles_[patch];
    const Surface& s = topology_.patches[patch].surface;
    if (role != Role::kOther) return role != Role::kFloor && role != Role::kFloorFillet;
    if (s.kind == SurfaceKind::kPlane) return s.position.Direction().Dot(axis_) < -kLeansOver;
    return !s.inside && (s.kind == SurfaceKind::kCylinder || s.kind == SurfaceKind::kSphere ||
                         s.kind == SurfaceKind::kTorus);
  }

  // At its floor, what is free there leads outside: no outline of material goes all round it.
  void find_open_ones() {
    for (Pocket& pocket : pockets_) {
      const double foot = pocket.bottom_mm - stack_->base_mm;
      const auto slab = std::find_if(stack_->slabs.rbegin(), stack_->slabs.rend(),
                                     [&](const Slab& s) { return s.top_mm > foot + 2 / stack_->per_mm; });
      // Where outlines are missing nobody can tell.
      if (slab == stack_->slabs.rend() || !slab->complete) continue;
      const auto beside = beside_a_wall(pocket, *slab);
      pocket.open = beside && std::none_of(slab->blocked.begin(), slab->blocked.end(), [&](const auto& path) {
                      return !ClipperLib::Orientation(path) && ClipperLib::PointInPolygon(*beside, path) != 0;
                    });
    }
  }

  // A point of the void beside a wall of the pocket.
  [[nodiscard]] std::optional<ClipperLib::IntPoint> beside_a_wall(const Pocket& pocket,
                                                                  const Slab& slab) const {
    std::vector<bool> own(topology_.faces.size(), false);
    for (const int face : pocket.faces) own[face] = true;
    std::optional<ClipperLib::IntPoint> best;
    double longest = 0;
    for (const Outline& outline : slab.outlines)
      for (size_t i = 0; i < outline.points.size(); ++i) {
        if (!own[outline.faces[i]]) continue;
        const FlatPoint &a = outline.points[i], &b = outline.points[(i + 1) % outline.points.size()];
        const double x = b.x - a.x, y = b.y - a.y, length = std::hypot(x, y);
        if (length <= longest) continue;
        longest = length;
        // Farther than what blocks may lie off the outline.
        const double off = std::max(16 / stack_->per_mm, 2 * slab.bound_mm) / length;
        best = stack_->grid({(a.x + b.x) / 2 + y * off, (a.y + b.y) / 2 - x * off});
      }
    return best;
  }

  // Outer sides and tops hang together too; only what holds a corner or a slot end is a pocket.
  void drop_plain_ones() {
    std::vector<int> renamed(pockets_.size(), -1);
    std::vector<Pocket> kept;
    for (size_t i = 0; i < pockets_.size(); ++i) {
      if (pockets_[i].corners.empty() && !pockets_[i].smallest_corner_mm) {
        keep_passage_of(pockets_[i]);
        continue;
      }
      renamed[i] = static_cast<int>(kept.size());
      kept.push_back(std::move(pockets_[i]));
    }
    pockets_ = std::move(kept);
    for (Corner& corner : report_.corners)
      if (corner.pocket >= 0) corner.pocket = renamed[corner.pocket];
  }

  // Between walls that have nothing else to tell lies one all the same: the neck over a T-slot.
  void keep_passage_of(const Pocket& plain) {
    std::optional<Narrow>& known = report_.narrowest_passage;
    if (plain.narrowest && (!known || plain.narrowest->width_mm < known->width_mm)) known = plain.narrowest;
  }

  void finish() {
    for (size_t i = 0; i < pockets_.size(); ++i) {
      Pocket& pocket = pockets_[i];
      pocket.name = "P" + fmt::format("{}", i + 1);
      pocket.undercut = !pocket.corners.empty() &&
                        std::all_of(pocket.corners.begin(), pocket.corners.end(),
                                    [&](int corner) { return report_.corners[corner].undercut; });
      pocket.depth_mm = pocket.top_mm - pocket.bottom_mm;
      pocket.reach_mm = std::max(pocket.depth_mm, pocket.reach_mm - pocket.bottom_mm);
    }
    report_.pockets = std::move(pockets_);
  }

  const Part& part_;
  const TopologyIndex& topology_;
  const SectionStack* stack_;
  const std::vector<Role>& roles_;
  CornerReport& report_;
  gp_Dir axis_;
  UnionFind joined_;
  std::vector<int> pocket_of_;
  std::vector<Pocket> pockets_;
};

}  // namespace

void find_pockets(const Part& part, const std::vector<Role>& roles, CornerReport& report,
                  const Progress& progress) {
  PocketFinder(part, roles, report).run(progress);
}

}  // namespace anvil
