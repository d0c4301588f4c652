#include "part/measure.h"

#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Poly_Triangulation.hxx>
#include <TopLoc_Location.hxx>

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

// The kernel's quick integration is off by up to a hundredth where weights vary along a surface or an outline
// (a cylinder stored as a rational B-spline); there it is asked to go on until it is this sure.
constexpr double kSplineError = 1e-9;

bool has_spline(const TopoDS_Face& face) {
  const auto is_spline = [](auto type, auto bezier, auto bspline, auto other) {
    return type == bezier || type == bspline || type == other;
  };
  if (is_spline(BRepAdaptor_Surface(face, false).GetType(), GeomAbs_BezierSurface, GeomAbs_BSplineSurface,
                GeomAbs_OtherSurface))
    return true;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges.Current());
    if (!BRep_Tool::Degenerated(edge) && is_spline(BRepAdaptor_Curve(edge).GetType(), GeomAbs_BezierCurve,
                                                   GeomAbs_BSplineCurve, GeomAbs_OtherCurve))
      return true;
  }
  return false;
}

}  // namespace

Box exact_box(const TopoDS_Shape& shape, const gp_Trsf& placement) {
  Bnd_Box box;
  add_meshes(shape.Moved(TopLoc_Location(placement)), box);
  BRepBndLib::AddOptimal(shape.Moved(TopLoc_Location(placement)), box, false, false);
  if (box.IsVoid()) return {};
  box.SetGap(0.0);
  return {box.CornerMin(), box.CornerMax()};
}

VolumeProperties volume_properties(const TopoDS_Shape& solid) {
  bool splines = false;
  for (TopExp_Explorer faces(solid, TopAbs_FACE); faces.More() && !splines; faces.Next())
    splines = has_spline(TopoDS::Face(faces.Current()));
  GProp_GProps properties;
  if (splines)
    BRepGProp::VolumeProperties(solid, properties, kSplineError);
  else
    BRepGProp::VolumeProperties(solid, properties);
  return {properties.Mass(), properties.CentreOfMass()};
}

AreaProperties area_properties(const TopoDS_Shape& shape) {
  GProp_GProps all;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    GProp_GProps face;
    if (has_spline(TopoDS::Face(faces.Current())))
      BRepGProp::SurfaceProperties(faces.Current(), face, kSplineError);
    else
      BRepGProp::SurfaceProperties(faces.Current(), face);
    all.Add(face);
  }
  return {all.Mass(), all.CentreOfMass()};
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
