#include "correct/fillets.h"

#include <fmt/format.h>

#include <BRepFilletAPI_MakeFillet.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <set>

#include "correct/close_feature.h"
#include "geom/guard.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

double rounding_radius(const Surface& surface) {
  if (surface.kind == SurfaceKind::kCylinder || surface.kind == SurfaceKind::kSphere)
    return surface.radius_mm;
  return surface.kind == SurfaceKind::kTorus ? surface.minor_mm : 0;
}

bool is_rounding(const TopologyIndex& topology, int face, double radius_mm) {
  return std::abs(rounding_radius(topology.faces[face].surface) - radius_mm) < 1e-6;
}

// The faces that a rounding lies between: those it meets smoothly and that are none of the roundings.
std::vector<int> sides_of(const TopologyIndex& topology, int face, const std::set<int>& roundings) {
  std::set<int> sides;
  for (const int edge : topology.faces[face].edges) {
    const EdgeInfo& info = topology.edges[edge];
    const int next = info.other_face(face);
    if (next >= 0 && next != face && !roundings.count(next) && info.convexity == Convexity::kSmooth)
      sides.insert(next);
  }
  return {sides.begin(), sides.end()};
}

std::vector<TopoDS_Shape> now(const TopoDS_Shape& face, const BRepTools_History& history) {
  const TopTools_ListOfShape& modified = history.Modified(face);
  if (modified.IsEmpty()) return {face};
  return {modified.begin(), modified.end()};
}

// The edges where the two sides of a rounding meet after it was taken off.
std::vector<TopoDS_Edge> edges_of(const TopologyIndex& topology, const std::vector<int>& sides,
                                  const BodyChange& sharp) {
  std::vector<TopoDS_Edge> edges;
  for (const TopoDS_Shape& a : now(topology.faces[sides[0]].face, *sharp.history))
    for (const TopoDS_Shape& b : now(topology.faces[sides[1]].face, *sharp.history)) {
      const ShapeSet of_a = shapes_in(a, TopAbs_EDGE);
      for (const TopoDS_Shape& edge : shapes_in(b, TopAbs_EDGE))
        if (of_a.count(edge)) edges.push_back(TopoDS::Edge(edge));
    }
  return edges;
}

}  // namespace

std::vector<int> rounding_chain(const TopologyIndex& topology, const std::vector<int>& faces) {
  std::set<int> chain(faces.begin(), faces.end());
  std::vector<int> waiting = faces;
  while (!waiting.empty()) {
    const int face = waiting.back();
    waiting.pop_back();
    const double radius = rounding_radius(topology.faces[face].surface);
    for (const int edge : topology.faces[face].edges) {
      const EdgeInfo& info = topology.edges[edge];
      const int next = info.other_face(face);
      if (next < 0 || chain.count(next) || info.convexity != Convexity::kSmooth ||
          !is_rounding(topology, next, radius))
        continue;
      chain.insert(next);
      waiting.push_back(next);
    }
  }
  return {chain.begin(), chain.end()};
}

Result<BodyChange> with_radius(const TopoDS_Shape& body, const TopologyIndex& topology,
                               const std::vector<int>& faces, double radius_mm) {
  const std::set<int> roundings(faces.begin(), faces.end());
  auto sharp = without_feature(body, topology, feature_of(topology, faces), Expected::kEither);
  if (!sharp) return refuse(sharp);
  return guarded("rounding", [&]() -> Result<BodyChange> {
    BRepFilletAPI_MakeFillet rounding(sharp->shape);
    ShapeSet added;
    std::vector<std::pair<int, TopoDS_Edge>> made_on;
    for (const int face : faces) {
      const std::vector<int> sides = sides_of(topology, face, roundings);
      if (sides.size() != 2) continue;  // a corner between others
      for (const TopoDS_Edge& edge : edges_of(topology, sides, *sharp)) {
        made_on.emplace_back(face, edge);
        if (added.insert(edge).second) rounding.Add(radius_mm, edge);
      }
    }
    if (added.empty())
      return refuse(RefusalCode::kGeometry,
                    "the faces beside the rounding do not meet in an edge without it");
    rounding.Build();
    if (!rounding.IsDone())
      return refuse(RefusalCode::kGeometry,
                    fmt::format("no rounding of {:.3f} fits there: the faces beside it are too small for it",
                                radius_mm));
    BodyChange round;
    round.shape = rounding.Shape();
    round.may_cross = true;
    for (const TopAbs_ShapeEnum kind : {TopAbs_FACE, TopAbs_EDGE, TopAbs_VERTEX})
      for (const TopoDS_Shape& old : shapes_in(sharp->shape, kind))
        for (const TopoDS_Shape& piece : rounding.Modified(old)) round.history->AddModified(old, piece);
    auto judged_round = judged(sharp->shape, std::move(round), Expected::kEither);
    if (!judged_round) return refuse(judged_round);
    BodyChange change = then(std::move(*sharp), *judged_round);
    for (const auto& [face, edge] : made_on)
      for (const TopoDS_Shape& piece : rounding.Generated(edge)) {
        if (piece.ShapeType() != TopAbs_FACE) continue;
        change.history->AddModified(topology.faces[face].face, piece);
        change.moved.insert({topology.faces[face].face, piece});
      }
    const double net = change.added_mm3 - change.removed_mm3;
    change.added_mm3 = std::max(0.0, net);
    change.removed_mm3 = std::max(0.0, -net);
    return change;
  });
}

}  // namespace anvil
