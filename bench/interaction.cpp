// bench_interaction FILE: the real window opens FILE, waits until it is checked, then measures what a user
// waits for afterwards: the answer to a hover, a frame while turning, and opening the same part from a saved
// job against importing it. Needs a display.
#include <QApplication>
#include <QTemporaryDir>
#include <QTimer>
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <functional>

#include "app/main_window.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "exchange/worker_client.h"
#include "geom/quiet.h"

namespace {

using Clock = std::chrono::steady_clock;

double seconds_since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

void wait(const std::function<bool()>& done) {
  const auto start = Clock::now();
  while (!done() && seconds_since(start) < 1200) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
}

void tell(const char* what, std::vector<double> seconds) {
  std::sort(seconds.begin(), seconds.end());
  std::printf("%-10s median %.1f ms, slowest %.1f ms\n", what, 1e3 * seconds[seconds.size() / 2],
              1e3 * seconds.back());
}

class Measured {
 public:
  explicit Measured(anvil::app::MainWindow& window) : window_(window), view_(window.view_pane().view()) {
    QObject::connect(&window.session(), &anvil::app::Session::part_changed, &window,
                     [this] { there_ = true; });
    QObject::connect(&view_, &QOpenGLWidget::frameSwapped, &window, [this] { ++frames_, drawn_ = there_; });
  }

  // Until it can be seen and picked; with `whole` until everything that follows in the background is done
  // too.
  double open(const QString& path, bool whole) {
    there_ = drawn_ = false;
    const auto start = Clock::now();
    window_.keeper().open(path);
    wait([&] { return drawn_; });
    const double shown = seconds_since(start);
    wait([&] { return !whole || !window_.keeper().work().is_busy(); });
    return shown;
  }

  void save(const QString& path) {
    window_.keeper().save_to(path);
    wait([&] { return window_.session().history().is_saved() && !window_.keeper().output().is_busy(); });
  }

  void hover() {
    std::vector<double> taken;
    for (int i = 1; i < 20; ++i)
      for (int j = 1; j < 15; ++j) {
        const auto start = Clock::now();
        static_cast<void>(
            window_.view_pane().finder().at(QPointF(view_.width() * i / 20.0, view_.height() * j / 15.0)));
        taken.push_back(seconds_since(start));
      }
    taken.erase(taken.begin());  // the first builds what the kernel needs for picking
    tell("hover", taken);
  }

  void turn() {
    Q_EMIT view_.being_turned(true);  // as a drag does
    std::vector<double> taken;
    for (int i = 0; i < 20; ++i) {
      const int before = frames_;
      const auto start = Clock::now();
      view_.camera_view()->Camera()->Transform(rotation());
      view_.camera_was_set();
      wait([&] { return frames_ > before; });
      taken.push_back(seconds_since(start));
    }
    taken.erase(taken.begin());
    tell("turning", taken);
    Q_EMIT view_.being_turned(false);
  }

 private:
  gp_Trsf rotation() const {
    gp_Trsf turn;
    turn.SetRotation(gp_Ax1(view_.camera_view()->Camera()->Center(), gp_Dir(0, 0, 1)), 0.1);
    return turn;
  }

  anvil::app::MainWindow& window_;
  anvil::app::OccView& view_;
  bool there_ = false, drawn_ = false;
  int frames_ = 0;
};

}  // namespace

int main(int argc, char** argv) {
  using namespace anvil::app;
  if (argc < 2 || prepare_display()) return 2;
  QApplication application(argc, argv);
  anvil::quiet_kernel();
  apply_theme(application, Theme::light());
  MainWindow window;
  window.show();
  anvil::keep_worker_ready();
  QTimer heartbeat;
  heartbeat.start(20);
  const auto shown = Clock::now();
  wait([&] { return seconds_since(shown) > 1; });
  Measured measured(window);
  const auto start = Clock::now();
  const double pictured = measured.open(QString::fromLocal8Bit(argv[1]), true);
  const double imported = seconds_since(start);
  std::printf("import     %.2f s to a pickable picture, %.2f s until checked and mended\n", pictured,
              imported);
  wait(
      [&] { return window.session().holes() && window.session().corners() && window.session().soundness(); });
  measured.hover();
  measured.turn();
  const QTemporaryDir folder;
  const QString job = folder.filePath(QStringLiteral("measured.anvil"));
  measured.save(job);
  window.keeper().new_job();
  const double again = measured.open(job, false);
  std::printf("again      %.2f s from the job file: %.3f of importing, %.3f of the first picture\n", again,
              again / imported, again / pictured);
  std::fflush(stdout);
  window.keeper().discard_safety_copy();
  std::_Exit(0);
}
