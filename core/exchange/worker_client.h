// Runs `true-anvil-import` and waits for it. The worker may crash, hang or run out of memory on a bad file;
// the caller gets a sentence and stays as it was. Blocking: call it off the interface thread.
#pragma once

#include <chrono>
#include <filesystem>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

struct WorkerLimits {
  std::chrono::seconds time{600};
  size_t memory_mb = 8192;
};

// Where the worker is: beside the running program, or what TRUE_ANVIL_IMPORT names.
std::filesystem::path worker_program();

// Reads a foreign file into a meshed part. Cancelling ends the worker within 50 ms.
Result<PartPtr> import_part(const std::filesystem::path& file, const Progress& progress,
                            const WorkerLimits& limits = {});

// Writes the part's bodies, moved by `placement`, as STEP through the worker; `out` appears whole or not at
// all.
Result<void> export_step(const Part& part, const gp_Trsf& placement, const std::filesystem::path& out,
                         const Progress& progress, const WorkerLimits& limits = {});

}  // namespace anvil
