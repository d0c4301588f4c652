#include "job/autosave.h"

#include <fmt/format.h>
#include <signal.h>
#include <unistd.h>

#include <cstdlib>

#include "job/job_file.h"

namespace anvil {
namespace fs = std::filesystem;
namespace {

// ".saddle.anvil.autosave-1234": the process that keeps it is in the name, so a copy of a living one is left
// alone.
const std::string kMark = ".autosave-";

std::optional<pid_t> owner_of(const fs::path& copy) {
  const std::string name = copy.filename().string();
  const size_t at = name.rfind(kMark);
  if (at == std::string::npos) return std::nullopt;
  const std::string digits = name.substr(at + kMark.size());
  if (digits.empty() || digits.find_first_not_of("0123456789") != std::string::npos) return std::nullopt;
  return static_cast<pid_t>(std::strtol(digits.c_str(), nullptr, 10));
}

bool is_gone(pid_t pid) {
  return pid != ::getpid() && ::kill(pid, 0) != 0 && errno == ESRCH;
}

std::vector<fs::path> abandoned(const fs::path& folder, const std::string& prefix) {
  std::vector<fs::path> found;
  std::error_code error;
  for (const auto& item : fs::directory_iterator(folder, error)) {
    const auto owner = owner_of(item.path());
    if (owner && item.path().filename().string().rfind(prefix + kMark, 0) == 0 && is_gone(*owner))
      found.push_back(item.path());
  }
  return found;
}

std::string prefix_for(const fs::path& job_path) {
  return "." + job_path.filename().string();
}

}  // namespace

Autosave::Autosave(fs::path job_path, fs::path folder) {
  const std::string suffix = kMark + fmt::format("{}", ::getpid());
  path_ = job_path.empty() ? folder / (".unsaved" + suffix)
                           : job_path.parent_path() / (prefix_for(job_path) + suffix);
}

Result<void> Autosave::write(const Job& job) const {
  std::error_code ignored;
  if (path_.has_parent_path()) fs::create_directories(path_.parent_path(), ignored);
  return save_job(job, path_, false);
}

void Autosave::discard() const {
  std::error_code ignored;
  fs::remove(path_, ignored);
}

std::optional<fs::path> Autosave::left_behind(const fs::path& job_path) {
  std::error_code error;
  const fs::path folder = job_path.has_parent_path() ? job_path.parent_path() : fs::path(".");
  std::optional<fs::path> newest;
  for (const fs::path& copy : abandoned(folder, prefix_for(job_path))) {
    if (fs::exists(job_path, error) &&
        fs::last_write_time(copy, error) < fs::last_write_time(job_path, error))
      continue;
    if (!newest || fs::last_write_time(copy, error) > fs::last_write_time(*newest, error)) newest = copy;
  }
  return newest;
}

std::vector<fs::path> Autosave::left_in(const fs::path& folder) {
  return abandoned(folder, ".unsaved");
}

}  // namespace anvil
