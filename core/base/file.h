// Small, careful file work.
#pragma once

#include <filesystem>
#include <string>

#include "base/refusal.h"

namespace anvil {

Result<std::string> read_file(const std::filesystem::path& path);

// Replaces `path` in one step: writes beside it, syncs, renames. On failure the old file is untouched and
// nothing is left behind.
Result<void> write_file_atomically(const std::filesystem::path& path, const std::string& bytes);

// A name that a file says something is called, as one that can be given to a file in a folder of ours: its
// last component, without control characters, of at most 200 bytes; "part" where nothing of it is left.
// Whatever is read from a stranger's file goes through it before it becomes part of a path.
std::string safe_file_name(const std::string& told);

std::string sha256_hex(const std::string& bytes);

// A new private folder under the system's temporary folder; removed with its contents on destruction.
class TemporaryFolder {
 public:
  TemporaryFolder();
  ~TemporaryFolder();
  TemporaryFolder(const TemporaryFolder&) = delete;
  TemporaryFolder& operator=(const TemporaryFolder&) = delete;
  [[nodiscard]] const std::filesystem::path& path() const { return path_; }

 private:
  std::filesystem::path path_;
};

}  // namespace anvil
