// The safety copy: the job as it is now, kept while it has changes that are not saved, and removed on saving
// and on a clean end. One that is there at the next start belongs to a run that did not end cleanly.
//
// Each job of each run has a folder of its own, locked while the run lives, whatever its process number: in
// the user's state folder, or where that cannot be written, in a hidden folder beside the job. It holds
// about.json (which job it is of), job.json and the sources by their checksums, each written once.
#pragma once

#include <atomic>
#include <filesystem>
#include <memory>
#include <mutex>
#include <optional>
#include <vector>

#include "base/refusal.h"
#include "job/entry.h"
#include "store/job_file.h"

namespace anvil {

// A safety copy left behind by a run that is gone.
struct LeftBehind {
  std::filesystem::path folder;       // load_job() reads it
  std::filesystem::path job_path;     // empty: it was never saved
  std::optional<FileState> based_on;  // the job's file as it was when this was changed
  std::filesystem::file_time_type written{};
};

class SafetyCopy {
 public:
  // Nothing is written yet. `job_path` may be empty (never saved).
  SafetyCopy(const std::filesystem::path& job_path, std::filesystem::path state_folder);
  // Takes over one that was left behind, with what is in it; null when another run has taken it or removed
  // it.
  static std::shared_ptr<SafetyCopy> taken_over(const LeftBehind& left, std::filesystem::path state_folder);
  ~SafetyCopy();  // leaves what is there, unless it was closed
  SafetyCopy(const SafetyCopy&) = delete;
  SafetyCopy& operator=(const SafetyCopy&) = delete;

  // Replaces the copy in one step; from any thread. After a discard() that was made meanwhile nothing is
  // written (kCancelled). Refuses (kCannotWrite) where no place takes it; the one before stays then.
  Result<void> write(const Job& job);
  // The job was saved: the copy goes and does not come back from a write under way. At once.
  void discard();
  // The same, and its folder goes as soon as nobody writes in it any more.
  void close();
  // The job's file as it is known: another one by then was saved by somebody else.
  void set_based_on(const std::optional<FileState>& state);

  // Where the copy is; empty before the first write.
  [[nodiscard]] std::filesystem::path folder() const;

  // Copies left by runs that are gone, the newest first: all of them, or those of `job_path`. Those that hold
  // no more than the job itself does are removed instead.
  static std::vector<LeftBehind> left_behind(const std::filesystem::path& state_folder,
                                             const std::optional<std::filesystem::path>& job_path = {});
  // Removes one, unless another run has taken it.
  static void remove(const LeftBehind& left);

 private:
  Result<void> make_folder();
  Result<void> write_sources(const Job& job) const;
  Result<void> write_about(const std::optional<FileState>& based_on) const;

  const std::filesystem::path job_path_, state_folder_;
  mutable std::mutex writing_;  // one writer at a time
  mutable std::mutex commit_;   // held while the copy is put in place or removed, and for what stands below
  std::filesystem::path folder_;
  int lock_ = -1;
  int discards_ = 0;
  bool to_be_removed_ = false;
  std::optional<FileState> based_on_;
};

}  // namespace anvil
