// The safety copy: a job file beside the job (or in the given folder for a job never saved), written while
// working and removed on a clean end. One that is there at the next start belongs to a run that did not end
// cleanly.
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "base/refusal.h"
#include "job/entry.h"

namespace anvil {

class Autosave {
 public:
  // `job_path` may be empty (never saved): the copy then lies in `folder`.
  Autosave(std::filesystem::path job_path, std::filesystem::path folder);

  Result<void> write(const Job& job) const;
  void discard() const;
  [[nodiscard]] const std::filesystem::path& path() const { return path_; }

  // A safety copy of `job_path` left by a run that is gone and newer than the job itself.
  static std::optional<std::filesystem::path> left_behind(const std::filesystem::path& job_path);
  // Safety copies of jobs never saved, left in `folder` by runs that are gone.
  static std::vector<std::filesystem::path> left_in(const std::filesystem::path& folder);

 private:
  std::filesystem::path path_;
};

}  // namespace anvil
