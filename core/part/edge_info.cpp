#include "part/edge_info.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <Geom2d_Curve.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Elips.hxx>
#include <tuple>

#include "base/tolerance.h"
#include "base/units.h"
#include "geom/primitives.h"

namespace anvil {
namespace {

bool normal_at(const TopoDS_Face& face, const TopoDS_Edge& edge, double t, gp_Dir& normal) {
  double first, last;
  const Handle(Geom2d_Curve) pcurve = BRep_Tool::CurveOnSurface(edge, face, first, last);
  if (pcurve.IsNull()) return false;
  const gp_Pnt2d uv = pcurve->Value(t);
  return outward_normal(face, uv.X(), uv.Y(), normal);
}

std::optional<gp_Dir> chord_if_straight(const BRepAdaptor_Curve& curve) {
  constexpr int kSamples = 16;
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  const gp_Pnt start = curve.Value(first);
  const gp_Vec chord(start, curve.Value(last));
  if (chord.Magnitude() < 10 * kRecognised_mm) return std::nullopt;
  const gp_Dir along(chord);
  for (int i = 1; i < kSamples; ++i) {
    const gp_Vec to(start, curve.Value(first + (last - first) * i / kSamples));
    if (to.Crossed(gp_Vec(along)).Magnitude() > kRecognised_mm) return std::nullopt;
  }
  return along;
}

// The lowest value of a smooth function of one variable near `t`, within +- step: golden section, to 1e-7 of
// the step, where the function is flat.
template <class Function>
double lowest_near(const Function& f, double t, double step) {
  constexpr double kGolden = 0.6180339887498949;
  double a = t - step, b = t + step;
  for (int i = 0; i < 34; ++i) {
    const double c = b - kGolden * (b - a), d = a + kGolden * (b - a);
    (f(c) < f(d) ? b : a) = f(c) < f(d) ? d : c;
  }
  return f(0.5 * (a + b));
}

// Level of a conic: level(t) = c + a cos t + b sin t, extreme where tan t = b/a.
std::pair<double, double> conic_range(double c, double a, double b, double t0, double t1) {
  const auto level = [&](double t) { return c + a * std::cos(t) + b * std::sin(t); };
  double low = std::min(level(t0), level(t1)), high = std::max(level(t0), level(t1));
  const double extreme = std::atan2(b, a);
  const int last = static_cast<int>(std::floor((t1 - extreme) / kPi));
  for (int turn = static_cast<int>(std::ceil((t0 - extreme) / kPi)); turn <= last; ++turn) {
    const double at = level(extreme + turn * kPi);
    low = std::min(low, at);
    high = std::max(high, at);
  }
  return {low, high};
}

}  // namespace

const char* convexity_name(Convexity convexity) {
  switch (convexity) {
    case Convexity::kConvex:
      return "convex";
    case Convexity::kConcave:
      return "concave";
    case Convexity::kSmooth:
      return "smooth";
    case Convexity::kUnknown:
      return "open";
  }
  return "open";
}

gp_Pnt middle_of(const TopoDS_Edge& edge) {
  return middle_of(BRepAdaptor_Curve(edge));
}

double length_of(const TopoDS_Edge& edge) {
  return GCPnts_AbscissaPoint::Length(BRepAdaptor_Curve(edge));
}

void describe_curve(const TopoDS_Edge& edge, EdgeInfo& info) {
  const BRepAdaptor_Curve curve(edge);
  switch (curve.GetType()) {
    case GeomAbs_Line:
      info.kind = CurveKind::kLine;
      info.straight_along = curve.Line().Direction();
      info.snap = middle_of(curve);
      return;
    case GeomAbs_Circle:
      info.kind = CurveKind::kCircle;
      info.snap = curve.Circle().Location();
      return;
    case GeomAbs_Ellipse:
      info.kind = CurveKind::kEllipse;
      return;
    default:
      info.kind = CurveKind::kOther;
      info.straight_along = chord_if_straight(curve);
  }
}

Convexity edge_convexity(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b) {
  const BRepAdaptor_Curve curve(edge);
  const double t = 0.5 * (curve.FirstParameter() + curve.LastParameter());
  gp_Dir normal_a, normal_b;
  if (!normal_at(a, edge, t, normal_a) || !normal_at(b, edge, t, normal_b)) return Convexity::kUnknown;
  if (normal_a.Angle(normal_b) <= kSmoothEdge_rad) return Convexity::kSmooth;

  gp_Pnt p;
  gp_Vec tangent;
  curve.D1(t, p, tangent);
  if (edge.Orientation() == TopAbs_REVERSED) tangent.Reverse();
  // Seen from outside, the face lies to the left of its boundary.
  const gp_Vec into_a = gp_Vec(normal_a).Crossed(tangent);
  return into_a.Dot(gp_Vec(normal_b)) < 0 ? Convexity::kConvex : Convexity::kConcave;
}

double void_angle(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b) {
  constexpr int kPlaces = 8;
  const BRepAdaptor_Curve curve(edge);
  const double first = curve.FirstParameter(), last = curve.LastParameter();
  double smallest = kPi;
  for (int i = 0; i <= kPlaces; ++i) {
    const double t = first + (last - first) * i / kPlaces;
    gp_Dir normal_a, normal_b;
    if (!normal_at(a, edge, t, normal_a) || !normal_at(b, edge, t, normal_b)) continue;
    const double turn = normal_a.Angle(normal_b);
    smallest = std::min(smallest, kPi - turn);
  }
  return smallest;
}

std::pair<double, double> level_range(const TopoDS_Edge& edge, const gp_Dir& direction) {
  const BRepAdaptor_Curve curve(edge);
  const double t0 = curve.FirstParameter(), t1 = curve.LastParameter();
  const gp_XYZ d = direction.XYZ();
  const auto along = [&](const gp_Dir& v) { return v.XYZ().Dot(d); };
  switch (curve.GetType()) {
    case GeomAbs_Line: {
      const double a = curve.Value(t0).XYZ().Dot(d), b = curve.Value(t1).XYZ().Dot(d);
      return {std::min(a, b), std::max(a, b)};
    }
    case GeomAbs_Circle: {
      const gp_Circ c = curve.Circle();
      return conic_range(c.Location().XYZ().Dot(d), c.Radius() * along(c.XAxis().Direction()),
                         c.Radius() * along(c.YAxis().Direction()), t0, t1);
    }
    case GeomAbs_Ellipse: {
      const gp_Elips e = curve.Ellipse();
      return conic_range(e.Location().XYZ().Dot(d), e.MajorRadius() * along(e.XAxis().Direction()),
                         e.MinorRadius() * along(e.YAxis().Direction()), t0, t1);
    }
    default:
      break;
  }
  constexpr int kSamples = 64;
  const double step = (t1 - t0) / kSamples;
  const auto level = [&](double t) { return curve.Value(std::clamp(t, t0, t1)).XYZ().Dot(d); };
  double low = 1e300, high = -1e300, at_low = t0, at_high = t0;
  for (int i = 0; i <= kSamples; ++i) {
    const double t = t0 + step * i, here = level(t);
    if (here < low) std::tie(low, at_low) = std::pair(here, t);
    if (here > high) std::tie(high, at_high) = std::pair(here, t);
  }
  if (high - low < 1e-9) return {low, high};
  return {std::min(low, lowest_near(level, at_low, step)),
          std::max(high, -lowest_near([&](double t) { return -level(t); }, at_high, step))};
}

}  // namespace anvil
