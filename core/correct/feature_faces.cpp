#include "correct/feature_faces.h"

#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <map>
#include <set>

#include "part/outer_wire.h"

namespace anvil {
namespace {

// The inner outlines of faces, looked at when they are asked for.
class InnerOutlines {
 public:
  explicit InnerOutlines(const TopologyIndex& topology) : topology_(topology) {}

  // All edges of the inner outline of `face` that `edge` is in; null when it is in the outer one.
  const std::vector<int>* holding(int face, int edge) {
    auto [known, is_new] = faces_.try_emplace(face);
    if (is_new) known->second = outlines_of(face);
    const auto at = known->second.of_edge.find(edge);
    return at == known->second.of_edge.end() ? nullptr : &known->second.outlines[at->second];
  }

 private:
  struct Outlines {
    std::vector<std::vector<int>> outlines;
    std::map<int, size_t> of_edge;
  };

  Outlines outlines_of(int face) const {
    Outlines result;
    const TopoDS_Face& shape = topology_.faces[face].face;
    if (shape.NbChildren() < 2) return result;
    const TopoDS_Wire outer = outer_wire(shape);
    for (TopoDS_Iterator wires(shape); wires.More(); wires.Next()) {
      if (wires.Value().ShapeType() != TopAbs_WIRE || wires.Value().IsSame(outer)) continue;
      std::vector<int> edges;
      for (TopExp_Explorer it(wires.Value(), TopAbs_EDGE); it.More(); it.Next())
        if (const int edge = topology_.find_edge(it.Current()); edge >= 0) edges.push_back(edge);
      for (const int edge : edges) result.of_edge[edge] = result.outlines.size();
      result.outlines.push_back(std::move(edges));
    }
    return result;
  }

  const TopologyIndex& topology_;
  std::map<int, Outlines> faces_;
};

class Growth {
 public:
  explicit Growth(const TopologyIndex& topology) : topology_(topology), inner_(topology) {}

  std::optional<Feature> run(const std::vector<int>& picked) {
    for (const int face : picked) take(face);
    while (!waiting_.empty()) {
      const int face = waiting_.back();
      waiting_.pop_back();
      for (const int edge : topology_.faces[face].edges) cross(face, edge);
    }
    const int body = topology_.faces[picked.front()].body;
    const auto all = std::count_if(topology_.faces.begin(), topology_.faces.end(),
                                   [&](const FaceInfo& face) { return face.body == body; });
    if (static_cast<long>(taken_.size()) >= all) return std::nullopt;
    return told();
  }

  Feature only(const std::vector<int>& faces) {
    taken_.insert(faces.begin(), faces.end());
    return told();
  }

 private:
  void take(int face) {
    if (taken_.insert(face).second) waiting_.push_back(face);
  }

  void cross(int face, int edge) {
    const int next = topology_.edges[edge].other_face(face);
    if (next < 0 || taken_.count(next)) return;
    const std::vector<int>* outline = inner_.holding(next, edge);
    if (!outline) return take(next);
    // What else stands in that outline belongs to it.
    for (const int other : *outline)
      if (const int beside = topology_.edges[other].other_face(next); beside >= 0 && beside != next)
        take(beside);
  }

  Feature told() { return {{taken_.begin(), taken_.end()}, stands_free()}; }

  bool stands_free() {
    for (const int face : taken_)
      for (const int edge : topology_.faces[face].edges) {
        const int next = topology_.edges[edge].other_face(face);
        if (next < 0 || topology_.edges[edge].extra_faces) return false;
        if (!taken_.count(next) && !is_whole_outline(next, edge)) return false;
      }
    return true;
  }

  // All of the inner outline of `host` that `edge` is in borders what was taken.
  bool is_whole_outline(int host, int edge) {
    const std::vector<int>* outline = inner_.holding(host, edge);
    return outline && std::all_of(outline->begin(), outline->end(), [&](int other) {
             return taken_.count(topology_.edges[other].other_face(host)) > 0;
           });
  }

  const TopologyIndex& topology_;
  InnerOutlines inner_;
  std::set<int> taken_;
  std::vector<int> waiting_;
};

}  // namespace

std::optional<Feature> feature_around(const TopologyIndex& topology, const std::vector<int>& picked) {
  return picked.empty() ? std::nullopt : Growth(topology).run(picked);
}

Feature feature_of(const TopologyIndex& topology, const std::vector<int>& faces) {
  return Growth(topology).only(faces);
}

std::vector<int> with_roundings(const TopologyIndex& topology, const std::vector<int>& faces) {
  std::set<int> all(faces.begin(), faces.end());
  std::vector<int> waiting = faces;
  while (!waiting.empty()) {
    const int face = waiting.back();
    waiting.pop_back();
    for (const int edge : topology.faces[face].edges) {
      const int next = topology.edges[edge].other_face(face);
      if (next < 0 || topology.edges[edge].convexity != Convexity::kSmooth) continue;
      const SurfaceKind kind = topology.faces[next].surface.kind;
      const bool is_round =
          kind == SurfaceKind::kCylinder || kind == SurfaceKind::kTorus || kind == SurfaceKind::kSphere;
      if (is_round && all.insert(next).second) waiting.push_back(next);
    }
  }
  return {all.begin(), all.end()};
}

std::vector<int> standing_in(const TopologyIndex& topology, const std::vector<int>& faces) {
  const std::set<int> own(faces.begin(), faces.end());
  InnerOutlines inner(topology);
  std::set<int> standing;
  for (const int face : faces)
    for (const int edge : topology.faces[face].edges) {
      const int next = topology.edges[edge].other_face(face);
      if (next < 0 || own.count(next) || standing.count(next) || !inner.holding(face, edge)) continue;
      if (const auto feature = feature_around(topology, {next}))
        for (const int part : feature->faces)
          if (!own.count(part)) standing.insert(part);
    }
  return {standing.begin(), standing.end()};
}

std::vector<int> with_enclosed(const TopologyIndex& topology, std::vector<int> faces) {
  std::set<int> all(faces.begin(), faces.end());
  const auto is_enclosed = [&](int face) {
    return std::all_of(topology.faces[face].edges.begin(), topology.faces[face].edges.end(), [&](int edge) {
      const int next = topology.edges[edge].other_face(face);
      return next == face || all.count(next) > 0;
    });
  };
  for (bool more = true; more;) {
    more = false;
    for (const int face : std::vector<int>(all.begin(), all.end()))
      for (const int edge : topology.faces[face].edges) {
        const int next = topology.edges[edge].other_face(face);
        if (next >= 0 && !all.count(next) && is_enclosed(next)) more = all.insert(next).second || more;
      }
  }
  return {all.begin(), all.end()};
}

}  // namespace anvil
