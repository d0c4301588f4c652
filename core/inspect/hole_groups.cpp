#include "inspect/hole_groups.h"

#include <fmt/format.h>

#include <map>

#include "geom/primitives.h"
#include "inspect/hole_form.h"
#include "inspect/hole_text.h"

namespace anvil {
namespace {

long rounded(double value, double step = 1e-3) {
  return std::lround(value / step);
}

// What must agree for two holes to be the same but for where they are. Sizes are compared by their distance:
// rounded, two that differ in the twelfth digit may fall to different sides (3/16 in is 4.7625 mm).
struct Likeness {
  std::vector<int> kinds;      // exactly
  std::vector<double> sizes;   // mm, within kSameSize_mm
  std::vector<double> angles;  // radians, and the parts of the direction, within kSameAngle_rad
};

constexpr double kSameSize_mm = 1e-3, kSameAngle_rad = 1e-3;

Likeness likeness_of(const Hole& hole) {
  Likeness like{{hole.body, hole.through ? 1 : 0, hole.full_turn ? 1 : 0, hole.round ? 1 : 0},
                {hole.diameter_mm, hole.depth_mm, hole.long_mm},
                {hole.axis.X(), hole.axis.Y(), hole.axis.Z()}};
  for (const HoleStep& step : hole.steps) {
    like.kinds.push_back(static_cast<int>(step.kind));
    like.sizes.insert(like.sizes.end(), {step.diameter_mm, step.end_diameter_mm, step.depth_mm});
    like.angles.push_back(step.angle_rad);
  }
  return like;
}

bool within(const std::vector<double>& a, const std::vector<double>& b, double distance) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [&](double x, double y) { return std::abs(x - y) <= distance; });
}

bool alike(const Likeness& a, const Likeness& b, double size_slack_mm) {
  return a.kinds == b.kinds && within(a.sizes, b.sizes, kSameSize_mm + size_slack_mm) &&
         within(a.angles, b.angles, kSameAngle_rad);
}

// The order groups are told in: by diameter, form and direction, coarsely, so that it does not depend on last
// digits.
std::vector<long> rank_of(const Hole& hole) {
  std::vector<long> rank{rounded(hole.diameter_mm, 1e-2), hole.through ? 1 : 0, rounded(hole.depth_mm, 1e-2)};
  for (const double d : {hole.axis.X(), hole.axis.Y(), hole.axis.Z()}) rank.push_back(rounded(d, 1e-2));
  return rank;
}

std::vector<long> place_of(const Hole& hole) {
  return {rounded(hole.entry.X()), rounded(hole.entry.Y()), rounded(hole.entry.Z())};
}

}  // namespace

HoleReport moved(const HoleReport& report, const gp_Trsf& placement) {
  HoleReport result = report;
  for (Hole& hole : result.holes) {
    hole.entry.Transform(placement);
    hole.axis.Transform(placement);
    hole.long_direction.Transform(placement);
    if (hole.exit) hole.exit->Transform(placement);
  }
  for (Slot& slot : result.slots) {
    slot.centre_a.Transform(placement);
    slot.centre_b.Transform(placement);
    slot.axis.Transform(placement);
    slot.direction.Transform(placement);
  }
  for (HolePattern& pattern : result.patterns) {
    pattern.centre.Transform(placement);
    pattern.normal.Transform(placement);
    pattern.direction.Transform(placement);
    for (HoleDeviation& deviation : pattern.deviations) deviation.mend.Transform(placement);
  }
  return result;
}

namespace {

// Which holes are the same, each set by its first hole.
std::vector<std::vector<size_t>> sets_of_same(const std::vector<Hole>& holes) {
  std::vector<std::vector<size_t>> sets;
  std::vector<Likeness> likeness;
  std::multimap<double, size_t> by_diameter;
  for (size_t i = 0; i < holes.size(); ++i) {
    Likeness own = likeness_of(holes[i]);
    const double slack = 2 * holes[i].deviation_mm;
    const double reach = kSameSize_mm + slack;
    auto at = by_diameter.lower_bound(holes[i].diameter_mm - reach);
    const auto end = by_diameter.upper_bound(holes[i].diameter_mm + reach);
    while (at != end && !alike(likeness[at->second], own, slack)) ++at;
    if (at != end) {
      sets[at->second].push_back(i);
      continue;
    }
    by_diameter.emplace(holes[i].diameter_mm, sets.size());
    sets.push_back({i});
    likeness.push_back(std::move(own));
  }
  return sets;
}

}  // namespace

void group_holes(HoleReport& report) {
  std::vector<Hole> holes = std::move(report.holes);
  report.holes.clear();
  std::vector<std::vector<size_t>> sets = sets_of_same(holes);
  for (std::vector<size_t>& set : sets)
    std::sort(set.begin(), set.end(),
              [&](size_t a, size_t b) { return place_of(holes[a]) < place_of(holes[b]); });
  std::sort(sets.begin(), sets.end(), [&](const auto& a, const auto& b) {
    const Hole &x = holes[a.front()], &y = holes[b.front()];
    return std::pair(rank_of(x), place_of(x)) < std::pair(rank_of(y), place_of(y));
  });
  for (const std::vector<size_t>& set : sets) {
    report.groups.push_back(
        {"H" + fmt::format("{}", report.groups.size() + 1), form_text(holes[set.front()]), {}});
    HoleGroup& group = report.groups.back();
    for (const size_t i : set) {
      Hole& hole = holes[i];
      hole.group = static_cast<int>(report.groups.size()) - 1;
      group.holes.push_back(static_cast<int>(report.holes.size()));
      hole.name = group.name + "." + fmt::format("{}", group.holes.size());
      report.holes.push_back(std::move(hole));
    }
  }
}

}  // namespace anvil
