#include "exchange/tried_apart.h"

#include <sys/wait.h>
#include <unistd.h>

#include "geom/guard.h"

namespace anvil {
namespace {

bool comes_back(int begin, int end, unsigned seconds, const std::function<void(int, int)>& attempt) {
  const pid_t child = ::fork();
  if (child < 0) return true;  // it cannot be found out; whoever goes on will
  if (child == 0) {
    ::alarm(seconds);
    static_cast<void>(guarded("trying", [&]() -> Result<void> {
      attempt(begin, end);
      return {};
    }));
    ::_exit(0);
  }
  int status = 0;
  while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
  }
  return WIFEXITED(status) && WEXITSTATUS(status) == 0;
}

void find(int begin, int end, unsigned seconds, const std::function<void(int, int)>& attempt,
          std::vector<int>& fatal) {
  if (begin >= end || comes_back(begin, end, seconds, attempt)) return;
  if (end - begin == 1) {
    fatal.push_back(begin);
    return;
  }
  const int middle = begin + (end - begin) / 2;
  find(begin, middle, seconds, attempt, fatal);
  find(middle, end, seconds, attempt, fatal);
}

}  // namespace

std::vector<int> fatal_ones(int count, unsigned seconds, const std::function<void(int, int)>& attempt) {
  std::vector<int> fatal;
  find(0, count, seconds, attempt, fatal);
  return fatal;
}

}  // namespace anvil
