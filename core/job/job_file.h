// The job on disk: a zip container with job.json and the source files as imported, byte for byte. Saving is
// atomic: written beside, synced, renamed.
#pragma once

#include <filesystem>

#include "base/progress.h"
#include "base/refusal.h"
#include "job/entry.h"

namespace anvil {

struct LoadedJob {
  Job job;
  bool read_only = false;  // written by a newer version: what it does not know would be lost on saving
  std::string notice;      // a sentence for the user, empty when there is nothing to say
};

// `with_shapes`: also the shapes as imported, so that opening needs no import; a safety copy goes without.
Result<void> save_job(const Job& job, const std::filesystem::path& path, bool with_shapes = true);

// Reads the container; sources whose shapes it does not hold (or not whole) are imported through the worker.
// Blocking; refuses with a sentence, also on cancel.
Result<LoadedJob> load_job(const std::filesystem::path& path, const Progress& progress);

}  // namespace anvil
