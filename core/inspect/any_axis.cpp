#include "inspect/any_axis.h"
#include "inspect/highest_on_face.h"

#include <algorithm>

#include "base/units.h"
#include "geom/guard.h"
#include "geom/primitives.h"
#include "inspect/coaxial.h"
#include "inspect/surface_forms.h"

namespace anvil {
namespace {

constexpr double kSameRadius_mm = 1e-3, kSameDirection_rad = 1e-3;

// The largest curvature towards the void at a point: the larger principal one, from both fundamental forms.
std::optional<double> hollowest(const BRepAdaptor_Surface& surface, bool reversed, double u, double v) {
  const auto s = forms_at(surface, reversed, u, v);
  if (!s) return std::nullopt;
  const double det = s->e * s->g - s->f * s->f;
  const double mean = (s->e * s->n - 2 * s->f * s->m + s->g * s->l) / (2 * det),
               gauss = (s->l * s->n - s->m * s->m) / det;
  return mean + std::sqrt(std::max(0.0, mean * mean - gauss));
}

class HollowFinder {
 public:
  explicit HollowFinder(const Part& part) : part_(part), topology_(part.topology()) {}

  HollowReport run() {
    const std::vector<double>& turns = whole_turns(part_).by_patch;
    for (size_t i = 0; i < topology_.patches.size(); ++i) look_at(topology_.patches[i], turns[i]);
    for (size_t i = 0; i < topology_.edges.size(); ++i) {
      const EdgeInfo& edge = topology_.edges[i];
      if (edge.is_open() || edge.convexity != Convexity::kConcave) continue;
      HollowGroup& group = group_of(HollowKind::kSharp, 0, edge.straight_along);
      group.edges.push_back(static_cast<int>(i));
      ++group.count;
    }
    std::stable_sort(report_.groups.begin(), report_.groups.end(),
                     [](const HollowGroup& a, const HollowGroup& b) {
                       return std::pair(a.kind == HollowKind::kSharp, a.radius_mm) <
                              std::pair(b.kind == HollowKind::kSharp, b.radius_mm);
                     });
    for (const HollowGroup& group : report_.groups)
      if (group.kind != HollowKind::kSharp && !report_.smallest_radius_mm)
        report_.smallest_radius_mm = group.radius_mm;
    return std::move(report_);
  }

 private:
  void look_at(const Patch& patch, double turn) {
    const Surface& s = patch.surface;
    if (s.kind == SurfaceKind::kFreeForm) return free_form(patch);
    if (!s.inside || (s.kind != SurfaceKind::kSphere && s.kind != SurfaceKind::kTorus && turn > kPi + 1e-3))
      return;
    switch (s.kind) {
      case SurfaceKind::kCylinder:
        return add(HollowKind::kFillet, s.radius_mm, s.position.Direction(), patch);
      case SurfaceKind::kTorus:
        return add(HollowKind::kFillet, s.minor_mm, std::nullopt, patch);
      case SurfaceKind::kSphere:
        return add(HollowKind::kBall, s.radius_mm, std::nullopt, patch);
      case SurfaceKind::kCone:
        return add(HollowKind::kTaper, smallest_of_cone(patch), s.position.Direction(), patch);
      default:
        return;
    }
  }

  [[nodiscard]] double smallest_of_cone(const Patch& patch) const {
    const Surface& s = patch.surface;
    const auto [low, high] = patch_levels(topology_, patch, s.position.Direction());
    const double base = s.position.Location().XYZ().Dot(s.position.Direction().XYZ()),
                 slope = std::tan(s.semi_angle_rad);
    return std::min(std::abs(s.radius_mm + (low - base) * slope),
                    std::abs(s.radius_mm + (high - base) * slope));
  }

  void free_form(const Patch& patch) {
    double most = 0;
    for (const int face : patch.faces) {
      const TopoDS_Face& shape = topology_.faces[face].face;
      const BRepAdaptor_Surface surface(shape, false);
      const bool reversed = shape.Orientation() == TopAbs_REVERSED;
      const auto here =
          highest_on_face(shape, [&](double u, double v) { return hollowest(surface, reversed, u, v); });
      if (here) most = std::max(most, here->value);
    }
    if (most > 1e-6) add(HollowKind::kFreeForm, 1 / most, std::nullopt, patch);
  }

  void add(HollowKind kind, double radius, const std::optional<gp_Dir>& direction, const Patch& patch) {
    HollowGroup& group = group_of(kind, radius, direction);
    group.faces.insert(group.faces.end(), patch.faces.begin(), patch.faces.end());
    ++group.count;
  }

  HollowGroup& group_of(HollowKind kind, double radius, const std::optional<gp_Dir>& direction) {
    // By radius first: few share one, so that looking through them is no search of all.
    const auto from = by_radius_.lower_bound(radius - kSameRadius_mm),
               to = by_radius_.upper_bound(radius + kSameRadius_mm);
    for (auto at = from; at != to; ++at) {
      HollowGroup& group = report_.groups[at->second];
      if (group.kind != kind || group.direction.has_value() != direction.has_value()) continue;
      if (!direction || parallel(*direction, *group.direction, kSameDirection_rad)) return group;
    }
    by_radius_.emplace(radius, report_.groups.size());
    report_.groups.push_back({kind, radius, kind == HollowKind::kFreeForm, direction, {}, {}, 0});
    return report_.groups.back();
  }

  const Part& part_;
  const TopologyIndex& topology_;
  std::multimap<double, size_t> by_radius_;
  HollowReport report_;
};

}  // namespace

const char* hollow_name(HollowKind kind) {
  switch (kind) {
    case HollowKind::kFillet:
      return "fillet";
    case HollowKind::kBall:
      return "ball";
    case HollowKind::kTaper:
      return "taper";
    case HollowKind::kFreeForm:
      return "free-form";
    case HollowKind::kSharp:
      return "sharp";
  }
  return "fillet";
}

Result<HollowReport> find_hollows(const Part& part, const Progress& progress) {
  return guarded("looking for hollows", [&]() -> Result<HollowReport> {
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    return HollowFinder(part).run();
  });
}

}  // namespace anvil
