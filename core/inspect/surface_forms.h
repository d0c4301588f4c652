// Both fundamental forms of a face's surface at a point. Internal to core/inspect.
#pragma once

#include <BRepAdaptor_Surface.hxx>
#include <optional>

namespace anvil {

struct SurfaceForms {
  gp_Pnt at;
  gp_Vec du, dv, normal;       // the normal is unit, out of the material
  double e = 0, f = 0, g = 0;  // first form
  double l = 0, m = 0, n = 0;  // second form: positive where the surface bends towards the normal
};

// `reversed`: the face is. Nothing where the surface has no normal.
inline std::optional<SurfaceForms> forms_at(const BRepAdaptor_Surface& surface, bool reversed, double u,
                                            double v) {
  SurfaceForms s;
  gp_Vec duu, dvv, duv;
  surface.D2(u, v, s.at, s.du, s.dv, duu, dvv, duv);
  s.normal = s.du.Crossed(s.dv);
  if (s.normal.Magnitude() < 1e-12 * (1 + s.du.SquareMagnitude())) return std::nullopt;
  s.normal.Normalize();
  if (reversed) s.normal.Reverse();
  s.e = s.du.Dot(s.du);
  s.f = s.du.Dot(s.dv);
  s.g = s.dv.Dot(s.dv);
  s.l = duu.Dot(s.normal);
  s.m = duv.Dot(s.normal);
  s.n = dvv.Dot(s.normal);
  return s;
}

}  // namespace anvil
