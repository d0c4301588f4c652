#include "part/surface_curves.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <ShapeFix_Edge.hxx>
#include <ShapeFix_Wire.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include "geom/guard.h"
#include "geom/in_parallel.h"

namespace anvil {
namespace {

bool lacks_curve(const TopoDS_Edge& edge, const TopoDS_Face& face) {
  double first, last;
  return !BRep_Tool::Degenerated(edge) && BRep_Tool::CurveOnSurface(edge, face, first, last).IsNull();
}

void make_curves_of(const TopoDS_Wire& wire, const TopoDS_Face& face) {
  ShapeFix_Wire fixing(wire, face, Precision::Confusion());
  fixing.FixAddPCurveMode() = 1;
  fixing.FixSeamMode() = 1;
  fixing.FixShiftedMode() = 1;
  for (Standard_Integer* mode :
       {&fixing.FixReversed2dMode(), &fixing.FixRemovePCurveMode(), &fixing.FixAddCurve3dMode(),
        &fixing.FixRemoveCurve3dMode(), &fixing.FixSameParameterMode(), &fixing.FixVertexToleranceMode()})
    *mode = 0;
  fixing.FixEdgeCurves();
}

// Where a made curve does not run at the pace of the curve in space, it is made to, or the edge says how far
// off it is.
void run_alike(const TopoDS_Face& face) {
  ShapeFix_Edge fixing;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(edges.Current());
    if (BRep_Tool::Degenerated(edge) || (BRep_Tool::SameParameter(edge) && BRep_Tool::SameRange(edge)))
      continue;
    fixing.FixSameParameter(edge, face);
    fixing.FixVertexTolerance(edge, face);
  }
}

// What was made for a copy of a face, given to the face's own edges. An edge that the copy does not run alike
// stays marked so, for whoever makes it; tolerances only grow.
void adopt(const TopoDS_Face& face, const TopoDS_Face& copy) {
  const BRep_Builder builder;
  TopExp_Explorer made(copy, TopAbs_EDGE);
  for (TopExp_Explorer own(face, TopAbs_EDGE); own.More() && made.More(); own.Next(), made.Next()) {
    const TopoDS_Edge &edge = TopoDS::Edge(own.Current()), &by = TopoDS::Edge(made.Current());
    if (!lacks_curve(edge, face)) continue;
    double first, last;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(by, copy, first, last);
    if (curve.IsNull()) continue;
    const double tolerance = BRep_Tool::Tolerance(by);
    if (BRep_Tool::IsClosed(by, copy)) {
      const Handle(Geom2d_Curve) other =
          BRep_Tool::CurveOnSurface(TopoDS::Edge(by.Reversed()), copy, first, last);
      const bool forward = by.Orientation() == TopAbs_FORWARD;
      builder.UpdateEdge(edge, forward ? curve : other, forward ? other : curve, face, tolerance);
    } else {
      builder.UpdateEdge(edge, curve, face, tolerance);
    }
    builder.Range(edge, face, first, last);
    if (!BRep_Tool::SameRange(by)) builder.SameRange(edge, false);
    if (!BRep_Tool::SameParameter(by)) builder.SameParameter(edge, false);
  }
  TopExp_Explorer corner(copy, TopAbs_VERTEX);
  for (TopExp_Explorer own(face, TopAbs_VERTEX); own.More() && corner.More(); own.Next(), corner.Next())
    builder.UpdateVertex(TopoDS::Vertex(own.Current()),
                         BRep_Tool::Tolerance(TopoDS::Vertex(corner.Current())));
}

}  // namespace

void make_surface_curves(const std::vector<TopoDS_Face>& faces) {
  std::vector<TopoDS_Face> lacking, copies;
  for (const TopoDS_Face& face : faces)
    if (lacks_surface_curves(face)) lacking.push_back(TopoDS::Face(face.Oriented(TopAbs_FORWARD)));
  if (lacking.size() < 2) return;
  for (const TopoDS_Face& face : lacking)
    copies.push_back(TopoDS::Face(BRepBuilderAPI_Copy(face, false, false).Shape()));
  in_parallel(static_cast<int>(copies.size()), [&](int i) {
    static_cast<void>(guarded("making curves", [&]() -> Result<void> {
      make_surface_curves(copies[static_cast<size_t>(i)]);
      return {};
    }));
  });
  for (size_t i = 0; i < lacking.size(); ++i) adopt(lacking[i], copies[i]);
}

bool lacks_surface_curves(const TopoDS_Face& face) {
  TopLoc_Location anywhere;
  if (BRep_Tool::Surface(face, anywhere).IsNull() ||
      BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane)
    return false;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    if (lacks_curve(TopoDS::Edge(edges.Current()), face)) return true;
  return false;
}

bool make_surface_curves(const TopoDS_Face& shape) {
  // A reversed face would turn its wires round, but not the order of their edges.
  const TopoDS_Face face = TopoDS::Face(shape.Oriented(TopAbs_FORWARD));
  if (lacks_surface_curves(face))
    for (TopoDS_Iterator wires(face); wires.More(); wires.Next())
      if (wires.Value().ShapeType() == TopAbs_WIRE) make_curves_of(TopoDS::Wire(wires.Value()), face);
  run_alike(face);
  return !lacks_surface_curves(face);
}

}  // namespace anvil
