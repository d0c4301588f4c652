#include "scan/mesh_graph.h"

#include <BRep_Tool.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>

#include "geom/box.h"

namespace anvil {
namespace {

void add_triangles(const TopoDS_Face& face, MeshGraph& graph) {
  TopLoc_Location location;
  const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, location);
  if (mesh.IsNull()) return;
  const auto first = static_cast<int>(graph.nodes.size()) - 1;
  const gp_Trsf& motion = location.Transformation();
  for (int i = 1; i <= mesh->NbNodes(); ++i) graph.nodes.push_back(mesh->Node(i).Transformed(motion));
  for (int i = 1; i <= mesh->NbTriangles(); ++i) {
    int a, b, c;
    mesh->Triangle(i).Get(a, b, c);
    if (face.Orientation() == TopAbs_REVERSED) std::swap(b, c);
    graph.triangles.push_back({first + a, first + b, first + c});
  }
}

struct Side {
  int low, high;  // nodes
  int triangle, edge;
  bool operator<(const Side& o) const { return low != o.low ? low < o.low : high < o.high; }
  [[nodiscard]] bool same_edge(const Side& o) const { return low == o.low && high == o.high; }
};

void link_neighbours(MeshGraph& graph) {
  std::vector<Side> sides;
  sides.reserve(graph.triangles.size() * 3);
  for (size_t t = 0; t < graph.triangles.size(); ++t)
    for (int i = 0; i < 3; ++i) {
      const auto [low, high] = std::minmax(graph.triangles[t][i], graph.triangles[t][(i + 1) % 3]);
      sides.push_back({low, high, static_cast<int>(t), i});
    }
  std::sort(sides.begin(), sides.end());
  graph.across.assign(graph.triangles.size(), {-1, -1, -1});
  for (size_t i = 0; i < sides.size();) {
    size_t end = i + 1;
    while (end < sides.size() && sides[end].same_edge(sides[i])) ++end;
    if (end - i == 2) {
      const Side &a = sides[i], &b = sides[i + 1];
      graph.across[a.triangle][a.edge] = b.triangle;
      graph.across[b.triangle][b.edge] = a.triangle;
    }
    i = end;
  }
}

}  // namespace

// Nearest point of a triangle, by the regions of its corners, edges and inside (C. Ericson, Real-Time
// Collision Detection, 5.1.5).
gp_Pnt MeshGraph::centre(int t) const {
  return gp_Pnt((corner(t, 0).XYZ() + corner(t, 1).XYZ() + corner(t, 2).XYZ()) / 3);
}

gp_Vec MeshGraph::area_vector(int t) const {
  return gp_Vec(corner(t, 0), corner(t, 1)).Crossed(gp_Vec(corner(t, 0), corner(t, 2)));
}

std::optional<gp_Dir> MeshGraph::normal(int t) const {
  const gp_Vec v = area_vector(t);
  if (v.Magnitude() < 1e-30) return std::nullopt;
  return gp_Dir(v);
}

MeshGraph mesh_graph(const TopoDS_Shape& mesh) {
  MeshGraph graph;
  for (TopExp_Explorer faces(mesh, TopAbs_FACE); faces.More(); faces.Next())
    add_triangles(TopoDS::Face(faces.Current()), graph);
  link_neighbours(graph);
  graph.diagonal_mm = box_around(graph.nodes).diagonal_mm();
  return graph;
}

NearestTriangle nearest_triangle(const MeshGraph& graph, const gp_Pnt& to, const gp_Dir& seen_from) {
  NearestTriangle any{-1, 1e300, to}, facing = any;
  for (size_t i = 0; i < graph.triangles.size(); ++i) {
    const auto t = static_cast<int>(i);
    const bool faces = graph.area_vector(t).Dot(gp_Vec(seen_from)) > 0;
    NearestTriangle& nearest = faces ? facing : any;
    const gp_Pnt a = graph.corner(t, 0), b = graph.corner(t, 1), c = graph.corner(t, 2);
    // No nearer than its first corner less its longest side from there.
    const double rough = a.Distance(to) - std::sqrt(std::max(a.SquareDistance(b), a.SquareDistance(c)));
    if (rough > nearest.distance_mm) continue;
    const gp_Pnt here = nearest_of_triangle(to, a, b, c);
    if (here.Distance(to) < nearest.distance_mm) nearest = {t, here.Distance(to), here};
  }
  constexpr double kFromBehind = 0.01;
  if (facing.triangle < 0 || any.distance_mm < facing.distance_mm - kFromBehind * graph.diagonal_mm)
    return any;
  return facing;
}

}  // namespace anvil
