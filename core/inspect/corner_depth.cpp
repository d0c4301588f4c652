#include "inspect/corner_depth.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <algorithm>
#include <unordered_map>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/disc_heights.h"
#include "inspect/free_form_corners.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

// Off the surface, so that what looks up does not graze it; less where the corner itself is smaller.
double clear_of(const Corner& corner) {
  return std::min(0.02, 0.1 * corner.depth_mm);
}

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

gp_Pnt beside_face(const TopoDS_Face& face, const gp_Dir& axis, double off) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  const double u = (u0 + u1) / 2, v = (v0 + v1) / 2;
  gp_Dir normal = axis;
  outward_normal(face, u, v, normal);
  return BRepAdaptor_Surface(face, false).Value(u, v).Translated(gp_Vec(normal) * off);
}

gp_Pnt beside_edge(const TopologyIndex& topology, const EdgeInfo& edge, const gp_Dir& axis, double off) {
  const BRepAdaptor_Curve curve(edge.edge);
  const gp_Pnt middle = middle_of(curve);
  gp_Vec away;
  for (int face : {edge.face_a, edge.face_b}) away += outward_at(topology.faces[face].surface, middle);
  return middle.Translated(away.Magnitude() < 1e-9 ? gp_Vec(axis) * off : away.Normalized() * off);
}

// A cutter of the corner's own radius for round wall corners; points beside the others, which ask for none.
std::vector<Sweep> sweeps_of(const TopologyIndex& topology, const Corner& corner,
                             const CornerOptions& options, double deviation_mm) {
  if (corner.is_wall() && corner.radius_mm > 0) {
    // The mesh cuts into the void by so much where walls are hollow.
    const double off =
        std::min(deviation_mm, 0.25 * corner.radius_mm) + std::min(1e-3, 0.05 * corner.radius_mm);
    return {{corner.position, corner.radius_mm - off}};
  }
  const double clear = clear_of(corner);
  std::vector<Sweep> sweeps;
  for (const int face : corner.faces)
    sweeps.push_back(
        {beside_face(topology.faces[face].face, options.axis, std::max(clear, 0.05 * corner.radius_mm)),
         clear / 2});
  for (const int edge : corner.edges)
    sweeps.push_back({beside_edge(topology, topology.edges[edge], options.axis, clear), clear / 2});
  return sweeps;
}

// Which triangles stand over what lies below them. Where a triangle is long and thin, or no wider than the
// mesh's deviation, it may face anywhere, also on an upright wall: there the surface is asked.
class Overhangs {
 public:
  Overhangs(const Part& part, const gp_Dir& axis)
      : faces_(part.topology().faces), axis_(axis), deviation_mm_(rays_of(part).deviation_mm()) {}

  bool operator()(const Triangle& t) {
    const gp_Vec ab(t.a, t.b), bc(t.b, t.c), ca(t.c, t.a), across = ab.Crossed(bc);
    if (across.Magnitude() < 1e-15 || !faces_down(across.Normalized())) return false;
    const FaceInfo& face = faces_[t.face];
    if (face.surface.kind == SurfaceKind::kMesh) return true;
    const gp_Pnt middle((t.a.XYZ() + t.b.XYZ() + t.c.XYZ()) / 3);
    if (face.surface.kind == SurfaceKind::kPlane || face.surface.kind == SurfaceKind::kCylinder)
      return faces_down(outward_at(face.surface, middle));
    if (is_upright(t.face)) return false;
    const double longest = std::max({ab.Magnitude(), bc.Magnitude(), ca.Magnitude()}),
                 height = across.Magnitude() / longest;
    constexpr double kThin = 0.2;
    return height > std::max(2 * deviation_mm_, kThin * longest) ||
           faces_down(outward_normal_at(face.face, middle));
  }

 private:
  [[nodiscard]] bool faces_down(const gp_Vec& out) const {
    constexpr double kOverhang = 0.01;  // walls that lean back by less are walls
    return out.Dot(gp_Vec(axis_)) < -kOverhang;
  }

  bool is_upright(int face) {
    if (faces_[face].surface.kind != SurfaceKind::kFreeForm) return false;
    const auto [at, is_new] = upright_.try_emplace(face, false);
    if (is_new) at->second = steepness_of(faces_[face].face, axis_) == Steepness::kUpright;
    return at->second;
  }

  const std::vector<FaceInfo>& faces_;
  gp_Dir axis_;
  double deviation_mm_;
  std::unordered_map<int, bool> upright_;  // of free form
};

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
  const DiscHeights everything(mesh.triangles(), options.axis),
      above(mesh.triangles(), options.axis, Overhangs(part, options.axis));
  const double deviation = mesh.deviation_mm();
  const TopologyIndex& topology = part.topology();
  for (Corner& corner : corners) {
    const double walls = corner.bottom_mm + corner.depth_mm;
    double highest = walls;
    for (const Sweep& sweep : sweeps_of(topology, corner, options, deviation)) {
      corner.undercut =
          corner.undercut ||
          above.within(sweep.at, sweep.radius_mm, corner.bottom_mm + clear_of(corner) / 2).has_value();
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
