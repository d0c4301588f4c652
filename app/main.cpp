// true-anvil [FILE …] [--theme light|dark] [--screenshot PNG [--table corners|holes] [--pick-demo]]
#include <clocale>

#include <QApplication>
#include <QCommandLineParser>
#include <QFileInfo>
#include <QSettings>
#include <QSurfaceFormat>
#include <QTimer>
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <string_view>
#include <thread>

#include "app/application.h"
#include "app/main_window.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "exchange/format.h"
#include "exchange/worker_client.h"
#include "geom/quiet.h"

namespace {

using namespace anvil::app;

// Takes the picture once the part is there, checked and drawn, or says why not after a minute.
void screenshot_when_ready(MainWindow& window, const QString& path) {
  auto* timer = new QTimer(&window);
  auto* waited = new int(0);
  QObject::connect(timer, &QTimer::timeout, &window, [&window, path, timer, waited] {
    const bool busy = window.keeper().work().is_busy() || window.session().checks().checking().is_busy();
    const bool ready = window.session().document().part() && window.session().checks().corners() && !busy;
    if (++*waited < 6 || (!ready && *waited < 600)) return;
    timer->stop();
    const bool saved = ready && window.grab().save(path);
    if (!saved) std::fprintf(stderr, "true-anvil: the picture %s could not be made\n", qPrintable(path));
    QCoreApplication::exit(saved ? 0 : 1);
  });
  timer->start(100);
}

// What is to be kept has been kept when the window is gone. Libraries that heed no cancel must not hold the
// process: it is gone within a second, whatever runs. Workers go with it.
void end_soon(int status) {
  static constexpr std::chrono::milliseconds kPatience{700};
  std::thread([status] {
    std::this_thread::sleep_for(kPatience);
    std::_Exit(status);
  }).detach();
}

}  // namespace

int main(int argc, char** argv) {
  // Asked without a display, too.
  if (argc == 2 && std::string_view(argv[1]) == "--version") {
    std::puts("true-anvil " TRUE_ANVIL_VERSION);
    return 0;
  }
  if (const char* why = anvil::app::prepare_display()) {
    std::fprintf(stderr, "true-anvil: %s\n", why);
    return 1;
  }
  Application application(argc, argv);
  // Qt takes the user's locale over; libraries below read and write numbers with a point.
  std::setlocale(LC_NUMERIC, "C");
  QApplication::setApplicationName(QStringLiteral("true-anvil"));
  QApplication::setOrganizationName(QStringLiteral("true-anvil"));
  anvil::quiet_kernel();
  QCommandLineParser parser;
  parser.setApplicationDescription(
      QStringLiteral("Zero, tool planes, corners and holes of a part, before toolpaths."));
  QApplication::setApplicationVersion(QStringLiteral(TRUE_ANVIL_VERSION));
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument(QStringLiteral("file"),
                               QStringLiteral("parts (%1) or a job (.anvil) to open")
                                   .arg(QString::fromStdString(anvil::format_names())),
                               QStringLiteral("[file …]"));
  const QCommandLineOption screenshot(QStringLiteral("screenshot"),
                                      QStringLiteral("write a picture of the window and exit"),
                                      QStringLiteral("png"));
  const QCommandLineOption table(QStringLiteral("table"),
                                 QStringLiteral("open a table: corners, holes or soundness"),
                                 QStringLiteral("name"));
  const QCommandLineOption theme_name(QStringLiteral("theme"), QStringLiteral("light or dark"),
                                      QStringLiteral("name"));
  parser.addOptions({screenshot, table, theme_name});
  // A file whose name begins with a dash is no option.
  QStringList arguments = QApplication::arguments();
  for (QString& argument : arguments)
    if (argument.startsWith(QLatin1Char('-')) && QFileInfo(argument).isFile())
      argument = QFileInfo(argument).absoluteFilePath();
  parser.process(arguments);

  const QString chosen = parser.value(theme_name);
  const bool dark = chosen.isEmpty() ? QSettings().value(QStringLiteral("theme/dark"), false).toBool()
                                     : chosen == QLatin1String("dark");
  apply_theme(application, dark ? Theme::dark_one() : Theme::light());
  MainWindow window;
  application.set_teller([&window](const QString& sentence) { window.notice().tell(sentence); });
  window.set_dark(dark);
  window.show();
  QTimer::singleShot(0, &window, anvil::keep_worker_ready);
  if (parser.value(table) == QLatin1String("corners")) window.drawer().open(Drawer::Table::kCorners);
  if (parser.value(table) == QLatin1String("holes")) window.drawer().open(Drawer::Table::kHoles);
  if (parser.value(table) == QLatin1String("soundness")) window.drawer().open(Drawer::Table::kSoundness);
  const QStringList files = parser.positionalArguments();
  if (!files.isEmpty()) window.open_files(files);
  // A job tells of its own lost copy when it is opened.
  const bool opens_job = std::any_of(files.begin(), files.end(), [](const QString& file) {
    return file.endsWith(QLatin1String(".anvil"), Qt::CaseInsensitive);
  });
  if (!opens_job) window.keeper().look_for_lost_jobs();
  if (parser.isSet(screenshot)) screenshot_when_ready(window, parser.value(screenshot));
  const int status = QApplication::exec();
  end_soon(status);
  return status;
}
