// What a job is stored in: a zip file, or for a safety copy a folder, with the same names inside.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/refusal.h"

namespace anvil {

class Container {
 public:
  virtual ~Container() = default;
  // The whole of one file in it, compared with its checksum where there is one. Refuses (kUnreadable) what is
  // not there or damaged, and (kLimit) what is larger than any of a job's files may be. `name` never leads
  // out of the container.
  [[nodiscard]] virtual Result<std::string> read(const std::string& name) const = 0;

  // By what `path` is: a folder, or a zip file. Refuses pipes, devices and what is neither.
  static Result<std::unique_ptr<Container>> open(const std::filesystem::path& path);
};

struct ContainedFile {
  std::string name;
  const std::string* bytes;
  bool squeeze = true;  // false: stored as it is, which is quicker
};

// The bytes of a zip file holding these. The same files give the same bytes.
Result<std::string> zip_of(const std::vector<ContainedFile>& files);

}  // namespace anvil
