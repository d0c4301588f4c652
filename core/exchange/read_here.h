// Reading in the very process that asks: for the import worker, and for programs that run their work in a
// process of their own. A bad file may end it.
#pragma once

#include <filesystem>

#include "base/progress.h"
#include "exchange/format.h"

namespace anvil {

struct HereRequest {
  std::filesystem::path file;
  std::filesystem::path scratch;  // a folder for what the kernel wants to find or leave on the disk
  double scale = 1.0;
  bool surfaces_only = false;  // neither checked nor meshed
  Reading reading;
};

// The bodies as the file has them, or scaled; with a note when they were read plainly.
Result<ImportedBodies> read_bodies(const HereRequest& request);
// For whoever looks at no picture: checked, mended and meshed, or the surfaces alone.
Result<ImportedBodies> read_for_numbers(const HereRequest& request);

// The steps, which tell in the warnings what they could not do. Which bodies were mended.
void mesh_with_note(ImportedBodies& bodies, const MeshQuality& quality = {});
std::vector<int> mend_with_notes(ImportedBodies& bodies, const Progress& progress);

// For the lifetime of the process: ends it when it takes more than this.
struct ProcessLimits {
  size_t memory_mb = 8192, cpu_seconds = 2400;
};
void limit_this_process(const ProcessLimits& limits);

}  // namespace anvil
