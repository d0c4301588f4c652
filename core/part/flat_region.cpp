#include "part/flat_region.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom_Plane.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

namespace anvil {
namespace {

using Loop = std::vector<int>;
constexpr double kSameArea = 1e-6;  // of the area to cover

double side(const gp_XY& a, const gp_XY& b, const gp_XY& of) {
  return (b - a).Crossed(of - a);
}

double area_of(const FlatPoints& points, const Loop& loop) {
  double twice = 0;
  for (size_t i = 0; i < loop.size(); ++i)
    twice += (points[loop[i]].XY() - points[loop[0]].XY())
                 .Crossed(points[loop[(i + 1) % loop.size()]].XY() - points[loop[0]].XY());
  return twice / 2;
}

template <class PointAt>
bool is_inside(size_t count, const PointAt& at, const gp_XY& point) {
  bool inside = false;
  for (size_t i = 0; i < count; ++i) {
    const gp_XY &a = at(i), &b = at((i + 1) % count);
    if ((a.Y() > point.Y()) != (b.Y() > point.Y()) &&
        point.X() < a.X() + (point.Y() - a.Y()) / (b.Y() - a.Y()) * (b.X() - a.X()))
      inside = !inside;
  }
  return inside;
}

bool cross(const gp_XY& a, const gp_XY& b, const gp_XY& c, const gp_XY& d) {
  return side(a, b, c) * side(a, b, d) <= 0 && side(c, d, a) * side(c, d, b) <= 0;
}

using Steps = std::multimap<int, int>;  // along the border of a region, which lies to the left

// Where two parts of a region touch in a point, the one that came is gone on with: the first way out,
// clockwise from where it came.
Steps::iterator next_step(const FlatPoints& points, Steps& steps, int from, int at) {
  const auto [first, last] = steps.equal_range(at);
  const gp_XY back = points[from].XY() - points[at].XY();
  auto best = steps.end();
  double least = 1e300;
  for (auto step = first; step != last; ++step) {
    const gp_XY on = points[step->second].XY() - points[at].XY();
    double turn = std::atan2(on.Crossed(back), on.Dot(back));
    if (turn <= 0) turn += 2 * std::numbers::pi;
    if (turn < least) least = turn, best = step;
  }
  return best;
}

std::optional<std::vector<Loop>> loops_around(const FlatPoints& points,
                                              const std::vector<FlatTriangle>& removed,
                                              const std::vector<bool>& gone) {
  std::set<std::pair<int, int>> sides;
  for (const FlatTriangle& t : removed)
    for (int i = 0; i < 3; ++i) sides.insert({t[i], t[(i + 1) % 3]});
  const auto is_gone = [&](int node) { return node < static_cast<int>(gone.size()) && gone[node]; };
  Steps steps;
  for (const auto& [from, to] : sides) {
    if (sides.count({to, from}) || (is_gone(from) && is_gone(to))) continue;
    if (is_gone(from) || is_gone(to)) return std::nullopt;
    steps.emplace(from, to);
  }
  std::vector<Loop> loops;
  while (!steps.empty()) {
    Loop& loop = loops.emplace_back();
    std::vector<Steps::iterator> taken;
    auto step = steps.begin();
    do {
      taken.push_back(step);
      loop.push_back(step->first);
      step = next_step(points, steps, step->first, step->second);
    } while (step != steps.end() && step != taken.front() && taken.size() <= steps.size());
    if (step != taken.front()) return std::nullopt;
    for (const auto& done : taken) steps.erase(done);
  }
  return loops;
}

// A loop of straight edges in the XY plane; the edges in its order.
TopoDS_Wire wire_of(const FlatPoints& points, const Loop& loop, std::vector<TopoDS_Edge>& edges) {
  const BRep_Builder builder;
  std::vector<TopoDS_Vertex> vertices(loop.size());
  for (size_t i = 0; i < loop.size(); ++i)
    builder.MakeVertex(vertices[i], gp_Pnt(points[loop[i]].X(), points[loop[i]].Y(), 0), 1e-9);
  TopoDS_Wire wire;
  builder.MakeWire(wire);
  for (size_t i = 0; i < loop.size(); ++i) {
    edges.push_back(BRepBuilderAPI_MakeEdge(vertices[i], vertices[(i + 1) % loop.size()]).Edge());
    builder.Add(wire, edges.back());
  }
  wire.Closed(true);
  return wire;
}

// A region inside the first loop and outside the others, by the kernel's triangulation.
bool fill(const FlatPoints& points, const std::vector<Loop>& loops, std::vector<FlatTriangle>& triangles) {
  std::vector<TopoDS_Edge> edges;
  TopoDS_Face face;
  BRep_Builder().MakeFace(face, new Geom_Plane(gp_Pln()), 1e-9);
  for (const Loop& loop : loops) BRep_Builder().Add(face, wire_of(points, loop, edges));
  const BRepMesh_IncrementalMesh meshing(face, 1.0, false, 1.0, false);
  TopLoc_Location location;
  const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, location);
  if (mesh.IsNull()) return false;
  std::vector<int> node_of(mesh->NbNodes() + 1, -1);
  size_t edge = 0;
  for (const Loop& loop : loops)
    for (const int node : loop) {
      const auto ends = BRep_Tool::PolygonOnTriangulation(edges[edge++], mesh, location);
      if (ends.IsNull() || ends->NbNodes() != 2) return false;
      node_of[ends->Node(1)] = node;
    }
  for (int i = 1; i <= mesh->NbTriangles(); ++i) {
    int a = 0, b = 0, c = 0;
    mesh->Triangle(i).Get(a, b, c);
    triangles.push_back({node_of[a], node_of[b], node_of[c]});
    if (std::min({node_of[a], node_of[b], node_of[c]}) < 0) return false;
  }
  return true;
}

}  // namespace

FlatOutlines::FlatOutlines(const FlatPoints& points, const std::vector<std::vector<int>>& outlines)
    : points_(points) {
  for (const Loop& loop : outlines) {
    Outline& outline = outlines_.emplace_back();
    outline.low = outline.high = points[loop.front()].XY();
    for (const int node : loop) {
      const gp_XY at = points[node].XY();
      outline.points.emplace_back(at);
      outline.low = {std::min(outline.low.X(), at.X()), std::min(outline.low.Y(), at.Y())};
      outline.high = {std::max(outline.high.X(), at.X()), std::max(outline.high.Y(), at.Y())};
    }
  }
}

bool FlatOutlines::touch(const FlatTriangle& triangle) const {
  const std::array<gp_XY, 3> t{points_[triangle[0]].XY(), points_[triangle[1]].XY(),
                               points_[triangle[2]].XY()};
  const auto [left, right] = std::minmax({t[0].X(), t[1].X(), t[2].X()});
  const auto [bottom, top] = std::minmax({t[0].Y(), t[1].Y(), t[2].Y()});
  for (const Outline& outline : outlines_) {
    if (left > outline.high.X() || right < outline.low.X() || bottom > outline.high.Y() ||
        top < outline.low.Y())
      continue;
    const size_t count = outline.points.size();
    const auto at = [&](size_t i) { return outline.points[i].XY(); };
    if (is_inside(
            3, [&](size_t i) { return t[i]; }, at(0)) ||
        is_inside(count, at, t[0]))
      return true;
    for (size_t i = 0; i < count; ++i)
      for (int k = 0; k < 3; ++k)
        if (cross(at(i), at((i + 1) % count), t[k], t[(k + 1) % 3])) return true;
  }
  return false;
}

std::optional<std::vector<FlatTriangle>> filled_region(const FlatPoints& points,
                                                       const std::vector<FlatTriangle>& removed,
                                                       const std::vector<bool>& gone,
                                                       const std::vector<Loop>& outlines) {
  const auto around = loops_around(points, removed, gone);
  if (!around) return std::nullopt;
  std::vector<std::vector<Loop>> regions;  // the outer loop first
  std::vector<Loop> holes;
  double to_cover = 0;
  for (const Loop& loop : *around) {
    const double area = area_of(points, loop);
    to_cover += area;
    area > 0 ? void(regions.push_back({loop})) : holes.push_back(loop);
  }
  for (const Loop& outline : outlines) {
    holes.push_back(outline);
    const double area = area_of(points, outline);
    if (area > 0) std::reverse(holes.back().begin(), holes.back().end());
    to_cover -= std::abs(area);
  }
  // Into the smallest region around it.
  std::sort(regions.begin(), regions.end(), [&](const auto& a, const auto& b) {
    return area_of(points, a.front()) < area_of(points, b.front());
  });
  for (const Loop& hole : holes) {
    const auto own = std::find_if(regions.begin(), regions.end(), [&](const auto& region) {
      const Loop& outer = region.front();
      return is_inside(
          outer.size(), [&](size_t i) { return points[outer[i]].XY(); },
          (points[hole[0]].XY() + points[hole[1]].XY()) / 2);
    });
    if (own == regions.end()) return std::nullopt;
    own->push_back(hole);
  }
  std::vector<FlatTriangle> triangles;
  for (const auto& loops : regions)
    if (!fill(points, loops, triangles)) return std::nullopt;
  double covered = 0;
  for (const FlatTriangle& t : triangles) covered += std::abs(area_of(points, Loop(t.begin(), t.end())));
  if (std::abs(covered - to_cover) > kSameArea * std::abs(to_cover)) return std::nullopt;
  return triangles;
}

}  // namespace anvil
