#include "part/measure.h"

#include <BRepBndLib.hxx>
#include <BRepGProp_Face.hxx>
#include <BRepGProp_Sinert.hxx>
#include <BRepGProp_Vinert.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Poly_Triangulation.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS_Iterator.hxx>

#include "geom/coordinate.h"
#include "geom/in_parallel.h"
#include "part/face_integrals.h"
#include "part/mesh.h"

namespace anvil {

namespace {

// Faces without a surface are triangles: their nodes are all there is.
void add_meshes(const TopoDS_Shape& shape, Bnd_Box& box) {
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    const TopoDS_Face& face = TopoDS::Face(faces.Current());
    TopLoc_Location location;
    if (!BRep_Tool::Surface(face, location).IsNull()) continue;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, location);
    for (int i = 1; !mesh.IsNull() && i <= mesh->NbNodes(); ++i)
      box.Add(mesh->Node(i).Transformed(location.Transformation()));
  }
}

std::vector<TopoDS_Face> faces_with_surface(const TopoDS_Shape& shape) {
  std::vector<TopoDS_Face> faces;
  TopLoc_Location anywhere;
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next())
    if (!BRep_Tool::Surface(TopoDS::Face(ex.Current()), anywhere).IsNull())
      faces.push_back(TopoDS::Face(ex.Current()));
  return faces;
}

gp_Pnt some_point_of(const TopoDS_Shape& shape) {
  const TopExp_Explorer vertices(shape, TopAbs_VERTEX);
  return vertices.More() ? BRep_Tool::Pnt(TopoDS::Vertex(vertices.Current())) : gp_Pnt();
}

// A face that no edges bound: the whole of its surface, by the kernel's own integration.
FaceIntegrals whole_surface(const TopoDS_Face& face, const gp_Pnt& about) {
  BRepGProp_Face surface;
  surface.Load(face);
  BRepGProp_Sinert area;
  BRepGProp_Vinert volume;
  area.SetLocation(about);
  volume.SetLocation(about);
  area.Perform(surface);
  volume.Perform(surface);
  const auto moment = [&](const GProp_GProps& of) {
    return (of.CentreOfMass().XYZ() - about.XYZ()) * of.Mass();
  };
  return {area.Mass(), volume.Mass(), moment(area), moment(volume)};
}

// Every face on its own, on all cores; added up in their order, so that the sum is always the same.
FaceIntegrals summed(const TopoDS_Shape& shape, const gp_Pnt& about) {
  const std::vector<TopoDS_Face> faces = faces_with_surface(shape);
  std::vector<FaceIntegrals> each(faces.size());
  in_parallel(static_cast<int>(faces.size()), [&](int i) {
    const auto found = integrals_over(faces[i], about);
    each[i] = found ? *found : whole_surface(faces[i], about);
  });
  FaceIntegrals all;
  for (const FaceIntegrals& one : each) {
    all.area_mm2 += one.area_mm2;
    all.volume_mm3 += one.volume_mm3;
    all.area_moment += one.area_moment;
    all.volume_moment += one.volume_moment;
  }
  return all;
}

bool is_polygon(const TopoDS_Face& face) {
  if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane) return false;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    if (BRepAdaptor_Curve(TopoDS::Edge(edges.Current())).GetType() != GeomAbs_Line) return false;
  return true;
}

bool lies_within(const Bnd_Box& inner, const Bnd_Box& outer) {
  if (inner.IsVoid() || outer.IsVoid() || inner.IsOpen()) return inner.IsVoid();
  const gp_Pnt low = inner.CornerMin(), high = inner.CornerMax(), from = outer.CornerMin(),
               to = outer.CornerMax();
  for (int axis = 0; axis < 3; ++axis)
    if (coordinate(low, axis) < coordinate(from, axis) || coordinate(high, axis) > coordinate(to, axis))
      return false;
  return true;
}

}  // namespace

// Faces whose rough box, which is never too small, lies within what is known already need not be looked at
// closely.
Box exact_box(const TopoDS_Shape& shape, const gp_Trsf& placement) {
  const TopoDS_Shape placed = shape.Moved(TopLoc_Location(placement));
  Bnd_Box box;
  add_meshes(placed, box);
  for (TopExp_Explorer vertices(placed, TopAbs_VERTEX); vertices.More(); vertices.Next())
    box.Add(BRep_Tool::Pnt(TopoDS::Vertex(vertices.Current())));
  const std::vector<TopoDS_Face> faces = faces_with_surface(placed);
  std::vector<Bnd_Box> each(faces.size());
  const Bnd_Box of_points = box;
  in_parallel(static_cast<int>(faces.size()), [&](int i) {
    if (is_polygon(faces[i])) return;
    Bnd_Box rough;
    BRepBndLib::Add(faces[i], rough, false);
    if (!lies_within(rough, of_points)) BRepBndLib::AddOptimal(faces[i], each[i], false, false);
  });
  for (Bnd_Box& one : each) {
    if (one.IsVoid()) continue;
    one.SetGap(0.0);
    box.Add(one.CornerMin());
    box.Add(one.CornerMax());
  }
  if (box.IsVoid()) return {};
  box.SetGap(0.0);
  return {box.CornerMin(), box.CornerMax()};
}

ShapeProperties shape_properties(const TopoDS_Shape& shape) {
  const gp_Pnt about = some_point_of(shape);
  const FaceIntegrals all = summed(shape, about);
  const auto centroid = [&](const gp_XYZ& moment, double of) {
    return of != 0 ? gp_Pnt(about.XYZ() + moment / of) : about;
  };
  return {{all.volume_mm3, centroid(all.volume_moment, all.volume_mm3)},
          {all.area_mm2, centroid(all.area_moment, all.area_mm2)}};
}

VolumeProperties mesh_properties(const TopoDS_Shape& mesh) {
  const std::vector<Triangle> triangles = triangles_of(mesh);
  if (triangles.empty()) return {};
  const gp_XYZ origin = triangles.front().a.XYZ();  // near the body, so that the sum keeps its digits
  double six_volumes = 0;
  gp_XYZ moment;
  for (const Triangle& t : triangles) {
    const gp_XYZ a = t.a.XYZ() - origin, b = t.b.XYZ() - origin, c = t.c.XYZ() - origin;
    const double six = a.Dot(b.Crossed(c));
    six_volumes += six;
    moment += (a + b + c) * (six / 4);
  }
  if (six_volumes == 0) return {};
  return {six_volumes / 6, gp_Pnt(origin + moment / six_volumes)};
}

AreaProperties mesh_area(const TopoDS_Shape& mesh) {
  double area = 0;
  gp_XYZ moment;
  for (const Triangle& t : triangles_of(mesh)) {
    const double own = 0.5 * gp_Vec(t.a, t.b).Crossed(gp_Vec(t.a, t.c)).Magnitude();
    area += own;
    moment += (t.a.XYZ() + t.b.XYZ() + t.c.XYZ()) * (own / 3);
  }
  return {area, area > 0 ? gp_Pnt(moment / area) : gp_Pnt()};
}

}  // namespace anvil
