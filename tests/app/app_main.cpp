#include <QApplication>
#include <QDir>
#include <cstdio>

#include <gtest/gtest.h>

#include "app/start_up.h"
#include "app/theme.h"
#include "geom/quiet.h"

int main(int argc, char** argv) {
  testing::InitGoogleTest(&argc, argv);
  if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
  qputenv("XDG_RUNTIME_DIR", QDir::tempPath().toUtf8());
  if (const char* why = anvil::app::prepare_display()) {
    std::fprintf(stderr, "the window cannot be tested: %s\n", why);
    return 1;
  }
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("true-anvil-test"));
  QApplication::setOrganizationName(QStringLiteral("true-anvil-test"));
  anvil::quiet_kernel();
  anvil::app::apply_theme(application, anvil::app::Theme::light());
  return RUN_ALL_TESTS();
}
