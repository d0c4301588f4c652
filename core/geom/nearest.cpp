#include "geom/nearest.h"

#include <algorithm>
#include <gp_Vec.hxx>

namespace anvil {

gp_Pnt nearest_of_triangle(const gp_Pnt& p, const gp_Pnt& a, const gp_Pnt& b, const gp_Pnt& c) {
  const gp_Vec ab(a, b), ac(a, c), ap(a, p), bp(b, p), cp(c, p);
  const double d1 = ab.Dot(ap), d2 = ac.Dot(ap), d3 = ab.Dot(bp), d4 = ac.Dot(bp), d5 = ab.Dot(cp),
               d6 = ac.Dot(cp);
  if (d1 <= 0 && d2 <= 0) return a;
  if (d3 >= 0 && d4 <= d3) return b;
  if (d6 >= 0 && d5 <= d6) return c;
  const double over_c = d1 * d4 - d3 * d2, over_b = d5 * d2 - d1 * d6, over_a = d3 * d6 - d5 * d4;
  if (over_c <= 0 && d1 >= 0 && d3 <= 0) return a.Translated(ab * (d1 / (d1 - d3)));
  if (over_b <= 0 && d2 >= 0 && d6 <= 0) return a.Translated(ac * (d2 / (d2 - d6)));
  if (over_a <= 0 && d4 >= d3 && d5 >= d6)
    return b.Translated(gp_Vec(b, c) * ((d4 - d3) / ((d4 - d3) + (d5 - d6))));
  const double whole = over_a + over_b + over_c;
  return a.Translated(ab * (over_b / whole) + ac * (over_c / whole));
}

std::pair<gp_Pnt, gp_Pnt> nearest_points(const gp_Pnt& a0, const gp_Pnt& a1, const gp_Pnt& b0,
                                         const gp_Pnt& b1) {
  const gp_Vec a(a0, a1), b(b0, b1), between(b0, a0);
  const double aa = a.Dot(a), bb = b.Dot(b), ab = a.Dot(b), ar = a.Dot(between), br = b.Dot(between);
  const auto within = [](double x) { return std::clamp(x, 0.0, 1.0); };
  const double square = aa * bb - ab * ab;
  double s = square > 1e-12 * aa * bb ? within((ab * br - ar * bb) / square) : 0;
  double t = bb > 0 ? (ab * s + br) / bb : 0;
  if (t < 0 || t > 1) {
    t = within(t);
    s = aa > 0 ? within((ab * t - ar) / aa) : 0;
  }
  return {a0.Translated(a * s), b0.Translated(b * t)};
}

}  // namespace anvil
