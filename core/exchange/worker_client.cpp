#include "exchange/worker_client.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <cstdlib>
#include <cstring>

#include "base/file.h"
#include "exchange/part_file.h"
#include "exchange/worker_protocol.h"
#include "geom/guard.h"

extern char** environ;

namespace anvil {
namespace fs = std::filesystem;
namespace {

constexpr int kPollMilliseconds = 25;

// A child process whose standard output we read; killed and reaped when it goes out of scope.
class Child {
 public:
  static Result<std::unique_ptr<Child>> start(const std::vector<std::string>& arguments) {
    int ends[2];
    if (::pipe2(ends, O_CLOEXEC) != 0)
      return refuse(RefusalCode::kInternal, "no pipe to the import worker can be opened");
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_adddup2(&actions, ends[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<char*> argv;
    for (const std::string& a : arguments) argv.push_back(const_cast<char*>(a.c_str()));
    argv.push_back(nullptr);
    auto child = std::unique_ptr<Child>(new Child);
    const int error = ::posix_spawn(&child->pid_, argv[0], &actions, nullptr, argv.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    ::close(ends[1]);
    child->output_ = ends[0];
    if (error == 0) return child;
    child->pid_ = -1;
    return refuse(RefusalCode::kInternal, fmt::format("the import worker {} cannot be started: {}",
                                                      arguments[0], std::strerror(error)));
  }

  ~Child() {
    if (pid_ > 0) {
      ::kill(pid_, SIGKILL);
      ::waitpid(pid_, nullptr, 0);
    }
    if (output_ >= 0) ::close(output_);
  }
  Child(const Child&) = delete;
  Child& operator=(const Child&) = delete;

  // More output, waiting at most one poll; false at its end.
  bool read_more(std::string& buffer) {
    pollfd watch{output_, POLLIN, 0};
    if (::poll(&watch, 1, kPollMilliseconds) <= 0) return true;
    char bytes[4096];
    const ssize_t n = ::read(output_, bytes, sizeof bytes);
    if (n <= 0) return n < 0 && errno == EINTR;
    buffer.append(bytes, static_cast<size_t>(n));
    return true;
  }

  int wait() {
    int status = 0;
    ::waitpid(pid_, &status, 0);
    pid_ = -1;
    return status;
  }

 private:
  Child() = default;
  pid_t pid_ = -1;
  int output_ = -1;
};

std::string why_it_ended(int status, const std::string& file) {
  if (WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU)
    return file + " took more computing time than the limit allows.";
  if (WIFSIGNALED(status))
    return fmt::format("{} made the reader fail ({}): the file is damaged; nothing here was changed.", file,
                       ::strsignal(WTERMSIG(status)));
  return fmt::format(
      "{} made the reader stop without an answer: the file is damaged; nothing here was changed.", file);
}

Result<void> run_worker(std::vector<std::string> arguments, const std::string& file, const Progress& progress,
                        const WorkerLimits& limits) {
  arguments.insert(arguments.end(), {"--memory-mb", std::to_string(limits.memory_mb), "--cpu-seconds",
                                     std::to_string(4 * limits.time.count())});
  auto child = Child::start(arguments);
  if (!child) return refuse(child);
  const auto deadline = std::chrono::steady_clock::now() + limits.time;
  std::string buffer;
  bool done = false, open = true;
  while (open) {
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    if (std::chrono::steady_clock::now() > deadline)
      return refuse(
          RefusalCode::kLimit,
          fmt::format(
              "{} was not read within {} s and was given up; raise the limit or ask for a smaller file.",
              file, limits.time.count()));
    open = (*child)->read_more(buffer);
    for (size_t end; (end = buffer.find('\n')) != std::string::npos; buffer.erase(0, end + 1)) {
      const auto message = decode(buffer.substr(0, end));
      if (!message) continue;
      if (message->refusal) return refuse(*message->refusal);
      if (message->done) done = true;
      if (!message->phase.empty()) progress.say(message->phase, message->share);
    }
  }
  const int status = (*child)->wait();
  if (done && status == 0) return {};
  return refuse(RefusalCode::kUnreadable, why_it_ended(status, file));
}

fs::path beside_this_program() {
  std::error_code error;
  const fs::path self = fs::read_symlink("/proc/self/exe", error);
  return self.parent_path() / "true-anvil-import";
}

}  // namespace

fs::path worker_program() {
  const char* named = std::getenv("TRUE_ANVIL_IMPORT");
  return named && *named ? fs::path(named) : beside_this_program();
}

Result<PartPtr> import_part(const fs::path& file, const Progress& progress, const WorkerLimits& limits) {
  std::error_code error;
  if (!fs::exists(file, error))
    return refuse(RefusalCode::kUnreadable, fmt::format("{} is not there.", file.string()));
  if (fs::is_directory(file, error))
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("{} is a folder: choose a part file in it.", file.string()));
  return guarded("importing", [&]() -> Result<PartPtr> {
    const TemporaryFolder folder;
    auto ran = run_worker({worker_program().string(), "read", file.string(), folder.path().string()},
                          file.filename().string(), progress, limits);
    if (!ran) return refuse(ran);
    progress.say("taking over", 0.95);
    auto bodies = read_part_folder(folder.path());
    if (!bodies) return refuse(bodies);
    return PartPtr(std::make_shared<const Part>(std::move(bodies->source), std::move(bodies->bodies)));
  });
}

Result<void> export_step(const Part& part, const gp_Trsf& placement, const fs::path& out,
                         const Progress& progress, const WorkerLimits& limits) {
  return guarded("exporting", [&]() -> Result<void> {
    const TemporaryFolder folder;
    std::vector<Body> moved = part.bodies();
    for (Body& body : moved) body.shape = body.shape.Moved(TopLoc_Location(placement));
    progress.say("preparing", 0.1);
    auto handed = write_part_folder({part.source(), moved}, folder.path());
    if (!handed) return refuse(handed);
    return run_worker({worker_program().string(), "write-step", folder.path().string(), out.string()},
                      out.filename().string(), progress, limits);
  });
}

}  // namespace anvil
