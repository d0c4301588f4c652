#include "part/part_geometry.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <cstring>

#include "base/file.h"

namespace anvil {
namespace {

TopoDS_Compound compound_of(const std::vector<TopoDS_Shape>& shapes) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Shape& shape : shapes) builder.Add(compound, shape);
  return compound;
}

// Everything as bytes, for a checksum.
class Content {
 public:
  void add(double number) {
    char bytes[sizeof number];
    std::memcpy(bytes, &number, sizeof number);
    bytes_.append(bytes, sizeof number);
  }
  void add(int number) { add(static_cast<double>(number)); }
  void add(const gp_XYZ& xyz) {
    for (int i = 1; i <= 3; ++i) add(xyz.Coord(i));
  }
  void add(const gp_Pnt& point) { add(point.XYZ()); }

  void add(const FaceInfo& info) {
    const Surface& s = info.surface;
    add(info.body);
    add(static_cast<int>(s.kind) * 4 + static_cast<int>(s.inside) * 2 + static_cast<int>(s.recognised));
    for (const double number : {s.radius_mm, s.minor_mm, s.semi_angle_rad, s.deviation_mm}) add(number);
    add(s.position.Location());
    add(s.position.Direction().XYZ());
    add(static_cast<int>(info.face.Orientation()));
    if (s.kind == SurfaceKind::kMesh)
      add_mesh(info.face);
    else if (s.kind == SurfaceKind::kFreeForm || s.recognised)
      add_net(info.face);
  }

  void add(const EdgeInfo& info) {
    for (const int number :
         {info.face_a, info.face_b, info.vertex_a, info.vertex_b, static_cast<int>(info.kind)})
      add(number);
    const BRepAdaptor_Curve curve(info.edge);
    const double first = curve.FirstParameter(), last = curve.LastParameter();
    for (const double share : {0.0, 0.37, 0.71}) add(curve.Value(first + (last - first) * share));
  }

  [[nodiscard]] std::string id() const { return sha256_hex(bytes_).substr(0, 32); }

 private:
  void add_mesh(const TopoDS_Face& face) {
    TopLoc_Location at;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, at);
    if (mesh.IsNull()) return;
    for (int i = 1; i <= mesh->NbNodes(); ++i) add(mesh->Node(i).Transformed(at));
    for (int i = 1; i <= mesh->NbTriangles(); ++i) {
      int a = 0, b = 0, c = 0;
      mesh->Triangle(i).Get(a, b, c);
      add(a + 3.0 * b + 7.0 * c);
    }
  }

  // A surface of free form is told by points of it: no two that an exporter or a correction makes share all
  // of them.
  void add_net(const TopoDS_Face& face) {
    constexpr int kNet = 5;
    const BRepAdaptor_Surface surface(face, false);
    double u0, u1, v0, v1;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    for (int i = 0; i < kNet; ++i)
      for (int j = 0; j < kNet; ++j)
        add(surface.Value(u0 + (u1 - u0) * (i + 0.4) / kNet, v0 + (v1 - v0) * (j + 0.6) / kNet));
  }

  std::string bytes_;
};

bool same_shapes(const std::vector<TopoDS_Shape>& a, const std::vector<TopoDS_Shape>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [](const TopoDS_Shape& x, const TopoDS_Shape& y) { return x.IsEqual(y); });
}

// A body as a donor has it.
BodyIndex donated(const TopoDS_Shape& shape, const std::vector<GeometryPtr>& donors) {
  for (const GeometryPtr& donor : donors)
    for (size_t body = 0; donor && body < donor->shapes().size(); ++body)
      if (donor->shapes()[body].IsEqual(shape)) return {&donor->topology(), static_cast<int>(body)};
  return {};
}

}  // namespace

PartGeometry::PartGeometry(std::vector<TopoDS_Shape> shapes, TopologyIndex topology)
    : shapes_(std::move(shapes)), compound_(compound_of(shapes_)), topology_(std::move(topology)) {}

const std::string& PartGeometry::id() const {
  std::call_once(named_, [&] {
    Content content;
    for (const FaceInfo& face : topology_.faces) content.add(face);
    for (const EdgeInfo& edge : topology_.edges) content.add(edge);
    for (const VertexInfo& vertex : topology_.vertices) content.add(vertex.point);
    id_ = content.id();
  });
  return id_;
}

GeometryPtr geometry_of(std::vector<TopoDS_Shape> shapes, const std::vector<GeometryPtr>& donors) {
  for (const GeometryPtr& donor : donors)
    if (donor && same_shapes(donor->shapes(), shapes)) return donor;
  std::vector<BodyIndex> known;
  known.reserve(shapes.size());
  for (const TopoDS_Shape& shape : shapes) known.push_back(donated(shape, donors));
  TopologyIndex topology = build_topology_index(shapes, known);
  return std::make_shared<const PartGeometry>(std::move(shapes), std::move(topology));
}

}  // namespace anvil
