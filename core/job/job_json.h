// The job as readable JSON (docs/job-file.md describes every field). Sources are named by their checksum and
// stored beside it in the job file.
#pragma once

#include <functional>

#include "base/refusal.h"
#include "job/entry.h"

namespace anvil {

inline constexpr int kJobFormatVersion = 1;

std::string job_to_json(const Job& job);

// `load_part` gives the part for a source path inside the job file. Refuses with the field that is wrong.
struct LoadedSource {
  PartPtr part;
  std::shared_ptr<const std::string> bytes;
};
using SourceLoader = std::function<Result<LoadedSource>(const std::string& path_in_file)>;
Result<Job> job_from_json(const std::string& text, const SourceLoader& load_part);

// The version the text says it has, or nothing when it is no job.
std::optional<int> job_version(const std::string& text);

// "sources/<first 12 of sha256>/<file name>"
std::string source_path(const PartEntry& part);

}  // namespace anvil
