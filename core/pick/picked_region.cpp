// Regions of scans as picks: how they are described, found again, and what they give.
#include <fmt/format.h>

#include "geom/primitives.h"
#include "pick/give_surface.h"
#include "pick/reference.h"

namespace anvil {
namespace {

constexpr size_t kExtentPoints = 200;

// Its place in the part, -1 when it is not in it.
int place_of(const Part& part, int delivered) {
  const std::vector<Body>& bodies = part.bodies();
  for (size_t i = 0; i < bodies.size(); ++i)
    if (bodies[i].delivered == delivered) return static_cast<int>(i);
  return -1;
}

RegionWish moved(RegionWish wish, const gp_Trsf& motion) {
  if (same_motion(motion, gp_Trsf())) return wish;
  wish.at.Transform(motion);
  wish.seen_from.Transform(motion);
  return wish;
}

RegionWish wish_in_part(const Part& part, int place, const RegionReference& reference) {
  return place < 0 ? reference.wish : moved(reference.wish, part.bodies()[place].arranged);
}

}  // namespace

RegionReference describe_region(const Part& part, int part_entry, int body, RegionWish wish) {
  const Body& on = part.bodies()[body];
  return {part_entry, on.delivered, moved(wish, on.arranged.Inverted())};
}

gp_Pnt as_delivered(const Part& part, const RegionReference& reference, const gp_Pnt& in_part) {
  const int place = place_of(part, reference.body);
  return place < 0 ? in_part : in_part.Transformed(part.bodies()[place].arranged.Inverted());
}

Result<RegionPtr> region_of(const Part& part, const RegionReference& reference, const Progress& progress) {
  const int place = place_of(part, reference.body);
  return region_at(part, place, wish_in_part(part, place, reference), progress);
}

bool is_region_known(const Part& part, const RegionReference& reference) {
  const int place = place_of(part, reference.body);
  return is_region_known(part, place, wish_in_part(part, place, reference));
}

Given given_by_region(const Part& part, int body, const RegionPtr& region, const gp_Trsf& placement) {
  Given given;
  given.is_on_part = true;
  given.region = same_motion(placement, gp_Trsf())
                     ? region
                     : std::make_shared<const Region>(moved_region(*region, placement));
  given.body = part.bodies()[body].shape.Moved(TopLoc_Location(placement));
  given.shape = given.region->face;
  if (given.region->surface.kind != SurfaceKind::kMesh) give_surface(given, given.region->surface);
  const std::vector<gp_Pnt>& points = given.region->points;
  const size_t count = std::min(kExtentPoints, points.size());
  for (size_t i = 0; i < count; ++i) given.extent.push_back(points[i * points.size() / count]);
  return given;
}

Result<Given> given_by(const Part& part, const RegionReference& reference, const gp_Trsf& placement) {
  const auto region = region_of(part, reference);
  if (!region) return refuse(region);
  return given_by_region(part, place_of(part, reference.body), *region, placement);
}

std::string region_quality_text(const Region& region, const FitQuality& quality, const Display& display) {
  return fmt::format("RMS {}, largest {}, {} points", format_length(quality.rms_mm, display),
                     format_length(quality.largest_mm, display), region.points.size());
}

std::string region_text(const Region& region, const Display& display) {
  const Surface& s = region.surface;
  const auto mm = [&](double v) { return format_length(v, display); };
  const char* side = s.inside ? "inside" : "outside";
  std::string what;
  if (s.kind == SurfaceKind::kMesh)
    return fmt::format("scan region, no simple surface, {} points", region.points.size());
  if (s.kind == SurfaceKind::kPlane) what = "plane";
  if (s.kind == SurfaceKind::kCylinder) what = fmt::format("cylinder Ø{}, {}", mm(2 * s.radius_mm), side);
  if (s.kind == SurfaceKind::kSphere) what = fmt::format("sphere Ø{}, {}", mm(2 * s.radius_mm), side);
  if (s.kind == SurfaceKind::kCone)
    what = fmt::format("cone, {} included, {}", format_angle(2 * s.semi_angle_rad, display), side);
  return fmt::format("scan region, {}, RMS {}", what, mm(region.quality.rms_mm));
}

}  // namespace anvil
