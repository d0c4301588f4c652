#include "inspect/left_by_cutter.h"

#include <fmt/format.h>

#include <optional>

#include "base/units.h"
#include "geom/guard.h"
#include "inspect/section_stack.h"

namespace anvil {
namespace {

using ClipperLib::Paths;

constexpr double kDragArc = 2e-3;  // of the diameter: arcs while a slider is dragged
constexpr int kHalvings = 14;
constexpr size_t kLevelsWhileDragging = 12;

class Leftover {
 public:
  Leftover(const SectionStack& stack, double diameter_mm, LeftDetail detail)
      : stack_(stack), radius_mm_(diameter_mm / 2), dragging_(detail == LeftDetail::kWhileDragging) {
    arc_mm_ = !dragging_ ? stack.arc_mm : std::max(stack.arc_mm, kDragArc * diameter_mm);
    left_.diameter_mm = diameter_mm;
    left_.bound_mm = 4 * arc_mm_;
  }

  Result<LeftByCutter> run(const Progress& progress) {
    const size_t count = stack_.slabs.size();
    // While a slider is dragged a slab stands for its neighbours.
    const size_t stride =
        dragging_ ? std::max<size_t>(1, (count + kLevelsWhileDragging - 1) / kLevelsWhileDragging) : 1;
    for (size_t first = 0; first < count; first += stride) {
      if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
      progress.say("where the cutter goes", static_cast<double>(first) / static_cast<double>(count));
      const size_t last = std::min(count, first + stride) - 1;
      const size_t shown = (first + last) / 2;
      const Slab& slab = stack_.slabs[shown];
      if (!known_ || slab.blocked != stack_.slabs[*known_].blocked) {
        left_here_ = left_in(slab);
        known_ = shown;
      }
      if (!left_here_.empty()) add(slab, stack_.slabs[last].bottom_mm, stack_.slabs[first].top_mm);
    }
    return std::move(left_);
  }

 private:
  [[nodiscard]] Paths moved_out(const Paths& paths, double by_mm) const {
    ClipperLib::ClipperOffset offset(2.0, std::max(0.25, arc_mm_ * stack_.per_mm));
    offset.AddPaths(paths, ClipperLib::jtRound, ClipperLib::etClosedPolygon);
    Paths result;
    offset.Execute(result, by_mm * stack_.per_mm);
    return result;
  }

  static Paths difference(const Paths& from, const Paths& what) {
    ClipperLib::Clipper less;
    less.AddPaths(from, ClipperLib::ptSubject, true);
    less.AddPaths(what, ClipperLib::ptClip, true);
    Paths result;
    less.Execute(ClipperLib::ctDifference, result, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    return result;
  }

  // Each enclosed room for itself, and what lies outside of all: the work grows with the rooms and not with
  // their square.
  [[nodiscard]] std::vector<Paths> left_in(const Slab& slab) const {
    ClipperLib::Clipper nested;
    nested.AddPaths(dragging_ ? slab.coarse : slab.blocked, ClipperLib::ptSubject, true);
    ClipperLib::PolyTree tree;
    nested.Execute(ClipperLib::ctUnion, tree, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    Paths outside;
    std::vector<Paths> all;
    for (const ClipperLib::PolyNode* node : tree.Childs) outside.push_back(node->Contour);
    const double radius = reduced_radius(slab);
    const auto take = [&](const Paths& left) {
      Paths real = with_core(left, bound_of(slab));
      if (!real.empty()) all.push_back(std::move(real));
    };
    take(difference(moved_out(moved_out(outside, radius), -radius), outside));
    for (const ClipperLib::PolyNode* node = tree.GetFirst(); node; node = node->GetNext()) {
      if (!node->IsHole()) continue;
      Paths room{node->Contour};
      for (const ClipperLib::PolyNode* island : node->Childs) room.push_back(island->Contour);
      for (ClipperLib::Path& path : room) ClipperLib::ReversePath(path);
      take(difference(room, moved_out(moved_out(room, -radius), radius)));
    }
    return all;
  }

  // A cutter that just fits must not be stopped by rounding.
  [[nodiscard]] double reduced_radius(const Slab& slab) const {
    return std::max(radius_mm_ / 2, radius_mm_ - bound_of(slab));
  }

  // What is thinner than the bound is the arcs' doing, and so are thin bands along the walls between two
  // pieces.
  [[nodiscard]] Paths with_core(const Paths& left, double bound) const {
    if (left.empty()) return {};
    if (dragging_) return broad_pieces(left, bound);
    const Paths core = moved_out(left, -bound);
    if (core.empty()) return {};
    ClipperLib::Clipper near_core;
    near_core.AddPaths(left, ClipperLib::ptSubject, true);
    near_core.AddPaths(moved_out(core, 2 * bound), ClipperLib::ptClip, true);
    Paths kept;
    near_core.Execute(ClipperLib::ctIntersection, kept, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    return kept;
  }

  // While dragging whole pieces are taken or dropped, by their mean breadth: their area to half their
  // outline.
  [[nodiscard]] Paths broad_pieces(const Paths& left, double bound) const {
    ClipperLib::Clipper nested;
    nested.AddPaths(left, ClipperLib::ptSubject, true);
    ClipperLib::PolyTree tree;
    nested.Execute(ClipperLib::ctUnion, tree, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    Paths kept;
    for (const ClipperLib::PolyNode* node = tree.GetFirst(); node; node = node->GetNext()) {
      if (node->IsHole()) continue;
      Paths piece{node->Contour};
      for (const ClipperLib::PolyNode* gap : node->Childs) piece.push_back(gap->Contour);
      double area = 0, around = 0;
      for (const ClipperLib::Path& path : piece) {
        area += ClipperLib::Area(path);
        around += length_around(path);
      }
      if (2 * area > bound * stack_.per_mm * around) kept.insert(kept.end(), piece.begin(), piece.end());
    }
    return kept;
  }

  static double length_around(const ClipperLib::Path& path) {
    double length = 0;
    for (size_t i = 0; i < path.size(); ++i) {
      const ClipperLib::IntPoint &a = path[i], &b = path[(i + 1) % path.size()];
      length += std::hypot(static_cast<double>(b.X - a.X), static_cast<double>(b.Y - a.Y));
    }
    return length;
  }

  [[nodiscard]] double bound_of(const Slab& slab) const {
    return slab.bound_mm + 2 * arc_mm_ + (dragging_ ? stack_.coarse_mm : 0);
  }

  // What is left at the middle of a slab, between two levels.
  void add(const Slab& slab, double bottom, double top) {
    left_.bound_mm = std::max(left_.bound_mm, bound_of(slab));
    LeftLayer layer{bottom + stack_.base_mm, top + stack_.base_mm, 0, {}};
    double area = 0;
    for (const Paths& room : left_here_)
      for (const ClipperLib::Path& path : room) {
        area += ClipperLib::Area(path);
        std::vector<gp_Pnt>& outline = layer.outlines.emplace_back();
        for (const ClipperLib::IntPoint& p : path) outline.push_back(stack_.in_part(stack_.flat(p), bottom));
      }
    layer.area_mm2 = stack_.square_mm(area);
    left_.volume_mm3 += layer.area_mm2 * (top - bottom);
    measure_thickness(slab);
    left_.layers.push_back(std::move(layer));
  }

  void measure_thickness(const Slab& slab) {
    for (const Paths& room : left_here_) {
      double area = 0;
      for (const ClipperLib::Path& path : room) area += ClipperLib::Area(path);
      const double at_most = std::sqrt(std::max(0.0, stack_.square_mm(area)) / kPi);
      if (at_most > left_.largest_thickness_mm / 2)
        measure_thickness(room, std::min(at_most, radius_mm_), slab);
    }
  }

  // The largest inset that leaves something is half the thickness.
  void measure_thickness(const Paths& room, double most, const Slab& slab) {
    double least = left_.largest_thickness_mm / 2;
    if (moved_out(room, -least - arc_mm_).empty()) return;
    for (int i = 0; i < kHalvings && most - least > arc_mm_; ++i) {
      const double inset = (least + most) / 2;
      const Paths core = moved_out(room, -inset);
      if (core.empty()) {
        most = inset;
        continue;
      }
      least = inset;
      left_.thickest = stack_.in_part(stack_.flat(core.front().front()), (slab.bottom_mm + slab.top_mm) / 2);
    }
    left_.largest_thickness_mm = 2 * least;
  }

  const SectionStack& stack_;
  double radius_mm_, arc_mm_ = 0;
  bool dragging_;
  LeftByCutter left_;
  std::vector<Paths> left_here_;  // room by room
  std::optional<size_t> known_;   // the slab that left_here_ was found in
};

}  // namespace

Result<LeftByCutter> left_by_cutter(const SectionStack& sections, double diameter_mm, LeftDetail detail,
                                    const Progress& progress) {
  if (!(diameter_mm > 0))
    return refuse(RefusalCode::kBadInput, fmt::format("a cutter of diameter {} cuts nothing", diameter_mm));
  return guarded("finding what the cutter leaves",
                 [&] { return Leftover(sections, diameter_mm, detail).run(progress); });
}

}  // namespace anvil
