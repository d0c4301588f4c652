#include <fmt/format.h>
#include <BRepAdaptor_Curve.hxx>
#include <GCPnts_AbscissaPoint.hxx>

#include "pick/given.h"

namespace anvil {
namespace {

double depth_along(const TopologyIndex& topology, int face, const gp_Dir& axis) {
  double low = 1e300, high = -1e300;
  for (int edge : topology.faces[face].edges) {
    const auto [l, h] = level_range(topology.edges[edge].edge, axis);
    low = std::min(low, l);
    high = std::max(high, h);
  }
  return high - low;
}

std::string face_text(const TopologyIndex& topology, int index, const Display& display) {
  const Surface& s = topology.faces[index].surface;
  const auto mm = [&](double v) { return format_length(v, display); };
  const char* side = s.inside ? "inside" : "outside";
  switch (s.kind) {
    case SurfaceKind::kPlane:
      return "flat face";
    case SurfaceKind::kCylinder:
      return fmt::format("cylinder, Ø{}, {}, depth {}", mm(2 * s.radius_mm), side,
                         mm(depth_along(topology, index, s.position.Direction())));
    case SurfaceKind::kCone:
      return fmt::format("cone, {} included, {}", format_angle(2 * std::abs(s.semi_angle_rad), display),
                         side);
    case SurfaceKind::kSphere:
      return fmt::format("sphere, Ø{}, {}", mm(2 * s.radius_mm), side);
    case SurfaceKind::kTorus:
      return fmt::format("torus, rounding {}, {}", mm(s.minor_mm), side);
    case SurfaceKind::kFreeForm:
      return "free-form face";
    case SurfaceKind::kMesh:
      return "mesh";
  }
  return "face";
}

std::string edge_text(const EdgeInfo& edge, Snap snap, const Display& display) {
  const BRepAdaptor_Curve curve(edge.edge);
  const std::string length = format_length(GCPnts_AbscissaPoint::Length(curve), display);
  if (edge.kind == CurveKind::kCircle) {
    const std::string diameter = "Ø" + format_length(2 * curve.Circle().Radius(), display);
    if (snap == Snap::kCentre) return "centre of circle " + diameter;
    if (snap >= Snap::kQuadrant1) return "quadrant of circle " + diameter;
    const bool whole = curve.LastParameter() - curve.FirstParameter() > 2 * kPi - 1e-9;
    return (snap == Snap::kMiddle ? "middle of arc " : whole ? "circle " : "arc ") + diameter;
  }
  const std::string word = edge.kind == CurveKind::kLine ? "straight edge" : "curved edge";
  return (snap == Snap::kMiddle ? "middle of " + word : word) + ", length " + length;
}

}  // namespace

std::string pick_text(const Part& part, TopologyKind kind, int index, Snap snap, const Display& display) {
  if (kind == TopologyKind::kFace) return face_text(part.topology(), index, display);
  if (kind == TopologyKind::kEdge) return edge_text(part.topology().edges[index], snap, display);
  return "vertex";
}

}  // namespace anvil
