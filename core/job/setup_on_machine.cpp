#include "job/setup_on_machine.h"

#include <algorithm>

#include "job/names.h"

namespace anvil {

const IndexedOffset* SetupOnMachine::offset_of(size_t plane) const {
  const auto at = std::find_if(offsets.begin(), offsets.end(),
                               [&](const IndexedOffset& o) { return o.plane_index == plane; });
  return at == offsets.end() ? nullptr : &*at;
}

const Machine* machine_of(const Job& job, const Setup& setup) {
  const auto at = job.machines.find(setup.machine);
  return at == job.machines.end() ? nullptr : &at->second;
}

Result<PlaceInMachine> place_in_machine(const Job& job, const Evaluation& evaluation, const Entry& entry) {
  return place_of(*entry.setup(), names_for(job, evaluation, texts_of(entry), entry.id));
}

Result<SetupOnMachine> setup_on_machine(const Job& job, const Evaluation& evaluation, int id) {
  SetupOnMachine on;
  on.entry = job.find(id);
  if (!on.entry || !on.entry->setup())
    return refuse(RefusalCode::kBadInput, "there is no setup in use: make one, or read in one");
  const Setup& setup = *on.entry->setup();
  const auto at = evaluation.entries.find(id);
  if (at == evaluation.entries.end() || !at->second.setup)
    return refuse(RefusalCode::kGeometry, on.entry->name + " cannot be built: mend it first");
  on.value = at->second.setup.get();
  on.machine = machine_of(job, setup);
  if (!on.machine)
    return refuse(RefusalCode::kBadInput, on.entry->name + " has no machine: offsets need one");
  const auto place = place_in_machine(job, evaluation, *on.entry);
  if (!place) return refuse(place);
  on.place = *place;
  auto offsets = indexed_offsets(*on.machine, setup, *on.value, on.place);
  if (!offsets) return refuse(offsets);
  on.offsets = std::move(*offsets);
  return on;
}

}  // namespace anvil
