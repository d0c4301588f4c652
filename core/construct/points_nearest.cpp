// Points nearest to something, and averages.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/on_part.h"

namespace anvil {
namespace {

Solutions told(const Inputs& in, const gp_Pnt& foot) {
  return one(PointDatum{foot}, format_length(in[0].point->Distance(foot), in.display) + " from {1}");
}

Solutions on_plane(const Inputs& in) {
  return told(in, foot_on(*in[1].plane, *in[0].point));
}

Solutions on_axis(const Inputs& in) {
  return told(in, foot_on(*in[1].axis, *in[0].point));
}

Solutions on_face(const Inputs& in) {
  auto place = nearest_on_face(TopoDS::Face(in[1].shape), *in[0].point);
  if (!place) return refuse(place);
  return told(in, place->point);
}

Solutions average(const Inputs& in) {
  const std::vector<gp_Pnt> points = spots_of(in);
  const gp_Pnt middle = average_of(points);
  std::vector<double> off;
  off.reserve(points.size());
  for (const gp_Pnt& p : points) off.push_back(p.Distance(middle));
  const FitQuality quality = quality_of(off);
  Solution solution{PointDatum{middle}, "only",
                    fmt::format("largest distance {} to {{{}}}",
                                format_length(quality.largest_mm, in.display), quality.worst + 1)};
  if (points.size() > 2) solution.worst_role = static_cast<int>(quality.worst);
  return std::vector<Solution>{solution};
}

}  // namespace

Construction point_on_plane() {
  return described(Makes::kPoint, "point.on-plane", "Point {1} brought square onto {2}",
                   {Need::kPoint, Need::kPlane}, 22, on_plane);
}

Construction point_on_axis() {
  return described(Makes::kPoint, "point.on-axis", "Point of {2} nearest to {1}", {Need::kPoint, Need::kAxis},
                   22, on_axis);
}

Construction point_on_face() {
  Construction c = described(Makes::kPoint, "point.on-face", "Point of face {2} nearest to {1}",
                             {Need::kPoint, Need::kFace}, 26, on_face);
  return c;
}

Construction point_average() {
  Construction c = described(Makes::kPoint, "point.average", "Point midway between {all}",
                             {Need::kSpot, Need::kSpot}, 16, average);
  c.repeats = true;
  return c;
}

}  // namespace anvil
