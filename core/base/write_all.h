// Writing to an open descriptor to the end, whatever interrupts it.
#pragma once

#include <unistd.h>

#include <cerrno>
#include <string_view>

namespace anvil {

// False, with errno as write() left it, when not all of it could be written.
inline bool write_all(int fd, std::string_view bytes) {
  while (!bytes.empty()) {
    const ssize_t n = ::write(fd, bytes.data(), bytes.size());
    if (n < 0 && errno == EINTR) continue;
    if (n <= 0) return false;
    bytes.remove_prefix(static_cast<size_t>(n));
  }
  return true;
}

}  // namespace anvil
