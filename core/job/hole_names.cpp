#include "job/hole_names.h"

#include <algorithm>
#include <set>

#include "base/quoted.h"
#include "pick/follow.h"

namespace anvil {
namespace {

std::optional<HoleOrSlot> owner_of(const HoleReport& report, int face) {
  const auto holds = [&](const auto& each) {
    return std::find(each.faces.begin(), each.faces.end(), face) != each.faces.end();
  };
  const auto hole = std::find_if(report.holes.begin(), report.holes.end(), holds);
  if (hole != report.holes.end()) return HoleOrSlot{false, static_cast<int>(hole - report.holes.begin())};
  const auto slot = std::find_if(report.slots.begin(), report.slots.end(), holds);
  if (slot != report.slots.end()) return HoleOrSlot{true, static_cast<int>(slot - report.slots.begin())};
  return std::nullopt;
}

std::optional<HoleOrSlot> named_by(const std::vector<PartState>& states, const HoleReport& report,
                                   const HoleName& given) {
  const auto face = follow(states, given.face);
  return face ? owner_of(report, face->index) : std::nullopt;
}

std::string& name_of(HoleReport& report, HoleOrSlot which) {
  return which.is_slot ? report.slots[static_cast<size_t>(which.index)].name
                       : report.holes[static_cast<size_t>(which.index)].name;
}

bool same(HoleOrSlot a, HoleOrSlot b) {
  return a.is_slot == b.is_slot && a.index == b.index;
}

}  // namespace

void give_names(const Job& job, const std::vector<PartState>& states, HoleReport& report) {
  std::vector<std::pair<HoleOrSlot, std::string>> given;
  std::set<std::string> taken;
  if (states.empty()) return;
  for (const HoleName& name : job.hole_names) {
    const auto which = named_by(states, report, name);
    const bool is_new = which && std::none_of(given.begin(), given.end(),
                                              [&](const auto& before) { return same(before.first, *which); });
    if (is_new && taken.insert(name.name).second) given.emplace_back(*which, name.name);
  }
  if (given.empty()) return;
  for (Hole& hole : report.holes)
    if (taken.count(hole.name)) hole.name += "'";
  for (Slot& slot : report.slots)
    if (taken.count(slot.name)) slot.name += "'";
  for (const auto& [which, name] : given) name_of(report, which) = name;
}

Result<Job> with_hole_name(Job job, const std::vector<PartState>& states, const HoleReport& report,
                           HoleOrSlot which, const std::string& name) {
  const auto bears = [&](const auto& each) { return each.name == name; };
  const bool taken = std::any_of(report.holes.begin(), report.holes.end(), bears) ||
                     std::any_of(report.slots.begin(), report.slots.end(), bears);
  HoleReport named = report;
  if (name_of(named, which) == name) return job;
  if (!name.empty() && taken)
    return refuse(RefusalCode::kBadInput,
                  in_quotes(name) + " is the name of another hole: choose one that is free");
  const std::vector<int>& faces = which.is_slot ? report.slots[static_cast<size_t>(which.index)].faces
                                                : report.holes[static_cast<size_t>(which.index)].faces;
  job.hole_names.erase_if([&](const HoleName& before) {
    const auto bearer = named_by(states, report, before);
    return bearer && same(*bearer, which);
  });
  const Entry* entry = job.first_part();
  if (!name.empty() && !faces.empty() && entry) {
    TopologyReference face = describe(*states.back().part, entry->id, TopologyKind::kFace, faces.front());
    face.made_on = made_on(states);
    job.hole_names.push_back({std::move(face), name});
  }
  return job;
}

}  // namespace anvil
