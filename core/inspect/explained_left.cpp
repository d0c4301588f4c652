#include "inspect/explained_left.h"

#include <algorithm>

#include "geom/nearest.h"
#include "inspect/box_tree.h"
#include "inspect/left_by_cutter.h"
#include "inspect/left_in_pockets.h"
#include "inspect/section_stack.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

constexpr double kCommonCutter_mm = 20;
constexpr double kOfExtent = 0.25;  // of a small part

class Explainer {
 public:
  Explainer(const Part& part, const CornerReport& report)
      : topology_(part.topology()), triangles_(rays_of(part).triangles()), tree_(triangles_in_tree(part)) {
    told_.assign(topology_.faces.size(), false);
    for (const int face : report.not_judged) told_[face] = true;
    for (const Corner& corner : report.corners) {
      if (corner.kind == CornerKind::kWallSharp)
        sharp_.insert(sharp_.end(), corner.edges.begin(), corner.edges.end());
      else if (corner.undercut || corner.kind != CornerKind::kWallRound)
        for (const int face : corner.faces) told_[face] = true;
    }
  }

  [[nodiscard]] bool explains(const std::vector<gp_Pnt>& outline, double within_mm) const {
    const std::vector<int> faces = faces_at(outline, within_mm);
    const auto touches = [&](int face) { return std::find(faces.begin(), faces.end(), face) != faces.end(); };
    return std::any_of(faces.begin(), faces.end(), [&](int face) { return told_[face]; }) ||
           std::any_of(sharp_.begin(), sharp_.end(), [&](int edge) {
             return touches(topology_.edges[edge].face_a) && touches(topology_.edges[edge].face_b);
           });
  }

 private:
  // The faces that an outline runs along.
  [[nodiscard]] std::vector<int> faces_at(const std::vector<gp_Pnt>& outline, double within_mm) const {
    std::vector<int> faces;
    for (const gp_Pnt& p : outline)
      nearest_first(tree_, BoxPoint(p.X(), p.Y(), p.Z()), [&](double at_least, int triangle) {
        if (at_least > within_mm) return false;
        const Triangle& t = triangles_[static_cast<size_t>(triangle)];
        if (nearest_of_triangle(p, t.a, t.b, t.c).Distance(p) <= within_mm &&
            std::find(faces.begin(), faces.end(), t.face) == faces.end())
          faces.push_back(t.face);
        return true;
      });
    return faces;
  }

  const TopologyIndex& topology_;
  const std::vector<Triangle>& triangles_;
  const BoxTree& tree_;
  std::vector<bool> told_;  // by face: it belongs to a corner that leaves something
  std::vector<int> sharp_;  // edges
};

// A cutter that just fits must not be stopped by how near the sections are.
double cutter_to_try(const CornerReport& report) {
  const SectionStack& stack = *report.sections;
  if (!report.largest_cutter_mm) return std::min(kCommonCutter_mm, kOfExtent * stack.extent_mm);
  return std::max(*report.largest_cutter_mm / 2, *report.largest_cutter_mm - 4 * stack.bound_mm);
}

}  // namespace

std::optional<Unexplained> unexplained_by(const Part& part, const CornerReport& report,
                                          const Progress& progress) {
  if (!report.sections || !report.sections->complete) return std::nullopt;
  const double cutter = cutter_to_try(report);
  const auto left = left_by_cutter(*report.sections, cutter, LeftDetail::kWhileDragging, progress);
  if (!left || left->layers.empty()) return std::nullopt;
  const Explainer explainer(part, report);
  Unexplained all{cutter, 0, {}};
  double largest = 0;
  for (const LeftLayer& layer : left->layers)
    for (const std::vector<gp_Pnt>& outline : layer.outlines) {
      if (progress.stop()) return std::nullopt;
      const double volume = area_of(outline, report.options.axis) * (layer.top_mm - layer.bottom_mm);
      if (volume <= 0 || explainer.explains(outline, 2 * left->bound_mm)) continue;
      all.volume_mm3 += volume;
      if (volume <= largest) continue;
      largest = volume;
      all.at = outline.front();
    }
  return all.volume_mm3 > 0 ? std::optional(all) : std::nullopt;
}

}  // namespace anvil
