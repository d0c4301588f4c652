#include "base/file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <openssl/evp.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <sstream>

namespace anvil {
namespace fs = std::filesystem;
namespace {

tl::unexpected<Refusal> cannot_write(const fs::path& path, int error) {
  return refuse(RefusalCode::kCannotWrite,
                fmt::format("cannot write {}: {}", path.string(), std::strerror(error)));
}

bool write_all(int fd, const std::string& bytes) {
  size_t done = 0;
  while (done < bytes.size()) {
    const ssize_t n = ::write(fd, bytes.data() + done, bytes.size() - done);
    if (n < 0 && errno == EINTR) continue;
    if (n <= 0) return false;
    done += static_cast<size_t>(n);
  }
  return true;
}

}  // namespace

Result<std::string> read_file(const fs::path& path) {
  std::error_code ec;
  if (fs::is_directory(path, ec))
    return refuse(RefusalCode::kUnreadable, fmt::format("{} is a folder, not a file", path.string()));
  std::ifstream in(path, std::ios::binary);
  if (!in)
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("cannot read {}: {}", path.string(), std::strerror(errno)));
  std::ostringstream bytes;
  bytes << in.rdbuf();
  if (in.bad())
    return refuse(RefusalCode::kUnreadable, fmt::format("cannot read {} to its end", path.string()));
  return std::move(bytes).str();
}

Result<void> write_file_atomically(const fs::path& path, const std::string& bytes) {
  const fs::path beside = path.string() + fmt::format(".part-{}", ::getpid());
  const int fd = ::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
  if (fd < 0) return cannot_write(path, errno);
  const bool written = write_all(fd, bytes) && ::fsync(fd) == 0;
  const int error = errno;
  ::close(fd);
  if (!written || ::rename(beside.c_str(), path.c_str()) != 0) {
    const int why = written ? errno : error;
    ::unlink(beside.c_str());
    return cannot_write(path, why);
  }
  return {};
}

std::string safe_file_name(const std::string& told) {
  constexpr size_t kLongest = 200, kEnd = 20;
  std::string name = told.substr(told.find_last_of("/\\") + 1);
  for (char& c : name)
    if (static_cast<unsigned char>(c) < 0x20 || c == 0x7f) c = '_';
  if (name.size() > kLongest) name.erase(kLongest - kEnd, name.size() - kLongest);
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

TemporaryFolder::TemporaryFolder() {
  std::string pattern = (fs::temp_directory_path() / "true-anvil-XXXXXX").string();
  if (::mkdtemp(pattern.data()) == nullptr)
    throw fs::filesystem_error("no temporary folder", pattern,
                               std::error_code(errno, std::generic_category()));
  path_ = pattern;
}

TemporaryFolder::~TemporaryFolder() {
  std::error_code ignored;
  fs::remove_all(path_, ignored);
}

}  // namespace anvil
