#include "inspect/passages.h"

#include <BRepAdaptor_Curve.hxx>
#include <boost/polygon/voronoi.hpp>
#include <map>
#include <set>
#include <tuple>
#include <unordered_map>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/coaxial.h"

namespace anvil {
namespace {

using Diagram = boost::polygon::voronoi_diagram<double>;

struct GridSegment {
  ClipperLib::IntPoint a, b;
};

}  // namespace
}  // namespace anvil

template <>
struct boost::polygon::geometry_concept<ClipperLib::IntPoint> {
  using type = point_concept;
};
template <>
struct boost::polygon::point_traits<ClipperLib::IntPoint> {
  using coordinate_type = int;
  static coordinate_type get(const ClipperLib::IntPoint& point, const orientation_2d& orient) {
    return static_cast<int>(orient == HORIZONTAL ? point.X : point.Y);
  }
};
template <>
struct boost::polygon::geometry_concept<anvil::GridSegment> {
  using type = segment_concept;
};
template <>
struct boost::polygon::segment_traits<anvil::GridSegment> {
  using coordinate_type = int;
  using point_type = ClipperLib::IntPoint;
  static point_type get(const anvil::GridSegment& segment, const direction_1d& direction) {
    return direction.to_int() ? segment.b : segment.a;
  }
};

namespace anvil {
namespace {

constexpr double kOpposite =
    -0.99995;  // cosine between the ways to both sides: within 0.6 degrees of straight
constexpr int kAlternations = 60;
constexpr double kMoreThanHalf_rad = kPi + 1e-3;

struct Gap {
  double width = 0;  // in the stack's grid
  FlatPoint a, b;
  bool a_is_edge = false, b_is_edge = false;  // the material ends there in an edge
};

FlatPoint minus(const FlatPoint& a, const FlatPoint& b) {
  return {a.x - b.x, a.y - b.y};
}
double dot(const FlatPoint& a, const FlatPoint& b) {
  return a.x * b.x + a.y * b.y;
}
double length(const FlatPoint& v) {
  return std::hypot(v.x, v.y);
}

FlatPoint nearest_on(const FlatPoint& p, const FlatPoint& a, const FlatPoint& b) {
  const FlatPoint along = minus(b, a);
  const double square = dot(along, along);
  const double t = square > 0 ? std::clamp(dot(minus(p, a), along) / square, 0.0, 1.0) : 0;
  return {a.x + t * along.x, a.y + t * along.y};
}

// The medial axis of the free side of polygons.
class FreeMiddle {
 public:
  explicit FreeMiddle(const ClipperLib::Paths& blocked) {
    for (const ClipperLib::Path& path : blocked)
      for (size_t i = 0; i < path.size(); ++i) {
        const ClipperLib::IntPoint &before = path[(i + path.size() - 1) % path.size()],
                                   &after = path[(i + 1) % path.size()];
        segments_.push_back({path[i], after});
        const FlatPoint in = minus(as_flat(path[i]), as_flat(before)),
                        out = minus(as_flat(after), as_flat(path[i]));
        starts_at_edge_.push_back(in.x * out.y - in.y * out.x > 0);
        next_.push_back(i + 1 == path.size() ? segments_.size() - path.size() : segments_.size());
      }
    if (!segments_.empty()) boost::polygon::construct_voronoi(segments_.begin(), segments_.end(), &diagram_);
  }

  std::vector<Gap> gaps() const {
    std::vector<Gap> found;
    for (const auto& edge : diagram_.edges()) {
      if (!edge.is_primary() || edge.cell() > edge.twin()->cell()) continue;
      look_between(*edge.cell(), *edge.twin()->cell(), edge, found);
    }
    for (const auto& vertex : diagram_.vertices()) look_around(vertex, found);
    return found;
  }

 private:
  using Cell = Diagram::cell_type;
  using Edge = Diagram::edge_type;
  using Vertex = Diagram::vertex_type;

  static FlatPoint as_flat(const ClipperLib::IntPoint& p) {
    return {static_cast<double>(p.X), static_cast<double>(p.Y)};
  }

  // The nearest point of a cell's site.
  FlatPoint touch(const Cell& cell, const FlatPoint& p) const {
    const GridSegment& segment = segments_[cell.source_index()];
    if (cell.contains_segment()) return nearest_on(p, as_flat(segment.a), as_flat(segment.b));
    return as_flat(cell.source_category() == boost::polygon::SOURCE_CATEGORY_SEGMENT_START_POINT ? segment.a
                                                                                                 : segment.b);
  }

  // Material lies to the left of a segment. Around a corner of the outline lies the free side when the
  // material ends there in an edge, and material when it is hollow.
  bool is_free(const Cell& cell, const FlatPoint& p) const {
    const GridSegment& s = segments_[cell.source_index()];
    const FlatPoint a = as_flat(s.a), along = minus(as_flat(s.b), a), to = minus(p, a);
    if (cell.contains_segment()) return along.x * to.y - along.y * to.x < 0;
    const bool start = cell.source_category() == boost::polygon::SOURCE_CATEGORY_SEGMENT_START_POINT;
    return starts_at_edge_[start ? cell.source_index() : next_[cell.source_index()]];
  }

  [[nodiscard]] bool face_each_other(const Cell& a, const Cell& b, const FlatPoint& seen_from) const {
    const FlatPoint to_a = minus(touch(a, seen_from), seen_from),
                    to_b = minus(touch(b, seen_from), seen_from);
    const double near = length(to_a), far = length(to_b);
    return near >= 1 && far >= 1 && dot(to_a, to_b) <= kOpposite * near * far;
  }

  void take(const Cell& a, const Cell& b, const FlatPoint& middle, std::vector<Gap>& found) const {
    const FlatPoint on_a = touch(a, middle), on_b = touch(b, middle);
    if (!face_each_other(a, b, middle)) return;
    if (!is_free(a, middle) || !is_free(b, middle)) return;
    found.push_back({length(minus(on_a, on_b)), on_a, on_b, a.contains_point(), b.contains_point()});
  }

  // Along the edge between two sites the distance is least where the way between them crosses it straight.
  void look_between(const Cell& a, const Cell& b, const Edge& edge, std::vector<Gap>& found) const {
    const Vertex *from = edge.vertex0(), *to = edge.vertex1();
    if (!from || !to) return look_along_ray(a, b, edge, found);
    const FlatPoint p{from->x(), from->y()}, q{to->x(), to->y()};
    if (is_narrow_at(*from)) take(a, b, p, found);
    if (is_narrow_at(*to)) take(a, b, q, found);
    if (a.contains_segment() && b.contains_segment()) return;
    const Cell &point = a.contains_point() ? a : b, &other = a.contains_point() ? b : a;
    const FlatPoint here = touch(point, p);
    const FlatPoint there = other.contains_point() ? touch(other, p) : foot(other, here);
    const FlatPoint middle{(here.x + there.x) / 2, (here.y + there.y) / 2};
    const FlatPoint span = minus(q, p);
    const double t = dot(minus(middle, p), span);
    if (t < 0 || t > dot(span, span)) return;
    take(a, b, middle, found);
  }

  // Between two ends of walls, away from all else: the mouth of a channel that is narrowest there.
  void look_along_ray(const Cell& a, const Cell& b, const Edge& edge, std::vector<Gap>& found) const {
    const Vertex *from = edge.vertex0(), *to = edge.vertex1();
    if ((!from && !to) || !a.contains_point() || !b.contains_point()) return;
    const FlatPoint end = from ? FlatPoint{from->x(), from->y()} : FlatPoint{to->x(), to->y()};
    if (is_narrow_at(from ? *from : *to)) take(a, b, end, found);
    const FlatPoint here = touch(a, end), there = touch(b, end);
    const FlatPoint middle{(here.x + there.x) / 2, (here.y + there.y) / 2}, span = minus(there, here);
    // From its first vertex an edge has its own cell to the left.
    const double sense = from ? 1 : -1;
    const FlatPoint along{-span.y * sense, span.x * sense};
    if (dot(minus(middle, end), along) >= 0) take(a, b, middle, found);
  }

  FlatPoint foot(const Cell& segment, const FlatPoint& p) const {
    const GridSegment& s = segments_[segment.source_index()];
    return nearest_on(p, as_flat(s.a), as_flat(s.b));
  }

  [[nodiscard]] double room_at(const Vertex& vertex) const {
    const FlatPoint p{vertex.x(), vertex.y()};
    return length(minus(touch(*vertex.incident_edge()->cell(), p), p));
  }

  // Nowhere that one can go from there between sides that face each other is it narrower: a crevice that
  // comes to nothing, like that beside a boss that touches a wall, is no passage.
  [[nodiscard]] bool is_narrow_at(const Vertex& vertex) const {
    constexpr double kRounding = 2;  // steps of the grid
    const double here = room_at(vertex) - kRounding;
    const Edge* edge = vertex.incident_edge();
    do {
      if (edge->is_primary() && edge->vertex1() && room_at(*edge->vertex1()) < here &&
          face_each_other(*edge->cell(), *edge->twin()->cell(), {vertex.x(), vertex.y()}))
        return false;
      edge = edge->rot_next();
    } while (edge != vertex.incident_edge());
    return true;
  }

  void look_around(const Vertex& vertex, std::vector<Gap>& found) const {
    std::vector<const Cell*> cells;
    const Edge* edge = vertex.incident_edge();
    do {
      cells.push_back(edge->cell());
      edge = edge->rot_next();
    } while (edge != vertex.incident_edge());
    if (cells.size() < 4 || !is_narrow_at(vertex)) return;  // with three, every two share an edge
    for (size_t i = 0; i < cells.size(); ++i)
      for (size_t j = i + 1; j < cells.size(); ++j)
        take(*cells[i], *cells[j], {vertex.x(), vertex.y()}, found);
  }

  std::vector<GridSegment> segments_;
  std::vector<bool>
      starts_at_edge_;        // of each segment's first point: the outline turns round the material there
  std::vector<size_t> next_;  // the segment that follows
  Diagram diagram_;
};

// Which face of the part a place on a section's outline belongs to.
class FaceLookup {
 public:
  explicit FaceLookup(double cell_mm) : cell_mm_(cell_mm) {}

  void add(const Slab& slab) {
    for (const Outline& outline : slab.outlines)
      for (size_t i = 0; i < outline.points.size(); ++i)
        add({outline.points[i], outline.points[(i + 1) % outline.points.size()], outline.faces[i]});
  }

  // The faces there, the nearest first.
  [[nodiscard]] std::vector<int> faces_at(const FlatPoint& p, double within_mm) const {
    std::vector<std::pair<double, int>> near;
    const auto [column, row] = cell_of(p);
    for (int dx = -1; dx <= 1; ++dx)
      for (int dy = -1; dy <= 1; ++dy) {
        const auto at = cells_.find(key(column + dx, row + dy));
        if (at == cells_.end()) continue;
        for (const int i : at->second) {
          const double off = length(minus(p, nearest_on(p, sides_[i].a, sides_[i].b)));
          if (off < within_mm) near.emplace_back(off, sides_[i].face);
        }
      }
    std::sort(near.begin(), near.end());
    std::vector<int> faces;
    for (const auto& [off, face] : near)
      if (std::find(faces.begin(), faces.end(), face) == faces.end()) faces.push_back(face);
    return faces;
  }

 private:
  struct Side {
    FlatPoint a, b;
    int face;
  };
  static std::int64_t key(int column, int row) {
    return static_cast<std::int64_t>(column) << 32 ^ static_cast<std::uint32_t>(row);
  }
  [[nodiscard]] std::pair<int, int> cell_of(const FlatPoint& p) const {
    return {static_cast<int>(std::floor(p.x / cell_mm_)), static_cast<int>(std::floor(p.y / cell_mm_))};
  }
  void add(const Side& side) {
    // Upright walls stand at the same place at every level.
    const auto whole = [](double mm) { return std::llround(mm * 1e7); };
    if (!known_.emplace(side.face, whole(side.a.x), whole(side.a.y), whole(side.b.x), whole(side.b.y)).second)
      return;
    const int index = static_cast<int>(sides_.size());
    sides_.push_back(side);
    const int steps = 1 + static_cast<int>(2 * length(minus(side.b, side.a)) / cell_mm_);
    std::int64_t last = 0;
    for (int i = 0; i <= steps; ++i) {
      const double t = static_cast<double>(i) / steps;
      const auto [column, row] =
          cell_of({side.a.x + t * (side.b.x - side.a.x), side.a.y + t * (side.b.y - side.a.y)});
      const std::int64_t now = key(column, row);
      if (i == 0 || now != last) cells_[now].push_back(index);
      last = now;
    }
  }

  double cell_mm_;
  std::vector<Side> sides_;
  std::set<std::tuple<int, long long, long long, long long, long long>> known_;
  std::unordered_map<std::int64_t, std::vector<int>> cells_;
};

class PassageFinder {
 public:
  PassageFinder(const Part& part, const SectionStack& stack, const std::vector<bool>& sides)
      : topology_(part.topology()),
        turns_(whole_turns(part).by_patch),
        stack_(stack),
        sides_(sides),
        coarse_mm_(stack.coarse_mm),
        faces_(lookup_mm()) {}

  std::vector<Passage> run(const Progress& progress) {
    for (size_t s = 0; s < stack_.slabs.size() && !progress.stop(); ++s) {
      faces_.add(stack_.slabs[s]);
      if (!is_worth_it(s) || is_known(s)) continue;
      look_at(s);
      looked_at_ = s;
    }
    std::vector<Passage> sorted;
    for (auto& [patches, passage] : narrowest_) sorted.push_back(passage);
    std::sort(sorted.begin(), sorted.end(),
              [](const Passage& a, const Passage& b) { return a.width_mm < b.width_mm; });
    return sorted;
  }

 private:
  // Walls with draft are nearest at their foot; those of free form may be so anywhere.
  [[nodiscard]] bool is_worth_it(size_t s) const {
    for (const Outline& outline : stack_.slabs[s].outlines)
      for (const int face : outline.faces)
        if (sides_[face] &&
            (stack_.slabs[s].foot || topology_.faces[face].surface.kind == SurfaceKind::kFreeForm))
          return true;
    return false;
  }

  // Nothing new stands there since the last that was looked at: those between may have been left out.
  [[nodiscard]] bool is_known(size_t s) const {
    return looked_at_ && stack_.slabs[s].blocked == stack_.slabs[*looked_at_].blocked;
  }

  void look_at(size_t s) {
    std::vector<Gap> gaps = FreeMiddle(stack_.slabs[s].coarse).gaps();
    if (gaps.empty()) return;
    std::sort(gaps.begin(), gaps.end(), [](const Gap& a, const Gap& b) { return a.width < b.width; });
    for (const Gap& gap : gaps) {
      const FlatPoint a{gap.a.x / stack_.per_mm, gap.a.y / stack_.per_mm},
          b{gap.b.x / stack_.per_mm, gap.b.y / stack_.per_mm};
      const std::vector<int> at_a = faces_.faces_at(a, lookup_mm()), at_b = faces_.faces_at(b, lookup_mm());
      const auto both = facing(at_a, at_b);
      if (!both || is_mouth_of_a_relief(at_a, at_b)) continue;
      const auto [face_a, face_b] = *both;
      if (may_narrow(face_a, gap.b_is_edge, face_b) && may_narrow(face_b, gap.a_is_edge, face_a))
        consider(face_a, face_b, a, b, stack_.slabs[s]);
    }
  }

  // At the end of a wall lie two faces; what is looked for are two that face each other, not the end face
  // that both walls run out into.
  [[nodiscard]] std::optional<std::pair<int, int>> facing(const std::vector<int>& at_a,
                                                          const std::vector<int>& at_b) const {
    const auto own_of = [&](const std::vector<int>& faces, const std::vector<int>& others) {
      for (const int face : faces)
        if (sides_[face] && std::none_of(others.begin(), others.end(), [&](int other) {
              return topology_.faces[other].patch == topology_.faces[face].patch;
            }))
          return face;
      return !faces.empty() && sides_[faces.front()] ? faces.front() : -1;
    };
    const int a = own_of(at_a, at_b), b = own_of(at_b, at_a);
    return a < 0 || b < 0 ? std::nullopt : std::optional(std::pair(a, b));
  }

  [[nodiscard]] double lookup_mm() const { return 4 * stack_.bound_mm + 2 * coarse_mm_; }

  // The middle of a hollow wall is the narrowest place only against something that bulges towards it.
  [[nodiscard]] bool may_narrow(int face, bool other_is_edge, int other) const {
    const Surface &own = topology_.faces[face].surface, &faced = topology_.faces[other].surface;
    if (own.kind != SurfaceKind::kCylinder || !own.inside) return true;
    return other_is_edge || (faced.kind != SurfaceKind::kPlane && !faced.inside);
  }

  // The two edges at which a bore of more than half a turn opens into a pocket's corner: narrower than the
  // bore, but the cutter comes down into it.
  [[nodiscard]] bool is_mouth_of_a_relief(const std::vector<int>& at_a, const std::vector<int>& at_b) const {
    return std::any_of(at_a.begin(), at_a.end(), [&](int a) {
      const Surface& s = topology_.faces[a].surface;
      const int patch = topology_.faces[a].patch;
      return s.kind == SurfaceKind::kCylinder && s.inside && turns_[patch] > kMoreThanHalf_rad &&
             std::any_of(at_b.begin(), at_b.end(), [&](int b) { return topology_.faces[b].patch == patch; });
    });
  }

  // What lies between two bodies belongs to neither: each is cut for itself.
  void consider(int face_a, int face_b, const FlatPoint& a, const FlatPoint& b, const Slab& slab) {
    if (topology_.faces[face_a].body != topology_.faces[face_b].body) return;
    const int patch_a = topology_.faces[face_a].patch, patch_b = topology_.faces[face_b].patch;
    if (patch_a == patch_b && topology_.patches[patch_a].surface.kind != SurfaceKind::kFreeForm) return;
    const double width = length(minus(a, b));
    const auto at = narrowest_.find(std::minmax(patch_a, patch_b));
    if (at != narrowest_.end() && at->second.width_mm + 2 * coarse_mm_ <= width) return;
    Passage passage;
    passage.face_a = face_a;
    passage.face_b = face_b;
    passage.approximate = !is_exact(face_a) || !is_exact(face_b);
    const double level = (slab.bottom_mm + slab.top_mm) / 2;
    passage.on_a = stack_.in_part(a, level);
    passage.on_b = stack_.in_part(b, level);
    if (overhangs(face_a) || overhangs(face_b)) meet_at_mouths(passage, slab);
    if (!passage.approximate) make_exact(passage);
    passage.width_mm = passage.on_a.Distance(passage.on_b);
    // Too narrow to be told from none at all.
    if (passage.width_mm < 2 * slab.bound_mm) return;
    if (at == narrowest_.end() || passage.width_mm < at->second.width_mm)
      narrowest_[std::minmax(patch_a, patch_b)] = passage;
  }

  [[nodiscard]] bool is_exact(int face) const {
    const Surface& s = topology_.faces[face].surface;
    if (s.kind == SurfaceKind::kPlane) return is_upright_plane(s) || overhangs(face);
    return s.kind == SurfaceKind::kCylinder &&
           parallel(s.position.Direction(), stack_.frame.Direction(), kWall_rad);
  }

  [[nodiscard]] double level_of(const gp_Pnt& p) const {
    return gp_Vec(stack_.frame.Location(), p).Dot(gp_Vec(stack_.frame.Direction()));
  }
  [[nodiscard]] bool is_upright_plane(const Surface& s) const {
    return square(s.position.Direction(), stack_.frame.Direction(), kWall_rad);
  }
  [[nodiscard]] bool overhangs(int face) const {
    const Surface& s = topology_.faces[face].surface;
    return s.kind == SurfaceKind::kPlane && !is_upright_plane(s) &&
           s.position.Direction().Dot(stack_.frame.Direction()) < 0;
  }

  // Seen along the axis, the point of a flat face's border that is nearest to p.
  [[nodiscard]] FlatPoint nearest_on_border(int face, const FlatPoint& p) const {
    constexpr int kPieces = 64;
    FlatPoint nearest = p;
    double least = 1e300;
    for (const int edge : topology_.faces[face].edges) {
      const BRepAdaptor_Curve curve(topology_.edges[edge].edge);
      const int pieces = curve.GetType() == GeomAbs_Line ? 1 : kPieces;
      const double from = curve.FirstParameter(), step = (curve.LastParameter() - from) / pieces;
      for (int i = 0; i < pieces; ++i) {
        const FlatPoint on = nearest_on(p, stack_.flat(curve.Value(from + step * i)),
                                        stack_.flat(curve.Value(from + step * (i + 1))));
        if (const double off = length(minus(p, on)); off < least)
          std::tie(least, nearest) = std::pair(off, on);
      }
    }
    return nearest;
  }

  // Where a wall leans over, the sections lie below its upper edge, which is what a cutter meets first.
  // No farther than it leans between two sections: else it is another part of the face.
  void meet_at_mouths(Passage& passage, const Slab& slab) const {
    constexpr int kRounds = 8;
    const double level = level_of(passage.on_a), half_mm = (slab.top_mm - slab.bottom_mm) / 2;
    const FlatPoint a0 = stack_.flat(passage.on_a), b0 = stack_.flat(passage.on_b);
    FlatPoint a = a0, b = b0;
    for (int i = 0; i < kRounds; ++i) {
      if (overhangs(passage.face_a)) a = nearest_on_border(passage.face_a, b);
      if (overhangs(passage.face_b)) b = nearest_on_border(passage.face_b, a);
    }
    const auto within = [&](int face, double off) {
      if (!overhangs(face)) return true;
      const gp_Dir normal = topology_.faces[face].surface.position.Direction();
      const double along = std::abs(normal.Dot(stack_.frame.Direction()));
      return off <= half_mm * along / std::sqrt(std::max(1e-12, 1 - along * along)) + lookup_mm();
    };
    if (!within(passage.face_a, length(minus(a, a0))) || !within(passage.face_b, length(minus(b, b0)))) {
      passage.approximate = true;
      return;
    }
    passage.on_a = stack_.in_part(a, level);
    passage.on_b = stack_.in_part(b, level);
  }

  // The point of a wall nearest to p, at p's level.
  [[nodiscard]] gp_Pnt foot_on_wall(int face, const gp_Pnt& p) const {
    const Surface& s = topology_.faces[face].surface;
    if (overhangs(face)) return stack_.in_part(nearest_on_border(face, stack_.flat(p)), level_of(p));
    if (s.kind == SurfaceKind::kPlane) return foot_on(s.plane(), p);
    const gp_Pnt middle = foot_on(s.axis(), p);
    const gp_Vec out(middle, p);
    if (out.Magnitude() < 1e-9) return p;
    return middle.Translated(out.Normalized() * s.radius_mm);
  }

  // How far the polygons may have put a point off its place along a wall: by rounding to the grid, and where
  // one of both is an arc by up to a chord.
  [[nodiscard]] double may_slide(const Passage& passage) const {
    double radius = 0;
    for (const int face : {passage.face_a, passage.face_b})
      if (const Surface& s = topology_.faces[face].surface; s.kind == SurfaceKind::kCylinder)
        radius = std::max(radius, s.radius_mm);
    return 8 / stack_.per_mm + std::sqrt(8 * radius * coarse_mm_);
  }

  // Going to and fro between the two walls leads to where they are nearest; an end that is the edge of a
  // wall, and not the nearest place of its surface, stays where it is.
  void make_exact(Passage& passage) const {
    const gp_Pnt a0 = passage.on_a, b0 = passage.on_b;
    const double slide = may_slide(passage);
    const auto stays_on = [&](int face, const gp_Pnt& p, const gp_Pnt& from) {
      if (p.Distance(from) > slide) return false;
      const std::vector<int> near = faces_.faces_at(stack_.flat(p), 2 * stack_.arc_mm + 8 / stack_.per_mm);
      // The wall may be in pieces, and the nearest place on another one.
      return std::any_of(near.begin(), near.end(), [&](int other) {
        return topology_.faces[other].patch == topology_.faces[face].patch;
      });
    };
    for (int i = 0; i < kAlternations; ++i) {
      const gp_Pnt next_a = foot_on_wall(passage.face_a, passage.on_b);
      if (stays_on(passage.face_a, next_a, a0)) passage.on_a = next_a;
      const gp_Pnt next_b = foot_on_wall(passage.face_b, passage.on_a);
      const double moved = next_b.Distance(passage.on_b);
      if (stays_on(passage.face_b, next_b, b0)) passage.on_b = next_b;
      if (moved < 1e-12) break;
    }
  }

  const TopologyIndex& topology_;
  const std::vector<double>& turns_;
  const SectionStack& stack_;
  const std::vector<bool>& sides_;
  double coarse_mm_;
  std::optional<size_t> looked_at_;
  FaceLookup faces_;  // of all slabs down to the one that is looked at
  std::map<std::pair<int, int>, Passage> narrowest_;
};

}  // namespace

std::vector<Passage> passages_in(const Part& part, const SectionStack& stack, const std::vector<bool>& sides,
                                 const Progress& progress) {
  return PassageFinder(part, stack, sides).run(progress);
}

}  // namespace anvil
