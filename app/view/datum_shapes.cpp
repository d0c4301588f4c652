#include "app/view/datum_shapes.h"

#include <BRepAdaptor_Curve.hxx>

namespace anvil::app {
namespace {

struct Segments {
  double mm_per_pixel;
  std::vector<Segment> operator()(const PointDatum& v) const {
    const double arm = 7 * mm_per_pixel;
    std::vector<Segment> lines;
    for (const gp_Vec& d : {gp_Vec(arm, 0, 0), gp_Vec(0, arm, 0), gp_Vec(0, 0, arm)})
      lines.emplace_back(v.point.Translated(-d), v.point.Translated(d));
    return lines;
  }
  std::vector<Segment> operator()(const AxisDatum& v) const {
    const gp_Vec d(v.axis.Direction());
    return {{v.axis.Location().Translated(d * v.from_mm), v.axis.Location().Translated(d * v.to_mm)}};
  }
  std::vector<Segment> operator()(const PlaneDatum& v) const {
    const std::vector<gp_Pnt> corners = plane_corners(v);
    constexpr double kBracket = 0.22;
    std::vector<Segment> lines;
    for (size_t i = 0; i < 4; ++i) {
      const gp_Pnt &a = corners[i], &b = corners[(i + 1) % 4];
      const gp_Vec side(a, b);
      lines.emplace_back(a, a.Translated(side * kBracket));
      lines.emplace_back(b, b.Translated(side * -kBracket));
    }
    return lines;
  }
  std::vector<Segment> operator()(const FrameDatum& v) const {
    const double arm = kFrameArm_px * mm_per_pixel;
    std::vector<Segment> lines;
    for (const gp_Dir& d : {v.frame.XDirection(), v.frame.YDirection(), v.frame.Direction()})
      lines.emplace_back(v.frame.Location(), v.frame.Location().Translated(gp_Vec(d) * arm));
    return lines;
  }
  std::vector<Segment> operator()(const Measurement& v) const { return {{v.from, v.to}}; }
  std::vector<Segment> operator()(const PlacementStep&) const { return {}; }
  std::vector<Segment> operator()(const PlannedCorrection&) const { return {}; }
  std::vector<Segment> operator()(const FigureDatum& v) const {
    std::vector<Segment> lines;
    for (const TopoDS_Edge& edge : v.edges)
      for (Segment& segment : curve_segments(edge)) lines.push_back(std::move(segment));
    return lines;
  }
};

struct Anchor {
  gp_Pnt operator()(const PointDatum& v) const { return v.point; }
  gp_Pnt operator()(const AxisDatum& v) const {
    return v.axis.Location().Translated(gp_Vec(v.axis.Direction()) * v.to_mm);
  }
  gp_Pnt operator()(const PlaneDatum& v) const { return plane_corners(v)[2]; }
  gp_Pnt operator()(const FrameDatum& v) const { return v.frame.Location(); }
  gp_Pnt operator()(const Measurement& v) const { return gp_Pnt((v.from.XYZ() + v.to.XYZ()) / 2); }
  gp_Pnt operator()(const PlacementStep&) const { return {}; }
  gp_Pnt operator()(const PlannedCorrection&) const { return {}; }
  gp_Pnt operator()(const FigureDatum& v) const {
    return v.edges.empty() ? v.plane.Location() : curve_segments(v.edges.front()).front().first;
  }
};

}  // namespace

std::vector<Segment> curve_segments(const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  const double from = curve.FirstParameter(), to = curve.LastParameter();
  const int count = curve.GetType() == GeomAbs_Line ? 1 : 48;
  std::vector<Segment> lines;
  gp_Pnt last = curve.Value(from);
  for (int i = 1; i <= count; ++i) {
    const gp_Pnt next = curve.Value(from + (to - from) * i / count);
    lines.emplace_back(last, next);
    last = next;
  }
  return lines;
}

std::vector<gp_Pnt> plane_corners(const PlaneDatum& v) {
  const gp_Vec x = gp_Vec(v.plane.XAxis().Direction()) * v.half_x_mm,
               y = gp_Vec(v.plane.YAxis().Direction()) * v.half_y_mm;
  return {v.centre.Translated(-x - y), v.centre.Translated(x - y), v.centre.Translated(x + y),
          v.centre.Translated(y - x)};
}

std::vector<Segment> datum_segments(const DatumValue& value, double mm_per_pixel) {
  return std::visit(Segments{mm_per_pixel}, value);
}

gp_Pnt datum_anchor(const DatumValue& value) {
  return std::visit(Anchor{}, value);
}

}  // namespace anvil::app
