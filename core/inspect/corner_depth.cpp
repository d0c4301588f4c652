#include "inspect/corner_depth.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>

#include "base/units.h"
#include "geom/primitives.h"

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

// A point in the void beside the corner, half-way up.
gp_Pnt point_in_void(const TopologyIndex& topology, const Corner& corner, const gp_Dir& axis) {
  if (!corner.faces.empty()) {
    const TopoDS_Face& face = topology.faces[corner.faces.front()].face;
    double u0, u1, v0, v1;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const double u = (u0 + u1) / 2, v = (v0 + v1) / 2;
    gp_Dir normal = axis;
    outward_normal(face, u, v, normal);
    const double off = std::max(kClear_mm, 0.05 * corner.radius_mm);
    return BRepAdaptor_Surface(face, false).Value(u, v).Translated(gp_Vec(normal) * off);
  }
  // A straight edge if there is one: the mesh cuts the corners of round ones, and a point close to them lies
  // behind it.
  const auto straight = std::find_if(corner.edges.begin(), corner.edges.end(),
                                     [&](int e) { return topology.edges[e].kind == CurveKind::kLine; });
  const EdgeInfo& edge = topology.edges[straight == corner.edges.end() ? corner.edges.front() : *straight];
  const BRepAdaptor_Curve curve(edge.edge);
  const gp_Pnt middle = curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
  gp_Vec away;
  double off = kClear_mm;
  for (int face : {edge.face_a, edge.face_b}) {
    const Surface& surface = topology.faces[face].surface;
    away += outward_at(surface, middle);
    if (edge.kind != CurveKind::kLine && surface.is_revolution())
      off = std::max(off, 0.1 * surface.radius_mm);
  }
  return middle.Translated(away.Magnitude() < 1e-9 ? gp_Vec(axis) * off : away.Normalized() * off);
}

double highest_around(const RayCaster& rays, const gp_Pnt& centre, const CornerOptions& options, double sky,
                      double at_least) {
  constexpr int kRings = 3, kRays = 12;
  const gp_Ax2 frame(centre, options.axis);
  const double base = centre.XYZ().Dot(options.axis.XYZ());
  double highest = at_least;
  for (int ring = 0; ring < kRings; ++ring) {
    for (int k = 0; k < kRays; ++k) {
      const double r = options.holder_radius_mm * (ring + 1) / kRings, a = 2 * kPi * k / kRays;
      const gp_Pnt above = centre.Translated(gp_Vec(frame.XDirection()) * (r * std::cos(a)) +
                                             gp_Vec(frame.YDirection()) * (r * std::sin(a)) +
                                             gp_Vec(options.axis) * (sky - base));
      if (const auto hit = rays.first_hit(above, options.axis.Reversed(), 0.0))
        highest = std::max(highest, sky - hit->distance_mm);
    }
  }
  return highest;
}

}  // namespace

void measure_reach(const Part& part, const RayCaster& rays, const CornerOptions& options,
                   std::vector<Corner>& corners) {
  double sky = -1e300;
  for (const Triangle& t : rays.triangles())
    for (const gp_Pnt* p : {&t.a, &t.b, &t.c}) sky = std::max(sky, p->XYZ().Dot(options.axis.XYZ()));
  sky += 1.0;
  for (Corner& corner : corners) {
    corner.undercut =
        rays.first_hit(point_in_void(part.topology(), corner, options.axis), options.axis).has_value();
    const double walls = corner.bottom_mm + corner.depth_mm;
    corner.reach_mm = highest_around(rays, corner.position, options, sky, walls) - corner.bottom_mm;
    // Mesh levels carry single-precision rounding; where they say no more than the walls do, the walls are
    // exact.
    if (corner.reach_mm - corner.depth_mm < 1e-3) corner.reach_mm = corner.depth_mm;
  }
}

}  // namespace anvil
