// The job on disk: a zip container with job.json and the source files as imported, byte for byte. Saving is
// atomic: written beside, synced, renamed.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>

#include "base/progress.h"
#include "base/refusal.h"
#include "job/entry.h"
#include "job/result_cache.h"

namespace anvil {

struct LoadedJob {
  Job job;
  bool damaged = false;    // something of it was left out
  bool read_only = false;  // saving over it would lose what is in the file: a newer version's, or damaged
  std::string notice;      // sentences for the user, empty when there is nothing to say
};

// Which file lies at a path: another one after every save of anybody.
struct FileState {
  std::uint64_t device = 0, file = 0;
  std::int64_t size = 0, changed_ns = 0;
  bool operator==(const FileState&) const = default;
};
std::optional<FileState> state_of(const std::filesystem::path& path);  // none: there is no file

struct SaveOptions {
  bool with_shapes = true;  // also the shapes as imported, so that opening needs no import
  // The file as it was when it was last read or written. When another one lies there, somebody else's, that
  // one is kept beside it under another name.
  std::optional<FileState> expected = {};
  std::function<bool()> wanted = {};        // asked last, before the file there is replaced
  std::shared_ptr<ResultCache> cache = {};  // what of it took long is stored as well
};
struct SavedJob {
  FileState state;
  std::string kept_beside;  // the name of somebody else's file, empty: there was none
};
// Refuses (kCannotWrite) with the old file untouched; where somebody else's cannot be kept, too.
Result<SavedJob> save_job(const Job& job, const std::filesystem::path& path, const SaveOptions& options = {});

// Reads a container or the folder of a safety copy; sources whose shapes it does not hold (or not whole) are
// imported. All shapes are read by the worker: nothing in a job can end this process. What is damaged or not
// known is left out and told in `notice`; refuses when nothing is left, and on cancel. What took long and is
// stored as done goes into the cache. Blocking.
Result<LoadedJob> load_job(const std::filesystem::path& path, const Progress& progress,
                           const std::shared_ptr<ResultCache>& cache = {});

}  // namespace anvil
