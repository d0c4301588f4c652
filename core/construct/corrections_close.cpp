// Holes, pockets and bosses taken off the part.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "inspect/hole_text.h"

namespace anvil {
namespace {

// What the picked faces of one body belong to: as a whole, and without that themselves alone.
struct Picked {
  std::vector<int> of_holes, others;
  std::vector<std::string> holes;  // their forms
};

std::vector<Feature> tries_of(const TopologyIndex& topology, const Picked& picked) {
  std::vector<int> named = picked.of_holes;
  std::optional<Feature> around;
  if (!picked.others.empty()) {
    around = feature_around(topology, picked.others);
    const std::vector<int>& faces = around ? around->faces : picked.others;
    named.insert(named.end(), faces.begin(), faces.end());
  }
  std::vector<Feature> tries{feature_of(topology, with_enclosed(topology, named))};
  if (!picked.of_holes.empty()) {
    std::vector<int> all = picked.of_holes;
    all.insert(all.end(), picked.others.begin(), picked.others.end());
    around = feature_around(topology, all);
  }
  if (around && around->faces != tries.front().faces) tries.push_back(std::move(*around));
  return tries;
}

std::string note_of(const std::map<int, Picked>& by_body, const Plan& plan) {
  std::vector<std::string> holes;
  size_t faces = 0;
  for (const auto& [body, picked] : by_body)
    holes.insert(holes.end(), picked.holes.begin(), picked.holes.end());
  for (const PlanStep& step : plan.steps)
    faces += std::get<CloseFeature>(step.what).tries.front().faces.size();
  std::string text = holes.size() == 1 ? holes.front()
                     : holes.empty()   ? ""
                                       : fmt::format("{} holes", holes.size());
  return text + fmt::format("{}{} faces", text.empty() ? "" : ", ", faces);
}

Solutions close_all(const Inputs& in) {
  std::map<int, Picked> by_body;
  std::set<int> seen;
  PartPtr part;
  for (size_t role = 0; role < in.picks.size(); ++role) {
    const auto pick = part_of(in, role);
    if (!pick) return refuse(pick);
    part = pick->part;
    if (!seen.insert(pick->index).second) continue;
    Picked& picked = by_body[part->topology().faces[pick->index].body];
    const auto hole = hole_of_face(*part, pick->index);
    if (!hole) {
      picked.others.push_back(pick->index);
      continue;
    }
    picked.of_holes.insert(picked.of_holes.end(), hole->faces.begin(), hole->faces.end());
    if (std::none_of(hole->faces.begin(), hole->faces.end(),
                     [&](int face) { return face != pick->index && seen.count(face); }))
      picked.holes.push_back(form_text(*hole, in.display.unit));
  }
  Plan plan;
  for (const auto& [body, picked] : by_body)
    plan.steps.push_back({body, CloseFeature{tries_of(part->topology(), picked), Expected::kEither}});
  std::string note = note_of(by_body, plan);
  return std::vector<Solution>{planned(std::move(plan), {}, "only", std::move(note))};
}

}  // namespace

Construction correct_close() {
  Construction c = correcting("correct.close", "Closed", "Close {all}: hole, pocket or boss", {Need::kFace},
                              70, close_all);
  c.repeats = true;
  return c;
}

}  // namespace anvil
