#include "support/process.h"

#include <spawn.h>
#include <sys/wait.h>

#include <fstream>
#include <sstream>

#include "base/file.h"

extern char** environ;

namespace anvil::test {
namespace {

std::string whole(const std::filesystem::path& path) {
  std::ifstream in(path, std::ios::binary);
  std::ostringstream text;
  text << in.rdbuf();
  return text.str();
}

}  // namespace

Outcome run(const std::vector<std::string>& command) {
  const TemporaryFolder folder;
  const std::string out = (folder.path() / "out").string(), err = (folder.path() / "err").string();
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_addopen(&actions, 0, "/dev/null", 0, 0);
  posix_spawn_file_actions_addopen(&actions, 1, out.c_str(), 01 | 0100, 0600);
  posix_spawn_file_actions_addopen(&actions, 2, err.c_str(), 01 | 0100, 0600);
  std::vector<char*> argv;
  argv.reserve(command.size() + 1);
  for (const std::string& a : command) argv.push_back(const_cast<char*>(a.c_str()));
  argv.push_back(nullptr);
  pid_t pid = 0;
  Outcome outcome;
  const int error = posix_spawn(&pid, argv[0], &actions, nullptr, argv.data(), environ);
  posix_spawn_file_actions_destroy(&actions);
  if (error != 0) return outcome;
  int status = 0;
  waitpid(pid, &status, 0);
  outcome.status = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
  outcome.out = whole(out);
  outcome.err = whole(err);
  return outcome;
}

int children() {
  int count = 0;
  for (const auto& task : std::filesystem::directory_iterator("/proc/self/task")) {
    std::ifstream list(task.path() / "children");
    for (int pid; list >> pid;) ++count;
  }
  return count;
}

std::string program(const std::string& name) {
  return (std::filesystem::path(ANVIL_BIN_FOLDER) / name).string();
}

}  // namespace anvil::test
