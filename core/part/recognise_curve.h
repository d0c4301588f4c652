// Curves that are really lines or circles, whatever they are stored as.
#pragma once

#include <TopoDS_Edge.hxx>
#include <gp_Circ.hxx>
#include <gp_Lin.hxx>
#include <optional>

namespace anvil {

struct RecognisedCurve {
  std::optional<gp_Lin> line;     // along the sense of the curve, through its start
  std::optional<gp_Circ> circle;  // anticlockwise along the sense of the curve
  double deviation_mm = 0;        // largest, on a dense sample
};

// By least squares on a sample of the curve; nothing when neither fits within `tolerance_mm`.
std::optional<RecognisedCurve> recognise_curve(const TopoDS_Edge& edge, double tolerance_mm);

// The plane a curve lies in, within `tolerance_mm`; nothing for straight and twisted ones.
std::optional<gp_Pln> plane_of_curve(const TopoDS_Edge& edge, double tolerance_mm);

}  // namespace anvil
