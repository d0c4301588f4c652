// Points where picks cross.
#include <fmt/format.h>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_IntCS.hxx>
#include <Geom_Plane.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"

namespace anvil {
namespace {

Solutions axis_with_plane(const Inputs& in) {
  const gp_Ax1& axis = *in[0].axis;
  const gp_Pln& plane = *in[1].plane;
  const double slope = axis.Direction().Dot(plane.Axis().Direction()),
               height = height_over(plane, axis.Location());
  if (std::abs(slope) < std::sin(in.tolerance.angular_rad))
    return refused(fmt::format("{{1}} is parallel to {{2}}, {} from it: they do not cross",
                               format_length(std::abs(height), in.display)),
                   {{"distance_mm", std::abs(height)}}, "axis.projected");
  return one(PointDatum{axis.Location().Translated(gp_Vec(axis.Direction()) * (-height / slope))});
}

Solutions axis_with_axis(const Inputs& in) {
  const Bridge between = bridge(*in[0].axis, *in[1].axis, in.tolerance.angular_rad);
  if (between.parallel)
    return refused(fmt::format("axes {{1}} and {{2}} are parallel, {} apart: no intersection",
                               format_length(between.gap_mm, in.display)),
                   {{"distance_mm", between.gap_mm}}, "axis.midway");
  const bool meet = between.gap_mm <= in.tolerance.linear_mm;
  return one(
      PointDatum{midpoint(between.on_a, between.on_b)},
      meet ? ""
           : fmt::format("middle of the gap of {} between them", format_length(between.gap_mm, in.display)));
}

// Of three planes with no common point: two that are parallel, or all share a line or a direction.
Solutions no_common_point(const Inputs& in) {
  for (const auto& [a, b] : {std::pair{0, 1}, std::pair{0, 2}, std::pair{1, 2}}) {
    const gp_Pln &p = *in[a].plane, &q = *in[b].plane;
    if (!parallel(p.Axis().Direction(), q.Axis().Direction(), in.tolerance.angular_rad)) continue;
    const double apart = std::abs(height_over(p, q.Location()));
    return refused(fmt::format("{{{}}} and {{{}}} are parallel, {} apart: the three have no common point",
                               a + 1, b + 1, format_length(apart, in.display)),
                   {{"distance_mm", apart}});
  }
  const auto line = crossing(*in[0].plane, *in[1].plane, in[0].plane->Location(), in.tolerance.angular_rad);
  if (!line) return refuse(line);
  const double off = std::abs(height_over(*in[2].plane, line->Location()));
  return refused(off <= in.tolerance.linear_mm
                     ? std::string("the three planes share a whole line: any point of it would do")
                     : fmt::format("the line where {{1}} and {{2}} cross is parallel to {{3}}, {} from it",
                                   format_length(off, in.display)),
                 {{"distance_mm", off}});
}

Solutions three_planes(const Inputs& in) {
  const auto line = crossing(*in[0].plane, *in[1].plane, in[2].plane->Location(), in.tolerance.angular_rad);
  if (!line) return no_common_point(in);
  const double slope = line->Direction().Dot(in[2].plane->Axis().Direction());
  if (std::abs(slope) < std::sin(in.tolerance.angular_rad)) return no_common_point(in);
  const double height = height_over(*in[2].plane, line->Location());
  return one(PointDatum{line->Location().Translated(gp_Vec(line->Direction()) * (-height / slope))});
}

// Keys count along the axis, which no change of the model turns round; the nearest to where the axis was
// picked comes first.
std::vector<Solution> along_axis(std::vector<gp_Pnt> points, const gp_Ax1& axis, const gp_Pnt& near) {
  const auto level = [&](const gp_Pnt& p) {
    return gp_Vec(axis.Location(), p).Dot(gp_Vec(axis.Direction()));
  };
  std::sort(points.begin(), points.end(),
            [&](const gp_Pnt& a, const gp_Pnt& b) { return level(a) < level(b); });
  std::vector<Solution> solutions;
  for (const gp_Pnt& p : points) {
    if (!solutions.empty() &&
        std::get<PointDatum>(solutions.back().value).point.Distance(p) < kExact.linear_mm)
      continue;
    solutions.push_back({PointDatum{p}, fmt::format("crossing-{}", solutions.size() + 1), ""});
  }
  std::stable_sort(solutions.begin(), solutions.end(), [&](const Solution& a, const Solution& b) {
    return std::get<PointDatum>(a.value).point.Distance(near) <
           std::get<PointDatum>(b.value).point.Distance(near);
  });
  return solutions;
}

Solutions misses(const Inputs& in, const TopoDS_Shape& a, const TopoDS_Shape& b, std::string instead) {
  const BRepExtrema_DistShapeShape extrema(a, b);
  const double apart = extrema.IsDone() && extrema.NbSolution() > 0 ? extrema.Value() : 0;
  return refused(fmt::format("{{1}} misses {{2}} by {}", format_length(apart, in.display)),
                 {{"distance_mm", apart}}, std::move(instead));
}

Solutions axis_with_face(const Inputs& in) {
  const gp_Ax1& axis = *in[0].axis;
  IntCurvesFace_ShapeIntersector hits;
  const gp_Pnt near = in[1].extent.empty() ? axis.Location() : foot_on(axis, average_of(in[1].extent));
  // Near the origin: the kernel looks for crossings with fixed steps of a size that drowns far from it.
  gp_Trsf home;
  home.SetTranslation(near, gp_Pnt());
  hits.Load(in[1].shape.Moved(TopLoc_Location(home)), 1e-7);
  constexpr double kReach_mm = 1e5;
  hits.Perform(gp_Lin(gp_Pnt(), axis.Direction()), -kReach_mm, kReach_mm);
  std::vector<gp_Pnt> points;
  for (int i = 1; i <= hits.NbPnt(); ++i) points.push_back(hits.Pnt(i).Transformed(home.Inverted()));
  if (points.empty()) return misses(in, measurable_shape(in[0], near), in[1].shape, "measure.distance");
  return along_axis(points, axis, in[0].extent.empty() ? axis.Location() : average_of(in[0].extent));
}

Solutions curve_with_plane(const Inputs& in) {
  double first, last;
  const TopoDS_Edge& edge = TopoDS::Edge(in[0].shape);
  const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
  if (curve.IsNull()) return refused("{1} has no curve");
  GeomAPI_IntCS hits(new Geom_TrimmedCurve(curve, first, last), new Geom_Plane(*in[1].plane));
  if (hits.NbSegments() > 0) return refused("{1} runs in {2}: any point of it would do", {}, "point.on-edge");
  std::vector<std::pair<double, gp_Pnt>> points;
  for (int i = 1; i <= hits.NbPoints(); ++i) {
    double u, v, t;
    hits.Parameters(i, u, v, t);
    points.emplace_back(t, hits.Point(i));
  }
  if (points.empty())
    return misses(in, edge, measurable_shape(in[1], foot_on(*in[1].plane, curve->Value(first))),
                  "measure.distance");
  std::sort(points.begin(), points.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<Solution> solutions;
  solutions.reserve(points.size());
  for (const auto& [t, p] : points)
    solutions.push_back({PointDatum{p}, fmt::format("crossing-{}", solutions.size() + 1), ""});
  return solutions;
}

}  // namespace

Construction point_of_axis_and_plane() {
  return described(Makes::kPoint, "point.axis-plane", "Point where axis {1} meets plane {2}",
                   {Need::kAxis, Need::kPlane}, 14, axis_with_plane);
}

Construction point_of_axis_and_face() {
  Construction c = described(Makes::kPoint, "point.axis-face", "Points where axis {1} meets face {2}",
                             {Need::kAxis, Need::kFace}, 24, axis_with_face);
  return c;
}

Construction point_of_two_axes() {
  Construction c = described(Makes::kPoint, "point.two-axes", "Point where axes {1} and {2} cross",
                             {Need::kAxis, Need::kAxis}, 21, axis_with_axis);
  return c;
}

Construction point_of_three_planes() {
  return described(Makes::kPoint, "point.three-planes", "Point where {1}, {2} and {3} meet",
                   {Need::kPlane, Need::kPlane, Need::kPlane}, 12, three_planes);
}

Construction point_of_curve_and_plane() {
  return described(Makes::kPoint, "point.curve-plane", "Points where edge {1} meets plane {2}",
                   {Need::kEdge, Need::kPlane}, 23, curve_with_plane);
}

}  // namespace anvil
