// What each tool plane of the job's setups allows, to be read side by side.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "inspect/corner_summary.h"
#include "inspect/hole_reach.h"
#include "job/evaluate.h"

namespace anvil {

struct PlaneCheck {
  int setup = 0;  // id of the entry
  int plane = 0;  // of the setup: 0 its own, then in order
  std::string setup_name, plane_name;
  gp_Dir towards_tool;  // in part coordinates
  CornerSummary corners;
  std::vector<HoleReach> reach;  // of each hole
};

// Setups, names and axes alone, of the planes that check_planes() would look at.
std::vector<PlaneCheck> planes_to_check(const Job& job, const Evaluation& evaluation);
bool same_planes(const std::vector<PlaneCheck>& a, const std::vector<PlaneCheck>& b);  // in what these tell

// In the order of the setups and their planes; planes that have no frame are left out. Margin and holder are
// the job's. `holes` in part coordinates. Corners along one axis are looked for once. Refuses when cancelled.
Result<std::vector<PlaneCheck>> check_planes(const Job& job, const Evaluation& evaluation,
                                             const HoleReport& holes, const Progress& progress = {});

}  // namespace anvil
