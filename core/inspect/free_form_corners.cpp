#include "inspect/free_form_corners.h"

#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <cmath>

#include "base/tolerance.h"
#include "base/units.h"
#include "inspect/surface_forms.h"
#include "part/face_info.h"

namespace anvil {
namespace {

constexpr int kNet = 12, kTurnNet = 24, kFinest = 12;
constexpr double kAgree = 0.005;
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
                                        double u, double v, gp_Pnt& at) {
  const auto s = forms_at(surface, reversed, u, v);
  if (!s) return std::nullopt;
  at = s->at;
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
  const Window whole = window_of(face);
  const BRepTopAdaptor_FClass2d outline(face, 1e-6);
  Window w = whole;
  double tightest = 0, u_best = 0, v_best = 0;
  gp_Pnt place;
  for (int round = 0; round < kFinest; ++round) {
    const double before = tightest;
    const double du = (w.u1 - w.u0) / kTurnNet, dv = (w.v1 - w.v0) / kTurnNet;
    for (int i = 0; i <= kTurnNet; ++i)
      for (int j = 0; j <= kTurnNet; ++j) {
        const double u = w.u0 + du * i, v = w.v0 + dv * j;
        gp_Pnt at;
        const auto curvature = section_curvature(surface, reversed, axis, u, v, at);
        if (!curvature || *curvature <= tightest) continue;
        if (outline.Perform(gp_Pnt2d(u, v)) == TopAbs_OUT) continue;
        tightest = *curvature;
        place = at;
        u_best = u;
        v_best = v;
      }
    if (tightest <= 0) return std::nullopt;
    if (round > 0 && tightest - before <= kAgree * tightest) break;
    w = {std::max(whole.u0, u_best - du), std::min(whole.u1, u_best + du), std::max(whole.v0, v_best - dv),
         std::min(whole.v1, v_best + dv)};
  }
  const double radius = 1 / tightest;
  return radius < largest_mm ? std::optional(TightestTurn{radius, place}) : std::nullopt;
}

}  // namespace anvil
