#include "correct/reach.h"

#include "geom/primitives.h"
#include "part/face_info.h"
#include "part/mesh_once.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

constexpr int kRim = 8;

double along_one(const Part& part, int body, const gp_Pnt& from, const gp_Dir& along) {
  const RayCaster& rays = rays_of(part);
  double start = 1e-3;
  while (const auto hit = rays.first_hit(from, along, start)) {
    start = hit->distance_mm + 1e-3;
    const FaceInfo& face = part.topology().faces[hit->face];
    if (face.body != body) continue;
    const gp_Pnt there = from.Translated(gp_Vec(along) * hit->distance_mm);
    const bool leaves = outward_normal_at(face.face, there).Dot(gp_Vec(along)) > 0;
    return leaves ? hit->distance_mm : 0;
  }
  return 0;
}

}  // namespace

double material_beyond(const Part& part, int body, const gp_Pnt& at, const gp_Dir& along, double radius_mm) {
  mesh_once(part);
  const gp_Ax2 across(at, along);
  double farthest = along_one(part, body, at, along);
  for (int i = 0; i < kRim; ++i) {
    const double turn = 2 * kPi * i / kRim;
    const gp_Vec out =
        gp_Vec(across.XDirection()) * std::cos(turn) + gp_Vec(across.YDirection()) * std::sin(turn);
    farthest = std::max(farthest, along_one(part, body, at.Translated(out * (0.98 * radius_mm)), along));
  }
  return farthest;
}

double end_of_body(const Part& part, int body, const gp_Pnt& at, const gp_Dir& along) {
  mesh_once(part);
  double farthest = 0;
  for (const Triangle& triangle : rays_of(part).triangles()) {
    if (part.topology().faces[triangle.face].body != body) continue;
    for (const gp_Pnt& corner : {triangle.a, triangle.b, triangle.c})
      farthest = std::max(farthest, gp_Vec(at, corner).Dot(gp_Vec(along)));
  }
  return farthest;
}

}  // namespace anvil
