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

std::optional<DirectionCheck> summed(const CornerReport& report) {
  DirectionCheck check;
  check.largest_cutter_mm = report.largest_cutter_mm;
  for (const Corner& corner : report.corners) {
    if (!corner.is_wall() || corner.undercut) continue;
    if (corner.kind == CornerKind::kWallSharp) {
      ++check.sharp;
    } else if (check.radius_mm == 0 || corner.radius_mm < check.radius_mm) {
      check.radius_mm = corner.radius_mm;
      check.faces = corner.faces;
    }
  }
  return check.radius_mm > 0 || check.sharp > 0 ? std::optional(check) : std::nullopt;
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
                                                     const Progress& progress) {
  std::vector<DirectionCheck> directions;
  const std::pair<const char*, gp_Dir> sides[] = {{"+Z", {0, 0, 1}},  {"-Z", {0, 0, -1}}, {"+X", {1, 0, 0}},
                                                  {"-X", {-1, 0, 0}}, {"+Y", {0, 1, 0}},  {"-Y", {0, -1, 0}}};
  for (const auto& [name, side] : sides) {
    CornerOptions options;
    options.axis = side.Transformed(placement.Inverted());
    options.with_sections = false;
    const auto report = corners_once(cache, part, options, &holes, progress);
    if (!report) return refuse(report);
    if (auto check = summed(**report)) {
      check->name = name;
      directions.push_back(std::move(*check));
    }
  }
  std::stable_sort(directions.begin(), directions.end(), [](const auto& a, const auto& b) {
    const auto radius = [](const DirectionCheck& d) { return d.radius_mm > 0 ? d.radius_mm : 1e300; };
    return radius(a) < radius(b);
  });
  return directions;
}

}  // namespace anvil
