// The real window as the measuring programs use it: up and idle, told to open a file, watched until the file
// is drawn.
#pragma once

#include <QApplication>
#include <QTimer>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <functional>

#include "app/main_window.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "exchange/worker_client.h"
#include "geom/quiet.h"

namespace anvil::bench {

using Clock = std::chrono::steady_clock;

inline double seconds_since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

class MeasuredWindow {
 public:
  // Needs a QApplication on a display. Waits for nothing longer than `limit_s`.
  explicit MeasuredWindow(double limit_s) : limit_s_(limit_s) {
    quiet_kernel();
    app::apply_theme(*static_cast<QApplication*>(QCoreApplication::instance()), app::Theme::light());
    window_ = std::make_unique<app::MainWindow>();
    QObject::connect(&session().bus(), &app::ChangeBus::changed, &window(), [this](app::Changes what) {
      if (!(what & app::Change::kPart)) return;
      there_ = true;
      if (std::getenv("TRUE_ANVIL_PHASES")) std::fprintf(stderr, "part there %.3f\n", seconds_since(asked_));
    });
    QObject::connect(&view(), &QOpenGLWidget::frameSwapped, &window(),
                     [this] { ++frames_, drawn_ = there_; });
    window_->show();
    keep_worker_ready();  // as the application does
    heartbeat_.start(20);
    const auto shown = Clock::now();  // the empty window is up, as when a user chooses a file
    wait([&] { return seconds_since(shown) > 1; });
  }

  app::MainWindow& window() { return *window_; }
  app::Session& session() { return window_->session(); }
  app::OccView& view() { return window_->view_pane().view(); }
  [[nodiscard]] int frames() const { return frames_; }

  void wait(const std::function<bool()>& done) const {
    const auto start = Clock::now();
    while (!done() && seconds_since(start) < limit_s_)
      QApplication::processEvents(QEventLoop::WaitForMoreEvents);
  }

  // Until it is drawn and can be picked; false when that took too long.
  bool open(const QString& path) {
    there_ = drawn_ = false;
    asked_ = Clock::now();
    window_->keeper().open(path);
    wait([&] { return drawn_; });
    return drawn_;
  }
  [[nodiscard]] double seconds_since_asked() const { return seconds_since(asked_); }

  // Ends the program without taking the window down.
  [[noreturn]] void end(int status) {
    std::fflush(stdout);
    window_->keeper().discard_safety_copy();
    std::_Exit(status);
  }

 private:
  double limit_s_;
  std::unique_ptr<app::MainWindow> window_;
  QTimer heartbeat_;  // so that waiting for events ends; spinning would take a core from what is measured
  Clock::time_point asked_;
  bool there_ = false, drawn_ = false;
  int frames_ = 0;
};

}  // namespace anvil::bench
