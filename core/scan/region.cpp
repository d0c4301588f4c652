#include "scan/region.h"

#include <fmt/format.h>
#include <BRepBuilderAPI_Transform.hxx>
#include <Poly_Triangulation.hxx>

#include "geom/primitives.h"
#include "part/mesh.h"
#include "scan/growth.h"
#include "scan/region_face.h"

namespace anvil {
namespace {

TopoDS_Shape mesh_of(const MeshGraph& graph, const std::vector<int>& triangles,
                     const std::vector<int>& corners) {
  Handle(Poly_Triangulation) mesh =
      new Poly_Triangulation(static_cast<int>(corners.size()), static_cast<int>(triangles.size()), false);
  for (size_t i = 0; i < corners.size(); ++i) mesh->SetNode(static_cast<int>(i) + 1, graph.nodes[corners[i]]);
  const auto place = [&](int node) {
    return static_cast<int>(std::lower_bound(corners.begin(), corners.end(), node) - corners.begin()) + 1;
  };
  for (size_t i = 0; i < triangles.size(); ++i) {
    const auto& [a, b, c] = graph.triangles[triangles[i]];
    mesh->SetTriangle(static_cast<int>(i) + 1, Poly_Triangle(place(a), place(b), place(c)));
  }
  return mesh_body({mesh});
}

void measure_area(const MeshGraph& graph, Region& region) {
  gp_XYZ moment;
  for (int t : region.triangles) {
    const double area = graph.area_vector(t).Magnitude() / 2;
    region.area_mm2 += area;
    moment += (graph.centre(t).XYZ() - region.average.XYZ()) * area;
  }
  region.centroid = region.average;
  if (region.area_mm2 > 0) region.centroid.Translate(gp_Vec(moment / region.area_mm2));
}

// Of a round surface the circle square to its axis at the middle of the points; else the one through them.
Result<Fit<gp_Circ>> circle_of(const Region& region, const std::vector<gp_Pnt>& points) {
  const Surface& s = region.surface;
  if (s.kind != SurfaceKind::kCylinder && s.kind != SurfaceKind::kCone) return fit_circle(points);
  const gp_Pnt at = foot_on(s.axis(), region.average);
  const double along = gp_Vec(s.position.Location(), at).Dot(gp_Vec(s.position.Direction()));
  const double radius = s.radius_mm + along * std::tan(s.semi_angle_rad);
  return Fit<gp_Circ>{gp_Circ(gp_Ax2(at, s.position.Direction(), s.position.XDirection()), radius),
                      region.quality};
}

// The surface once more, to all that has grown, and what it leaves.
void fit(const MeshGraph& graph, Region& region) {
  const FitData data = fit_data(graph, region.triangles, kMostFitted);
  if (region.surface.kind != SurfaceKind::kMesh) {
    if (auto fitted = fit_surface(region.surface.kind, data)) region.surface = fitted->shape;
    std::vector<double> off;
    off.reserve(region.points.size());
    for (const gp_Pnt& p : region.points) off.push_back(distance_from(region.surface, p));
    region.quality = quality_of(off);
  }
  region.circle = circle_of(region, data.points);
}

Region region_from(const MeshGraph& graph, Grown grown) {
  Region region;
  region.surface = grown.surface;
  region.within_mm = grown.within_mm;
  region.triangles = std::move(grown.triangles);
  const std::vector<int> corners = corners_of(graph, region.triangles);
  for (int node : corners) region.points.push_back(graph.nodes[node]);
  region.average = average_of(region.points);
  measure_area(graph, region);
  fit(graph, region);
  region.mesh = mesh_of(graph, region.triangles, corners);
  region.face = face_of(region.surface, region.points);
  return region;
}

}  // namespace

const std::vector<SurfaceKind>& region_kinds() {
  static const std::vector<SurfaceKind> kinds{SurfaceKind::kPlane, SurfaceKind::kCylinder,
                                              SurfaceKind::kSphere, SurfaceKind::kCone};
  return kinds;
}

std::optional<SurfaceKind> region_kind_from(const std::string& name) {
  for (const SurfaceKind kind : region_kinds())
    if (name == surface_name(kind)) return kind;
  return std::nullopt;
}

Result<Region> grow_region(const MeshGraph& graph, const RegionWish& wish, const Progress& progress) {
  const NearestTriangle seed = nearest_triangle(graph, wish.at, wish.seen_from);
  constexpr double kOfDiagonal = 0.1;
  if (seed.triangle < 0 || seed.distance_mm > kOfDiagonal * graph.diagonal_mm)
    return refuse(RefusalCode::kGeometry,
                  seed.triangle < 0 ? "the scan has no triangles"
                                    : fmt::format("the scan is {:.3f} mm away from where the region was",
                                                  seed.distance_mm));
  std::vector<SurfaceKind> kinds = region_kinds();
  if (wish.as) kinds = {*wish.as};
  auto grown = grow(graph, seed.triangle, kinds, wish.within_mm, progress);
  if (!grown) return refuse(grown);
  if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
  progress.say("fitting", -1);
  Region region = region_from(graph, std::move(*grown));
  region.seed = seed.point;
  region.off_mm = seed.distance_mm;
  return region;
}

bool covers(const Region& region, const gp_Pnt& place) {
  const std::vector<Triangle> triangles = triangles_of(region.mesh);
  return std::any_of(triangles.begin(), triangles.end(), [&](const Triangle& t) {
    return nearest_of_triangle(place, t.a, t.b, t.c).Distance(place) <= region.within_mm;
  });
}

Region moved_region(const Region& region, const gp_Trsf& motion) {
  Region moved = region;
  moved.surface.position.Transform(motion);
  for (gp_Pnt& p : moved.points) p.Transform(motion);
  moved.seed.Transform(motion);
  moved.average.Transform(motion);
  moved.centroid.Transform(motion);
  const TopLoc_Location location(motion);
  moved.mesh.Move(location);
  if (!moved.face.IsNull()) moved.face.Move(location);
  if (moved.circle) moved.circle->shape.Transform(motion);
  return moved;
}

}  // namespace anvil
