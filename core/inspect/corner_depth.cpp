#include "inspect/corner_depth.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/disc_heights.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

constexpr double kClear_mm = 0.02;  // off the surface, so that the ray does not graze it

// The outward normal of a plane or of a surface about an axis at a point on it.
gp_Vec outward_at(const Surface& surface, const gp_Pnt& p) {
  if (surface.kind == SurfaceKind::kPlane) return gp_Vec(surface.position.Direction());
  const gp_Vec out(foot_on(surface.axis(), p), p);
  if (!surface.is_revolution() || out.Magnitude() < 1e-9) return gp_Vec();
  return out.Normalized() * (surface.inside ? -1.0 : 1.0);
}

// A place where something is to come down along the axis, and how wide it is.
struct Sweep {
  gp_Pnt at;
  double radius_mm = 0;
};

gp_Pnt beside_face(const TopoDS_Face& face, const gp_Dir& axis, double radius_mm) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  const double u = (u0 + u1) / 2, v = (v0 + v1) / 2;
  gp_Dir normal = axis;
  outward_normal(face, u, v, normal);
  const double off = std::max(kClear_mm, 0.05 * radius_mm);
  return BRepAdaptor_Surface(face, false).Value(u, v).Translated(gp_Vec(normal) * off);
}

gp_Pnt beside_edge(const TopologyIndex& topology, const EdgeInfo& edge, const gp_Dir& axis) {
  const BRepAdaptor_Curve curve(edge.edge);
  const gp_Pnt middle = curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
  gp_Vec away;
  for (int face : {edge.face_a, edge.face_b}) away += outward_at(topology.faces[face].surface, middle);
  return middle.Translated(away.Magnitude() < 1e-9 ? gp_Vec(axis) * kClear_mm
                                                   : away.Normalized() * kClear_mm);
}

// A cutter of the corner's own radius for round wall corners; points beside the others, which ask for none.
std::vector<Sweep> sweeps_of(const TopologyIndex& topology, const Corner& corner,
                             const CornerOptions& options, double deviation_mm) {
  if (corner.is_wall() && corner.radius_mm > 0) {
    // The mesh cuts into the void by so much where walls are hollow.
    const double off = std::min(deviation_mm, 0.25 * corner.radius_mm) + 1e-3;
    return {{corner.position, std::max(1e-3, corner.radius_mm - off)}};
  }
  std::vector<Sweep> sweeps;
  for (const int face : corner.faces)
    sweeps.push_back({beside_face(topology.faces[face].face, options.axis, corner.radius_mm), kClear_mm / 2});
  for (const int edge : corner.edges)
    sweeps.push_back({beside_edge(topology, topology.edges[edge], options.axis), kClear_mm / 2});
  return sweeps;
}

bool faces_down(const gp_Vec& normal, const gp_Dir& axis) {
  constexpr double kOverhang = 0.01;  // walls that lean back by less are walls
  return normal.Dot(gp_Vec(axis)) < -kOverhang;
}

// Planes, and what turns about the tool's direction: their highest level is that of an edge, which the mesh
// has exactly.
bool ends_level(const Surface& surface, const gp_Dir& axis) {
  return surface.kind == SurfaceKind::kPlane ||
         ((surface.kind == SurfaceKind::kCylinder || surface.kind == SurfaceKind::kCone) &&
          parallel(surface.position.Direction(), axis, kWall_rad));
}

}  // namespace

void measure_reach(const Part& part, const CornerOptions& options, std::vector<Corner>& corners) {
  const RayCaster& mesh = rays_of(part);
  const DiscHeights everything(mesh.triangles(), options.axis, any_side),
      overhangs(mesh.triangles(), options.axis, faces_down);
  const double deviation = mesh.deviation_mm();
  const TopologyIndex& topology = part.topology();
  for (Corner& corner : corners) {
    const double walls = corner.bottom_mm + corner.depth_mm;
    double highest = walls;
    for (const Sweep& sweep : sweeps_of(topology, corner, options, deviation)) {
      corner.undercut =
          corner.undercut ||
          overhangs.within(sweep.at, sweep.radius_mm, corner.bottom_mm + kClear_mm / 2).has_value();
      const auto met = everything.within(sweep.at, options.holder_radius_mm + deviation, highest + 1e-6);
      if (!met) continue;
      const bool exact = ends_level(topology.faces[met->face].surface, options.axis);
      corner.reach_is_from_mesh = !exact;
      highest = met->level_mm + (exact ? 0 : deviation);
    }
    corner.reach_mm = highest - corner.bottom_mm;
  }
}

}  // namespace anvil
