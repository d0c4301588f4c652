#include <execinfo.h>
#include <sys/syscall.h>
#include <unistd.h>
#include <QApplication>
#include <QDir>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <filesystem>
#include <thread>

#include <gtest/gtest.h>

#include "app/application.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "geom/quiet.h"

// A crash in the window is told with where it was, even when nobody can make it happen again.
void tell_where(int signal) {
  void* frames[64];
  ::backtrace_symbols_fd(frames, ::backtrace(frames, 64), STDERR_FILENO);
  std::signal(signal, SIG_DFL);
  std::raise(signal);
}

void tell_stack(int /*signal*/) {
  constexpr char kHead[] = "\n-- a thread of a test that stands still:\n";
  static_cast<void>(!::write(STDERR_FILENO, kHead, sizeof kHead - 1));
  void* frames[64];
  ::backtrace_symbols_fd(frames, ::backtrace(frames, 64), STDERR_FILENO);
}

// Shortly before CTest would end it, every thread tells where it is: who waits for whom is gone afterwards.
void tell_stacks_after(std::chrono::seconds patience) {
  std::signal(SIGUSR2, tell_stack);
  std::thread([patience] {
    std::this_thread::sleep_for(patience);
    for (const auto& task : std::filesystem::directory_iterator("/proc/self/task")) {
      ::syscall(SYS_tgkill, ::getpid(), std::stoi(task.path().filename().string()), SIGUSR2);
      std::this_thread::sleep_for(std::chrono::milliseconds(100));
    }
  }).detach();
}

int main(int argc, char** argv) {
  std::signal(SIGSEGV, tell_where);
  testing::InitGoogleTest(&argc, argv);
  if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
  tell_stacks_after(std::chrono::seconds(270));
  qputenv("XDG_RUNTIME_DIR", QDir::tempPath().toUtf8());
  if (const char* why = anvil::app::prepare_display()) {
    std::fprintf(stderr, "the window cannot be tested: %s\n", why);
    return 1;
  }
  anvil::app::Application application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("true-anvil-test"));
  QApplication::setOrganizationName(QStringLiteral("true-anvil-test"));
  anvil::quiet_kernel();
  anvil::app::apply_theme(application, anvil::app::Theme::light());
  return RUN_ALL_TESTS();
}
