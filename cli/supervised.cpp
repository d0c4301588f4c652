#include "cli/supervised.h"

#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>

namespace anvil::cli {

Ended supervised(const std::function<int()>& work) {
  std::fflush(nullptr);
  const pid_t child = ::fork();
  if (child < 0) return {0, std::strerror(errno), false};
  if (child == 0) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    const int status = work();
    std::fflush(nullptr);
    ::_exit(status);  // tearing the kernel's data down would only cost time
  }
  int status = 0;
  while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
  }
  if (WIFEXITED(status)) return {WEXITSTATUS(status), {}, false};
  const int signal = WTERMSIG(status);
  return {0, ::strsignal(signal), signal == SIGXCPU || signal == SIGALRM};
}

}  // namespace anvil::cli
