// The neighbourhood of every face, edge and vertex of a part, built once in time linear in faces.
//
// Faces that an exporter split (a cylinder in halves, a plane in tiles) are joined into *patches*: maximal
// sets of faces on one surface, connected over smooth edges. Checks work on patches; the screen works on
// faces.
#pragma once

#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Vertex.hxx>
#include <vector>

#include "part/edge_info.h"
#include "part/face_info.h"

namespace anvil {

struct VertexInfo {
  TopoDS_Vertex vertex;
  gp_Pnt point;
  int body = -1;
};

struct Patch {
  int body = -1;
  Surface surface;
  std::vector<int> faces;
  std::vector<int> border;  // edges towards other patches (or open), each once
};

struct TopologyIndex {
  std::vector<FaceInfo> faces;
  std::vector<EdgeInfo> edges;  // without degenerate edges (a cone's apex)
  std::vector<VertexInfo> vertices;
  std::vector<Patch> patches;

  // Index of a sub-shape of the part, or -1.
  [[nodiscard]] int find_face(const TopoDS_Shape& face) const;
  [[nodiscard]] int find_edge(const TopoDS_Shape& edge) const;
  [[nodiscard]] int find_vertex(const TopoDS_Shape& vertex) const;

  TopTools_IndexedMapOfShape face_map, edge_map, vertex_map;
};

// Where a body has been looked at before: which body of which index; null where it has not.
struct BodyIndex {
  const TopologyIndex* index = nullptr;
  int body = -1;
};

// `known`: one for each body, or none at all. The result is the same; bodies that share faces or edges with
// others are looked at anew.
TopologyIndex build_topology_index(const std::vector<TopoDS_Shape>& bodies,
                                   const std::vector<BodyIndex>& known = {});

// The patch on the other side of a border edge, or -1.
int patch_across(const TopologyIndex& topology, int patch, int edge);

// How much of the full turn about its axis the patch covers, radians (2 pi: a full turn).
double angular_coverage(const TopologyIndex& topology, const Patch& patch);

// Faces whose surface is none of the kinds checks know (free form), by index: told beside every report.
std::vector<int> faces_not_judged(const TopologyIndex& topology);

// Lowest and highest level of the patch's border along a direction, measured from the origin.
std::pair<double, double> patch_levels(const TopologyIndex& topology, const Patch& patch,
                                       const gp_Dir& direction);

}  // namespace anvil
