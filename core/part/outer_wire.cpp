#include "part/outer_wire.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <cmath>

#include "part/edge_info.h"

namespace anvil {
namespace {

// Of the box around it. What lies within another outline has the smaller one, as far as boxes are exact.
double extent_mm(const TopoDS_Wire& wire) {
  double squared = 0;
  for (const gp_Dir& direction : {gp_Dir(1, 0, 0), gp_Dir(0, 1, 0), gp_Dir(0, 0, 1)}) {
    double low = 1e300, high = -1e300;
    for (TopoDS_Iterator edges(wire); edges.More(); edges.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(edges.Value());
      if (BRep_Tool::Degenerated(edge)) continue;
      const auto [from, to] = level_range(edge, direction);
      low = std::min(low, from);
      high = std::max(high, to);
    }
    if (high > low) squared += (high - low) * (high - low);
  }
  return std::sqrt(squared);
}

}  // namespace

TopoDS_Wire outer_wire(const TopoDS_Face& face) {
  if (face.NbChildren() == 1 || BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane)
    return BRepTools::OuterWire(face);
  TopoDS_Wire outer;
  double largest = -1;
  for (TopoDS_Iterator wires(face); wires.More(); wires.Next()) {
    if (wires.Value().ShapeType() != TopAbs_WIRE) continue;
    const TopoDS_Wire wire = TopoDS::Wire(wires.Value());
    const double extent = extent_mm(wire);
    if (extent <= largest) continue;
    largest = extent;
    outer = wire;
  }
  return outer;
}

}  // namespace anvil
