// The job as readable JSON (docs/job-file.md describes every field). Sources are named by their checksum and
// stored beside it in the job file.
#pragma once

#include <functional>

#include "base/refusal.h"
#include "job/entry.h"

namespace anvil {

inline constexpr int kJobFormatVersion = 9;

std::string job_to_json(const Job& job);

// Where the shapes behind the text come from: `source` gives a file of the job by its path inside the job
// file.
struct JobLoader {
  std::function<Result<SourceFile>(const std::string& path_in_file, double scale)> source;
  // Told of everything that is left out because it is damaged or not known, a sentence each naming the field.
  std::function<void(const std::string& sentence)> left_out = [](const std::string&) {};
  // The shapes that are stored for a file whose bytes are damaged; null: none, or of another file.
  std::function<PartPtr(const std::string& path_in_file, double scale, const std::string& sha256)> shapes =
      nullptr;
};
// Reads what is whole: an entry that is not understood is left out, with what is made from it. Refuses a text
// that is no job at all, and on cancel. Reads versions 1 to 8: before 3 a work offset was a frame's
// parameter, such a frame becomes a setup on it; before 4 there were no regions of scans, before 6 no
// cutters, before 8 what came of healing was part of its entry.
Result<Job> job_from_json(const std::string& text, const JobLoader& load);

// The version the text says it has, or nothing when it is no job.
std::optional<int> job_version(const std::string& text);

// "sources/<first 12 of sha256>/<file name>"
std::string source_path(const SourceFile& file);
// "shapes/<first 12 of sha256>-<scale>-2": its shapes as they came from the import, to open the job quickly.
std::string shapes_path(const SourceFile& file);
std::string shapes_path(const std::string& source_path, double scale);

}  // namespace anvil
