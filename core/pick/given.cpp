#include "pick/given.h"

#include <BRepAdaptor_Curve.hxx>
#include <ElCLib.hxx>

#include "geom/primitives.h"
#include "part/along_curve.h"
#include "part/recognise_curve.h"
#include "pick/give_surface.h"

namespace anvil {
namespace {

gp_Pnt middle_by_length(const BRepAdaptor_Curve& curve) {
  const auto middle = parameter_at_share(curve, 0.5);
  return curve.Value(middle.value_or(0.5 * (curve.FirstParameter() + curve.LastParameter())));
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

std::optional<PartPick> picked(const Part& part, TopologyKind kind, int index, const gp_Trsf& placement) {
  PartPtr shared = part.weak_from_this().lock();
  if (!shared) return std::nullopt;
  return PartPick{std::move(shared), kind, index, placement};
}

TopoDS_Shape body_of(const Part& part, int body, const gp_Trsf& placement) {
  return part.bodies()[body].shape.Moved(TopLoc_Location(placement));
}

void give_line(Given& given, const gp_Ax1& line) {
  given.is_straight_edge = true;
  give_axis(given, line);
}

void give_circle(Given& given, const gp_Circ& circle) {
  given.is_circular_edge = true;
  give_axis(given, circle.Axis());
  given.point = circle.Location();
  given.plane = gp_Pln(gp_Ax3(circle.Position()));
}

// Curves stored as B-splines give what they really are.
void give_recognised(Given& given) {
  const TopoDS_Edge& edge = TopoDS::Edge(given.shape);
  const auto found = recognise_curve(edge, kRecognised_mm);
  if (!found) {
    given.plane = plane_of_curve(edge, kRecognised_mm);
    if (given.plane) given.direction = given.plane->Axis().Direction();
    return;
  }
  given.deviation_mm = found->deviation_mm;
  if (found->line) give_line(given, gp_Ax1(found->line->Position()));
  if (found->circle) give_circle(given, *found->circle);
}

// Through holes of one part are entered from one side, whichever way their faces were made: from where Z is
// highest, then Y, then X.
HoleEnds from_above(const HoleEnds& hole) {
  for (const double part : {hole.out.Z(), hole.out.Y(), hole.out.X()}) {
    if (std::abs(part) < 1e-6) continue;
    if (part > 0) return hole;
    return {hole.bottom, hole.opening, hole.out.Reversed(), true};
  }
  return hole;
}

}  // namespace

void give_axis(Given& given, const gp_Ax1& axis) {
  given.axis = axis;
  given.direction = axis.Direction();
}

void give_surface(Given& given, const Surface& s) {
  given.surface = s;
  if (s.kind == SurfaceKind::kPlane) {
    given.plane = s.plane();
    given.direction = s.position.Direction();
  } else if (s.is_revolution()) {
    give_axis(given, s.axis());
  } else if (s.kind == SurfaceKind::kSphere) {
    given.point = s.position.Location();
  }
}

Given given_by_face(const Part& part, int index, const gp_Trsf& placement) {
  const TopologyIndex& topology = part.topology();
  const FaceInfo& face = topology.faces[index];
  Given given;
  given.is_on_part = true;
  given.shape = face.face.Moved(TopLoc_Location(placement));
  given.body = body_of(part, face.body, placement);
  given.picked = picked(part, TopologyKind::kFace, index, placement);
  given.extent = extent_of(topology, face, placement);
  Surface s = face.surface;
  given.deviation_mm = s.deviation_mm;
  s.position.Transform(placement);
  give_surface(given, s);
  if (auto ends = hole_ends(part, index)) {
    ends->opening.Transform(placement);
    ends->bottom.Transform(placement);
    ends->out.Transform(placement);
    given.hole = ends->through ? from_above(*ends) : *ends;
  }
  return given;
}

Given given_by_edge(const Part& part, int index, Snap snap, const gp_Trsf& placement) {
  const EdgeInfo& edge = part.topology().edges[index];
  Given given = given_by_curve(TopoDS::Edge(edge.edge.Moved(TopLoc_Location(placement))), snap);
  given.is_on_part = true;
  given.body = body_of(part, edge.body, placement);
  given.picked = picked(part, TopologyKind::kEdge, index, placement);
  return given;
}

std::pair<gp_Pnt, bool> quadrant_of(const BRepAdaptor_Curve& curve, int number) {
  const gp_Circ circle = curve.Circle();
  gp_Dir normal = circle.Axis().Direction();
  // Numbered the same way round whichever way the circle was drawn.
  const gp_XYZ n = normal.XYZ();
  const double largest = std::max({std::abs(n.X()), std::abs(n.Y()), std::abs(n.Z())});
  for (const double part : {n.Z(), n.Y(), n.X()}) {
    if (std::abs(part) < largest - 1e-9) continue;
    if (part < 0) normal.Reverse();
    break;
  }
  const gp_Dir x = square_to(normal, std::abs(normal.X()) > 1 - 1e-9 ? gp_Dir(0, 1, 0) : gp_Dir(1, 0, 0));
  const gp_Vec out = gp_Vec(x).Rotated(gp_Ax1(circle.Location(), normal), number * kPi / 2);
  const gp_Pnt at = circle.Location().Translated(out * circle.Radius());
  double parameter = ElCLib::Parameter(circle, at);
  const double from = curve.FirstParameter(), to = curve.LastParameter();
  while (parameter > from + 1e-9) parameter -= 2 * kPi;
  while (parameter < from - 1e-9) parameter += 2 * kPi;
  return {at, parameter <= to + 1e-9};
}

Given given_by_curve(const TopoDS_Edge& edge, Snap snap) {
  EdgeInfo info;
  describe_curve(edge, info);
  Given given;
  given.shape = edge;
  const BRepAdaptor_Curve curve(edge);
  const double t0 = curve.FirstParameter(), t1 = curve.LastParameter();
  if (snap == Snap::kStart || snap == Snap::kEnd) given.point = curve.Value(snap == Snap::kStart ? t0 : t1);
  if (snap == Snap::kMiddle) given.point = middle_by_length(curve);
  if (snap == Snap::kCentre && info.kind == CurveKind::kCircle) given.point = curve.Circle().Location();
  if (snap >= Snap::kQuadrant1 && info.kind == CurveKind::kCircle)
    given.point = quadrant_of(curve, static_cast<int>(snap) - static_cast<int>(Snap::kQuadrant1)).first;
  if (given.point) {
    given.extent = {*given.point};
    given.shape.Nullify();
    return given;
  }
  for (int i = 0; i <= 8; ++i) given.extent.push_back(curve.Value(t0 + (t1 - t0) * i / 8));
  switch (info.kind) {
    case CurveKind::kLine:
      give_line(given, gp_Ax1(curve.Value(t0), curve.Line().Direction()));
      break;
    case CurveKind::kCircle:
      give_circle(given, curve.Circle());
      break;
    case CurveKind::kEllipse:
      given.point = curve.Ellipse().Location();
      given.plane = gp_Pln(gp_Ax3(curve.Ellipse().Position()));
      break;
    case CurveKind::kOther:
      give_recognised(given);
      break;
  }
  return given;
}

Given given_by_vertex(const Part& part, int index, const gp_Trsf& placement) {
  Given given;
  given.is_on_part = true;
  const VertexInfo& vertex = part.topology().vertices[index];
  given.shape = vertex.vertex.Moved(TopLoc_Location(placement));
  given.body = body_of(part, vertex.body, placement);
  given.point = vertex.point.Transformed(placement);
  given.extent = {*given.point};
  return given;
}

Given given_at(const Part& part, TopologyKind kind, int index, Snap snap, const gp_Trsf& placement) {
  if (kind == TopologyKind::kFace) return given_by_face(part, index, placement);
  if (kind == TopologyKind::kEdge) return given_by_edge(part, index, snap, placement);
  return given_by_vertex(part, index, placement);
}

Result<Given> given_by(const Part& part, const TopologyReference& reference, const gp_Trsf& placement) {
  auto index = resolve(part, reference);
  if (!index) return refuse(index);
  return given_at(part, reference.kind, *index, reference.snap, placement);
}

}  // namespace anvil
