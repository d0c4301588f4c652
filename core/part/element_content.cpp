#include "part/element_content.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Poly_Triangulation.hxx>

#include "geom/coordinate.h"

namespace anvil {
namespace {

void add_mesh(KeyMaker& maker, const TopoDS_Face& face) {
  TopLoc_Location at;
  const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, at);
  if (mesh.IsNull()) return;
  for (int i = 1; i <= mesh->NbNodes(); ++i) add_to(maker, mesh->Node(i).Transformed(at).XYZ());
  for (int i = 1; i <= mesh->NbTriangles(); ++i) {
    int corners[3] = {0, 0, 0};
    mesh->Triangle(i).Get(corners[0], corners[1], corners[2]);
    for (const int corner : corners) maker.add(corner);
  }
}

// A surface of free form is told by points of it: no two that an exporter or a correction makes share all of
// them.
void add_net(KeyMaker& maker, const TopoDS_Face& face) {
  constexpr int kNet = 5;
  const BRepAdaptor_Surface surface(face, false);
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  for (int i = 0; i < kNet; ++i)
    for (int j = 0; j < kNet; ++j)
      add_to(maker,
             surface.Value(u0 + (u1 - u0) * (i + 0.4) / kNet, v0 + (v1 - v0) * (j + 0.6) / kNet).XYZ());
}

void add_surface(KeyMaker& maker, const FaceInfo& info) {
  const Surface& s = info.surface;
  maker.add(static_cast<int>(s.kind));
  maker.add(s.inside);
  maker.add(s.recognised);
  for (const double number : {s.radius_mm, s.minor_mm, s.semi_angle_rad, s.deviation_mm}) maker.add(number);
  add_to(maker, s.position.Location().XYZ());
  add_to(maker, s.position.Direction().XYZ());
  add_to(maker, s.position.XDirection().XYZ());
  maker.add(static_cast<int>(info.face.Orientation()));
  if (s.kind == SurfaceKind::kMesh)
    add_mesh(maker, info.face);
  else if (s.kind == SurfaceKind::kFreeForm || s.recognised)
    add_net(maker, info.face);
}

}  // namespace

void add_to(KeyMaker& maker, const gp_XYZ& xyz) {
  for (int axis = 0; axis < 3; ++axis) maker.add(coordinate(xyz, axis));
}

void add_to(KeyMaker& maker, const gp_Trsf& motion) {
  for (const double value : rows_of(motion)) maker.add(value);
}

void add_face(KeyMaker& maker, const TopologyIndex& topology, int face) {
  add_surface(maker, topology.faces[face]);
  maker.add(topology.faces[face].edges.size());
  for (const int edge : topology.faces[face].edges) add_edge(maker, topology, edge);
}

void add_edge(KeyMaker& maker, const TopologyIndex& topology, int edge) {
  const EdgeInfo& info = topology.edges[edge];
  maker.add(static_cast<int>(info.kind));
  const BRepAdaptor_Curve curve(info.edge);
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  for (const double share : {0.0, 0.37, 0.71, 1.0})
    add_to(maker, curve.Value(first + (last - first) * share).XYZ());
}

void add_vertex(KeyMaker& maker, const TopologyIndex& topology, int vertex) {
  add_to(maker, topology.vertices[vertex].point.XYZ());
}

}  // namespace anvil
