#include "part/topology_index.h"

#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <optional>
#include <tuple>

#include "base/tolerance.h"
#include "base/union_find.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "part/kept_border.h"

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

// What was recognised is as good as it was said to be.
bool is_one_surface(const Surface& a, const Surface& b) {
  const bool recognised = a.recognised || b.recognised;
  return same_surface(a, b, kJoin_mm + 2 * (a.deviation_mm + b.deviation_mm),
                      recognised ? 10 * kJoin_rad : kJoin_rad);
}

void join_patches(TopologyIndex& topology) {
  UnionFind joined(topology.faces.size());
  for (const EdgeInfo& edge : topology.edges) {
    if (edge.is_open() || edge.is_seam() || edge.convexity != Convexity::kSmooth || is_kept_border(edge.edge))
      continue;
    const FaceInfo &a = topology.faces[edge.face_a], &b = topology.faces[edge.face_b];
    if (a.body == b.body && is_one_surface(a.surface, b.surface)) joined.join(edge.face_b, edge.face_a);
  }
  std::vector<int> patch_of_root(topology.faces.size(), -1);
  for (size_t i = 0; i < topology.faces.size(); ++i) {
    int& patch = patch_of_root[joined.root(static_cast<int>(i))];
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

// A body's run in one of the lists of an index: bodies stand one after the other in each of them.
struct Run {
  int first = 0, count = 0;
  [[nodiscard]] bool holds(int place) const { return place >= first && place < first + count; }
};

template <class Infos>
Run run_of(const Infos& infos, int body) {
  const auto is_of = [&](const auto& info) { return info.body == body; };
  const auto first = std::find_if(infos.begin(), infos.end(), is_of);
  const auto last = std::find_if_not(first, infos.end(), is_of);
  return {static_cast<int>(first - infos.begin()), static_cast<int>(last - first)};
}

// A body of another index, put at the end of this one.
class Joined {
 public:
  Joined(TopologyIndex& to, const BodyIndex& from, int as)
      : to_(to),
        from_(*from.index),
        as_(as),
        faces_(run_of(from_.faces, from.body)),
        edges_(run_of(from_.edges, from.body)),
        vertices_(run_of(from_.vertices, from.body)),
        patches_(run_of(from_.patches, from.body)) {}

  // False when the body shares something with another one: it cannot be taken for itself.
  bool run() {
    if (!stands_alone()) return false;
    const int faces = size(to_.faces), edges = size(to_.edges), vertices = size(to_.vertices),
              patches = size(to_.patches);
    const auto moved = [](int place, const Run& from, int to) {
      return place < 0 ? place : place - from.first + to;
    };
    for (int i = 0; i < faces_.count; ++i) {
      FaceInfo face = from_.faces[faces_.first + i];
      if (to_.face_map.Add(face.face) != faces + i + 1) return false;
      face.body = as_;
      face.patch = moved(face.patch, patches_, patches);
      for (int& edge : face.edges) edge = moved(edge, edges_, edges);
      to_.faces.push_back(std::move(face));
    }
    for (int i = 0; i < edges_.count; ++i) {
      EdgeInfo edge = from_.edges[edges_.first + i];
      if (to_.edge_map.Add(edge.edge) != edges + i + 1) return false;
      edge.body = as_;
      for (int* face : {&edge.face_a, &edge.face_b}) *face = moved(*face, faces_, faces);
      for (int* vertex : {&edge.vertex_a, &edge.vertex_b}) *vertex = moved(*vertex, vertices_, vertices);
      to_.edges.push_back(edge);
    }
    for (int i = 0; i < vertices_.count; ++i) {
      VertexInfo vertex = from_.vertices[vertices_.first + i];
      if (to_.vertex_map.Add(vertex.vertex) != vertices + i + 1) return false;
      vertex.body = as_;
      to_.vertices.push_back(vertex);
    }
    for (int i = 0; i < patches_.count; ++i) {
      Patch patch = from_.patches[patches_.first + i];
      patch.body = as_;
      for (int& face : patch.faces) face = moved(face, faces_, faces);
      for (int& edge : patch.border) edge = moved(edge, edges_, edges);
      to_.patches.push_back(std::move(patch));
    }
    return true;
  }

 private:
  template <class Infos>
  static int size(const Infos& infos) {
    return static_cast<int>(infos.size());
  }

  [[nodiscard]] bool stands_alone() const {
    for (int i = 0; i < faces_.count; ++i)
      for (const int edge : from_.faces[faces_.first + i].edges)
        if (!edges_.holds(edge)) return false;
    for (int i = 0; i < edges_.count; ++i) {
      const EdgeInfo& edge = from_.edges[edges_.first + i];
      for (const int face : {edge.face_a, edge.face_b})
        if (face >= 0 && !faces_.holds(face)) return false;
      for (const int vertex : {edge.vertex_a, edge.vertex_b})
        if (vertex >= 0 && !vertices_.holds(vertex)) return false;
    }
    return true;
  }

  TopologyIndex& to_;
  const TopologyIndex& from_;
  int as_;
  Run faces_, edges_, vertices_, patches_;
};

// Body by body, those that are not known looked at each for itself.
std::optional<TopologyIndex> joined_index(const std::vector<TopoDS_Shape>& bodies,
                                          const std::vector<BodyIndex>& known) {
  TopologyIndex all;
  for (size_t i = 0; i < bodies.size(); ++i) {
    TopologyIndex own;
    BodyIndex from = known[i];
    if (!from.index) {
      own = build_topology_index({bodies[i]});
      from = {&own, 0};
    }
    if (!Joined(all, from, static_cast<int>(i)).run()) return std::nullopt;
  }
  return all;
}

// A piece of the turn about an axis: from where, 0 to 2 pi, and how far on.
struct TurnInterval {
  double start = 0, sweep = 0;
};

double within_a_turn(double angle) {
  angle = std::fmod(angle, 2 * kPi);
  return angle < 0 ? angle + 2 * kPi : angle;
}

// What is stored as it is turns with its own parameter.
TurnInterval turn_by_parameter(const FaceInfo& face, const gp_Ax3& reference) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face.face, u0, u1, v0, v1);
  // Angle of this face's own u = 0 in the reference system, and its sense of turning there.
  const gp_Ax3& own = face.surface.position;
  const double offset = reference.XDirection().AngleWithRef(own.XDirection(), reference.Direction());
  const bool same_sense = own.XDirection().Crossed(own.YDirection()).Dot(reference.Direction()) > 0;
  return {within_a_turn(same_sense ? offset + u0 : offset - u1), std::min(u1 - u0, 2 * kPi)};
}

// A recognised surface has a parameter of its own: everything but the widest gap between the directions in
// which its outline is seen from the axis.
TurnInterval turn_by_outline(const TopologyIndex& topology, const FaceInfo& face, const gp_Ax3& reference) {
  constexpr int kSamples = 64;
  constexpr double kNoGap_rad = 2 * kPi / 40;
  std::vector<double> angles;
  for (const int index : face.edges) {
    const BRepAdaptor_Curve curve(topology.edges[index].edge);
    for (int i = 0; i <= kSamples; ++i) {
      const double t =
          curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / kSamples;
      const gp_Vec to(reference.Location(), curve.Value(t));
      const double x = to.Dot(gp_Vec(reference.XDirection())), y = to.Dot(gp_Vec(reference.YDirection()));
      if (std::hypot(x, y) > 1e-6) angles.push_back(within_a_turn(std::atan2(y, x)));
    }
  }
  if (angles.empty()) return {0, 2 * kPi};
  std::sort(angles.begin(), angles.end());
  double gap = angles.front() + 2 * kPi - angles.back(), start = angles.front();
  for (size_t i = 1; i < angles.size(); ++i)
    if (angles[i] - angles[i - 1] > gap)
      std::tie(gap, start) = std::pair(angles[i] - angles[i - 1], angles[i]);
  return {start, gap < kNoGap_rad ? 2 * kPi : 2 * kPi - gap};
}

TurnInterval turn_of(const TopologyIndex& topology, const FaceInfo& face, const gp_Ax3& reference) {
  return face.surface.recognised ? turn_by_outline(topology, face, reference)
                                 : turn_by_parameter(face, reference);
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

TopologyIndex build_topology_index(const std::vector<TopoDS_Shape>& bodies,
                                   const std::vector<BodyIndex>& known) {
  if (std::any_of(known.begin(), known.end(), [](const BodyIndex& body) { return body.index; }))
    if (auto joined = joined_index(bodies, known)) return std::move(*joined);
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
  std::vector<TurnInterval> intervals;
  for (int face : patch.faces) {
    const TurnInterval turn = turn_of(topology, topology.faces[face], patch.surface.position);
    if (turn.sweep >= 2 * kPi - 1e-7) return 2 * kPi;
    const double end = turn.start + turn.sweep;
    intervals.push_back({turn.start, std::min(end, 2 * kPi) - turn.start});
    if (end > 2 * kPi) intervals.push_back({0.0, end - 2 * kPi});
  }
  std::sort(intervals.begin(), intervals.end(),
            [](const TurnInterval& a, const TurnInterval& b) { return a.start < b.start; });
  double covered = 0, reach = 0;
  for (const TurnInterval& turn : intervals) {
    const double end = turn.start + turn.sweep;
    covered += std::max(0.0, end - std::max(turn.start, reach));
    reach = std::max(reach, end);
  }
  return covered;
}

std::vector<int> faces_not_judged(const TopologyIndex& topology) {
  std::vector<int> faces;
  for (size_t i = 0; i < topology.faces.size(); ++i)
    if (topology.faces[i].surface.kind == SurfaceKind::kFreeForm) faces.push_back(static_cast<int>(i));
  return faces;
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
