#include "inspect/free_form_corners.h"

#include <BRepTools.hxx>
#include <cmath>

#include "base/tolerance.h"
#include "base/units.h"
#include "inspect/highest_on_face.h"
#include "inspect/surface_forms.h"
#include "part/face_info.h"

namespace anvil {
namespace {

constexpr int kNet = 12;
const double kSteepSine = std::sin(kPi / 4);

struct Window {
  double u0, u1, v0, v1;
};

Window window_of(const TopoDS_Face& face) {
  Window w{};
  BRepTools::UVBounds(face, w.u0, w.u1, w.v0, w.v1);
  return w;
}

// Curvature, positive where hollow, of the section square to the axis through a point of the surface: the
// normal curvature along the section over the sine of the angle between normal and axis (Meusnier).
std::optional<double> section_curvature(const BRepAdaptor_Surface& surface, bool reversed, const gp_Dir& axis,
                                        double u, double v) {
  const auto s = forms_at(surface, reversed, u, v);
  if (!s) return std::nullopt;
  const gp_Vec along = s->normal.Crossed(gp_Vec(axis));
  const double sine = along.Magnitude();
  if (sine < kSteepSine) return std::nullopt;
  // along = a du + b dv
  const double x = along.Dot(s->du), y = along.Dot(s->dv), det = s->e * s->g - s->f * s->f;
  if (std::abs(det) < 1e-30) return std::nullopt;
  const double a = (x * s->g - y * s->f) / det, b = (y * s->e - x * s->f) / det;
  const double second = a * a * s->l + 2 * a * b * s->m + b * b * s->n;
  return second / along.SquareMagnitude() / sine;
}

}  // namespace

Steepness steepness_of(const TopoDS_Face& face, const gp_Dir& axis) {
  const Window w = window_of(face);
  bool upright = true;
  for (int i = 0; i <= kNet; ++i)
    for (int j = 0; j <= kNet; ++j) {
      gp_Dir normal(0, 0, 1);
      if (!outward_normal(face, w.u0 + (w.u1 - w.u0) * i / kNet, w.v0 + (w.v1 - w.v0) * j / kNet, normal))
        continue;
      const double sine = std::abs(normal.Dot(axis));
      if (sine > kSteepSine) return Steepness::kNoWall;
      upright = upright && sine <= kWall_rad;
    }
  return upright ? Steepness::kUpright : Steepness::kSteep;
}

std::optional<TightestTurn> tightest_turn(const TopoDS_Face& face, const gp_Dir& axis, double largest_mm) {
  const BRepAdaptor_Surface surface(face, false);
  const bool reversed = face.Orientation() == TopAbs_REVERSED;
  const auto tightest = highest_on_face(
      face, [&](double u, double v) { return section_curvature(surface, reversed, axis, u, v); });
  if (!tightest) return std::nullopt;
  const double radius = 1 / tightest->value;
  if (radius >= largest_mm) return std::nullopt;
  const auto forms = forms_at(surface, reversed, tightest->u, tightest->v);
  const gp_Vec upward(axis), out = forms->normal - upward * forms->normal.Dot(upward);
  return TightestTurn{radius, forms->at.Translated(out.Normalized() * radius)};
}

}  // namespace anvil
