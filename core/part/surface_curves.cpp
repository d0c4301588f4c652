#include "part/surface_curves.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <ShapeFix_Edge.hxx>
#include <ShapeFix_Wire.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

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

}  // namespace

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
