#include "job/first_look.h"

#include <algorithm>

#include "geom/primitives.h"

namespace anvil {
namespace {

bool stands_on(const Part& part, const Seat& seat, const gp_Trsf& placement) {
  constexpr double kAtZero_mm = 1e-3, kUpright_rad = 1e-4;
  const Surface& surface = part.topology().faces[seat.down_face].surface;
  const gp_Dir down = surface.position.Direction().Transformed(placement);
  return down.IsEqual(gp_Dir(0, 0, -1), kUpright_rad) &&
         std::abs(surface.position.Location().Transformed(placement).Z()) < kAtZero_mm;
}

bool has_something_to_tell(const CornerSummary& corners) {
  return corners.smallest_radius_mm || corners.sharp > 0 || corners.largest_cutter_mm;
}

}  // namespace

FirstLook first_look(const Part& part, const HoleReport& holes, const gp_Trsf& placement) {
  constexpr size_t kAmong = 2;  // the likeliest two are often as good
  FirstLook look;
  look.seats = likely_seats(part, holes);
  for (size_t i = 0; i < std::min(kAmong, look.seats.size()); ++i)
    look.stands = look.stands || stands_on(part, look.seats[i], placement);
  return look;
}

Result<std::vector<DirectionCheck>> check_directions(ResultCache& cache, const Part& part,
                                                     const HoleReport& holes, const gp_Trsf& placement,
                                                     const Inspection& by, Passages passages,
                                                     const Progress& progress) {
  std::vector<DirectionCheck> directions;
  const std::pair<const char*, gp_Dir> sides[] = {{"+Z", {0, 0, 1}},  {"-Z", {0, 0, -1}}, {"+X", {1, 0, 0}},
                                                  {"-X", {-1, 0, 0}}, {"+Y", {0, 1, 0}},  {"-Y", {0, -1, 0}}};
  for (const auto& [name, side] : sides) {
    CornerOptions options{side.Transformed(placement.Inverted()), by.margin, by.holder_mm / 2};
    options.with_sections = passages == Passages::kLookedAt;
    const auto report = corners_once(cache, part, options, &holes, progress);
    if (!report) return refuse(report);
    CornerSummary corners = summary_of(**report, part.topology().faces.size());
    if (has_something_to_tell(corners))
      directions.push_back({name, std::move(corners), passages == Passages::kLookedAt});
  }
  std::stable_sort(directions.begin(), directions.end(), [](const auto& a, const auto& b) {
    return a.corners.smallest_radius_mm.value_or(1e300) < b.corners.smallest_radius_mm.value_or(1e300);
  });
  return directions;
}

}  // namespace anvil
