// Runs `true-anvil-import` and waits for it. The worker may crash, hang or run out of memory on a bad file;
// the caller gets a sentence and stays as it was. Blocking: call it off the interface thread.
#pragma once

#include <chrono>
#include <filesystem>
#include <functional>

#include "base/progress.h"
#include "base/refusal.h"
#include "exchange/format.h"
#include "part/part.h"

namespace anvil {

struct WorkerLimits {
  std::chrono::seconds time{600};
  size_t memory_mb = 8192;
};

// Where the worker is: beside the running program, or what TRUE_ANVIL_IMPORT names.
std::filesystem::path worker_program();

struct ImportRequest {
  std::filesystem::path file;
  double scale = 1.0;  // lengths are multiplied by this beyond what the file's own unit says
  // Called once, on the calling thread, as soon as the part can be shown and picked: before it is checked and
  // mended.
  std::function<void(const PartPtr&)> first_picture = {};
};

// Reads a foreign file into a meshed, checked part; when nothing had to be mended it is the very part of the
// first picture. Cancelling ends the worker within 50 ms.
Result<PartPtr> import_part(const ImportRequest& request, const Progress& progress,
                            const WorkerLimits& limits = {});
inline Result<PartPtr> import_part(const std::filesystem::path& file, const Progress& progress,
                                   const WorkerLimits& limits = {}) {
  return import_part(ImportRequest{file}, progress, limits);
}

// Shapes that were stored before, from a hand-over folder (exchange/part_file.h) that somebody may have
// tampered with: the worker reads, meshes and hands them over anew. `name` is what they are called in a
// refusal.
Result<PartPtr> read_stored_part(const std::filesystem::path& folder, const std::string& name,
                                 const Progress& progress, const WorkerLimits& limits = {});

struct ExportRequest {
  std::filesystem::path file;
  std::string format = "step";  // id of a format
  gp_Trsf placement;
  std::vector<int> bodies;  // empty: all
  WriteOptions options;
};

// Writes bodies through the worker and reads the file back; refuses (kCannotWrite), leaving no file, when
// volume, box or number of faces are not what they were.
Result<ExportReport> export_part(const Part& part, const ExportRequest& request, const Progress& progress,
                                 const WorkerLimits& limits = {});

// Starts a worker that waits for its first file with its libraries loaded: 0.1 s less at the next import.
// Call it on the program's main thread; it ends with the program.
void keep_worker_ready();

}  // namespace anvil
