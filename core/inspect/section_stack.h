// What stands in a cutter's way, level by level: sections square to a tool axis, from the top down, each with
// all that stands above it (a cutter comes down past that). Holes are filled in: they are drilled. Internal
// to core/inspect.
#pragma once

#include <polyclipping/clipper.hpp>

#include "base/progress.h"
#include "base/refusal.h"
#include "inspect/mesh_slicer.h"

namespace anvil {

struct Slab {
  double bottom_mm = 0, top_mm = 0;  // along the axis, from the frame's zero
  bool foot = true;                  // the lowest of the pieces that a range between two ends is divided into
  double bound_mm = 0;               // how far its polygons lie off the surfaces, at most
  std::vector<Outline> outlines;     // of the part at its middle, holes left out
  ClipperLib::Paths blocked;         // what stands there or above; in the stack's grid
  // The same with fewer chords to an arc, ends of walls in their places: for the medial axis, which is slow
  // where many sides are equally near.
  ClipperLib::Paths coarse;
  bool complete = true;  // false: the mesh has gaps there or above, and outlines are missing
};

struct SectionStack {
  gp_Ax2 frame;             // Z: the tool axis, zero in the middle of the part
  double extent_mm = 0;     // diagonal of the part's box
  double per_mm = 1;        // grid steps of the polygons
  double base_mm = 0;       // level of the frame's zero, from the origin of the part
  double arc_mm = 0;        // how far chords may lie off the arcs of walls
  double coarse_mm = 0;     // the same of the coarse ones
  double bound_mm = 0;      // the largest of any slab
  bool complete = true;     // false: the mesh has gaps
  std::vector<Slab> slabs;  // the topmost first

  [[nodiscard]] ClipperLib::IntPoint grid(const FlatPoint& p) const {
    return {std::llround(p.x * per_mm), std::llround(p.y * per_mm)};
  }
  [[nodiscard]] FlatPoint flat(const ClipperLib::IntPoint& p) const {
    return {static_cast<double>(p.X) / per_mm, static_cast<double>(p.Y) / per_mm};
  }
  // Where a place at a level (from the frame's zero) is on the part, and back.
  [[nodiscard]] gp_Pnt in_part(const FlatPoint& p, double level_mm) const {
    return frame.Location().Translated(gp_Vec(frame.XDirection()) * p.x + gp_Vec(frame.YDirection()) * p.y +
                                       gp_Vec(frame.Direction()) * level_mm);
  }
  [[nodiscard]] FlatPoint flat(const gp_Pnt& p) const {
    const gp_Vec from(frame.Location(), p);
    return {from.Dot(gp_Vec(frame.XDirection())), from.Dot(gp_Vec(frame.YDirection()))};
  }
  [[nodiscard]] double square_mm(double grid_area) const { return grid_area / per_mm / per_mm; }
};

// Levels at the end of every floor and wall, the thick ones between divided where the part leans there.
// `filled` (by face) are the faces of holes.
Result<SectionStack> sections_along(const Part& part, const gp_Dir& axis, const std::vector<bool>& filled,
                                    const Progress& progress = {});

}  // namespace anvil
