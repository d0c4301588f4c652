// A setup together with what it needs to be told to a control: its machine, where it lies there, and the
// indexed offsets that follow. One place for whoever shows, sends or writes them.
#pragma once

#include "job/evaluate.h"
#include "setup/indexed_offsets.h"

namespace anvil {

struct SetupOnMachine {
  const Entry* entry = nullptr;  // of the job, and so for as long as that
  const Machine* machine = nullptr;
  const SetupValue* value = nullptr;
  PlaceInMachine place;
  std::vector<IndexedOffset> offsets;

  // Of a plane by its place in `value->planes`; null where the machine does not reach it.
  [[nodiscard]] const IndexedOffset* offset_of(size_t plane) const;
};

// The place may be typed with the names of entries before the setup. Refuses (kBadInput) what is no setup,
// one without a machine, and what is wrong with its place or offsets; (kGeometry) one that cannot be built.
Result<SetupOnMachine> setup_on_machine(const Job& job, const Evaluation& evaluation, int entry);

// Where the setup lies in its machine, read with the names of the entries before it.
Result<PlaceInMachine> place_in_machine(const Job& job, const Evaluation& evaluation, const Entry& setup);

// The machine a setup names, or null.
const Machine* machine_of(const Job& job, const Setup& setup);

}  // namespace anvil
