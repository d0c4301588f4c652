#include "inspect/mesh_slicer.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

// Corners of triangles of two faces that are nearer than this are one.
constexpr double kOnePoint_mm = 1e-7;
constexpr double kUpright = 1e-4;  // sine

// Bodies that touch are cut each for itself.
struct PointKey {
  int body;
  std::int64_t x, y, z;
  bool operator==(const PointKey& o) const = default;
};
struct PointHash {
  size_t operator()(const PointKey& k) const {
    return static_cast<size_t>(k.body ^ k.x * 73856093 ^ k.y * 19349663 ^ k.z * 83492791);
  }
};

double turned(const FlatPoint& a, const FlatPoint& b) {
  return std::atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y);
}

}  // namespace

double Outline::area() const {
  double twice = 0;
  for (size_t i = 0; i < points.size(); ++i) {
    const FlatPoint &a = points[i], &b = points[(i + 1) % points.size()];
    twice += a.x * b.y - a.y * b.x;
  }
  return twice / 2;
}

MeshSlicer::MeshSlicer(const Part& part, const gp_Ax2& frame, double arc_tolerance_mm)
    : arc_tolerance_mm_(arc_tolerance_mm) {
  std::vector<int> bodies;
  for (const FaceInfo& face : part.topology().faces) {
    bodies.push_back(face.body);
    Circle circle;
    if (face.surface.kind == SurfaceKind::kCylinder &&
        parallel(face.surface.position.Direction(), frame.Direction(), kWall_rad)) {
      const gp_Pnt centre = read_in(frame, face.surface.position.Location());
      circle = {{centre.X(), centre.Y()}, face.surface.radius_mm};
    }
    circles_.push_back(circle);
  }
  index_facets(rays_of(part).triangles(), bodies, frame);
  index_sides();
}

void MeshSlicer::index_facets(const std::vector<Triangle>& triangles, const std::vector<int>& bodies,
                              const gp_Ax2& frame) {
  std::unordered_map<PointKey, int, PointHash> known;
  known.reserve(triangles.size());
  lowest_ = 1e300;
  highest_ = -1e300;
  const auto vertex = [&](int body, const gp_Pnt& at) {
    const gp_Pnt p = read_in(frame, at);
    const auto cell = [](double v) {
      return static_cast<std::int64_t>(std::llround(v / (8 * kOnePoint_mm)));
    };
    const auto [known_at, is_new] =
        known.try_emplace({body, cell(p.X()), cell(p.Y()), cell(p.Z())}, static_cast<int>(vertices_.size()));
    if (is_new) {
      vertices_.push_back({p.X(), p.Y(), p.Z()});
      lowest_ = std::min(lowest_, p.Z());
      highest_ = std::max(highest_, p.Z());
    }
    return known_at->second;
  };
  facets_.reserve(triangles.size());
  for (const Triangle& t : triangles) {
    const int body = bodies[t.face];
    Facet facet{{vertex(body, t.a), vertex(body, t.b), vertex(body, t.c)}, {}, t.face, false, 0, 0};
    const auto& v = facet.vertices;
    if (v[0] == v[1] || v[1] == v[2] || v[2] == v[0]) continue;
    facet.bottom = std::min({vertices_[v[0]].level, vertices_[v[1]].level, vertices_[v[2]].level});
    facet.top = std::max({vertices_[v[0]].level, vertices_[v[1]].level, vertices_[v[2]].level});
    const gp_Vec normal = gp_Vec(t.a, t.b).Crossed(gp_Vec(t.a, t.c));
    const double up =
        normal.Magnitude() > 1e-30 ? std::abs(normal.Normalized().Dot(gp_Vec(frame.Direction()))) : 1;
    facet.slanted = up > kUpright && facet.top - facet.bottom > kOnePoint_mm;
    facets_.push_back(facet);
  }
  if (facets_.empty()) lowest_ = highest_ = 0;
}

void MeshSlicer::index_sides() {
  std::unordered_map<std::uint64_t, int> known;
  known.reserve(facets_.size() * 2);
  for (Facet& facet : facets_)
    for (int i = 0; i < 3; ++i) {
      const auto [low, high] = std::minmax(facet.vertices[i], facet.vertices[(i + 1) % 3]);
      const std::uint64_t key = static_cast<std::uint64_t>(low) << 32 | static_cast<std::uint32_t>(high);
      const auto [at, is_new] = known.try_emplace(key, static_cast<int>(sides_.size()));
      if (is_new)
        sides_.push_back({low, high, facet.face});
      else if (sides_[at->second].owner != facet.face)
        sides_[at->second].owner = -1;
      facet.sides[i] = at->second;
    }
}

bool MeshSlicer::is_prismatic(double bottom, double top) const {
  return std::none_of(facets_.begin(), facets_.end(), [&](const Facet& f) {
    return f.slanted && f.bottom < top - kOnePoint_mm && f.top > bottom + kOnePoint_mm;
  });
}

FlatPoint MeshSlicer::crossing(const Side& side, double level) const {
  const Vertex &a = vertices_[side.low], &b = vertices_[side.high];
  const double t = (level - a.level) / (b.level - a.level);
  FlatPoint p{a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)};
  if (side.owner < 0 || circles_[side.owner].radius_mm <= 0) return p;
  const Circle& circle = circles_[side.owner];
  const double dx = p.x - circle.centre.x, dy = p.y - circle.centre.y, off = std::hypot(dx, dy);
  if (off < 1e-12) return p;
  return {circle.centre.x + dx / off * circle.radius_mm, circle.centre.y + dy / off * circle.radius_mm};
}

// Points stand at the same angles of a circle in every section, so that sections of one wall are the same and
// their union has no more points than each of them; where a facet ends within the wall is nobody's point.
void MeshSlicer::add_arc(Outline& outline, const Side& from_side, const Side& to_side, double level,
                         int face) const {
  const Circle& circle = circles_[face];
  const FlatPoint from = crossing(from_side, level);
  const auto add = [&](const FlatPoint& p) {
    outline.points.push_back(p);
    outline.faces.push_back(face);
  };
  if (circle.radius_mm <= 0) return add(from);
  const FlatPoint to = crossing(to_side, level);
  const FlatPoint a{from.x - circle.centre.x, from.y - circle.centre.y},
      b{to.x - circle.centre.x, to.y - circle.centre.y};
  const bool starts_within = from_side.owner == face, ends_within = to_side.owner == face;
  if (!starts_within) add(from);
  const double sweep = turned(a, b), sense = sweep < 0 ? -1 : 1, start = sense * std::atan2(a.y, a.x),
               widest = 2 * std::acos(std::max(0.5, 1 - arc_tolerance_mm_ / circle.radius_mm));
  const double step = 2 * kPi / std::ceil(2 * kPi / widest);
  // Ends within the wall are taken in from both sides rather than lost between them.
  const double margin = 1e-3 * step, first = start + (starts_within ? -1e-12 : margin),
               last = start + std::abs(sweep) + (ends_within ? 1e-12 : -margin);
  for (double k = std::ceil(first / step); k * step < last; ++k) {
    const double turn = sense * k * step;
    add({circle.centre.x + circle.radius_mm * std::cos(turn),
         circle.centre.y + circle.radius_mm * std::sin(turn)});
  }
}

MeshSlicer::Slice MeshSlicer::at(double level) const {
  // From the side that a facet crosses downward to the one it crosses upward: the material lies to the left.
  struct Step {
    int to, face;
  };
  std::unordered_map<int, Step> steps;
  Slice slice;
  for (const Facet& facet : facets_) {
    if (facet.bottom > level || facet.top <= level) continue;
    int up = -1, down = -1;
    for (int i = 0; i < 3; ++i) {
      const bool from_above = vertices_[facet.vertices[i]].level > level,
                 to_above = vertices_[facet.vertices[(i + 1) % 3]].level > level;
      if (!from_above && to_above) up = facet.sides[i];
      if (from_above && !to_above) down = facet.sides[i];
    }
    if (up >= 0 && down >= 0 && !steps.try_emplace(down, Step{up, facet.face}).second) slice.complete = false;
  }
  while (!steps.empty()) {
    Outline outline;
    const int start = steps.begin()->first;
    int now = start;
    while (true) {
      const auto at = steps.find(now);
      if (at == steps.end()) break;
      const Step step = at->second;
      steps.erase(at);
      add_arc(outline, sides_[now], sides_[step.to], level, step.face);
      now = step.to;
    }
    if (now != start) {
      slice.complete = false;
      continue;
    }
    slice.outlines.push_back(std::move(outline));
  }
  return slice;
}

}  // namespace anvil
