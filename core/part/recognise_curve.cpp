#include "part/recognise_curve.h"

#include <BRepAdaptor_Curve.hxx>

#include "geom/fits.h"

namespace anvil {
namespace {

constexpr int kSamples = 64;

std::vector<gp_Pnt> sample(const BRepAdaptor_Curve& curve) {
  std::vector<gp_Pnt> points;
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  for (int i = 0; i <= kSamples; ++i) points.push_back(curve.Value(first + (last - first) * i / kSamples));
  return points;
}

}  // namespace

std::optional<RecognisedCurve> recognise_curve(const TopoDS_Edge& edge, double tolerance_mm) {
  const BRepAdaptor_Curve curve(edge);
  const std::vector<gp_Pnt> points = sample(curve);
  RecognisedCurve found;
  if (const auto line = fit_line(points, tolerance_mm); line && line->quality.largest_mm <= tolerance_mm) {
    found.line = gp_Lin(points.front(), gp_Dir(gp_Vec(points.front(), points.back())));
    found.deviation_mm = line->quality.largest_mm;
    return found;
  }
  const auto circle = fit_circle(points, tolerance_mm);
  if (!circle || circle->quality.largest_mm > tolerance_mm) return std::nullopt;
  found.circle = circle->shape;
  found.deviation_mm = circle->quality.largest_mm;
  // A whole circle starts and ends at one point, and the sense of its plane may have been taken from there.
  const gp_Vec turn = gp_Vec(circle->shape.Location(), points[0])
                          .Crossed(gp_Vec(circle->shape.Location(), points[kSamples / 8]));
  if (turn.Dot(gp_Vec(circle->shape.Axis().Direction())) < 0)
    found.circle = gp_Circ(gp_Ax2(circle->shape.Location(), circle->shape.Axis().Direction().Reversed()),
                           circle->shape.Radius());
  return found;
}

std::optional<gp_Pln> plane_of_curve(const TopoDS_Edge& edge, double tolerance_mm) {
  const auto plane = fit_plane(sample(BRepAdaptor_Curve(edge)), tolerance_mm);
  if (!plane || plane->quality.largest_mm > tolerance_mm) return std::nullopt;
  return plane->shape;
}

}  // namespace anvil
