#include "pick/given.h"

#include <fmt/format.h>
#include <GCPnts_AbscissaPoint.hxx>

#include "geom/primitives.h"

namespace anvil {
namespace {

gp_Pnt middle_by_length(const BRepAdaptor_Curve& curve) {
  const double length = GCPnts_AbscissaPoint::Length(curve);
  const GCPnts_AbscissaPoint at(curve, 0.5 * length, curve.FirstParameter());
  return curve.Value(at.IsDone() ? at.Parameter() : 0.5 * (curve.FirstParameter() + curve.LastParameter()));
}

std::vector<gp_Pnt> extent_of(const TopologyIndex& topology, const FaceInfo& face, const gp_Trsf& placement) {
  std::vector<gp_Pnt> points;
  for (int index : face.edges) {
    const BRepAdaptor_Curve curve(topology.edges[index].edge);
    constexpr int kSamples = 4;
    for (int i = 0; i < kSamples; ++i) {
      const double t =
          curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / kSamples;
      points.push_back(curve.Value(t).Transformed(placement));
    }
  }
  return points;
}

void give_axis(Given& given, const gp_Ax1& axis) {
  given.axis = axis;
  given.direction = axis.Direction();
}

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
    const bool whole = curve.LastParameter() - curve.FirstParameter() > 2 * kPi - 1e-9;
    return (snap == Snap::kMiddle ? "middle of arc " : whole ? "circle " : "arc ") + diameter;
  }
  const std::string word = edge.kind == CurveKind::kLine ? "straight edge" : "curved edge";
  return (snap == Snap::kMiddle ? "middle of " + word : word) + ", length " + length;
}

}  // namespace

Given given_by_face(const Part& part, int index, const gp_Trsf& placement) {
  const TopologyIndex& topology = part.topology();
  const FaceInfo& face = topology.faces[index];
  Given given;
  given.is_on_part = true;
  given.shape = face.face.Moved(TopLoc_Location(placement));
  given.extent = extent_of(topology, face, placement);
  Surface s = face.surface;
  s.position.Transform(placement);
  given.surface = s;
  if (s.kind == SurfaceKind::kPlane) {
    given.plane = s.plane();
    given.direction = s.position.Direction();
  } else if (s.is_revolution()) {
    give_axis(given, s.axis());
  } else if (s.kind == SurfaceKind::kSphere) {
    given.point = s.position.Location();
  }
  return given;
}

Given given_by_edge(const Part& part, int index, Snap snap, const gp_Trsf& placement) {
  const EdgeInfo& edge = part.topology().edges[index];
  Given given;
  given.is_on_part = true;
  given.shape = edge.edge.Moved(TopLoc_Location(placement));
  const BRepAdaptor_Curve curve(TopoDS::Edge(given.shape));
  const double t0 = curve.FirstParameter(), t1 = curve.LastParameter();
  if (snap == Snap::kMiddle || (snap == Snap::kCentre && edge.kind == CurveKind::kCircle)) {
    given.point = snap == Snap::kMiddle ? middle_by_length(curve) : curve.Circle().Location();
    given.extent = {*given.point};
    given.shape.Nullify();
    return given;
  }
  for (int i = 0; i <= 8; ++i) given.extent.push_back(curve.Value(t0 + (t1 - t0) * i / 8));
  if (edge.kind == CurveKind::kLine) {
    given.is_straight_edge = true;
    give_axis(given, gp_Ax1(curve.Value(t0), curve.Line().Direction()));
  } else if (edge.kind == CurveKind::kCircle) {
    given.is_circular_edge = true;
    const gp_Circ circle = curve.Circle();
    give_axis(given, circle.Axis());
    given.point = circle.Location();
    given.plane = gp_Pln(gp_Ax3(circle.Position()));
  }
  return given;
}

Given given_by_vertex(const Part& part, int index, const gp_Trsf& placement) {
  Given given;
  given.is_on_part = true;
  const VertexInfo& vertex = part.topology().vertices[index];
  given.shape = vertex.vertex.Moved(TopLoc_Location(placement));
  given.point = vertex.point.Transformed(placement);
  given.extent = {*given.point};
  return given;
}

Result<Given> given_by(const Part& part, const TopologyReference& reference, const gp_Trsf& placement) {
  auto index = resolve(part, reference);
  if (!index) return refuse(index);
  if (reference.kind == TopologyKind::kFace) return given_by_face(part, *index, placement);
  if (reference.kind == TopologyKind::kEdge) return given_by_edge(part, *index, reference.snap, placement);
  return given_by_vertex(part, *index, placement);
}

std::string pick_text(const Part& part, TopologyKind kind, int index, Snap snap, const Display& display) {
  if (kind == TopologyKind::kFace) return face_text(part.topology(), index, display);
  if (kind == TopologyKind::kEdge) return edge_text(part.topology().edges[index], snap, display);
  return "vertex";
}

}  // namespace anvil
