#include "inspect/left_by_cutter.h"

#include <fmt/format.h>

#include "geom/guard.h"
#include "inspect/section_stack.h"

namespace anvil {
namespace {

using ClipperLib::Paths;

constexpr double kDragArc = 2e-3;  // of the diameter: arcs while a slider is dragged
constexpr int kHalvings = 14;

class Leftover {
 public:
  Leftover(const SectionStack& stack, double diameter_mm, LeftDetail detail)
      : stack_(stack), radius_mm_(diameter_mm / 2) {
    arc_mm_ = detail == LeftDetail::kFull ? stack.arc_mm : std::max(stack.arc_mm, kDragArc * diameter_mm);
    left_.diameter_mm = diameter_mm;
    left_.bound_mm = 4 * arc_mm_;
  }

  Result<LeftByCutter> run(const Progress& progress) {
    Paths closed;
    for (size_t s = 0; s < stack_.slabs.size(); ++s) {
      if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
      progress.say("where the cutter goes", static_cast<double>(s) / static_cast<double>(stack_.slabs.size()));
      const Slab& slab = stack_.slabs[s];
      if (s == 0 || slab.blocked != stack_.slabs[s - 1].blocked) left_here_ = left_in(slab);
      if (!left_here_.empty()) add(slab);
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

  // Closing, less what stands there; what is thinner than the bound is the arcs' doing.
  [[nodiscard]] Paths left_in(const Slab& slab) const {
    const Paths& blocked = slab.blocked;
    // A cutter that just fits must not be stopped by rounding.
    const double radius = std::max(radius_mm_ / 2, radius_mm_ - bound_of(slab));
    Paths closed = moved_out(moved_out(blocked, radius), -radius);
    ClipperLib::Clipper less;
    less.AddPaths(closed, ClipperLib::ptSubject, true);
    less.AddPaths(blocked, ClipperLib::ptClip, true);
    Paths left;
    less.Execute(ClipperLib::ctDifference, left, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    const Paths core = moved_out(left, -bound_of(slab));
    if (core.empty()) return {};
    // Thin bands along the walls between two pieces that are left are rounding.
    ClipperLib::Clipper near_core;
    near_core.AddPaths(left, ClipperLib::ptSubject, true);
    near_core.AddPaths(moved_out(core, 2 * bound_of(slab)), ClipperLib::ptClip, true);
    Paths kept;
    near_core.Execute(ClipperLib::ctIntersection, kept, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    return kept;
  }

  [[nodiscard]] double bound_of(const Slab& slab) const { return slab.bound_mm + 2 * arc_mm_; }

  void add(const Slab& slab) {
    left_.bound_mm = std::max(left_.bound_mm, bound_of(slab));
    LeftLayer layer{slab.bottom_mm + stack_.base_mm, slab.top_mm + stack_.base_mm, 0, {}};
    double area = 0;
    for (const ClipperLib::Path& path : left_here_) {
      area += ClipperLib::Area(path);
      std::vector<gp_Pnt>& outline = layer.outlines.emplace_back();
      for (const ClipperLib::IntPoint& p : path) outline.push_back(in_part(stack_.flat(p), slab.bottom_mm));
    }
    layer.area_mm2 = stack_.square_mm(area);
    left_.volume_mm3 += layer.area_mm2 * (slab.top_mm - slab.bottom_mm);
    measure_thickness(slab);
    left_.layers.push_back(std::move(layer));
  }

  [[nodiscard]] gp_Pnt in_part(const FlatPoint& p, double level) const {
    const gp_Ax2& f = stack_.frame;
    return f.Location().Translated(gp_Vec(f.XDirection()) * p.x + gp_Vec(f.YDirection()) * p.y +
                                   gp_Vec(f.Direction()) * level);
  }

  // The largest inset that leaves something is half the thickness; it cannot be the cutter's radius or more.
  void measure_thickness(const Slab& slab) {
    double least = left_.largest_thickness_mm / 2, most = radius_mm_;
    if (moved_out(left_here_, -least - arc_mm_).empty()) return;
    for (int i = 0; i < kHalvings && most - least > arc_mm_; ++i) {
      const double inset = (least + most) / 2;
      const Paths core = moved_out(left_here_, -inset);
      if (core.empty()) {
        most = inset;
        continue;
      }
      least = inset;
      left_.thickest = in_part(stack_.flat(core.front().front()), (slab.bottom_mm + slab.top_mm) / 2);
    }
    left_.largest_thickness_mm = 2 * least;
  }

  const SectionStack& stack_;
  double radius_mm_, arc_mm_ = 0;
  LeftByCutter left_;
  Paths left_here_;
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
