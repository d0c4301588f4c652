#include "base/memory.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/mman.h>
#include <sys/resource.h>
#include <unistd.h>

#include <atomic>
#include <cerrno>
#include <csignal>
#include <new>

#include "base/sanitizers.h"

// Of the allocator, in programs that are linked with it: tells every request that could not be met, also
// those of libraries written in C.
extern "C" void mi_register_error(void (*handler)(int, void*), void* argument) __attribute__((weak));

namespace anvil {
namespace {

constexpr int kNoMemory = ENOMEM;

std::atomic<bool>* g_ran_out = nullptr;
void (*g_first)() = nullptr;
rlim_t g_page_bytes = 4096;

void remember() {
  if (g_ran_out && !g_ran_out->exchange(true) && g_first) g_first();
}

[[noreturn]] void remember_and_throw() {
  remember();
  throw std::bad_alloc();
}

// What is in use of the addresses this process may have, in bytes; only what a signal handler may do.
rlim_t used_addresses() {
  char text[64] = {};
  const int file = ::open("/proc/self/statm", O_RDONLY | O_CLOEXEC);
  if (file < 0) return 0;
  const ssize_t n = ::read(file, text, sizeof text - 1);
  ::close(file);
  rlim_t pages = 0;
  for (ssize_t i = 0; i < n && text[i] >= '0' && text[i] <= '9'; ++i)
    pages = 10 * pages + static_cast<rlim_t>(text[i] - '0');
  return pages * g_page_bytes;
}

// Dying hard by the limit is dying of it: a stack that could not grow, or a library that did not look whether
// it was given what it asked for.
void look_before_dying(int signal) {
  constexpr rlim_t kNear_bytes = 40 << 20;
  rlimit limit{};
  const bool limited = ::getrlimit(RLIMIT_AS, &limit) == 0 && limit.rlim_cur != RLIM_INFINITY;
  if (limited && used_addresses() + kNear_bytes > limit.rlim_cur) remember();
  ::signal(signal, SIG_DFL);
  ::raise(signal);
}

// On a stack of its own: the usual one may be what has no room.
void watch_deaths() {
  g_page_bytes = static_cast<rlim_t>(::sysconf(_SC_PAGESIZE));
  static char other_stack[1 << 16];
  stack_t stack{};
  stack.ss_sp = other_stack;
  stack.ss_size = sizeof other_stack;
  ::sigaltstack(&stack, nullptr);
  struct sigaction action {};
  action.sa_handler = look_before_dying;
  action.sa_flags = static_cast<int>(SA_ONSTACK | SA_RESETHAND | SA_NODEFER);
  for (const int signal : {SIGSEGV, SIGBUS, SIGABRT}) ::sigaction(signal, &action, nullptr);
}

}  // namespace

void watch_memory(void (*first)()) {
  g_first = first;
  // Shared with copies of this process, which may die before they can say anything.
  void* page =
      ::mmap(nullptr, sizeof(std::atomic<bool>), PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
  static std::atomic<bool> of_this_process = false;
  g_ran_out = page == MAP_FAILED ? &of_this_process : new (page) std::atomic<bool>(false);
  std::set_new_handler(remember_and_throw);
  if (!kHasSanitizer) watch_deaths();  // a sanitizer does that itself
  if (mi_register_error)
    mi_register_error(
        [](int error, void*) {
          if (error == kNoMemory) remember();
        },
        nullptr);
}

void note_no_memory() {
  remember();
}

bool memory_ran_out() {
  return g_ran_out && g_ran_out->load();
}

Refusal out_of_memory(const std::string& doing, const std::string& what) {
  rlimit limit{};
  const bool limited = ::getrlimit(RLIMIT_AS, &limit) == 0 && limit.rlim_cur != RLIM_INFINITY;
  return {
      RefusalCode::kLimit,
      fmt::format("There is not enough memory for {}{}{}{}. Nothing was changed; close other programs, or "
                  "allow it more.",
                  doing, what.empty() ? "" : " ", what,
                  limited ? fmt::format(": it may use {} MB", limit.rlim_cur >> 20) : std::string())};
}

}  // namespace anvil
