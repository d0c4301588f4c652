#include "setup/proposals.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

#include "base/units.h"
#include "geom/primitives.h"
#include "part/measure.h"
#include "part/ray_caster.h"
#include "setup/fewest.h"

namespace anvil {
namespace {

constexpr double kSame_rad = kWall_rad;
constexpr size_t kMostFlatNormals = 24;
// Rays run along the bore at this share of its radius: inside the facets of the display mesh.
constexpr double kRayShare = 0.9;
constexpr int kRays = 8;

size_t direction_index(std::vector<gp_Dir>& all, const gp_Dir& direction) {
  for (size_t i = 0; i < all.size(); ++i)
    if (all[i].Angle(direction) < kSame_rad) return i;
  all.push_back(direction);
  return all.size() - 1;
}

bool has_wider_mouth(const Hole& hole) {
  return std::any_of(hole.steps.begin(), hole.steps.end(), [](const HoleStep& s) {
    return s.kind == StepKind::kCounterbore || s.kind == StepKind::kCountersink || s.kind == StepKind::kTaper;
  });
}

// From the middle of the void outwards, in the middle and round the rim.
bool is_free(const RayCaster& rays, const gp_Pnt& middle, const gp_Dir& out, double radius_mm) {
  if (rays.first_hit(middle, out)) return false;
  const gp_Ax2 across = make_frame(middle, out, gp_Dir(1, 0, 0));
  for (int i = 0; i < kRays; ++i) {
    const double t = 2 * kPi * (i + 0.5) / kRays;
    const gp_Vec off = gp_Vec(across.XDirection()) * std::cos(t) + gp_Vec(across.YDirection()) * std::sin(t);
    if (rays.first_hit(middle.Translated(off * (kRayShare * radius_mm)), out)) return false;
  }
  return true;
}

class Proposer {
 public:
  Proposer(const Part& part, const HoleReport& holes, const ProposalOptions& options)
      : part_(part), holes_(holes), options_(options), rays_(rays_of(part)) {}

  Result<Proposals> run(const Progress& progress) {
    progress.say("holes", 0);
    collect_candidates();
    for (const Hole& hole : holes_.holes) add_hole(hole);
    for (const Slot& slot : holes_.slots) add_slot(slot);
    for (size_t i = 0; i < directions_.size(); ++i) {
      progress.say("corners", static_cast<double>(i) / static_cast<double>(directions_.size()));
      CornerOptions corners;
      corners.axis = directions_[i];
      corners.with_sections = false;
      const auto report = find_corners(part_, corners, progress, &holes_);
      if (!report) return refuse(report);
      look_at_corners(*report, i);
    }
    add_corners();
    choose();
    return std::move(result_);
  }

 private:
  void collect_candidates() {
    if (options_.first) direction_index(directions_, *options_.first);
    for (const Hole& hole : holes_.holes) {
      direction_index(directions_, hole.axis);
      if (hole.through) direction_index(directions_, hole.axis.Reversed());
    }
    for (const Slot& slot : holes_.slots) direction_index(directions_, slot.axis);
    // The normals with most area.
    std::vector<gp_Dir> normals;
    std::vector<double> areas;
    std::vector<int> largest;
    std::vector<double> largest_area;
    const TopologyIndex& topology = part_.topology();
    for (size_t f = 0; f < topology.faces.size(); ++f) {
      const FaceInfo& face = topology.faces[f];
      if (face.surface.kind != SurfaceKind::kPlane) continue;
      const double area = area_properties(face.face).area_mm2;
      const size_t at = direction_index(normals, face.surface.position.Direction());
      areas.resize(normals.size());
      largest.resize(normals.size(), -1);
      largest_area.resize(normals.size());
      areas[at] += area;
      if (area <= largest_area[at]) continue;
      largest_area[at] = area;
      largest[at] = static_cast<int>(f);
    }
    std::vector<size_t> order(normals.size());
    std::iota(order.begin(), order.end(), size_t{0});
    std::stable_sort(order.begin(), order.end(), [&](size_t a, size_t b) { return areas[a] > areas[b]; });
    if (order.size() > kMostFlatNormals) order.resize(kMostFlatNormals);
    for (const size_t at : order) flat_face_[direction_index(directions_, normals[at])] = largest[at];
    result_.candidates = directions_.size();
    reachable_.resize(directions_.size());
    for (size_t i = 0; i < directions_.size(); ++i)
      reachable_[i] = !options_.machine_reaches || options_.machine_reaches(directions_[i]);
  }

  void add(ToolFeature feature, std::vector<size_t> axes, const std::string& why_not) {
    std::sort(axes.begin(), axes.end());
    axes.erase(std::unique(axes.begin(), axes.end()), axes.end());
    const bool any = !axes.empty();
    std::erase_if(axes, [&](size_t i) { return !reachable_[i]; });
    result_.features.push_back(std::move(feature));
    if (axes.empty()) {
      result_.unreached.push_back(result_.features.size() - 1);
      result_.why.push_back(any ? "the machine cannot point its tool there" : why_not);
    }
    reached_from_.push_back(std::move(axes));
  }

  void add_hole(const Hole& hole) {
    const gp_Pnt middle = hole.entry.Translated(gp_Vec(hole.axis) * (-hole.depth_mm / 2));
    const double radius = hole.diameter_mm / 2;
    std::vector<size_t> axes;
    if (is_free(rays_, middle, hole.axis, radius)) {
      axes.push_back(direction_index(directions_, hole.axis));
      if (!hole.faces.empty()) hole_face_.try_emplace(axes.back(), hole.faces.front());
    }
    if (hole.through && !has_wider_mouth(hole) && is_free(rays_, middle, hole.axis.Reversed(), radius))
      axes.push_back(direction_index(directions_, hole.axis.Reversed()));
    add({ToolFeature::Kind::kHole, hole.name, hole.faces, {}}, std::move(axes),
        "something lies in the way of its axis");
  }

  void add_slot(const Slot& slot) {
    const gp_Pnt middle =
        midpoint(slot.centre_a, slot.centre_b).Translated(gp_Vec(slot.axis) * (-slot.depth_mm / 2));
    std::vector<size_t> axes;
    if (is_free(rays_, middle, slot.axis, slot.width_mm / 2))
      axes.push_back(direction_index(directions_, slot.axis));
    if (slot.through && is_free(rays_, middle, slot.axis.Reversed(), slot.width_mm / 2))
      for (size_t i = 0; i < directions_.size(); ++i)
        if (directions_[i].Angle(slot.axis.Reversed()) < kSame_rad) axes.push_back(i);
    add({ToolFeature::Kind::kSlot, slot.name, slot.faces, {}}, std::move(axes),
        "something lies in the way of its axis");
  }

  // Corners are told apart by the faces or edges they are made of, whatever they are called on each axis.
  using Key = std::pair<std::vector<int>, std::vector<int>>;
  struct Seen {
    bool wall = false, free_wall = false;  // on some axis
  };

  void look_at_corners(const CornerReport& report, size_t axis) {
    for (const Corner& corner : report.corners) {
      if (!corner.undercut) {
        served_faces_[axis].insert(corner.faces.begin(), corner.faces.end());
        served_edges_[axis].insert(corner.edges.begin(), corner.edges.end());
      }
      if (!corner.is_wall() || corner.leans || (corner.faces.empty() && corner.edges.empty())) continue;
      Key key{corner.faces, corner.edges};
      std::sort(key.first.begin(), key.first.end());
      std::sort(key.second.begin(), key.second.end());
      Seen& seen = corners_[key];
      seen.wall = true;
      seen.free_wall = seen.free_wall || !corner.undercut;
    }
  }

  [[nodiscard]] bool serves(size_t axis, const Key& key) {
    const auto all_in = [](const std::vector<int>& elements, const std::set<int>& served) {
      return std::all_of(elements.begin(), elements.end(), [&](int e) { return served.count(e) > 0; });
    };
    return all_in(key.first, served_faces_[axis]) && all_in(key.second, served_edges_[axis]);
  }

  // What is a wall corner only where it cannot be seen, and a floor corner elsewhere (the edge of a pocket's
  // floor), is left to whoever cuts that floor.
  void add_corners() {
    for (const auto& [key, seen] : corners_) {
      std::vector<size_t> axes;
      for (size_t axis = 0; axis < directions_.size(); ++axis)
        if (serves(axis, key)) axes.push_back(axis);
      if (!seen.free_wall && !axes.empty()) continue;
      const int shown =
          key.first.empty() ? part_.topology().edges[key.second.front()].face_a : key.first.front();
      add({ToolFeature::Kind::kCorner, fmt::format("corner {}", ++corner_count_),
           key.first.empty() ? std::vector<int>{shown} : key.first, key.second},
          axes, "it is hidden from every axis that was looked at");
    }
  }

  void choose() {
    const std::vector<size_t> chosen = fewest_covering(reached_from_, directions_.size());
    for (const size_t axis : chosen) {
      ProposedAxis proposed;
      proposed.towards_tool = directions_[axis];
      int holes = 0, corners = 0;
      for (size_t f = 0; f < reached_from_.size(); ++f) {
        if (std::find(reached_from_[f].begin(), reached_from_[f].end(), axis) == reached_from_[f].end())
          continue;
        proposed.reaches.push_back(f);
        ++(result_.features[f].kind == ToolFeature::Kind::kCorner ? corners : holes);
      }
      proposed.summary = fmt::format("{} {}, {} {}", holes, holes == 1 ? "hole" : "holes", corners,
                                     corners == 1 ? "corner" : "corners");
      if (const auto hole = hole_face_.find(axis); hole != hole_face_.end())
        proposed.hole_face = hole->second;
      if (const auto flat = flat_face_.find(axis); flat != flat_face_.end())
        proposed.flat_face = flat->second;
      result_.axes.push_back(std::move(proposed));
    }
    std::stable_sort(result_.axes.begin(), result_.axes.end(),
                     [](const auto& a, const auto& b) { return a.reaches.size() > b.reaches.size(); });
  }

  const Part& part_;
  const HoleReport& holes_;
  const ProposalOptions& options_;
  const RayCaster& rays_;
  std::vector<gp_Dir> directions_;
  std::vector<bool> reachable_;
  std::map<size_t, int> hole_face_, flat_face_;
  std::map<Key, Seen> corners_;
  std::map<size_t, std::set<int>> served_faces_, served_edges_;
  std::vector<std::vector<size_t>> reached_from_;  // feature -> axes
  int corner_count_ = 0;
  Proposals result_;
};

}  // namespace

Result<Proposals> propose_axes(const Part& part, const HoleReport& holes, const ProposalOptions& options,
                               const Progress& progress) {
  return Proposer(part, holes, options).run(progress);
}

}  // namespace anvil
