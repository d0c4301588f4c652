// bench_interaction FILE: the real window opens FILE, waits until it is checked, then measures what a user
// waits for afterwards: the answer to a hover, a frame while turning, and opening the same part from a saved
// job against importing it. Needs a display.
#include <QTemporaryDir>
#include <algorithm>

#include "bench/measured_window.h"

namespace {

using namespace anvil;
using bench::Clock;
using bench::MeasuredWindow;
using bench::seconds_since;

// The first of each is left out: it builds what the kernel needs for the others.
void tell(const char* what, std::vector<double> seconds) {
  seconds.erase(seconds.begin());
  std::sort(seconds.begin(), seconds.end());
  std::printf("%-10s median %.1f ms, slowest %.1f ms\n", what, 1e3 * seconds[seconds.size() / 2],
              1e3 * seconds.back());
}

void save(MeasuredWindow& measured, const QString& path) {
  app::JobKeeper& keeper = measured.window().keeper();
  keeper.save_to(path);
  measured.wait(
      [&] { return measured.session().document().history().is_saved() && !keeper.output().is_busy(); });
}

void hover(MeasuredWindow& measured) {
  const app::OccView& view = measured.view();
  std::vector<double> taken;
  for (int i = 1; i < 20; ++i)
    for (int j = 1; j < 15; ++j) {
      const auto start = Clock::now();
      static_cast<void>(measured.window().view_pane().finder().at(
          QPointF(view.width() * i / 20.0, view.height() * j / 15.0)));
      taken.push_back(seconds_since(start));
    }
  tell("hover", taken);
}

void turn(MeasuredWindow& measured) {
  app::OccView& view = measured.view();
  Q_EMIT view.being_turned(true);  // as a drag does
  std::vector<double> taken;
  for (int i = 0; i < 20; ++i) {
    const int before = measured.frames();
    const auto start = Clock::now();
    view.turn(0.1, 0, 0);
    measured.wait([&] { return measured.frames() > before; });
    taken.push_back(seconds_since(start));
  }
  tell("turning", taken);
  Q_EMIT view.being_turned(false);
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 2 || app::prepare_display()) return 2;
  const QApplication application(argc, argv);
  constexpr double kLimit_s = 1200;
  MeasuredWindow measured(kLimit_s);
  measured.open(QString::fromLocal8Bit(argv[1]));
  const double pictured = measured.seconds_since_asked();
  measured.wait([&] { return !measured.window().keeper().work().is_busy(); });
  const double imported = measured.seconds_since_asked();
  std::printf("import     %.2f s to a pickable picture, %.2f s until checked and mended\n", pictured,
              imported);
  const app::Session& session = measured.session();
  measured.wait(
      [&] { return session.checks().holes() && session.checks().corners() && session.checks().soundness(); });
  hover(measured);
  turn(measured);
  const QTemporaryDir folder;
  const QString job = folder.filePath(QStringLiteral("measured.anvil"));
  save(measured, job);
  measured.window().keeper().new_job();
  measured.open(job);
  const double again = measured.seconds_since_asked();
  std::printf("again      %.2f s from the job file: %.3f of importing, %.3f of the first picture\n", again,
              again / imported, again / pictured);
  measured.end(0);
}
