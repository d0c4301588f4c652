#include "part/face_info.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <cmath>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include "geom/primitives.h"
#include "part/recognise.h"

namespace anvil {
namespace {

// Does the outward normal in the middle of the face point towards the axis (or centre)?
bool normal_points_inward(const BRepAdaptor_Surface& surface, const TopoDS_Face& face, const Surface& s) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  gp_Pnt p;
  gp_Vec du, dv;
  surface.D1((u0 + u1) / 2, (v0 + v1) / 2, p, du, dv);
  gp_Vec normal = du.Crossed(dv);
  if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
  if (s.kind == SurfaceKind::kTorus) {
    const gp_Pnt foot = foot_on(s.plane(), p);
    const gp_Vec out(s.position.Location(), foot);
    const gp_Pnt ring = s.position.Location().Translated(out.Normalized() * s.radius_mm);
    return normal.Dot(gp_Vec(ring, p)) < 0;
  }
  const gp_Pnt centre = s.kind == SurfaceKind::kSphere ? s.position.Location() : foot_on(s.axis(), p);
  return normal.Dot(gp_Vec(centre, p)) < 0;
}

void fill_plane(Surface& s, const gp_Pln& plane, bool reversed) {
  s.kind = SurfaceKind::kPlane;
  s.position = plane.Position();
  gp_Dir normal =
      s.position.XDirection().Crossed(s.position.YDirection());  // surface normal even if left-handed
  if (reversed) normal.Reverse();
  s.position = gp_Ax3(s.position.Location(), normal, s.position.XDirection());
}

bool same_line(const gp_Ax1& a, const gp_Ax1& b, double linear_mm, double angular_rad) {
  return parallel(a.Direction(), b.Direction(), angular_rad) && distance(a, b.Location()) <= linear_mm;
}

}  // namespace

const char* surface_name(SurfaceKind kind) {
  switch (kind) {
    case SurfaceKind::kPlane:
      return "plane";
    case SurfaceKind::kCylinder:
      return "cylinder";
    case SurfaceKind::kCone:
      return "cone";
    case SurfaceKind::kSphere:
      return "sphere";
    case SurfaceKind::kTorus:
      return "torus";
    case SurfaceKind::kFreeForm:
      return "free-form face";
    case SurfaceKind::kMesh:
      return "mesh";
  }
  return "face";
}

Surface recognise_surface(const TopoDS_Face& face, double tolerance_mm) {
  TopLoc_Location anywhere;
  Surface s;
  if (BRep_Tool::Surface(face, anywhere).IsNull()) {
    s.kind = SurfaceKind::kMesh;
    return s;
  }
  const BRepAdaptor_Surface surface(face, false);
  switch (surface.GetType()) {
    case GeomAbs_Plane:
      fill_plane(s, surface.Plane(), face.Orientation() == TopAbs_REVERSED);
      return s;
    case GeomAbs_Cylinder:
      s.kind = SurfaceKind::kCylinder;
      s.position = surface.Cylinder().Position();
      s.radius_mm = surface.Cylinder().Radius();
      break;
    case GeomAbs_Cone:
      s.kind = SurfaceKind::kCone;
      s.position = surface.Cone().Position();
      s.radius_mm = surface.Cone().RefRadius();
      s.semi_angle_rad = surface.Cone().SemiAngle();
      break;
    case GeomAbs_Sphere:
      s.kind = SurfaceKind::kSphere;
      s.position = surface.Sphere().Position();
      s.radius_mm = surface.Sphere().Radius();
      break;
    case GeomAbs_Torus:
      s.kind = SurfaceKind::kTorus;
      s.position = surface.Torus().Position();
      s.radius_mm = surface.Torus().MajorRadius();
      s.minor_mm = surface.Torus().MinorRadius();
      break;
    default:
      if (const auto found = recognise_spline(face, tolerance_mm)) return found->surface;
      return s;
  }
  s.inside = normal_points_inward(surface, face, s);
  return s;
}

bool same_surface(const Surface& a, const Surface& b, double linear_mm, double angular_rad) {
  if (a.kind != b.kind || a.inside != b.inside) return false;
  const auto close = [&](double x, double y) { return std::abs(x - y) <= linear_mm; };
  switch (a.kind) {
    case SurfaceKind::kPlane:
      return a.position.Direction().IsEqual(b.position.Direction(), angular_rad) &&
             std::abs(height_over(a.plane(), b.position.Location())) <= linear_mm;
    case SurfaceKind::kCylinder:
      return close(a.radius_mm, b.radius_mm) && same_line(a.axis(), b.axis(), linear_mm, angular_rad);
    case SurfaceKind::kCone: {
      if (!same_line(a.axis(), b.axis(), linear_mm, angular_rad)) return false;
      const double sense = a.position.Direction().Dot(b.position.Direction()) > 0 ? 1 : -1;
      if (std::abs(a.semi_angle_rad - sense * b.semi_angle_rad) > angular_rad) return false;
      const double level =
          gp_Vec(a.position.Location(), b.position.Location()).Dot(gp_Vec(a.position.Direction()));
      return close(a.radius_mm + level * std::tan(a.semi_angle_rad), b.radius_mm);
    }
    case SurfaceKind::kSphere:
      return close(a.radius_mm, b.radius_mm) &&
             a.position.Location().Distance(b.position.Location()) <= linear_mm;
    case SurfaceKind::kTorus:
      return close(a.radius_mm, b.radius_mm) && close(a.minor_mm, b.minor_mm) &&
             parallel(a.position.Direction(), b.position.Direction(), angular_rad) &&
             a.position.Location().Distance(b.position.Location()) <= linear_mm;
    case SurfaceKind::kFreeForm:
    case SurfaceKind::kMesh:
      return false;
  }
  return false;
}

bool outward_normal(const TopoDS_Face& face, double u, double v, gp_Dir& normal) {
  const BRepAdaptor_Surface surface(face, false);
  gp_Pnt p;
  gp_Vec du, dv;
  surface.D1(u, v, p, du, dv);
  gp_Vec n = du.Crossed(dv);
  if (n.Magnitude() < 1e-12) return false;
  if (face.Orientation() == TopAbs_REVERSED) n.Reverse();
  normal = gp_Dir(n);
  return true;
}

gp_Vec outward_normal_at(const TopoDS_Face& face, const gp_Pnt& point) {
  const Handle(Geom_Surface) of = BRep_Tool::Surface(face);
  if (of.IsNull()) return gp_Vec();
  ShapeAnalysis_Surface surface(of);
  const gp_Pnt2d uv = surface.ValueOfUV(point, 1e-7);
  gp_Dir normal;
  return outward_normal(face, uv.X(), uv.Y(), normal) ? gp_Vec(normal) : gp_Vec();
}

}  // namespace anvil
