#include "part/spline_faces.h"

#include <BRepCheck_Analyzer.hxx>
#include <BRepTools.hxx>
#include <Geom_ElementarySurface.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeFix_Edge.hxx>
#include <ShapeFix_Face.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Wire.hxx>

#include "geom/primitives.h"
#include "part/measure.h"
#include "part/recognise.h"

namespace anvil {
namespace {

// Areas of B-spline faces are integrated to about a thousandth; the other half of a surface would be off by
// far more.
constexpr double kSameArea = 0.02;

// An outline round a point (a cone's tip, a pole) has an edge without length there.
bool has_point(const TopoDS_Face& face) {
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    if (BRep_Tool::Degenerated(TopoDS::Edge(edges.Current()))) return true;
  return false;
}

// Does the parametrisation of the surface point the same way as the outward normal of the face it takes over?
bool same_side(const Recognised& found, const TopoDS_Face& face) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  gp_Dir outward;
  if (!outward_normal(face, (u0 + u1) / 2, (v0 + v1) / 2, outward)) return true;
  if (found.surface.kind == SurfaceKind::kPlane) return found.surface.position.Direction().Dot(outward) > 0;
  return !found.surface.inside;  // the kernel's surfaces of revolution have their normal away from the axis
}

// The surface turned about its axis so that it closes where the face has its seam.
Recognised closing_at_seam(Recognised found, const TopoDS_Face& face) {
  if (!found.surface.is_revolution()) return found;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges.Current());
    if (!BRep_Tool::IsClosed(edge, face)) continue;
    const BRepAdaptor_Curve curve(edge);
    const gp_Pnt p = middle_of(curve);
    const gp_Vec out(foot_on(found.surface.axis(), p), p);
    if (out.Magnitude() < 1e-9) continue;
    const gp_Ax3& at = found.surface.position;
    found.surface.position = gp_Ax3(at.Location(), at.Direction(), gp_Dir(out));
    Handle(Geom_ElementarySurface)::DownCast(found.exact)->SetPosition(found.surface.position);
    return found;
  }
  return found;
}

// The same outlines on the exact surface.
TopoDS_Face on_exact_surface(const TopoDS_Face& face, const Recognised& found, double tolerance_mm) {
  BRep_Builder builder;
  TopoDS_Face made;
  builder.MakeFace(made, found.exact, tolerance_mm);
  ShapeFix_Edge edges;
  // Outlines run round the natural normal of their surface: where the new one points the other way, they turn
  // round.
  const bool outward = same_side(found, face), flips = outward != (face.Orientation() != TopAbs_REVERSED);
  for (TopoDS_Iterator wires(face.Oriented(TopAbs_FORWARD)); wires.More(); wires.Next()) {
    if (wires.Value().ShapeType() != TopAbs_WIRE) continue;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (TopoDS_Iterator it(wires.Value()); it.More(); it.Next()) {
      const TopoDS_Edge edge = TopoDS::Edge(it.Value());
      const bool seam = BRep_Tool::IsClosed(edge, face);
      edges.FixAddPCurve(edge, made, seam, tolerance_mm);
      builder.Add(wire, edge);
    }
    if (TopoDS_Iterator(wire).More()) builder.Add(made, flips ? wire.Reversed() : wire);
  }
  if (!outward) made.Reverse();
  return made;
}

}  // namespace

SplineFaces with_exact_surfaces(const TopoDS_Shape& shape, double tolerance_mm) {
  SplineFaces result{shape, {}, {}};
  const Handle(ShapeBuild_ReShape) context = new ShapeBuild_ReShape;
  std::vector<std::pair<SurfaceKind, double>> exchanged;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    const TopoDS_Face face = TopoDS::Face(faces.Current());
    if (has_point(face)) continue;
    auto found = recognise_spline(face, tolerance_mm);
    if (!found) continue;
    found = closing_at_seam(std::move(*found), face);
    ShapeFix_Face fixing(on_exact_surface(face, *found, tolerance_mm));
    fixing.SetPrecision(std::max(1e-6, found->surface.deviation_mm));
    fixing.SetMaxTolerance(tolerance_mm);
    fixing.FixPeriodicDegeneratedMode() = 0;  // crashes on outlines round a point
    fixing.Perform();
    // Keeps the B-spline rather than a broken face, or the other half of a closed surface.
    if (!BRepCheck_Analyzer(fixing.Result()).IsValid()) continue;
    const double area = area_properties(face).area_mm2;
    if (std::abs(area_properties(fixing.Result()).area_mm2 - area) > kSameArea * area) continue;
    context->Replace(face, fixing.Result());
    exchanged.emplace_back(found->surface.kind, found->surface.deviation_mm);
  }
  if (exchanged.empty()) return result;
  const TopoDS_Shape rebuilt = context->Apply(shape);
  if (rebuilt.IsNull() || rebuilt.ShapeType() != shape.ShapeType()) return result;
  return {rebuilt, std::move(exchanged), context->History()};
}

}  // namespace anvil
