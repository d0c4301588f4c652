// Reads STEP (AP203, AP214, AP242) into bodies: assemblies flattened with placements, names and colours kept,
// lengths converted to mm. OpenCASCADE's readers can crash, hang or eat memory on bad files, so applications
// go through worker_client.h, which calls this in a process of its own.
#pragma once

#include <filesystem>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

struct ImportedBodies {
  SourceInfo source;
  std::vector<Body> bodies;
};

// What the text of a STEP file shows before any library touches it.
struct StepSurvey {
  std::string schema;  // as in FILE_SCHEMA
  size_t entities = 0;
  std::vector<long> missing;  // referenced, never defined (first few)
  size_t missing_count = 0;
  bool has_length_unit = false;
  bool has_numbers_that_are_none = false;  // NAN, INF
  size_t skip_bytes = 0;                   // a byte-order mark
};

// Refuses (kUnreadable): empty, not STEP, cut off, without data. `bytes` is the whole file.
Result<StepSurvey> survey_step(const std::string& bytes, const std::string& file_name);

Result<ImportedBodies> read_step(const std::filesystem::path& path, const Progress& progress);

}  // namespace anvil
