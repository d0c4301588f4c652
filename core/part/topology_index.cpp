#include "part/topology_index.h"

#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <cmath>
#include <numeric>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

// Exporters write split surfaces with rounding in the last digits, so joining is a little wider than kExact.
constexpr double kJoin_mm = 1e-3;
constexpr double kJoin_rad = 1e-4;

void add_edge_to_face(TopologyIndex& topology, int face, const TopoDS_Shape& shape, int body) {
  const TopoDS_Edge edge = TopoDS::Edge(shape);
  if (BRep_Tool::Degenerated(edge)) return;
  const int known = topology.edge_map.Extent();
  const int index = topology.edge_map.Add(edge) - 1;
  if (index == known) {
    EdgeInfo info;
    info.edge = edge;
    info.body = body;
    describe_curve(edge, info);
    info.face_a = face;
    topology.edges.push_back(info);
    topology.faces[face].edges.push_back(index);
    return;
  }
  EdgeInfo& info = topology.edges[index];
  if (info.face_b < 0) {
    info.face_b = face;
  } else if (info.face_b != face || info.face_a != face) {
    info.extra_faces = true;
  }
  if (info.face_a != face) topology.faces[face].edges.push_back(index);
}

void add_body(TopologyIndex& topology, const TopoDS_Shape& shape, int body) {
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    const int known = topology.face_map.Extent();
    const int face = topology.face_map.Add(faces.Current()) - 1;
    if (face != known) continue;
    FaceInfo info;
    info.face = TopoDS::Face(faces.Current());
    info.body = body;
    info.surface = recognise_surface(info.face);
    topology.faces.push_back(info);
    for (TopExp_Explorer edges(info.face, TopAbs_EDGE); edges.More(); edges.Next())
      add_edge_to_face(topology, face, edges.Current(), body);
  }
}

void add_vertices(TopologyIndex& topology) {
  const auto add = [&](const TopoDS_Vertex& vertex, int body) {
    if (vertex.IsNull()) return -1;
    const int known = topology.vertex_map.Extent();
    const int index = topology.vertex_map.Add(vertex) - 1;
    if (index == known) topology.vertices.push_back({vertex, BRep_Tool::Pnt(vertex), body});
    return index;
  };
  for (EdgeInfo& edge : topology.edges) {
    edge.vertex_a = add(TopExp::FirstVertex(edge.edge), edge.body);
    edge.vertex_b = add(TopExp::LastVertex(edge.edge), edge.body);
  }
}

void measure_convexity(TopologyIndex& topology) {
  for (EdgeInfo& edge : topology.edges) {
    if (edge.is_open()) continue;
    edge.convexity = edge.is_seam() ? Convexity::kSmooth
                                    : edge_convexity(edge.edge, topology.faces[edge.face_a].face,
                                                     topology.faces[edge.face_b].face);
  }
}

int root_of(std::vector<int>& parent, int i) {
  while (parent[i] != i) i = parent[i] = parent[parent[i]];
  return i;
}

void join_patches(TopologyIndex& topology) {
  std::vector<int> parent(topology.faces.size());
  std::iota(parent.begin(), parent.end(), 0);
  for (const EdgeInfo& edge : topology.edges) {
    if (edge.is_open() || edge.is_seam() || edge.convexity != Convexity::kSmooth) continue;
    const FaceInfo &a = topology.faces[edge.face_a], &b = topology.faces[edge.face_b];
    if (a.body == b.body && same_surface(a.surface, b.surface, kJoin_mm, kJoin_rad))
      parent[root_of(parent, edge.face_b)] = root_of(parent, edge.face_a);
  }
  std::vector<int> patch_of_root(topology.faces.size(), -1);
  for (size_t i = 0; i < topology.faces.size(); ++i) {
    int& patch = patch_of_root[root_of(parent, static_cast<int>(i))];
    FaceInfo& face = topology.faces[i];
    if (patch < 0) {
      patch = static_cast<int>(topology.patches.size());
      topology.patches.push_back({face.body, face.surface, {}, {}});
    }
    face.patch = patch;
    topology.patches[patch].faces.push_back(static_cast<int>(i));
  }
}

void collect_borders(TopologyIndex& topology) {
  for (size_t i = 0; i < topology.edges.size(); ++i) {
    const EdgeInfo& edge = topology.edges[i];
    const int a = topology.faces[edge.face_a].patch;
    const int b = edge.is_open() ? -1 : topology.faces[edge.face_b].patch;
    if (a == b) continue;
    topology.patches[a].border.push_back(static_cast<int>(i));
    if (b >= 0) topology.patches[b].border.push_back(static_cast<int>(i));
  }
}

}  // namespace

int TopologyIndex::find_face(const TopoDS_Shape& face) const {
  return face_map.FindIndex(face) - 1;
}
int TopologyIndex::find_edge(const TopoDS_Shape& edge) const {
  return edge_map.FindIndex(edge) - 1;
}
int TopologyIndex::find_vertex(const TopoDS_Shape& vertex) const {
  return vertex_map.FindIndex(vertex) - 1;
}

TopologyIndex build_topology_index(const std::vector<TopoDS_Shape>& bodies) {
  TopologyIndex topology;
  for (size_t i = 0; i < bodies.size(); ++i) add_body(topology, bodies[i], static_cast<int>(i));
  add_vertices(topology);
  measure_convexity(topology);
  join_patches(topology);
  collect_borders(topology);
  return topology;
}

int patch_across(const TopologyIndex& topology, int patch, int edge) {
  const EdgeInfo& info = topology.edges[edge];
  if (info.is_open()) return -1;
  const int a = topology.faces[info.face_a].patch;
  return a == patch ? topology.faces[info.face_b].patch : a;
}

double angular_coverage(const TopologyIndex& topology, const Patch& patch) {
  const gp_Ax3& reference = patch.surface.position;
  std::vector<std::pair<double, double>> intervals;
  for (int face : patch.faces) {
    const FaceInfo& info = topology.faces[face];
    double u0, u1, v0, v1;
    BRepTools::UVBounds(info.face, u0, u1, v0, v1);
    if (u1 - u0 >= 2 * kPi - 1e-7) return 2 * kPi;
    // Angle of this face's own u = 0 in the reference system, and its sense of turning there.
    const gp_Ax3& own = info.surface.position;
    const double offset = reference.XDirection().AngleWithRef(own.XDirection(), reference.Direction());
    const bool same_sense = own.XDirection().Crossed(own.YDirection()).Dot(reference.Direction()) > 0;
    double start = same_sense ? offset + u0 : offset - u1;
    start = std::fmod(start, 2 * kPi);
    if (start < 0) start += 2 * kPi;
    const double end = start + (u1 - u0);
    intervals.emplace_back(start, std::min(end, 2 * kPi));
    if (end > 2 * kPi) intervals.emplace_back(0.0, end - 2 * kPi);
  }
  std::sort(intervals.begin(), intervals.end());
  double covered = 0, reach = 0;
  for (const auto& [start, end] : intervals) {
    covered += std::max(0.0, end - std::max(start, reach));
    reach = std::max(reach, end);
  }
  return covered;
}

std::pair<double, double> patch_levels(const TopologyIndex& topology, const Patch& patch,
                                       const gp_Dir& direction) {
  double low = 1e300, high = -1e300;
  for (int face : patch.faces) {
    for (int edge : topology.faces[face].edges) {
      const auto [l, h] = level_range(topology.edges[edge].edge, direction);
      low = std::min(low, l);
      high = std::max(high, h);
    }
  }
  return {low, high};
}

}  // namespace anvil
