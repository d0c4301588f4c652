// Drives the real window with real mouse and keyboard events (XTEST, through xdotool), as a user would: it
// moves the pointer to where something is on the screen and presses.
#pragma once

#include <QApplication>
#include <QTemporaryDir>
#include <functional>

#include "app/main_window.h"

namespace anvil::test {

class WindowDriver {
 public:
  WindowDriver();  // shows a window of 1280x800, with its own home and settings
  ~WindowDriver();

  app::MainWindow& window() { return *window_; }
  app::Session& session() { return window_->session(); }
  [[nodiscard]] QString folder() const { return home_.path(); }
  // Files written into that folder: their paths.
  [[nodiscard]] QString step_file(const char* name, const std::vector<Body>& bodies) const;
  [[nodiscard]] QString demo_job_file() const;  // of the saddle plate

  // Runs the event loop until `done`, at most `seconds`; true when it came true.
  bool wait(const std::function<bool()>& done, double seconds = 30);
  bool open(const QString& path);  // until the part is drawn and checked
  void settle();                   // until nothing is pending

  void key(const QString& keys);  // as xdotool names them: "ctrl+k", "Return"
  void type(const QString& text);
  void click_widget(QWidget* widget, const QPoint& at = QPoint(-1, -1), int button = 1, int times = 1);
  void click_view(const QPointF& at, int button = 1, int times = 1);  // several: quickly
  void drag_view(const QPointF& from, const QPointF& to, int button = 1);
  void press_view(const QPointF& at);  // and hold
  void release();
  // Positive: towards the part. None: the pointer goes there.
  void wheel_view(const QPointF& at, int steps, const QString& with_key = {});

  // Where a point of the part (placed coordinates) is in the view.
  QPointF on_screen(const gp_Pnt& placed);
  void click_part(const gp_Pnt& placed, int times = 1) { click_view(on_screen(placed), 1, times); }
  // Chooses the offer whose sentence begins so, by clicking it; false when there is none.
  bool choose_offer(const QString& beginning);
  bool click_row(const char* list, const QString& beginning);  // of a list by its name
  bool run_command(const QString& words);                      // through the finder
  QWidget* child(const QString& name);
  // Forms that hold the event loop come when their command runs, sooner or later: `act` once one is there.
  void in_the_form(const char* name, std::function<void(QWidget*)> act);

 private:
  void xdotool(const QStringList& arguments);
  QTemporaryDir home_;
  std::unique_ptr<app::MainWindow> window_;
};

}  // namespace anvil::test
