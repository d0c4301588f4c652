#include "cli/supervised.h"

#include <poll.h>
#include <sys/prctl.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <iterator>

namespace anvil::cli {

namespace {

// Waits until the child has ended or nobody reads our output; true for the second.
bool wait_for_closed_pipe(pid_t child) {
  const int ended = static_cast<int>(::syscall(SYS_pidfd_open, child, 0));
  if (ended < 0) return false;  // an older system: the end of the pipe is noticed on writing
  pollfd watched[] = {{ended, POLLIN, 0}, {STDOUT_FILENO, 0, 0}};
  while (::poll(watched, std::size(watched), -1) < 0 && errno == EINTR) {
  }
  ::close(ended);
  return (watched[1].revents & POLLERR) != 0 && (watched[0].revents & POLLIN) == 0;
}

bool is_a_pipe(int fd) {
  struct stat is {};
  return ::fstat(fd, &is) == 0 && (S_ISFIFO(is.st_mode) || S_ISSOCK(is.st_mode));
}

}  // namespace

Ended supervised(const std::function<int()>& work, bool until_pipe_closes) {
  std::fflush(nullptr);
  const pid_t child = ::fork();
  Ended ended;
  if (child < 0) {
    ended.died = std::strerror(errno);
    return ended;
  }
  if (child == 0) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    const int status = work();
    std::fflush(nullptr);
    ::_exit(status);  // tearing the kernel's data down would only cost time
  }
  ended.closed_pipe = until_pipe_closes && is_a_pipe(STDOUT_FILENO) && wait_for_closed_pipe(child);
  if (ended.closed_pipe) ::kill(child, SIGKILL);
  int status = 0;
  while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
  }
  if (WIFEXITED(status)) {
    ended.status = WEXITSTATUS(status);
    return ended;
  }
  const int signal = WTERMSIG(status);
  ended.died = ::strsignal(signal);
  ended.closed_pipe = ended.closed_pipe || signal == SIGPIPE;
  ended.over_limit = signal == SIGXCPU || signal == SIGALRM;
  ended.from_outside = signal == SIGKILL || signal == SIGTERM || signal == SIGINT || signal == SIGHUP;
  return ended;
}

}  // namespace anvil::cli
