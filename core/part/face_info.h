// What a face is: its kind of surface, its geometry, and on which side the material lies.
#pragma once

#include <TopoDS_Face.hxx>
#include <gp_Ax1.hxx>
#include <gp_Ax3.hxx>
#include <gp_Pln.hxx>
#include <string>
#include <vector>

namespace anvil {

enum class SurfaceKind {
  kPlane,
  kCylinder,
  kCone,
  kSphere,
  kTorus,
  kFreeForm,
  kMesh
};                                           // kMesh: triangles without a surface
const char* surface_name(SurfaceKind kind);  // "plane", "cylinder", …

// Canonical surface. Lengths mm, angles radians, coordinates of the part as delivered.
// Surfaces stored as B-splines, extrusions or revolutions that are one of these are told as what they are.
struct Surface {
  SurfaceKind kind = SurfaceKind::kFreeForm;
  gp_Ax3 position;            // plane: Z is the outward normal; revolution: Z is the axis; sphere: centre
  double radius_mm = 0;       // cylinder, sphere; cone: at position; torus: major
  double minor_mm = 0;        // torus
  double semi_angle_rad = 0;  // cone: radius grows along +Z with tan(semi_angle)
  bool recognised = false;    // stored as something else
  double deviation_mm = 0;    // then: how far what is stored lies off, at most
  bool inside = false;  // revolution and sphere: material lies outside the surface (a hole, a concave fillet)

  [[nodiscard]] gp_Ax1 axis() const { return gp_Ax1(position.Location(), position.Direction()); }
  [[nodiscard]] gp_Pln plane() const { return gp_Pln(position); }
  [[nodiscard]] bool is_revolution() const {
    return kind == SurfaceKind::kCylinder || kind == SurfaceKind::kCone || kind == SurfaceKind::kTorus;
  }
};

// True when both describe one surface within the tolerances (the exporter split it).
bool same_surface(const Surface& a, const Surface& b, double linear_mm, double angular_rad);

struct FaceInfo {
  TopoDS_Face face;
  int body = -1;
  int patch = -1;  // the merged face it belongs to
  Surface surface;
  std::vector<int> edges;  // indices into TopologyIndex::edges, without degenerate ones
};

// Within this a surface stored as a spline is taken for what it is.
inline constexpr double kRecognised_mm = 1e-3;

Surface recognise_surface(const TopoDS_Face& face, double tolerance_mm = kRecognised_mm);

// The outward normal of the solid at (u,v); zero-length normals (an apex) give +Z of nothing and return
// false.
bool outward_normal(const TopoDS_Face& face, double u, double v, gp_Dir& normal);
// The same at a point on the surface; no length where there is none, as of triangles without a surface.
gp_Vec outward_normal_at(const TopoDS_Face& face, const gp_Pnt& point);

}  // namespace anvil
