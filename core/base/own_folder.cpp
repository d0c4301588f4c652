#include "base/own_folder.h"

#include <dirent.h>
#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>

#include <algorithm>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <functional>
#include <memory>
#include <optional>

#include "base/descriptor.h"
#include "base/write_all.h"

namespace anvil {
namespace fs = std::filesystem;
namespace {

Descriptor opened(int at, const char* name) {
  return Descriptor(::openat(at, name, O_RDONLY | O_DIRECTORY | O_NOFOLLOW | O_CLOEXEC));
}

Descriptor opened(const fs::path& folder) {
  return opened(AT_FDCWD, folder.c_str());
}

bool is_of_this_user(const Descriptor& folder, struct stat& is) {
  return folder.is_open() && ::fstat(folder.get(), &is) == 0 && is.st_uid == ::getuid();
}

// Device and number of the folder: no other folder has them, wherever the mark is copied to.
std::string mark_of(const struct stat& folder) {
  return fmt::format("made by True Anvil for itself, removed by it: {} {}\n", folder.st_dev, folder.st_ino);
}

bool bears_its_mark(const Descriptor& folder) {
  struct stat is {};
  if (!is_of_this_user(folder, is)) return false;
  const Descriptor mark(
      ::openat(folder.get(), kOwnFolderMark, O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC));
  struct stat of_mark {};
  if (!mark.is_open() || ::fstat(mark.get(), &of_mark) != 0) return false;
  if (!S_ISREG(of_mark.st_mode) || of_mark.st_uid != ::getuid()) return false;
  const std::string wanted = mark_of(is);
  std::string found(wanted.size() + 1, '\0');
  const ssize_t n = ::read(mark.get(), found.data(), found.size());
  return n == static_cast<ssize_t>(wanted.size()) && found.compare(0, wanted.size(), wanted) == 0;
}

bool mark(const Descriptor& folder) {
  struct stat is {};
  if (!is_of_this_user(folder, is)) return false;
  const Descriptor file(
      ::openat(folder.get(), kOwnFolderMark, O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0600));
  return file.is_open() && write_all(file.get(), mark_of(is));
}

// Nothing where it cannot be listed.
std::optional<std::vector<std::string>> names_in(const Descriptor& folder) {
  // A descriptor of its own, which closing the listing closes.
  const int own = ::openat(folder.get(), ".", O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  const std::unique_ptr<DIR, int (*)(DIR*)> list(own < 0 ? nullptr : ::fdopendir(own), &::closedir);
  if (!list) return std::nullopt;
  std::vector<std::string> names;
  while (const dirent* entry = ::readdir(list.get()))
    if (const std::string name = entry->d_name; name != "." && name != "..") names.push_back(name);
  return names;
}

// Calls `visit` with the name and the kind of all that lies in it; false as soon as one of these calls is.
bool all_in(const Descriptor& folder,
            const std::function<bool(const std::string& name, const struct stat&)>& visit) {
  const auto names = names_in(folder);
  return names && std::all_of(names->begin(), names->end(), [&](const std::string& name) {
           struct stat is {};
           return ::fstatat(folder.get(), name.c_str(), &is, AT_SYMLINK_NOFOLLOW) == 0 && visit(name, is);
         });
}

bool is_plain(const Descriptor& folder) {
  return all_in(folder, [&](const std::string& name, const struct stat& is) {
    if (is.st_uid != ::getuid()) return false;
    return S_ISDIR(is.st_mode) ? is_plain(opened(folder.get(), name.c_str())) : S_ISREG(is.st_mode);
  });
}

// The mark goes last: what is cut off in the middle is still ours.
bool empty_out(const Descriptor& folder, dev_t device, bool at_the_top) {
  return all_in(folder, [&](const std::string& name, const struct stat& is) {
    if (at_the_top && name == kOwnFolderMark) return true;
    if (!S_ISDIR(is.st_mode)) return ::unlinkat(folder.get(), name.c_str(), 0) == 0;
    if (is.st_dev != device) return false;
    return empty_out(opened(folder.get(), name.c_str()), device, false) &&
           ::unlinkat(folder.get(), name.c_str(), AT_REMOVEDIR) == 0;
  });
}

}  // namespace

Result<fs::path> make_own_folder(const fs::path& place, const std::string& prefix) {
  std::string pattern = (place / (prefix + "XXXXXX")).string();
  if (::mkdtemp(pattern.data()) == nullptr)
    return refuse(RefusalCode::kCannotWrite,
                  fmt::format("cannot write in {}: {}", place.string(), std::strerror(errno)));
  if (mark(opened(pattern))) return fs::path(pattern);
  const int why = errno;
  ::rmdir(pattern.c_str());
  return refuse(RefusalCode::kCannotWrite,
                fmt::format("cannot write in {}: {}", place.string(), std::strerror(why)));
}

bool is_own_folder(const fs::path& folder) {
  return bears_its_mark(opened(folder));
}

bool is_users_folder(const fs::path& folder) {
  struct stat is {};
  return is_of_this_user(opened(folder), is);
}

bool adopt_folder(const fs::path& folder, const std::vector<std::string>& known) {
  const Descriptor fd = opened(folder);
  struct stat is {};
  if (!is_of_this_user(fd, is)) return false;
  if (bears_its_mark(fd)) return true;
  const bool is_known = all_in(fd, [&](const std::string& name, const struct stat&) {
    return std::find(known.begin(), known.end(), name) != known.end() || name == kOwnFolderMark;
  });
  if (!is_known || !is_plain(fd)) return false;
  ::unlinkat(fd.get(), kOwnFolderMark, 0);  // of the folder it was copied from
  return mark(fd);
}

bool remove_own_folder(const fs::path& folder) {
  const Descriptor fd = opened(folder);
  struct stat is {};
  if (!bears_its_mark(fd) || ::fstat(fd.get(), &is) != 0) return false;
  return empty_out(fd, is.st_dev, true) && ::unlinkat(fd.get(), kOwnFolderMark, 0) == 0 &&
         ::rmdir(folder.c_str()) == 0;
}

}  // namespace anvil
