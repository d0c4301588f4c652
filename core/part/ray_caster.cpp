#include "part/ray_caster.h"

#include <cmath>
#include <limits>

#include "geom/box.h"
#include "geom/coordinate.h"
#include "part/mesh.h"
#include "part/mesh_once.h"
#include "part/ray_scene.h"

namespace anvil {

struct RayCaster::Data {
  gp_XYZ origin;  // single precision wants small numbers: everything is stored relative to the part
  std::vector<Triangle> triangles;
  double deviation_mm = 0;
  RayScene rays;
};

namespace {

void fill(RTCGeometry geometry, const std::vector<Triangle>& triangles, const gp_XYZ& origin) {
  auto* points = static_cast<float*>(rtcSetNewGeometryBuffer(
      geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 3 * sizeof(float), triangles.size() * 3));
  auto* corners = static_cast<unsigned*>(rtcSetNewGeometryBuffer(
      geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 3 * sizeof(unsigned), triangles.size()));
  if (!triangles.empty() && (!points || !corners)) {
    note_no_memory();
    throw std::bad_alloc();
  }
  for (size_t i = 0; i < triangles.size(); ++i) {
    const gp_Pnt* nodes[3] = {&triangles[i].a, &triangles[i].b, &triangles[i].c};
    for (size_t k = 0; k < 3; ++k) {
      for (int axis = 0; axis < 3; ++axis)
        points[(3 * i + k) * 3 + axis] =
            static_cast<float>(coordinate(*nodes[k], axis) - coordinate(origin, axis));
      corners[3 * i + k] = static_cast<unsigned>(3 * i + k);
    }
  }
}

// Of a mesh made with the usual quality, body by body: that of the largest.
double deviation_of(const Part& part, const std::vector<Triangle>& triangles) {
  std::vector<Box> boxes(part.bodies().size());
  for (const Triangle& t : triangles)
    for (const gp_Pnt& p : {t.a, t.b, t.c}) boxes[part.topology().faces[t.face].body].add(p);
  double largest = 0;
  for (const Box& box : boxes)
    if (!box.is_empty()) largest = std::max(largest, deflection_mm(box.diagonal_mm(), MeshQuality()));
  return largest;
}

}  // namespace

RayCaster::RayCaster(const Part& part) : data_(std::make_unique<Data>()) {
  data_->triangles = triangles_of(part.shape());
  if (!data_->triangles.empty()) data_->origin = data_->triangles.front().a.XYZ();
  data_->deviation_mm = deviation_of(part, data_->triangles);
  RTCGeometry geometry = rtcNewGeometry(data_->rays.device(), RTC_GEOMETRY_TYPE_TRIANGLE);
  fill(geometry, data_->triangles, data_->origin);
  rtcSetSceneFlags(data_->rays.scene(), RTC_SCENE_FLAG_ROBUST);
  data_->rays.build(geometry);
}

RayCaster::~RayCaster() = default;

std::optional<RayCaster::Hit> RayCaster::first_hit(const gp_Pnt& from, const gp_Dir& along, double start_mm,
                                                   double end_mm) const {
  const gp_XYZ p = from.XYZ() - data_->origin;
  RTCRayHit query{};
  query.ray.org_x = static_cast<float>(p.X());
  query.ray.org_y = static_cast<float>(p.Y());
  query.ray.org_z = static_cast<float>(p.Z());
  query.ray.dir_x = static_cast<float>(along.X());
  query.ray.dir_y = static_cast<float>(along.Y());
  query.ray.dir_z = static_cast<float>(along.Z());
  query.ray.tnear = static_cast<float>(start_mm);
  query.ray.tfar = static_cast<float>(end_mm);
  query.ray.mask = std::numeric_limits<unsigned>::max();
  query.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  rtcIntersect1(data_->rays.scene(), &context, &query);
  if (query.hit.geomID == RTC_INVALID_GEOMETRY_ID) return std::nullopt;
  return Hit{query.ray.tfar, data_->triangles[query.hit.primID].face};
}

const std::vector<Triangle>& RayCaster::triangles() const {
  return data_->triangles;
}

double RayCaster::deviation_mm() const {
  return data_->deviation_mm;
}

const RayCaster& rays_of(const Part& part) {
  mesh_once(part);
  return part.kept().get<RayCaster>([&] { return std::make_shared<RayCaster>(part); });
}

}  // namespace anvil
