#include "geom/primitives.h"

#include <Adaptor3d_Curve.hxx>

#include <fmt/format.h>

#include <cmath>
#include <gp_Vec.hxx>

namespace anvil {

gp_Trsf into_frame(const gp_Ax2& frame) {
  gp_Trsf trsf;
  trsf.SetTransformation(gp_Ax3(frame));
  return trsf;
}

gp_Pnt read_in(const gp_Ax2& frame, const gp_Pnt& point) {
  const gp_Vec v(frame.Location(), point);
  return gp_Pnt(v.Dot(gp_Vec(frame.XDirection())), v.Dot(gp_Vec(frame.YDirection())),
                v.Dot(gp_Vec(frame.Direction())));
}

gp_Dir read_in(const gp_Ax2& frame, const gp_Dir& d) {
  return gp_Dir(d.Dot(frame.XDirection()), d.Dot(frame.YDirection()), d.Dot(frame.Direction()));
}

bool parallel(const gp_Dir& a, const gp_Dir& b, double angular_rad) {
  return a.IsParallel(b, angular_rad);
}

bool square(const gp_Dir& a, const gp_Dir& b, double angular_rad) {
  return a.IsNormal(b, angular_rad);
}

double acute_angle(const gp_Dir& a, const gp_Dir& b) {
  const double angle = a.Angle(b);
  return std::min(angle, M_PI - angle);
}

double height_over(const gp_Pln& plane, const gp_Pnt& point) {
  return gp_Vec(plane.Location(), point).Dot(gp_Vec(plane.Axis().Direction()));
}

gp_Pnt foot_on(const gp_Pln& plane, const gp_Pnt& point) {
  return point.Translated(gp_Vec(plane.Axis().Direction()) * -height_over(plane, point));
}

gp_Pnt foot_on(const gp_Ax1& axis, const gp_Pnt& point) {
  const gp_Vec along(axis.Direction());
  return axis.Location().Translated(along * gp_Vec(axis.Location(), point).Dot(along));
}

double distance(const gp_Ax1& axis, const gp_Pnt& point) {
  return foot_on(axis, point).Distance(point);
}

gp_Pnt midpoint(const gp_Pnt& a, const gp_Pnt& b) {
  return gp_Pnt((a.XYZ() + b.XYZ()) * 0.5);
}

Bridge bridge(const gp_Ax1& a, const gp_Ax1& b, double angular_rad) {
  Bridge result;
  const gp_Vec u(a.Direction()), v(b.Direction()), w(b.Location(), a.Location());
  const double uv = u.Dot(v);
  const double denominator = 1.0 - uv * uv;
  result.parallel = parallel(a.Direction(), b.Direction(), angular_rad);
  if (result.parallel) {
    result.on_a = a.Location();
    result.on_b = foot_on(b, a.Location());
  } else {
    const double s = (uv * v.Dot(w) - u.Dot(w)) / denominator;
    result.on_a = a.Location().Translated(u * s);
    result.on_b = foot_on(b, result.on_a);
  }
  result.gap_mm = result.on_a.Distance(result.on_b);
  return result;
}

Result<gp_Ax1> crossing(const gp_Pln& a, const gp_Pln& b, const gp_Pnt& near, double angular_rad) {
  const gp_Dir na = a.Axis().Direction(), nb = b.Axis().Direction();
  if (parallel(na, nb, angular_rad)) {
    const double gap = std::abs(height_over(a, b.Location()));
    Refusal refusal{RefusalCode::kGeometry,
                    fmt::format("the planes are parallel, {:.3f} mm apart: they share no line", gap)};
    refusal.facts["distance_mm"] = gap;
    refusal.instead = "plane.midway";
    return refuse(refusal);
  }
  const gp_Dir along = na.Crossed(nb);
  // From the foot on a, walk within a (square to the crossing line) until b is met.
  const gp_Pnt start = foot_on(a, near);
  const gp_Vec walk = gp_Vec(along).Crossed(gp_Vec(na));
  const double step = -height_over(b, start) / walk.Dot(gp_Vec(nb));
  return gp_Ax1(start.Translated(walk * step), along);
}

gp_Dir square_to(const gp_Dir& z, const gp_Dir& wish) {
  const gp_Vec projected = gp_Vec(wish) - gp_Vec(z) * wish.Dot(z);
  if (projected.Magnitude() > 1e-9) return gp_Dir(projected);
  const gp_Dir fallback = std::abs(z.X()) < std::abs(z.Y()) ? gp_Dir(1, 0, 0) : gp_Dir(0, 1, 0);
  return gp_Dir(gp_Vec(fallback) - gp_Vec(z) * fallback.Dot(z));
}

gp_Ax2 make_frame(const gp_Pnt& zero, const gp_Dir& z, const gp_Dir& x_wish) {
  return gp_Ax2(zero, z, square_to(z, x_wish));
}

std::string direction_text(const gp_Dir& d) {
  static const std::pair<gp_Dir, const char*> kNamed[] = {{gp_Dir(1, 0, 0), "+X"}, {gp_Dir(-1, 0, 0), "-X"},
                                                          {gp_Dir(0, 1, 0), "+Y"}, {gp_Dir(0, -1, 0), "-Y"},
                                                          {gp_Dir(0, 0, 1), "+Z"}, {gp_Dir(0, 0, -1), "-Z"}};
  for (const auto& [named, text] : kNamed)
    if (d.IsEqual(named, kExact.angular_rad)) return text;
  const auto clean = [](double v) { return std::abs(v) < 5e-5 ? 0.0 : v; };
  return fmt::format("{:.4f}, {:.4f}, {:.4f}", clean(d.X()), clean(d.Y()), clean(d.Z()));
}

gp_Pnt middle_of(const Adaptor3d_Curve& curve) {
  return curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
}

}  // namespace anvil
