#include "pick/picked_together.h"

#include <BRepAdaptor_Curve.hxx>
#include <algorithm>
#include <map>
#include <set>

#include "base/tolerance.h"
#include "correct/feature_faces.h"

namespace anvil {
namespace {

std::vector<int> smooth_faces(const TopologyIndex& topology, int start) {
  std::set<int> chain{start};
  std::vector<int> waiting{start};
  while (!waiting.empty()) {
    const int face = waiting.back();
    waiting.pop_back();
    for (const int edge : topology.faces[face].edges) {
      const EdgeInfo& info = topology.edges[edge];
      if (info.convexity != Convexity::kSmooth || info.is_open() || info.is_seam()) continue;
      if (const int next = info.other_face(face); chain.insert(next).second) waiting.push_back(next);
    }
  }
  return {chain.begin(), chain.end()};
}

class EdgeChain {
 public:
  explicit EdgeChain(const TopologyIndex& topology) : topology_(topology) {
    for (size_t i = 0; i < topology.edges.size(); ++i) {
      const EdgeInfo& edge = topology.edges[i];
      if (edge.is_seam() || edge.vertex_a == edge.vertex_b) continue;
      for (const int vertex : {edge.vertex_a, edge.vertex_b})
        if (vertex >= 0) ending_at_[vertex].push_back(static_cast<int>(i));
    }
  }

  std::vector<int> run(int start) const {
    std::set<int> chain{start};
    const EdgeInfo& first = topology_.edges[start];
    if (first.vertex_a == first.vertex_b) return {start};
    for (const int vertex : {first.vertex_a, first.vertex_b}) {
      int edge = start, at = vertex;
      while (at >= 0) {
        edge = next_of(edge, at);
        if (edge < 0 || !chain.insert(edge).second) break;
        const EdgeInfo& info = topology_.edges[edge];
        at = info.vertex_a == at ? info.vertex_b : info.vertex_a;
      }
    }
    return {chain.begin(), chain.end()};
  }

 private:
  // The direction in which the edge leaves that end of it.
  [[nodiscard]] std::optional<gp_Vec> leaving(int edge, int vertex) const {
    const EdgeInfo& info = topology_.edges[edge];
    const BRepAdaptor_Curve curve(info.edge);
    gp_Pnt start, end;
    gp_Vec into, out_of;
    curve.D1(curve.FirstParameter(), start, into);
    curve.D1(curve.LastParameter(), end, out_of);
    const gp_Pnt& at = topology_.vertices[vertex].point;
    const gp_Vec away = at.Distance(start) <= at.Distance(end) ? into : out_of.Reversed();
    if (away.Magnitude() < 1e-12) return std::nullopt;
    return away.Normalized();
  }

  [[nodiscard]] bool share_a_face(int a, int b) const {
    const EdgeInfo &one = topology_.edges[a], &other = topology_.edges[b];
    for (const int face : {one.face_a, one.face_b})
      if (face >= 0 && (face == other.face_a || face == other.face_b)) return true;
    return false;
  }

  [[nodiscard]] int next_of(int edge, int vertex) const {
    const auto away = leaving(edge, vertex);
    if (!away) return -1;
    std::pair<bool, double> best{false, kSmoothEdge_rad};
    int next = -1;
    for (const int other : ending_at_.at(vertex)) {
      const auto direction = other == edge ? std::nullopt : leaving(other, vertex);
      if (!direction) continue;
      const double off_rad = direction->Angle(away->Reversed());
      const bool beside = share_a_face(edge, other);
      if (off_rad > kSmoothEdge_rad || (next >= 0 && best.first && !beside)) continue;
      if (next >= 0 && best.first == beside && off_rad >= best.second) continue;
      best = {beside, off_rad};
      next = other;
    }
    return next;
  }

  const TopologyIndex& topology_;
  std::map<int, std::vector<int>> ending_at_;  // by vertex
};

}  // namespace

std::vector<int> tangent_chain(const TopologyIndex& topology, TopologyKind kind, int index) {
  if (kind == TopologyKind::kFace) return smooth_faces(topology, index);
  if (kind == TopologyKind::kEdge) return EdgeChain(topology).run(index);
  return {index};
}

std::vector<int> faces_of_feature(const TopologyIndex& topology, TopologyKind kind, int index) {
  std::vector<int> faces;
  if (kind == TopologyKind::kFace) faces = {index};
  if (kind == TopologyKind::kEdge) faces = {topology.edges[index].face_a, topology.edges[index].face_b};
  std::vector<int> smallest;
  for (const int face : faces) {
    const auto feature = face < 0 ? std::nullopt : feature_around(topology, {face});
    if (feature && (smallest.empty() || feature->faces.size() < smallest.size())) smallest = feature->faces;
  }
  return smallest;
}

}  // namespace anvil
