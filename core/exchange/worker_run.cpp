#include "exchange/worker_run.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <cstdlib>
#include <cstring>
#include <mutex>

#include "exchange/worker_protocol.h"

extern char** environ;

namespace anvil {
namespace fs = std::filesystem;
namespace {

constexpr int kPollMilliseconds = 25;

// A child process that waits for its orders on standard input and whose standard output we read; killed and
// reaped when it goes out of scope.
class Child {
 public:
  static Result<std::unique_ptr<Child>> start() {
    // A worker that has died must not take us along when it is given its orders.
    static const auto ignored = std::signal(SIGPIPE, SIG_IGN);
    static_cast<void>(ignored);
    const std::vector<std::string> arguments{worker_program().string(), "serve"};
    int ends[2], orders[2];
    if (::pipe2(ends, O_CLOEXEC) != 0)
      return refuse(RefusalCode::kInternal, "no pipe to the import worker can be opened");
    if (::pipe2(orders, O_CLOEXEC) != 0) {
      ::close(ends[0]);
      ::close(ends[1]);
      return refuse(RefusalCode::kInternal, "no pipe to the import worker can be opened");
    }
    posix_spawn_file_actions_t actions;
    posix_spawn_file_actions_init(&actions);
    posix_spawn_file_actions_adddup2(&actions, orders[0], STDIN_FILENO);
    posix_spawn_file_actions_adddup2(&actions, ends[1], STDOUT_FILENO);
    posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::vector<char*> argv;
    argv.reserve(arguments.size() + 1);
    for (const std::string& a : arguments) argv.push_back(const_cast<char*>(a.c_str()));
    argv.push_back(nullptr);
    auto child = std::unique_ptr<Child>(new Child);
    const int error = ::posix_spawn(&child->pid_, argv[0], &actions, nullptr, argv.data(), environ);
    posix_spawn_file_actions_destroy(&actions);
    ::close(ends[1]);
    ::close(orders[0]);
    child->output_ = ends[0];
    child->orders_ = orders[1];
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
    if (orders_ >= 0) ::close(orders_);
  }
  Child(const Child&) = delete;
  Child& operator=(const Child&) = delete;

  // Tells the worker what to do: its arguments.
  [[nodiscard]] bool order(const std::vector<std::string>& arguments) {
    const std::string line = encode_order(arguments);
    const bool sent = ::write(orders_, line.data(), line.size()) == static_cast<ssize_t>(line.size());
    ::close(orders_);
    orders_ = -1;
    return sent;
  }

  [[nodiscard]] bool is_running() {
    if (pid_ > 0 && ::waitpid(pid_, nullptr, WNOHANG) != 0) pid_ = -1;  // its number may be another's by now
    return pid_ > 0;
  }

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
  int output_ = -1, orders_ = -1;
};

// At most one worker waits for the next file.
std::mutex g_spare_mutex;
std::unique_ptr<Child> g_spare;

Result<std::unique_ptr<Child>> worker() {
  {
    const std::lock_guard lock(g_spare_mutex);
    if (g_spare && g_spare->is_running()) return std::move(g_spare);
    g_spare.reset();
  }
  return Child::start();
}

Refusal took_too_long(const WorkerTask& task, std::chrono::seconds limit) {
  if (task.is_reading())
    return {RefusalCode::kLimit,
            fmt::format(
                "{} was not read within {} s and was given up; raise the limit or ask for a smaller file.",
                task.what, limit.count())};
  return {RefusalCode::kLimit, fmt::format("{} {} took more than {} s and was given up; nothing was changed.",
                                           task.doing, task.what, limit.count())};
}

Refusal not_enough_memory(const WorkerTask& task, const WorkerLimits& limits) {
  return {
      RefusalCode::kLimit,
      fmt::format("There is not enough memory for {} {} (at most {} MB are used). Nothing was changed; close "
                  "other programs, or ask for a smaller file.",
                  task.doing, task.what, limits.memory_mb)};
}

// A signal that nobody but the system or a person sends; the others a program brings upon itself.
bool was_ended_from_outside(int signal) {
  return signal == SIGKILL || signal == SIGTERM || signal == SIGINT || signal == SIGHUP;
}

Refusal why_it_ended(int status, const WorkerTask& task) {
  const std::string doing = fmt::format("{} {}", task.doing, task.what);
  const int signal = WIFSIGNALED(status) ? WTERMSIG(status) : 0;
  if (signal == SIGXCPU)
    return {RefusalCode::kLimit, doing + " took more computing time than the limit allows."};
  if (was_ended_from_outside(signal))
    return {
        RefusalCode::kLimit,
        fmt::format("{} was ended from outside ({}), by somebody or because the machine's memory ran out; "
                    "nothing was changed, try it again.",
                    doing, ::strsignal(signal))};
  const std::string how = signal ? fmt::format(" ({})", ::strsignal(signal)) : " without an answer";
  if (task.is_reading())
    return {RefusalCode::kReaderDied,
            fmt::format("{} made the reader fail{}: the file is damaged; nothing here was changed.",
                        task.what, how)};
  return {RefusalCode::kReaderDied,
          fmt::format("{} failed inside the geometry kernel{}; nothing was changed.", doing, how)};
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

Result<WorkerAnswer> run_worker(std::vector<std::string> arguments, const WorkerTask& task,
                                const Progress& progress, const WorkerLimits& limits,
                                const std::function<void()>& picture) {
  arguments.insert(arguments.end(), {"--memory-mb", fmt::format("{}", limits.memory_mb), "--cpu-seconds",
                                     fmt::format("{}", 4 * limits.time.count())});
  auto child = worker();
  if (!child) return refuse(child);
  if (!(*child)->order(arguments))
    return refuse(RefusalCode::kInternal, "the import worker does not take orders");
  const auto deadline = std::chrono::steady_clock::now() + limits.time;
  std::string buffer;
  std::optional<WorkerAnswer> done;
  bool open = true, no_memory = false;
  while (open) {
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    if (std::chrono::steady_clock::now() > deadline) return refuse(took_too_long(task, limits.time));
    open = (*child)->read_more(buffer);
    for (size_t end; (end = buffer.find('\n')) != std::string::npos; buffer.erase(0, end + 1)) {
      const auto message = decode(buffer.substr(0, end));
      if (!message) continue;
      if (message->no_memory) no_memory = true;
      if (message->refusal) return refuse(no_memory ? not_enough_memory(task, limits) : *message->refusal);
      if (message->done) done = WorkerAnswer{message->changed};
      if (message->picture && picture) picture();
      if (!message->phase.empty()) progress.say(message->phase, message->share);
    }
  }
  const int status = (*child)->wait();
  if (no_memory) return refuse(not_enough_memory(task, limits));
  if (done && status == 0) return *done;
  return refuse(why_it_ended(status, task));
}

void keep_worker_ready() {
  const std::lock_guard lock(g_spare_mutex);
  if (g_spare && g_spare->is_running()) return;
  g_spare.reset();
  auto child = Child::start();
  if (child) g_spare = std::move(*child);  // without one, the next import starts its own
}

}  // namespace anvil
