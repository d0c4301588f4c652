#include "store/safety_copy.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "base/json_limits.h"
#include "base/own_folder.h"
#include "geom/guard.h"
#include "store/container.h"
#include "store/job_json.h"

namespace anvil {
namespace fs = std::filesystem;
namespace {

const char* const kText = "job.json";
const char* const kAbout = "about.json";
// All that such a folder holds at its top.
const std::vector<std::string> kFiles{kText, kAbout, "job.json.ready", "sources"};

fs::path place_in_state(const fs::path& state_folder) {
  return state_folder / "safety";
}

fs::path place_beside(const fs::path& job_path) {
  return job_path.parent_path() / ".true-anvil-safety";
}

fs::path whole_path(const fs::path& path) {
  std::error_code error;
  const fs::path whole = path.empty() ? path : fs::weakly_canonical(path, error);
  return error ? path : whole;
}

// The folder of copies is made where it is missing; one that a link or somebody else stands for is not used.
Result<fs::path> new_folder_in(const fs::path& place) {
  std::error_code why;
  fs::create_directories(place, why);
  if (!why && !is_users_folder(place)) why = std::make_error_code(std::errc::not_a_directory);
  if (why)
    return refuse(RefusalCode::kCannotWrite,
                  fmt::format("cannot write in {}: {}", place.string(), why.message()));
  return make_own_folder(place, "");
}

// The lock on a folder, or -1: it is somebody's, or not there.
int locked(const fs::path& folder) {
  if (!is_users_folder(folder)) return -1;
  const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_NOFOLLOW | O_CLOEXEC);
  if (fd < 0 || ::flock(fd, LOCK_EX | LOCK_NB) == 0) return fd;
  ::close(fd);
  return -1;
}

// Nothing where there is no copy (any more); one that does not say what it is of is still one.
std::optional<LeftBehind> read_about(const fs::path& folder) {
  LeftBehind left;
  left.folder = folder;
  std::error_code error;
  left.written = fs::last_write_time(folder / kText, error);
  if (error) return std::nullopt;
  const auto text = read_file(folder / kAbout, 1 << 20);
  constexpr JsonLimits kPaths{.plain = false};
  const auto about = text ? json_from(*text, kPaths) : Result<nlohmann::json>(refuse(text));
  if (!about || !about->is_object()) return left;
  const auto path = about->value("job", nlohmann::json());
  if (path.is_string()) left.job_path = path.get<std::string>();
  const auto base = about->value("based_on", nlohmann::json());
  const bool is_state =
      base.is_array() && base.size() == 4 &&
      std::all_of(base.begin(), base.end(), [](const auto& n) { return n.is_number_integer(); });
  if (is_state) left.based_on = FileState{base[0], base[1], base[2], base[3]};
  return left;
}

// Written just before a save that replaced the job: it holds what the job holds.
bool is_in_the_job(const LeftBehind& left) {
  if (left.job_path.empty()) return false;
  auto job = Container::open(left.job_path);
  if (!job) return false;
  const auto saved = (*job)->read(kText), copied = read_file(left.folder / kText);
  return saved && copied && *saved == *copied;
}

// What is not marked as ours (a folder from somewhere else, or of an older version) may be offered, but is
// never removed unasked.
void look_in(const fs::path& place, const std::optional<fs::path>& job_path, std::vector<LeftBehind>& found) {
  if (!is_users_folder(place)) return;
  std::error_code error;
  for (fs::directory_iterator at(place, error), end; !error && at != end; at.increment(error)) {
    const int lock = locked(at->path());
    if (lock < 0) continue;
    const auto left = read_about(at->path());
    const bool asked_for = left && (!job_path || left->job_path == *job_path);
    if (!left || (asked_for && is_in_the_job(*left)))
      remove_own_folder(at->path());
    else if (asked_for)
      found.push_back(*left);
    ::close(lock);
  }
}

}  // namespace

SafetyCopy::SafetyCopy(const fs::path& job_path, fs::path state_folder)
    : job_path_(whole_path(job_path)), state_folder_(std::move(state_folder)) {}

SafetyCopy::~SafetyCopy() {
  if (to_be_removed_ && !folder_.empty()) remove_own_folder(folder_);
  if (lock_ >= 0) ::close(lock_);
}

std::shared_ptr<SafetyCopy> SafetyCopy::taken_over(const LeftBehind& left, fs::path state_folder) {
  const int lock = locked(left.folder);
  if (lock < 0) return nullptr;
  if (!adopt_folder(left.folder, kFiles)) {
    ::close(lock);
    return nullptr;
  }
  auto copy = std::make_shared<SafetyCopy>(left.job_path, std::move(state_folder));
  copy->lock_ = lock;
  copy->folder_ = left.folder;
  copy->based_on_ = left.based_on;
  return copy;
}

fs::path SafetyCopy::folder() const {
  const std::lock_guard lock(commit_);
  return folder_;
}

Result<void> SafetyCopy::make_folder() {
  const std::lock_guard lock(commit_);
  if (!folder_.empty()) return {};
  std::vector<fs::path> places{place_in_state(state_folder_)};
  if (!job_path_.empty()) places.push_back(place_beside(job_path_));
  Refusal why;
  for (const fs::path& place : places) {
    const auto made = new_folder_in(place);
    if (made) {
      // Without its lock another run could take it for one left behind.
      lock_ = locked(*made);
      folder_ = *made;
      const auto told = write_about(based_on_);
      if (lock_ >= 0 && told) return {};
      why = told ? Refusal{RefusalCode::kCannotWrite, "cannot lock " + made->string()} : told.error();
      folder_.clear();
      if (lock_ >= 0) ::close(lock_);
      lock_ = -1;
      remove_own_folder(*made);
    } else if (why.sentence.empty()) {
      why = made.error();
    }
  }
  return refuse(why);
}

Result<void> SafetyCopy::write_about(const std::optional<FileState>& based_on) const {
  nlohmann::json about{{"job", job_path_.string()}};
  if (based_on) about["based_on"] = {based_on->device, based_on->file, based_on->size, based_on->changed_ns};
  return write_file_atomically(folder_ / kAbout,
                               about.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
}

Result<void> SafetyCopy::write_sources(const Job& job) const {
  for (const Entry& entry : job.entries) {
    const PartEntry* part = entry.part();
    for (size_t i = 0; part && i < part->sources.size(); ++i) {
      const SourceFile& file = part->sources[i];
      const fs::path path = folder_ / source_path(file);
      std::error_code error;
      if (!file.bytes || fs::file_size(path, error) == file.bytes->size()) continue;
      fs::create_directories(path.parent_path(), error);
      if (auto written = write_file_atomically(path, *file.bytes); !written) return written;
    }
  }
  return {};
}

Result<void> SafetyCopy::write(const Job& job) {
  const auto [began, based_on] = [&] {
    const std::lock_guard lock(commit_);
    return std::pair(discards_, based_on_);
  }();
  return guarded("keeping a safety copy", [&, began = began, based_on = based_on]() -> Result<void> {
    const std::lock_guard one(writing_);
    if (auto made = make_folder(); !made) return made;
    if (auto written = write_sources(job); !written) return written;
    if (auto written = write_about(based_on); !written) return written;
    const fs::path ready = folder_ / "job.json.ready";
    if (auto written = write_file_atomically(ready, job_to_json(job)); !written) return written;
    const std::lock_guard lock(commit_);
    std::error_code error;
    if (discards_ == began)
      fs::rename(ready, folder_ / kText, error);
    else
      fs::remove(ready, error);
    if (discards_ != began) return refuse(RefusalCode::kCancelled, "stopped");
    return error ? Result<void>(refuse(RefusalCode::kCannotWrite, error.message())) : Result<void>();
  });
}

void SafetyCopy::discard() {
  const std::lock_guard lock(commit_);
  ++discards_;
  std::error_code ignored;
  if (!folder_.empty()) fs::remove(folder_ / kText, ignored);
}

void SafetyCopy::close() {
  discard();
  const std::lock_guard lock(commit_);
  to_be_removed_ = true;
}

void SafetyCopy::set_based_on(const std::optional<FileState>& state) {
  const std::lock_guard lock(commit_);
  based_on_ = state;
}

std::vector<LeftBehind> SafetyCopy::left_behind(const fs::path& state_folder,
                                                const std::optional<fs::path>& job_path) {
  std::vector<LeftBehind> found;
  const auto whole = job_path ? std::optional<fs::path>(whole_path(*job_path)) : std::nullopt;
  look_in(place_in_state(state_folder), whole, found);
  if (whole && !whole->empty()) look_in(place_beside(*whole), whole, found);
  std::sort(found.begin(), found.end(),
            [](const LeftBehind& a, const LeftBehind& b) { return a.written > b.written; });
  return found;
}

void SafetyCopy::remove(const LeftBehind& left) {
  const int lock = locked(left.folder);
  if (lock < 0) return;
  if (adopt_folder(left.folder, kFiles)) remove_own_folder(left.folder);
  ::close(lock);
}

}  // namespace anvil
