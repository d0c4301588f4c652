#include "job/entry.h"

#include <set>

namespace anvil {

const Entry* Job::find(int id) const {
  for (const Entry& entry : entries)
    if (entry.id == id) return &entry;
  return nullptr;
}

const Entry* Job::first_part() const {
  for (const Entry& entry : entries)
    if (entry.part()) return &entry;
  return nullptr;
}

const Entry* Job::placement() const {
  for (const Entry& entry : entries)
    if (entry.placement()) return &entry;
  return nullptr;
}

std::vector<Reference> inputs_of(const Entry& entry) {
  if (const DatumEntry* datum = entry.datum()) return datum->recipe.inputs;
  std::vector<Reference> all;
  if (const PlacementEntry* placement = entry.placement())
    for (const Recipe& step : placement->steps) all.insert(all.end(), step.inputs.begin(), step.inputs.end());
  return all;
}

std::vector<int> dependents(const Job& job, int id) {
  std::set<int> touched{id};
  std::vector<int> found;
  for (const Entry& entry : job.entries) {
    for (const Reference& input : inputs_of(entry)) {
      const auto* to_entry = std::get_if<EntryReference>(&input.target);
      const auto* to_part = std::get_if<TopologyReference>(&input.target);
      if ((to_entry && touched.count(to_entry->entry)) || (to_part && touched.count(to_part->part_entry))) {
        if (touched.insert(entry.id).second) found.push_back(entry.id);
        break;
      }
    }
  }
  return found;
}

}  // namespace anvil
