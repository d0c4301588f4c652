#include "app/view/sketch.h"

#include <AIS_Triangulation.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <Poly.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>

namespace anvil::app {
namespace {

struct Drawn {
  Handle(Poly_Triangulation) mesh;
  gp_Trsf placed;
  bool reversed = false;
  double size_mm = 0;
  Quantity_Color colour;
};

double size_of(const Poly_Triangulation& mesh) {
  Bnd_Box box;
  for (int i = 1; i <= mesh.NbNodes(); ++i) box.Add(mesh.Node(i));
  return box.IsVoid() ? 0 : std::sqrt(box.SquareExtent());
}

std::vector<Drawn> faces_of(const Body& body, const Quantity_Color& colour) {
  std::vector<Drawn> faces;
  for (TopExp_Explorer ex(body.shape, TopAbs_FACE); ex.More(); ex.Next()) {
    TopLoc_Location at;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(TopoDS::Face(ex.Current()), at);
    if (mesh.IsNull()) continue;
    faces.push_back(
        {mesh, at.Transformation(), ex.Current().Orientation() == TopAbs_REVERSED, size_of(*mesh), colour});
  }
  return faces;
}

// Largest first, until the triangles are used up.
void keep_largest(std::vector<Drawn>& faces, int most_triangles) {
  std::sort(faces.begin(), faces.end(), [](const Drawn& a, const Drawn& b) { return a.size_mm > b.size_mm; });
  int triangles = 0;
  size_t kept = 0;
  for (; kept < faces.size() && triangles < most_triangles; ++kept)
    triangles += faces[kept].mesh->NbTriangles();
  faces.resize(kept);
}

Handle(Poly_Triangulation) merged(const std::vector<const Drawn*>& faces) {
  int nodes = 0, triangles = 0;
  for (const Drawn* face : faces) {
    nodes += face->mesh->NbNodes();
    triangles += face->mesh->NbTriangles();
  }
  const Handle(Poly_Triangulation) all = new Poly_Triangulation(nodes, triangles, false);
  int node = 0, triangle = 0;
  for (const Drawn* face : faces) {
    const int first = node;
    for (int i = 1; i <= face->mesh->NbNodes(); ++i)
      all->SetNode(++node, face->mesh->Node(i).Transformed(face->placed));
    for (int i = 1; i <= face->mesh->NbTriangles(); ++i) {
      int a, b, c;
      face->mesh->Triangle(i).Get(a, b, c);
      if (face->reversed) std::swap(b, c);
      all->SetTriangle(++triangle, Poly_Triangle(first + a, first + b, first + c));
    }
  }
  Poly::ComputeNormals(all);
  return all;
}

}  // namespace

std::vector<Handle(AIS_InteractiveObject)> make_sketch(
    const std::vector<Body>& bodies,
    const std::function<std::optional<Quantity_Color>(const Body&)>& colour_of, int most_triangles) {
  std::vector<Drawn> faces;
  for (const Body& body : bodies)
    if (const auto colour = colour_of(body))
      for (Drawn& face : faces_of(body, *colour)) faces.push_back(std::move(face));
  keep_largest(faces, most_triangles);
  std::vector<std::pair<Quantity_Color, std::vector<const Drawn*>>> by_colour;
  for (const Drawn& face : faces) {
    const auto same = std::find_if(by_colour.begin(), by_colour.end(),
                                   [&](const auto& group) { return group.first.IsEqual(face.colour); });
    (same != by_colour.end() ? *same : by_colour.emplace_back(face.colour, std::vector<const Drawn*>{}))
        .second.push_back(&face);
  }
  std::vector<Handle(AIS_InteractiveObject)> objects;
  for (const auto& [colour, group] : by_colour) {
    const Handle(AIS_Triangulation) object = new AIS_Triangulation(merged(group));
    object->SetMaterial(Graphic3d_NameOfMaterial_Plastified);
    object->SetColor(colour);
    objects.push_back(object);
  }
  return objects;
}

}  // namespace anvil::app
