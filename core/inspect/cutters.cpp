#include "inspect/cutters.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <numeric>

#include "inspect/corner_depth.h"

namespace anvil {
namespace {

constexpr double kSlack_mm = 1e-6;

// How far a holder of each radius stands off each pocket's floor, asked once a radius.
class HolderReach {
 public:
  HolderReach(const Part& part, const CornerReport& report) : part_(part), report_(report) {}

  double needed(int pocket, double holder_radius_mm) {
    auto at = reach_.find(holder_radius_mm);
    if (at == reach_.end()) at = reach_.emplace(holder_radius_mm, measured(holder_radius_mm)).first;
    return at->second[static_cast<size_t>(pocket)];
  }

 private:
  std::vector<double> measured(double holder_radius_mm) const {
    std::vector<Corner> corners = report_.corners;
    CornerOptions options = report_.options;
    options.holder_radius_mm = holder_radius_mm;
    measure_reach(part_, options, corners);
    std::vector<double> needed;
    for (const Pocket& pocket : report_.pockets) {
      double highest = pocket.top_mm;
      for (const int corner : pocket.corners)
        if (!corners[corner].undercut)
          highest = std::max(highest, corners[corner].bottom_mm + corners[corner].reach_mm);
      needed.push_back(highest - pocket.bottom_mm);
    }
    return needed;
  }

  const Part& part_;
  const CornerReport& report_;
  std::map<double, std::vector<double>> reach_;
};

CutterInPocket tried_in(const Pocket& pocket, int index, int cutter_index, const Cutter& cutter,
                        double margin, HolderReach& holders) {
  CutterInPocket tried;
  tried.cutter = cutter_index;
  const auto at_most = [&](CutterLimit limit, double allowed) {
    if (cutter.diameter_mm > allowed + kSlack_mm)
      tried.failures.push_back({limit, allowed, cutter.diameter_mm});
  };
  const auto at_least = [&](CutterLimit limit, const std::optional<double>& has, double needed) {
    if (has && *has < needed - kSlack_mm) tried.failures.push_back({limit, needed, *has});
  };
  if (pocket.smallest_corner_mm) at_most(CutterLimit::kCorner, 2 * *pocket.smallest_corner_mm * margin);
  if (pocket.narrowest) at_most(CutterLimit::kPassage, pocket.narrowest->width_mm);
  at_least(CutterLimit::kFlute, cutter.flute_mm, pocket.depth_mm);
  at_least(CutterLimit::kReach, cutter.reach_mm, pocket.depth_mm);
  if (cutter.reach_mm && cutter.holder_mm && *cutter.reach_mm >= pocket.depth_mm - kSlack_mm)
    at_least(CutterLimit::kHolder, cutter.reach_mm, holders.needed(index, *cutter.holder_mm / 2));
  const double floor = pocket.has_sharp_floor ? 0 : pocket.floor_radius_mm.value_or(cutter.corner_radius_mm);
  if (!pocket.through) tried.left_at_floor_mm = std::max(0.0, cutter.corner_radius_mm - floor);
  return tried;
}

}  // namespace

const char* limit_name(CutterLimit limit) {
  switch (limit) {
    case CutterLimit::kCorner:
      return "corner";
    case CutterLimit::kPassage:
      return "passage";
    case CutterLimit::kFlute:
      return "flute";
    case CutterLimit::kReach:
      return "reach";
    case CutterLimit::kHolder:
      return "holder";
  }
  return "corner";
}

std::string failure_text(const CutterFailure& failure, const Display& display) {
  const std::string allowed = format_length(failure.allowed_mm, display),
                    has = format_length(failure.has_mm, display);
  switch (failure.limit) {
    case CutterLimit::kCorner:
      return "Ø" + has + " in corners that allow " + allowed;
    case CutterLimit::kPassage:
      return "Ø" + has + " in a passage of " + allowed;
    case CutterLimit::kFlute:
      return "flutes " + has + " long, " + allowed + " deep";
    case CutterLimit::kReach:
      return "reach " + has + ", " + allowed + " deep";
    case CutterLimit::kHolder:
      return "holder meets what stands around: reach " + has + ", " + allowed + " needed";
  }
  return "";
}

std::vector<PocketCutters> judge_cutters(const Part& part, const CornerReport& report,
                                         const std::vector<Cutter>& cutters) {
  std::vector<int> order(cutters.size());
  std::iota(order.begin(), order.end(), 0);
  // Of one diameter the shorter is the stiffer.
  std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
    return std::pair(-cutters[a].diameter_mm, cutters[a].reach_mm.value_or(0)) <
           std::pair(-cutters[b].diameter_mm, cutters[b].reach_mm.value_or(0));
  });
  HolderReach holders(part, report);
  std::vector<PocketCutters> judged;
  for (size_t p = 0; p < report.pockets.size(); ++p) {
    if (report.pockets[p].undercut) continue;
    PocketCutters own;
    own.pocket = static_cast<int>(p);
    for (const int c : order) {
      own.tried.push_back(
          tried_in(report.pockets[p], own.pocket, c, cutters[c], report.options.margin, holders));
      if (!own.largest && own.tried.back().failures.empty()) own.largest = c;
    }
    judged.push_back(std::move(own));
  }
  return judged;
}

}  // namespace anvil
