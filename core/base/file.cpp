#include "base/file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <openssl/evp.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstdlib>
#include <cstring>
#include <vector>

#include "base/own_folder.h"
#include "base/plain_text.h"
#include "base/write_all.h"

namespace anvil {
namespace fs = std::filesystem;
namespace {

tl::unexpected<Refusal> cannot_write(const fs::path& path, int error) {
  return refuse(RefusalCode::kCannotWrite,
                fmt::format("cannot write {}: {}", path.string(), std::strerror(error)));
}

tl::unexpected<Refusal> cannot_read(const fs::path& path, int error) {
  return refuse(RefusalCode::kUnreadable,
                fmt::format("cannot read {}: {}", path.string(), std::strerror(error)));
}

// What stands at the end of a chain of links; also where nothing is there yet.
fs::path behind_links(fs::path path) {
  constexpr int kMost = 40;
  std::error_code error;
  for (int i = 0; i < kMost && fs::is_symlink(path, error); ++i) {
    const fs::path to = fs::read_symlink(path, error);
    if (error) break;
    path = to.is_absolute() ? to : path.parent_path() / to;
  }
  return path;
}

// Nobody else calls a file so: that, its owner and that nobody holds its lock are what it is known by.
const std::string kUnfinished = ".true-anvil-unfinished-";

// Older than any process could need to take its lock.
bool is_old(const fs::path& path) {
  constexpr std::chrono::minutes kGrace{1};
  std::error_code error;
  const auto time = fs::last_write_time(path, error);
  return !error && fs::file_time_type::clock::now() - time > kGrace;
}

// Not of a living process: whoever writes or uses it holds its lock.
bool is_abandoned(const fs::path& path) {
  if (!is_old(path)) return false;
  const Descriptor fd(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK));
  struct stat is {};
  return fd.is_open() && ::fstat(fd.get(), &is) == 0 && is.st_uid == ::getuid() &&
         ::flock(fd.get(), LOCK_EX | LOCK_NB) == 0;
}

constexpr size_t kRandomLetters = 6;  // of mkstemp and mkdtemp

// Of those that are called as we call ours, and are private as ours are: nobody else's are touched.
std::vector<fs::path> abandoned_in(const fs::path& folder, const std::string& prefix, fs::file_type type) {
  std::vector<fs::path> found;
  std::error_code error;
  for (fs::directory_iterator at(folder, error), end; !error && at != end; at.increment(error)) {
    const std::string name = at->path().filename().string();
    if (name.size() != prefix.size() + kRandomLetters || name.compare(0, prefix.size(), prefix) != 0)
      continue;
    std::error_code ignored;
    if (at->symlink_status(ignored).type() == type && is_abandoned(at->path())) found.push_back(at->path());
  }
  return found;
}

// Asked once, before any thread runs: asking changes it for a moment, for all threads.
const mode_t kUserMask = [] {
  const mode_t mask = ::umask(0);
  ::umask(mask);
  return mask;
}();

// The permissions the file is to have: those it has, else what the user's mask leaves.
mode_t mode_for(const fs::path& path) {
  struct stat is {};
  if (::stat(path.c_str(), &is) == 0) return is.st_mode & 07777;
  return 0666 & ~kUserMask;
}

void sync_folder(const fs::path& folder) {
  const Descriptor fd(::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (fd.is_open()) ::fsync(fd.get());
}

}  // namespace

Result<std::string> read_file(const fs::path& path, std::uintmax_t largest) {
  const Descriptor fd(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
  if (!fd.is_open()) return cannot_read(path, errno);
  struct stat is {};
  if (::fstat(fd.get(), &is) != 0) return cannot_read(path, errno);
  if (S_ISDIR(is.st_mode))
    return refuse(RefusalCode::kUnreadable, fmt::format("{} is a folder, not a file", path.string()));
  if (!S_ISREG(is.st_mode))
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("{} is a pipe or a device, not a file", path.string()));
  const auto too_large = [&] {
    return refuse(RefusalCode::kLimit,
                  fmt::format("{} is larger than the {} MB that are read", path.string(), largest >> 20));
  };
  if (static_cast<std::uintmax_t>(is.st_size) > largest) return too_large();
  std::string bytes(static_cast<size_t>(is.st_size) + 1, '\0');
  size_t done = 0;
  for (;;) {
    const ssize_t n = ::read(fd.get(), bytes.data() + done, bytes.size() - done);
    if (n < 0 && errno == EINTR) continue;
    if (n < 0) return cannot_read(path, errno);
    if (n == 0) break;
    done += static_cast<size_t>(n);
    if (done > largest) return too_large();
    if (done == bytes.size()) bytes.resize(2 * bytes.size());
  }
  bytes.resize(done);
  return bytes;
}

Result<PendingFile> PendingFile::beside(const fs::path& named) {
  constexpr size_t kLongestName = 200;
  PendingFile file(named, behind_links(named));
  const fs::path folder = file.target_.parent_path();
  const std::string prefix = "." + file.target_.filename().string().substr(0, kLongestName) + kUnfinished;
  std::error_code ignored;
  for (const fs::path& left : abandoned_in(folder.empty() ? "." : folder, prefix, fs::file_type::regular))
    fs::remove(left, ignored);
  std::string beside = (folder / (prefix + "XXXXXX")).string();
  file.lock_ = Descriptor(::mkostemp(beside.data(), O_CLOEXEC));
  if (!file.lock_.is_open()) return cannot_write(named, errno);
  file.path_ = beside;
  ::flock(file.lock_.get(), LOCK_EX | LOCK_NB);
  return file;
}

PendingFile::~PendingFile() {
  if (lock_.is_open() && !path_.empty()) ::unlink(path_.c_str());
}

Result<void> PendingFile::replace_target(const std::function<bool()>& wanted) {
  // Whoever wrote to the name may have made the file anew.
  const Descriptor written(::open(path_.c_str(), O_RDONLY | O_NOFOLLOW | O_CLOEXEC));
  if (!written.is_open() || ::fchmod(written.get(), mode_for(target_)) != 0 || ::fsync(written.get()) != 0)
    return cannot_write(named_, errno);
  if (wanted && !wanted()) return refuse(RefusalCode::kCancelled, "stopped");
  if (::rename(path_.c_str(), target_.c_str()) != 0) return cannot_write(named_, errno);
  path_.clear();
  sync_folder(target_.parent_path());
  return {};
}

Result<void> write_file_atomically(const fs::path& path, const std::string& bytes,
                                   const std::function<bool()>& wanted) {
  auto file = PendingFile::beside(path);
  if (!file) return refuse(file);
  if (!write_all(file->descriptor(), bytes)) return cannot_write(path, errno);
  return file->replace_target(wanted);
}

std::string safe_file_name(const std::string& told) {
  constexpr size_t kLongest = 200, kEnd = 20;
  std::string name = plain_text(told.substr(told.find_last_of("/\\") + 1));
  if (name.size() > kLongest) name = plain_text(name.erase(kLongest - kEnd, name.size() - kLongest));
  return name.empty() || name == "." || name == ".." ? "part" : name;
}

std::string sha256_hex(const std::string& bytes) {
  unsigned char digest[EVP_MAX_MD_SIZE];
  unsigned int length = 0;
  EVP_Digest(bytes.data(), bytes.size(), digest, &length, EVP_sha256(), nullptr);
  std::string hex;
  for (unsigned int i = 0; i < length; ++i) hex += fmt::format("{:02x}", digest[i]);
  return hex;
}

namespace {

const std::string kFolderPrefix = "true-anvil-scratch-";

// In the order they are tried.
std::vector<fs::path> places_for_temporary_folders() {
  std::vector<fs::path> places;
  std::error_code error;
  if (const fs::path usual = fs::temp_directory_path(error); !error) places.push_back(usual);
  places.insert(places.end(), {"/tmp", "/var/tmp"});
  for (const char* variable : {"XDG_RUNTIME_DIR", "XDG_CACHE_HOME"})
    if (const char* named = std::getenv(variable); named && *named) places.emplace_back(named);
  if (const char* home = std::getenv("HOME"); home && *home) places.emplace_back(fs::path(home) / ".cache");
  return places;
}

}  // namespace

TemporaryFolder::TemporaryFolder() {
  int why = ENOENT;
  for (const fs::path& place : places_for_temporary_folders()) {
    const auto own = make_own_folder(place, kFolderPrefix);
    if (!own) continue;
    own_ = *own;
    path_ = own_ / "files";
    lock_ = Descriptor(::open(own_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (lock_.is_open()) ::flock(lock_.get(), LOCK_EX | LOCK_NB);
    if (::mkdir(path_.c_str(), 0700) == 0) return;
    why = errno;
    remove_own_folder(own_);
  }
  throw fs::filesystem_error("no folder for temporary files can be made",
                             std::error_code(why, std::generic_category()));
}

TemporaryFolder::~TemporaryFolder() {
  remove_own_folder(own_);
}

int remove_abandoned_folders() {
  int removed = 0;
  for (const fs::path& place : places_for_temporary_folders())
    for (const fs::path& folder : abandoned_in(place, kFolderPrefix, fs::file_type::directory))
      removed += remove_own_folder(folder) ? 1 : 0;
  return removed;
}

}  // namespace anvil
