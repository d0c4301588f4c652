#include "part/spline_faces.h"

#include <BRepCheck_Analyzer.hxx>
#include <BRepTools.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeFix_Edge.hxx>
#include <ShapeFix_Face.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Wire.hxx>

#include "part/recognise.h"

namespace anvil {
namespace {

// Does the parametrisation of the surface point the same way as the outward normal of the face it takes over?
bool same_side(const Recognised& found, const TopoDS_Face& face) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  gp_Dir outward;
  if (!outward_normal(face, (u0 + u1) / 2, (v0 + v1) / 2, outward)) return true;
  if (found.surface.kind == SurfaceKind::kPlane) return found.surface.position.Direction().Dot(outward) > 0;
  return !found.surface.inside;  // the kernel's surfaces of revolution have their normal away from the axis
}

// The same outlines on the exact surface; seams and apexes are made anew by the fixing.
TopoDS_Face on_exact_surface(const TopoDS_Face& face, const Recognised& found, double tolerance_mm) {
  BRep_Builder builder;
  TopoDS_Face made;
  builder.MakeFace(made, found.exact, tolerance_mm);
  ShapeFix_Edge edges;
  for (TopoDS_Iterator wires(face.Oriented(TopAbs_FORWARD)); wires.More(); wires.Next()) {
    if (wires.Value().ShapeType() != TopAbs_WIRE) continue;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (TopoDS_Iterator it(wires.Value()); it.More(); it.Next()) {
      const TopoDS_Edge edge = TopoDS::Edge(it.Value());
      const bool seam = BRep_Tool::IsClosed(edge, face);
      if (BRep_Tool::Degenerated(edge) || seam) continue;
      builder.Add(wire, edge);
    }
    builder.Add(made, wire);
  }
  if (!same_side(found, face)) made.Reverse();
  return made;
}

}  // namespace

SplineFaces with_exact_surfaces(const TopoDS_Shape& shape, double tolerance_mm) {
  SplineFaces result{shape, {}};
  const Handle(ShapeBuild_ReShape) context = new ShapeBuild_ReShape;
  std::vector<std::pair<SurfaceKind, double>> exchanged;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    const TopoDS_Face face = TopoDS::Face(faces.Current());
    const auto found = recognise_spline(face, tolerance_mm);
    if (!found) continue;
    ShapeFix_Face fixing(on_exact_surface(face, *found, tolerance_mm));
    fixing.SetPrecision(std::max(1e-6, found->deviation_mm));
    fixing.SetMaxTolerance(tolerance_mm);
    fixing.Perform();
    if (!BRepCheck_Analyzer(fixing.Face()).IsValid()) continue;  // keeps the B-spline rather than a broken face
    context->Replace(face, fixing.Result());
    exchanged.emplace_back(found->surface.kind, found->deviation_mm);
  }
  if (exchanged.empty()) return result;
  const TopoDS_Shape rebuilt = context->Apply(shape);
  if (rebuilt.IsNull() || rebuilt.ShapeType() != shape.ShapeType()) return result;
  return {rebuilt, std::move(exchanged)};
}

}  // namespace anvil
