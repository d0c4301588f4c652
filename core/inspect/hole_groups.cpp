#include "inspect/hole_groups.h"

#include "geom/primitives.h"
#include "inspect/hole_form.h"

namespace anvil {
namespace {

long rounded(double value, double step = 1e-3) {
  return std::lround(value / step);
}

// Holes with equal keys are the same but for where they are.
std::vector<long> key_of(const Hole& hole) {
  std::vector<long> key{rounded(hole.diameter_mm), hole.through ? 1 : 0, hole.full_turn ? 1 : 0,
                        rounded(hole.depth_mm)};
  for (const double d : {hole.axis.X(), hole.axis.Y(), hole.axis.Z()}) key.push_back(rounded(d, 1e-5));
  for (const HoleStep& step : hole.steps) {
    key.push_back(static_cast<long>(step.kind));
    for (const double v : {step.diameter_mm, step.end_diameter_mm, step.depth_mm, step.angle_rad})
      key.push_back(rounded(v));
  }
  key.push_back(hole.body);
  return key;
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
  }
  for (Slot& slot : result.slots) {
    slot.centre_a.Transform(placement);
    slot.centre_b.Transform(placement);
    slot.axis.Transform(placement);
    slot.direction.Transform(placement);
  }
  for (HolePattern& pattern : result.patterns) pattern.centre.Transform(placement);
  return result;
}

void group_holes(HoleReport& report) {
  std::vector<std::pair<std::vector<long>, Hole>> keyed;
  keyed.reserve(report.holes.size());
  for (Hole& hole : report.holes) {
    std::vector<long> key = key_of(hole);
    keyed.emplace_back(std::move(key), std::move(hole));
  }
  std::sort(keyed.begin(), keyed.end(), [](const auto& a, const auto& b) {
    return a.first != b.first ? a.first < b.first : place_of(a.second) < place_of(b.second);
  });
  report.holes.clear();
  const std::vector<long>* last = nullptr;
  for (auto& [key, hole] : keyed) {
    if (!last || *last != key)
      report.groups.push_back({"H" + std::to_string(report.groups.size() + 1), form_text(hole), {}});
    last = &key;
    HoleGroup& group = report.groups.back();
    hole.group = static_cast<int>(report.groups.size()) - 1;
    group.holes.push_back(static_cast<int>(report.holes.size()));
    hole.name = group.name + "." + std::to_string(group.holes.size());
    report.holes.push_back(std::move(hole));
  }
}

}  // namespace anvil
