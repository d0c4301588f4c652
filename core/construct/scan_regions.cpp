// What only the points of a scan's region give. Its surface gives the rest, as faces do: the axis of its
// cylinder, the centre of its sphere.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

tl::unexpected<Refusal> too_few(const Region& region, const char* what, size_t least) {
  return refused(
      fmt::format("{{1}} has {} points, too few for {}: allow more there, or click elsewhere",
                  region.points.size(), what),
      {{"points", static_cast<double>(region.points.size())}, {"least", static_cast<double>(least)}});
}

Solutions average(const Inputs& in) {
  const Region& region = *in[0].region;
  constexpr size_t kLeast = 4;
  if (region.points.size() < kLeast) return too_few(region, "an average", kLeast);
  return one(PointDatum{region.average}, fmt::format("of {} points", region.points.size()));
}

Solutions circle_centre(const Inputs& in) {
  const Region& region = *in[0].region;
  constexpr size_t kLeast = 6;
  constexpr double kOfRadius = 0.1;
  if (region.points.size() < kLeast) return too_few(region, "a circle", kLeast);
  if (!region.circle) return refuse(region.circle);
  const auto& [circle, quality] = *region.circle;
  if (quality.rms_mm > kOfRadius * circle.Radius())
    return refused(fmt::format("the points of {{1}} lie off their best circle by RMS {}: they are none",
                               format_length(quality.rms_mm, in.display)),
                   {{"rms_mm", quality.rms_mm}, {"radius_mm", circle.Radius()}}, "point.of-region");
  return one(PointDatum{circle.Location()},
             fmt::format("Ø{}, {}", format_length(2 * circle.Radius(), in.display),
                         region_quality_text(region, quality, in.display)));
}

}  // namespace

Construction point_of_region() {
  return described(Makes::kPoint, "point.of-region", "Average of the points of {1}", {Need::kRegion}, 24,
                   average);
}

Construction point_of_region_circle() {
  Construction c =
      described(Makes::kPoint, "point.region-circle", "Centre of the circle through the points of {1}",
                {Need::kRegion}, 30, circle_centre);
  c.rank_for = [](const Inputs& in) { return in[0].axis ? 22 : 30; };
  return c;
}

}  // namespace anvil
