#include "correct/reach.h"

#include <algorithm>
#include <map>
#include <optional>

#include "geom/primitives.h"
#include "part/face_info.h"
#include "part/mesh_once.h"
#include "part/ray_caster.h"

namespace anvil {
namespace {

constexpr int kRim = 8;

// How far along the ray the triangle is met, from a little before its start. Möller and Trumbore 1997.
std::optional<double> way_to(const Triangle& triangle, const gp_Pnt& from, const gp_Dir& along) {
  constexpr double kBefore_mm = 1e-3, kOnBorder = 1e-9;
  const gp_Vec way(along), u(triangle.a, triangle.b), v(triangle.a, triangle.c);
  const gp_Vec across = way.Crossed(v);
  const double volume = u.Dot(across);
  if (std::abs(volume) < 1e-12) return std::nullopt;
  const gp_Vec to(triangle.a, from);
  const double s = to.Dot(across) / volume;
  const gp_Vec beside = to.Crossed(u);
  const double t = way.Dot(beside) / volume;
  if (s < -kOnBorder || t < -kOnBorder || s + t > 1 + kOnBorder) return std::nullopt;
  const double distance = v.Dot(beside) / volume;
  return distance < -kBefore_mm ? std::nullopt : std::optional(distance);
}

std::vector<gp_Pnt> middle_and_rim(const gp_Pnt& at, const gp_Dir& along, double radius_mm) {
  const gp_Ax2 across(at, along);
  std::vector<gp_Pnt> places{at};
  for (int i = 0; i < kRim; ++i) {
    const double turn = 2 * kPi * i / kRim;
    const gp_Vec out =
        gp_Vec(across.XDirection()) * std::cos(turn) + gp_Vec(across.YDirection()) * std::sin(turn);
    places.push_back(at.Translated(out * (0.98 * radius_mm)));
  }
  return places;
}

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
  double farthest = 0;
  for (const gp_Pnt& from : middle_and_rim(at, along, radius_mm))
    farthest = std::max(farthest, along_one(part, body, from, along));
  return farthest;
}

std::vector<BodyAlong> bodies_along(const Part& part, const gp_Pnt& at, const gp_Dir& along,
                                    double radius_mm) {
  mesh_once(part);
  const TopologyIndex& topology = part.topology();
  std::map<int, BodyAlong> all;
  for (const gp_Pnt& from : middle_and_rim(at, along, radius_mm)) {
    std::map<int, double> begins;
    // Every triangle: of bodies that touch one would hide the other from a ray.
    for (const Triangle& triangle : rays_of(part).triangles())
      if (const auto way = way_to(triangle, from, along)) {
        const auto [known, is_new] = begins.try_emplace(topology.faces[triangle.face].body, *way);
        if (!is_new) known->second = std::min(known->second, *way);
      }
    for (const auto& [body, way] : begins) {
      const auto [known, is_new] = all.try_emplace(body, BodyAlong{body, way, way});
      if (is_new) continue;
      known->second.from_mm = std::min(known->second.from_mm, way);
      known->second.all_from_mm = std::max(known->second.all_from_mm, way);
    }
  }
  std::vector<BodyAlong> in_turn;
  in_turn.reserve(all.size());
  for (const auto& [body, one] : all) in_turn.push_back(one);
  std::stable_sort(in_turn.begin(), in_turn.end(),
                   [](const BodyAlong& a, const BodyAlong& b) { return a.from_mm < b.from_mm; });
  return in_turn;
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
