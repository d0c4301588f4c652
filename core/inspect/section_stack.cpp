#include "inspect/section_stack.h"

#include <algorithm>
#include <boost/geometry.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <cmath>

#include "base/tolerance.h"
#include "geom/primitives.h"
#include "part/part_box.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

constexpr double kGridSpan = 268435456.0;  // 2^28: room to grow within what polygons and diagrams can count
constexpr double kArc = 1e-5;              // of the extent of the largest body
constexpr double kFinestArc = 8;           // steps of the grid
constexpr double kThinnest = 1e-6;         // of the extent: levels nearer than this are one
constexpr size_t kMostLevels = 96;
constexpr size_t kThinning = 4;
constexpr int kDivisions = 40;  // of the whole height, where the part leans

double level_of(const gp_Ax2& frame, const gp_Pnt& p) {
  return gp_Vec(frame.Location(), p).Dot(gp_Vec(frame.Direction()));
}

// Ends of floors and walls: there the part has vertices.
std::vector<double> ends(const Part& part, const gp_Ax2& frame, const MeshSlicer& slicer, double extent) {
  std::vector<double> levels{slicer.lowest(), slicer.highest()};
  for (const VertexInfo& vertex : part.topology().vertices) levels.push_back(level_of(frame, vertex.point));
  std::sort(levels.begin(), levels.end());
  double nearest = kThinnest * extent;
  std::vector<double> kept;
  while (true) {
    kept.clear();
    for (const double level : levels)
      if (kept.empty() || level - kept.back() > nearest) kept.push_back(level);
    if (kept.size() <= kMostLevels) break;
    nearest *= 2;
  }
  return kept;
}

using FlatIntPoint = boost::geometry::model::d2::point_xy<double>;

// The same outlines with as few points as stay within a distance (Douglas and Peucker).
ClipperLib::Paths simplified(const ClipperLib::Paths& paths, double within) {
  ClipperLib::Paths result;
  for (const ClipperLib::Path& path : paths) {
    boost::geometry::model::linestring<FlatIntPoint> closed, thin;
    for (const ClipperLib::IntPoint& p : path)
      closed.emplace_back(static_cast<double>(p.X), static_cast<double>(p.Y));
    if (!closed.empty()) closed.push_back(closed.front());
    boost::geometry::simplify(closed, thin, within);
    if (thin.size() < 4) {
      result.push_back(path);
      continue;
    }
    thin.pop_back();
    ClipperLib::Path& few = result.emplace_back();
    for (const FlatIntPoint& p : thin) few.emplace_back(std::llround(p.x()), std::llround(p.y()));
  }
  return result;
}

double largest_body(const Part& part, double otherwise) {
  double largest = 0;
  for (const Box& box : vertex_boxes(part)) largest = std::max(largest, box.diagonal_mm());
  return largest > 0 ? largest : otherwise;
}

class StackBuilder {
 public:
  StackBuilder(const Part& part, const gp_Dir& axis, const std::vector<bool>& filled,
               const Progress& progress)
      : part_(part), filled_(filled), progress_(progress) {
    const Box box = vertex_box(part);
    const gp_Pnt middle = box.is_empty() ? gp_Pnt(0, 0, 0) : box.centre();
    extent_ = box.is_empty() ? 1 : std::max(1e-6, box.diagonal_mm());
    stack_.frame = gp_Ax2(middle, axis);
    stack_.base_mm = middle.XYZ().Dot(axis.XYZ());
    stack_.extent_mm = extent_;
    stack_.per_mm = kGridSpan / extent_;
    stack_.arc_mm = std::max(kArc * largest_body(part, extent_), kFinestArc / stack_.per_mm);
    stack_.coarse_mm =
        (kThinning + 1) * (kThinning + 1) * stack_.arc_mm;  // chords rise with the square of their length
    stack_.bound_mm = 2 * stack_.arc_mm;
    for (const FaceInfo& face : part.topology().faces) bounds_.push_back(bound_of(face.surface));
  }

  Result<SectionStack> run() {
    const MeshSlicer slicer(part_, stack_.frame, stack_.arc_mm);
    const std::vector<double> levels = ends(part_, stack_.frame, slicer, extent_);
    const double height = slicer.highest() - slicer.lowest();
    for (size_t i = levels.size(); i-- > 1;) {
      const double bottom = levels[i - 1], top = levels[i];
      const bool leans = !slicer.is_prismatic(bottom, top);
      const int pieces = leans ? static_cast<int>(std::ceil((top - bottom) / height * kDivisions)) : 1;
      for (int k = pieces; k-- > 0;) {
        if (progress_.stop()) return refuse(RefusalCode::kCancelled, "stopped");
        add(slicer, bottom + (top - bottom) * k / pieces, bottom + (top - bottom) * (k + 1) / pieces);
        stack_.slabs.back().foot = k == 0;
      }
    }
    return std::move(stack_);
  }

 private:
  void add(const MeshSlicer& slicer, double bottom, double top) {
    Slab slab{bottom, top, true, std::max(above_bound_mm_, 2 * stack_.arc_mm), {}, {}, {}};
    MeshSlicer::Slice slice = slicer.at((bottom + top) / 2);
    stack_.complete = stack_.complete && slice.complete;
    slab.complete = stack_.complete;
    ClipperLib::Clipper joined, joined_coarse;
    for (Outline& outline : slice.outlines) {
      const bool hole =
          std::all_of(outline.faces.begin(), outline.faces.end(), [&](int f) { return filled_[f]; });
      if (hole && outline.area() < 0) continue;
      ClipperLib::Path path;
      for (const FlatPoint& p : outline.points) path.push_back(stack_.grid(p));
      joined.AddPath(path, ClipperLib::ptSubject, true);
      joined_coarse.AddPath(thinned(outline, path), ClipperLib::ptSubject, true);
      for (const int face : outline.faces) slab.bound_mm = std::max(slab.bound_mm, bounds_[face]);
      slab.outlines.push_back(std::move(outline));
    }
    joined.AddPaths(above_, ClipperLib::ptSubject, true);
    joined_coarse.AddPaths(above_coarse_, ClipperLib::ptSubject, true);
    joined.Execute(ClipperLib::ctUnion, above_, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    joined_coarse.Execute(ClipperLib::ctUnion, above_coarse_, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    for (ClipperLib::Paths* paths : {&above_, &above_coarse_}) ClipperLib::CleanPolygons(*paths);
    take_simplified(slab);
    stack_.bound_mm = std::max(stack_.bound_mm, slab.bound_mm);
    stack_.slabs.push_back(std::move(slab));
  }

  // Where the mesh is the coarser one anyway, sections of leaning faces that lie over each other have points
  // without number; a tenth of what the mesh is off costs nothing. What is handed down to the next level
  // gives up far less, for that adds up.
  void take_simplified(Slab& slab) {
    const bool is_coarse = slab.bound_mm > 4 * stack_.arc_mm;
    const double within = std::clamp(slab.bound_mm / 10, stack_.arc_mm, stack_.coarse_mm);
    above_bound_mm_ = slab.bound_mm;
    if (is_coarse) {
      const double handed_down = within / 20;
      above_ = simplified(above_, handed_down * stack_.per_mm);
      above_coarse_ = simplified(above_coarse_, handed_down * stack_.per_mm);
      above_bound_mm_ += handed_down;
    }
    slab.bound_mm = above_bound_mm_;
    slab.blocked = above_;
    slab.coarse = above_coarse_;
    if (!is_coarse) return;
    slab.blocked = simplified(above_, within * stack_.per_mm);
    slab.coarse = simplified(above_coarse_, within * stack_.per_mm);
    slab.bound_mm += within;
  }

  // Every few points of an arc, and both of its ends.
  [[nodiscard]] ClipperLib::Path thinned(const Outline& outline, const ClipperLib::Path& path) const {
    const auto& faces = part_.topology().faces;
    ClipperLib::Path thin;
    size_t in_run = 0;
    for (size_t i = 0; i < path.size(); ++i) {
      const int own = outline.faces[i], before = outline.faces[(i + path.size() - 1) % path.size()];
      in_run = own == before ? in_run + 1 : 0;
      if (in_run % kThinning == 0 || faces[own].surface.kind != SurfaceKind::kCylinder)
        thin.push_back(path[i]);
    }
    return thin.size() < 3 ? path : thin;
  }

  // How far sections of a face may lie off it: planes are met exactly and cylinders along the axis drawn as
  // arcs; of others the mesh is as near as its deviation, and as its largest angle leaves chords off the
  // tightest circle.
  [[nodiscard]] double bound_of(const Surface& s) const {
    const double arcs = 2 * stack_.arc_mm;
    if (s.kind == SurfaceKind::kPlane) return arcs;
    if (s.kind == SurfaceKind::kCylinder &&
        parallel(s.position.Direction(), stack_.frame.Direction(), kWall_rad))
      return arcs;
    const double deviation = rays_of(part_).deviation_mm();
    if (s.kind == SurfaceKind::kFreeForm || s.kind == SurfaceKind::kCone) return arcs + deviation;
    const double radius = s.kind == SurfaceKind::kTorus ? s.minor_mm : s.radius_mm;
    return arcs + std::min(deviation, radius * (1 - std::cos(MeshQuality().angle_rad / 2)));
  }

  const Part& part_;
  const std::vector<bool>& filled_;
  const Progress& progress_;
  SectionStack stack_;
  ClipperLib::Paths above_, above_coarse_;  // what stands at the level looked at, or above
  double above_bound_mm_ = 0;
  std::vector<double> bounds_;  // by face
  double extent_ = 1;
};

}  // namespace

Result<SectionStack> sections_along(const Part& part, const gp_Dir& axis, const std::vector<bool>& filled,
                                    const Progress& progress) {
  return StackBuilder(part, axis, filled, progress).run();
}

}  // namespace anvil
