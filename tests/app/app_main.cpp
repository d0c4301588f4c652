#include <execinfo.h>
#include <unistd.h>
#include <QApplication>
#include <QDir>
#include <csignal>
#include <cstdio>

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

int main(int argc, char** argv) {
  std::signal(SIGSEGV, tell_where);
  testing::InitGoogleTest(&argc, argv);
  if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
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
