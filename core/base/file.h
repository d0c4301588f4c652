// Small, careful file work.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>
#include <string>

#include "base/descriptor.h"
#include "base/refusal.h"

namespace anvil {

inline constexpr std::uintmax_t kLargestFile_bytes = std::uintmax_t{4} << 30;

// Refuses folders, pipes, devices and files of more than `largest` bytes, also those that grow while being
// read: none of them is waited for.
Result<std::string> read_file(const std::filesystem::path& path, std::uintmax_t largest = kLargestFile_bytes);

// Replaces `path` in one step: writes beside it, syncs, renames. On failure the old file is untouched and
// nothing is left behind; what a killed process left of an earlier try is removed. A symbolic link stays one
// and what it leads to is replaced; an existing file keeps its permissions. `wanted`, asked last before the
// old file goes, may still give up: kCancelled.
Result<void> write_file_atomically(const std::filesystem::path& path, const std::string& bytes,
                                   const std::function<bool()>& wanted = {});

// A file that is being written beside the one it is to replace, under a name nobody can guess; for those who
// can only write to a name. Gone with this object unless it replaced its target. A link, permissions and what
// a killed process left are treated as by write_file_atomically().
class PendingFile {
 public:
  // Refuses (kCannotWrite) where nothing can be written. The file is there, empty and private.
  static Result<PendingFile> beside(const std::filesystem::path& target);
  ~PendingFile();
  PendingFile(PendingFile&&) noexcept = default;
  PendingFile& operator=(PendingFile&&) = delete;
  [[nodiscard]] const std::filesystem::path& path() const { return path_; }
  [[nodiscard]] int descriptor() const { return lock_.get(); }
  // Syncs what was written and puts it in place.
  Result<void> replace_target(const std::function<bool()>& wanted = {});

 private:
  PendingFile(std::filesystem::path named, std::filesystem::path target)
      : named_(std::move(named)), target_(std::move(target)) {}
  std::filesystem::path named_, target_, path_;
  Descriptor lock_;
};

// A name that a file says something is called, as one that can be given to a file in a folder of ours: its
// last component, without control characters, of at most 200 bytes; "part" where nothing of it is left.
// Whatever is read from a stranger's file goes through it before it becomes part of a path.
std::string safe_file_name(const std::string& told);

std::string sha256_hex(const std::string& bytes);

// A new private folder for what is not kept, in one of our own (base/own_folder.h) under the system's
// temporary folder or, where that cannot be used, another one; removed with its contents on destruction.
// Throws std::filesystem::filesystem_error where none can be made. It is locked while its process lives.
class TemporaryFolder {
 public:
  TemporaryFolder();
  ~TemporaryFolder();
  TemporaryFolder(const TemporaryFolder&) = delete;
  TemporaryFolder& operator=(const TemporaryFolder&) = delete;
  [[nodiscard]] const std::filesystem::path& path() const { return path_; }

 private:
  std::filesystem::path own_, path_;
  Descriptor lock_;
};

// Removes the temporary folders of processes that were killed. Returns how many.
int remove_abandoned_folders();

}  // namespace anvil
