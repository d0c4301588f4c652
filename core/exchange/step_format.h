// STEP: AP203, AP214, AP242, in and out; assemblies flattened with placements, names and colours kept.
#pragma once

#include "exchange/format.h"

namespace anvil {

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

// The kernel fixes every shape it reads, which is most of its time, unless a resource file names another
// sequence of operations; this writes one into `folder` (which must exist) that names an operation which does
// nothing without parameters, for readers made in this process from now on. mend_bodies() then fixes what
// needs it.
void leave_out_fixing(const std::filesystem::path& folder);

Result<ImportedBodies> read_step(const std::string& bytes, const std::string& name, const Reading& reading);

Result<void> write_step(const std::vector<Body>& bodies, const WriteOptions& options,
                        const std::filesystem::path& path);

}  // namespace anvil
