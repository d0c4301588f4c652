#include "scan/growth.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/units.h"

namespace anvil {
namespace {

// Triangles that give the first surfaces: fewer where the larger patch plainly reaches over an edge.
constexpr size_t kPatches[] = {150, 60, 24};
constexpr double kPlainly = 1.6;
constexpr size_t kSeeds = 13;      // of them, where growing may begin
constexpr size_t kJudged = 4000;   // points its border is judged by
constexpr size_t kSampled = 1000;  // points a surface is fitted to while it grows
constexpr size_t kStep = 4;        // a region grows to so many times its size before it is fitted again
constexpr double kMuchSmaller = 0.8;

// How far a triangle may lean from the surface; more where it is so small that the tolerance alone leans it.
bool leans_too_much(const MeshGraph& graph, int t, const gp_Dir& normal, double within_mm) {
  const gp_Vec area = graph.area_vector(t);
  const double size = area.Magnitude();
  if (size < 1e-30) return false;
  double longest = 0;
  for (int i = 0; i < 3; ++i)
    longest = std::max(longest, graph.corner(t, i).Distance(graph.corner(t, (i + 1) % 3)));
  const double leaned = radians(25) + std::atan2(2 * within_mm, size / longest);
  return area.Dot(gp_Vec(normal)) < size * std::cos(std::min(leaned, radians(75)));
}

bool belongs(const MeshGraph& graph, int t, const Surface& surface, double within_mm) {
  for (int i = 0; i < 3; ++i)
    if (std::abs(distance_from(surface, graph.corner(t, i))) > within_mm) return false;
  const auto normal = normal_of(surface, graph.centre(t));
  return normal && !leans_too_much(graph, t, surface.inside ? normal->Reversed() : *normal, within_mm);
}

// Triangles already met, told apart without clearing the list each time.
class Marks {
 public:
  explicit Marks(size_t count) : marks_(count, 0) {}
  void begin() { ++now_; }
  bool first(int t) {
    if (marks_[t] == now_) return false;
    marks_[t] = now_;
    return true;
  }

 private:
  std::vector<unsigned> marks_;
  unsigned now_ = 0;
};

class Growth {
 public:
  Growth(const MeshGraph& graph, int seed, double within_mm)
      : graph_(graph),
        within_mm_(within_mm),
        patch_(patch_around(graph, seed, kPatches[0])),
        marks_(graph.triangles.size()) {}

  Result<Grown> run(const std::vector<SurfaceKind>& kinds, const Progress& progress) {
    const double scatter_mm = shrink_patch(kinds);
    if (within_mm_ > 0) return grow_as(kinds, progress);
    within_mm_ = std::max(least_within(), kScattersToGrow * scatter_mm);
    // The few triangles of the patch estimate it roughly; what has grown tells it better.
    constexpr int kEstimates = 2;
    for (int i = 0;; ++i) {
      Result<Grown> grown = grow_as(kinds, progress);
      if (!grown || grown->surface.kind == SurfaceKind::kMesh || i == kEstimates) return grown;
      const double better_mm =
          std::max(least_within(), kScattersToGrow * scatter_about(grown->surface, grown->triangles));
      if (better_mm < 1.15 * within_mm_ && better_mm > 0.75 * within_mm_) return grown;
      within_mm_ = better_mm;
    }
  }

 private:
  struct Kind {
    SurfaceKind kind;
    Surface surface;
    std::vector<int> triangles;
  };

  Result<Grown> grow_as(const std::vector<SurfaceKind>& kinds, const Progress& progress) {
    kinds_.clear();
    for (const SurfaceKind kind : kinds) kinds_.push_back({kind, {}, {}});
    constexpr int kMostStages = 40;
    size_t cap = kStep * patch_.size();
    for (int stage = 0; stage < kMostStages; ++stage) {
      if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
      progress.say("growing the region", -1);
      const bool settled = refit_and_flood(cap);
      if (settled && cap > graph_.triangles.size()) break;
      if (settled && largest().size() * 2 < cap) break;
      cap = std::min(cap * kStep, graph_.triangles.size() * kStep);
    }
    return best();
  }

  [[nodiscard]] std::vector<double> distances(const Surface& surface,
                                              const std::vector<int>& triangles) const {
    std::vector<double> off;
    for (const gp_Pnt& p : fit_data(graph_, triangles, kJudged).points)
      off.push_back(std::abs(distance_from(surface, p)));
    return off;
  }

  // Told by the median where that is less, for the few points of a fillet at the border do not move it: of a
  // normal distribution it lies at 0.6745 of the scatter.
  [[nodiscard]] double scatter_about(const Surface& surface, const std::vector<int>& triangles) const {
    std::vector<double> off = distances(surface, triangles);
    const auto middle = off.begin() + static_cast<long>(off.size() / 2);
    std::nth_element(off.begin(), middle, off.end());
    return std::min(*middle / 0.6745, quality_of(off).rms_mm);
  }

  const std::vector<int>& largest() const {
    const std::vector<int>* found = &patch_;
    size_t most = 0;
    for (const Kind& k : kinds_)
      if (k.triangles.size() > most) {
        most = k.triangles.size();
        found = &k.triangles;
      }
    return *found;
  }

  // What a patch scatters about the surface that suits it best.
  [[nodiscard]] double scatter_of(const std::vector<int>& patch,
                                  const std::vector<SurfaceKind>& kinds) const {
    const FitData data = fit_data(graph_, patch, kSampled);
    const auto points = static_cast<double>(data.points.size());
    double least = 1e300;
    for (const SurfaceKind kind : kinds) {
      const double parameters = kind == SurfaceKind::kPlane ? 3 : kind == SurfaceKind::kSphere ? 4 : 6;
      const auto fit = fit_surface(kind, data);
      if (fit && points > parameters)
        least = std::min(least, fit->quality.rms_mm * std::sqrt(points / (points - parameters)));
    }
    return least;
  }

  // To where it scatters least; returns by how much.
  double shrink_patch(const std::vector<SurfaceKind>& kinds) {
    double least = scatter_of(patch_, kinds);
    for (const size_t size : kPatches) {
      if (size >= patch_.size()) continue;
      const std::vector<int> fewer(patch_.begin(), patch_.begin() + static_cast<long>(size));
      const double here = scatter_of(fewer, kinds);
      if (here * kPlainly > least) continue;
      least = here;
      patch_ = fewer;
    }
    return least < 1e299 ? least : 0;
  }

  // The numbers of a mesh tell no less.
  [[nodiscard]] double least_within() const {
    double away = 0;
    for (int t : patch_) away = std::max(away, graph_.corner(t, 0).XYZ().Modulus());
    const double edge = std::sqrt(graph_.area_vector(patch_.front()).Magnitude());
    constexpr double kOfEdge = 0.002, kOfFloat = 1e-6, kOfDiagonal = 1e-3;
    return std::max(kOfEdge * edge, std::min(kOfFloat * away, kOfDiagonal * graph_.diagonal_mm));
  }

  std::vector<int> flood(const Surface& surface, size_t cap) {
    std::vector<int> region;
    marks_.begin();
    for (size_t i = 0; i < std::min(kSeeds, patch_.size()); ++i)
      if (marks_.first(patch_[i]) && belongs(graph_, patch_[i], surface, within_mm_))
        region.push_back(patch_[i]);
    for (size_t i = 0; i < region.size() && region.size() < cap; ++i)
      for (int next : graph_.across[region[i]])
        if (next >= 0 && marks_.first(next) && belongs(graph_, next, surface, within_mm_))
          region.push_back(next);
    return region;
  }

  // Each kind once more from its own region, or from the largest there is. True when none has changed much.
  bool refit_and_flood(size_t cap) {
    bool settled = true, plane_grows = false, round_grows = false;
    const std::vector<int> support = largest();
    for (Kind& k : kinds_) {
      const size_t before = k.triangles.size();
      // While a simpler one still grows it would be fitted in vain.
      if (plane_grows || (round_grows && k.kind == SurfaceKind::kCone)) {
        k.triangles.clear();
        continue;
      }
      const auto fit =
          fit_surface(k.kind, fit_data(graph_, k.triangles.empty() ? support : k.triangles, kSampled));
      k.triangles.clear();
      if (fit && fit->quality.rms_mm <= within_mm_) {
        k.surface = fit->shape;
        k.triangles = flood(k.surface, cap);
      }
      const size_t now = k.triangles.size(), apart = now > before ? now - before : before - now;
      settled = settled && apart * 100 <= now;
      (k.kind == SurfaceKind::kPlane ? plane_grows : round_grows) |= now >= cap;
    }
    return settled;
  }

  // The simplest kind that is not much smaller than the largest; between two of one size the one that faces
  // as its triangles do.
  Result<Grown> best() {
    const size_t most = largest().size();
    const Kind* found = nullptr;
    double least_lean = 1e300;
    for (const Kind& k : kinds_) {
      if (k.triangles.empty() ||
          static_cast<double>(k.triangles.size()) < kMuchSmaller * static_cast<double>(most))
        continue;
      if (k.kind == SurfaceKind::kPlane) return grown(k);
      const bool cone_beside_simpler = k.kind == SurfaceKind::kCone && found;
      const double lean = lean_of(k.surface, fit_data(graph_, k.triangles, kSampled));
      if (cone_beside_simpler || lean >= least_lean) continue;
      least_lean = lean;
      found = &k;
    }
    if (found) return grown(*found);
    if (kinds_.size() == 1)
      return refuse(RefusalCode::kGeometry,
                    fmt::format("no {} fits there within {:.4g} mm: allow more, or click elsewhere",
                                surface_name(kinds_.front().kind), within_mm_));
    Surface none;
    none.kind = SurfaceKind::kMesh;
    return Grown{none, within_mm_, patch_around(graph_, patch_.front(), graph_.triangles.size())};
  }

  Grown grown(Kind k) const {
    constexpr int kMostRings = 3;
    for (int i = 0; i < kMostRings && shed_border(k, i > 0); ++i) continue;
    return {k.surface, within_mm_, std::move(k.triangles)};
  }

  // Where a fillet leaves the surface, its first triangles lie within the tolerance and pull at the fit. So
  // of a scan that scatters the outermost triangles go, and the next ones when they lie plainly farther off
  // than those inside.
  bool shed_border(Kind& k, bool only_plainly_off) const {
    std::vector<bool> inside(graph_.triangles.size(), false);
    for (int t : k.triangles) inside[t] = true;
    std::vector<int> inner, border;
    for (int t : k.triangles) {
      const auto& around = graph_.across[t];
      const bool at_border =
          std::any_of(around.begin(), around.end(), [&](int next) { return next >= 0 && !inside[next]; });
      (at_border ? border : inner).push_back(t);
    }
    constexpr double kFartherOff = 1.25;
    if (border.empty() || inner.size() < border.size()) return false;
    const auto fit = fit_surface(k.kind, fit_data(graph_, inner, kJudged));
    if (!fit) return false;
    const double rms_mm = quality_of(distances(fit->shape, border)).rms_mm;
    const double inner_mm = scatter_about(fit->shape, inner);
    if (rms_mm < least_within() / kScattersToGrow) return false;
    if (only_plainly_off && rms_mm < kFartherOff * inner_mm) return false;
    k.surface = fit->shape;
    k.triangles = std::move(inner);
    return true;
  }

  const MeshGraph& graph_;
  double within_mm_;
  std::vector<int> patch_;
  Marks marks_;
  std::vector<Kind> kinds_;
};

}  // namespace

std::vector<int> patch_around(const MeshGraph& graph, int seed, size_t most) {
  std::vector<int> patch{seed};
  Marks marks(graph.triangles.size());
  marks.begin();
  marks.first(seed);
  gp_Vec mean = graph.area_vector(seed);
  for (size_t i = 0; i < patch.size() && patch.size() < most; ++i)
    for (int next : graph.across[patch[i]]) {
      if (next < 0 || patch.size() >= most) continue;
      const gp_Vec area = graph.area_vector(next);
      if (area.Dot(mean) < std::cos(radians(40)) * area.Magnitude() * mean.Magnitude() || !marks.first(next))
        continue;
      patch.push_back(next);
      mean += area;
    }
  return patch;
}

Result<Grown> grow(const MeshGraph& graph, int seed, const std::vector<SurfaceKind>& kinds, double within_mm,
                   const Progress& progress) {
  return Growth(graph, seed, within_mm).run(kinds, progress);
}

}  // namespace anvil
