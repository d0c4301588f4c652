// The one gate through which every edit goes before it becomes the job, so that each job that can be made can
// be saved and opened again. Readers of job files ask the same questions.
#pragma once

#include "base/refusal.h"
#include "job/entry.h"

namespace anvil {

inline constexpr size_t kLongestName_bytes = 200;

// `next` mended where that is what was meant: datums and setups stand after what they are made from, what is
// read in exists, names are in one line and of a length that can be told. Refuses (kBadInput) what nobody can
// compute: an entry made from itself, directly or through others; a placement step made from a datum or a
// setup; a reference to an entry that is not there.
Result<Job> through_gate(Job next);

// Whether an act changed anything a user would call a change; one that did not is no step to undo.
bool same_job(const Job& a, const Job& b);

// What stands before something it is made from, as a sentence; empty when all is in order.
std::string out_of_order(const Job& job);

}  // namespace anvil
