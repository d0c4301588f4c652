#include "scan/surface_fit.h"

#include <algorithm>

#include "geom/primitives.h"

namespace anvil {
namespace {

Surface surface_from(const gp_Pln& plane) {
  return {SurfaceKind::kPlane, plane.Position()};
}
Surface surface_from(const gp_Cylinder& cylinder) {
  return {SurfaceKind::kCylinder, cylinder.Position(), cylinder.Radius()};
}
Surface surface_from(const gp_Cone& cone) {
  return {SurfaceKind::kCone, cone.Position(), cone.RefRadius(), 0, cone.SemiAngle()};
}
Surface surface_from(const gp_Sphere& sphere) {
  return {SurfaceKind::kSphere, sphere.Position(), sphere.Radius()};
}

template <class Shape>
Result<Fit<Surface>> as_surface(const Result<Fit<Shape>>& fit) {
  if (!fit) return refuse(fit);
  return Fit<Surface>{surface_from(fit->shape), fit->quality};
}

// Along the axis from its location, and the way from the axis to the point.
std::pair<double, gp_Vec> cylindrical(const Surface& s, const gp_Pnt& point) {
  const gp_Vec axis(s.position.Direction()), v(s.position.Location(), point);
  const double along = v.Dot(axis);
  return {along, v - axis * along};
}

void face_as_triangles(Surface& surface, const FitData& data) {
  double same = 0;
  for (size_t i = 0; i < data.normals.size(); ++i)
    if (const auto normal = normal_of(surface, data.centres[i])) same += normal->Dot(data.normals[i]);
  if (same >= 0) return;
  if (surface.kind != SurfaceKind::kPlane) {
    surface.inside = true;
    return;
  }
  const gp_Ax3& p = surface.position;
  surface.position = gp_Ax3(p.Location(), p.Direction().Reversed(), p.XDirection());
}

// The fit of least scatter among those from several guesses; else why the last had none.
template <class Shape>
Result<Fit<Shape>> best_of(const FitData& data,
                           Result<Fit<Shape>> (*fit)(const std::vector<gp_Pnt>&, const gp_Dir&)) {
  Result<Fit<Shape>> best = refuse(RefusalCode::kGeometry, "the triangles have no area: they face nowhere");
  for (const gp_Dir& guess : axis_guesses(data.normals)) {
    Result<Fit<Shape>> here = fit(data.points, guess);
    if (!best || (here && here->quality.rms_mm < best->quality.rms_mm)) best = std::move(here);
  }
  return best;
}

}  // namespace

double distance_from(const Surface& s, const gp_Pnt& point) {
  if (s.kind == SurfaceKind::kPlane) return height_over(s.plane(), point);
  if (s.kind == SurfaceKind::kSphere) return s.position.Location().Distance(point) - s.radius_mm;
  const auto [along, out] = cylindrical(s, point);
  if (s.kind == SurfaceKind::kCylinder) return out.Magnitude() - s.radius_mm;
  return (out.Magnitude() - s.radius_mm) * std::cos(s.semi_angle_rad) - along * std::sin(s.semi_angle_rad);
}

std::optional<gp_Dir> normal_of(const Surface& s, const gp_Pnt& point) {
  if (s.kind == SurfaceKind::kPlane) return s.position.Direction();
  const gp_Vec out =
      s.kind == SurfaceKind::kSphere ? gp_Vec(s.position.Location(), point) : cylindrical(s, point).second;
  if (out.Magnitude() < 1e-12) return std::nullopt;
  if (s.kind != SurfaceKind::kCone) return gp_Dir(out);
  return gp_Dir(out.Normalized() * std::cos(s.semi_angle_rad) -
                gp_Vec(s.position.Direction()) * std::sin(s.semi_angle_rad));
}

std::vector<int> corners_of(const MeshGraph& graph, const std::vector<int>& triangles) {
  std::vector<int> corners;
  corners.reserve(triangles.size() * 3);
  for (int t : triangles)
    for (int node : graph.triangles[t]) corners.push_back(node);
  std::sort(corners.begin(), corners.end());
  corners.erase(std::unique(corners.begin(), corners.end()), corners.end());
  return corners;
}

FitData fit_data(const MeshGraph& graph, const std::vector<int>& triangles, size_t most) {
  FitData data;
  for (int node : some_of(corners_of(graph, triangles), most)) data.points.push_back(graph.nodes[node]);
  constexpr size_t kMostNormals = 2000;
  for (int t : some_of(triangles, kMostNormals)) {
    const auto normal = graph.normal(t);
    if (!normal) continue;
    data.normals.push_back(*normal);
    data.centres.push_back(graph.centre(t));
  }
  return data;
}

Result<Fit<gp_Cylinder>> fit_cylinder(const FitData& data) {
  return best_of<gp_Cylinder>(data, fit_cylinder);
}

Result<Fit<gp_Cone>> fit_cone(const FitData& data) {
  return best_of<gp_Cone>(data, fit_cone);
}

Result<Fit<Surface>> fit_surface(SurfaceKind kind, const FitData& data) {
  Result<Fit<Surface>> fit = kind == SurfaceKind::kPlane      ? as_surface(fit_plane(data.points, 0))
                             : kind == SurfaceKind::kCylinder ? as_surface(fit_cylinder(data))
                             : kind == SurfaceKind::kCone     ? as_surface(fit_cone(data))
                                                              : as_surface(fit_sphere(data.points));
  if (fit) face_as_triangles(fit->shape, data);
  return fit;
}

double lean_of(const Surface& surface, const FitData& data) {
  double sum = 0;
  for (size_t i = 0; i < data.normals.size(); ++i)
    if (const auto normal = normal_of(surface, data.centres[i])) sum += acute_angle(*normal, data.normals[i]);
  return sum / static_cast<double>(std::max<size_t>(1, data.normals.size()));
}

}  // namespace anvil
