#include "cli/console.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>

#include "base/memory.h"
#include "base/plain_text.h"
#include "base/sanitizers.h"
#include "base/write_all.h"
#include "cli/cli_input.h"

namespace anvil::cli {
namespace {

int g_answers = STDOUT_FILENO, g_messages = STDERR_FILENO;

// Line by line.
std::string for_terminal(const std::string& text) {
  std::string safe;
  for (size_t at = 0; at < text.size();) {
    const size_t end = std::min(text.find('\n', at), text.size());
    safe += plain_text(std::string_view(text).substr(at, end - at));
    if (end < text.size()) safe += '\n';
    at = end + 1;
  }
  return safe;
}

void clear_progress() {
  constexpr std::string_view kClearLine = "\r\033[K";
  if (::isatty(g_messages)) static_cast<void>(write_all(g_messages, kClearLine));
}

}  // namespace

void keep_libraries_quiet() {
  std::fflush(nullptr);
  const int nowhere = ::open("/dev/null", O_WRONLY | O_CLOEXEC);
  if (nowhere < 0) return;
  g_answers = ::fcntl(STDOUT_FILENO, F_DUPFD_CLOEXEC, STDERR_FILENO + 1);
  g_messages = ::fcntl(STDERR_FILENO, F_DUPFD_CLOEXEC, STDERR_FILENO + 1);
  ::dup2(nowhere, STDOUT_FILENO);
  // What a sanitizer found is told there.
  if (!kHasSanitizer) ::dup2(nowhere, STDERR_FILENO);
  ::close(nowhere);
}

Result<int> print(const std::string& text) {
  clear_progress();
  if (memory_ran_out()) return refuse(out_of_memory("the answer", ""));
  if (write_all(g_answers, for_terminal(text))) return kDone;
  if (errno == EPIPE) end_for_closed_pipe();
  return refuse(RefusalCode::kCannotWrite,
                fmt::format("the answer cannot be written: {}", std::strerror(errno)));
}

void say(const std::string& message) {
  clear_progress();
  static_cast<void>(write_all(g_messages, plain_text(message) + "\n"));
}

void end_for_closed_pipe() {
  std::signal(SIGPIPE, SIG_DFL);
  ::raise(SIGPIPE);
  ::_exit(128 + SIGPIPE);  // where the signal is blocked
}

Progress terminal_progress() {
  if (!::isatty(g_messages)) return {};
  return {[](const std::string& phase, double) {
            static_cast<void>(write_all(g_messages, "\r\033[K" + plain_text(phase) + " …"));
          },
          {}};
}

}  // namespace anvil::cli
