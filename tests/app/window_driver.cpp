#include "app/window_driver.h"

#include <QElapsedTimer>
#include <QListWidget>
#include <QProcess>
#include <QSettings>
#include <QThread>
#include <QTimer>

#include <gtest/gtest.h>

#include "app/theme.h"
#include "app/view/view_pane.h"
#include "demo/demo_job.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"
#include "store/job_file.h"

namespace anvil::test {

constexpr int kDoubleClick_ms = 50;
constexpr const char* kQuick_ms = "10";

WindowDriver::WindowDriver() {
  qputenv("HOME", home_.path().toUtf8());
  qputenv("XDG_CONFIG_HOME", (home_.path() + "/config").toUtf8());
  qputenv("XDG_DATA_HOME", (home_.path() + "/data").toUtf8());
  // Clicks one after the other are clicks of their own, and what is looked for stands still.
  QApplication::setDoubleClickInterval(kDoubleClick_ms);
  QSettings().setValue(QStringLiteral("view/smooth"), false);
  window_ = std::make_unique<app::MainWindow>();
  window_->move(0, 0);
  window_->show();
  window_->activateWindow();
  wait([this] { return window_->isActiveWindow() && window_->isVisible(); }, 10);
  settle();
}

WindowDriver::~WindowDriver() {
  window_->keeper().discard_safety_copy();
  window_.reset();
}

void close_what_holds_the_loop(int seconds) {
  if (QWidget* form = QApplication::activeModalWidget()) {
    ADD_FAILURE() << "\"" << form->objectName().toStdString() << "\" (" << form->windowTitle().toStdString()
                  << ") stood open for " << seconds << " s";
    form->close();
  } else if (QWidget* menu = QApplication::activePopupWidget()) {
    ADD_FAILURE() << "a menu stood open for " << seconds << " s";
    menu->close();
  }
}

QString WindowDriver::step_file(const char* name, const std::vector<Body>& bodies) const {
  QString path = folder() + QLatin1Char('/') + QLatin1String(name);
  EXPECT_TRUE(write_step(bodies, {}, path.toStdString())) << name;
  return path;
}

QString WindowDriver::demo_job_file() const {
  const auto job = demo::saddle_plate_job(step_file("plate.step", demo::saddle_plate().bodies).toStdString());
  QString path = folder() + QStringLiteral("/demo.anvil");
  EXPECT_TRUE(job && save_job(*job, path.toStdString()));
  return path;
}

bool WindowDriver::wait(const std::function<bool()>& done, double seconds) {
  // A form with an event loop of its own would keep us here for good.
  constexpr int kPatience_s = 60;
  QTimer watch;
  QObject::connect(&watch, &QTimer::timeout, [] { close_what_holds_the_loop(kPatience_s); });
  watch.start(kPatience_s * 1000);
  QElapsedTimer clock;
  clock.start();
  while (!done()) {
    if (clock.elapsed() > seconds * 1000) return false;
    QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    QThread::msleep(2);
  }
  return true;
}

void WindowDriver::settle() {
  QElapsedTimer clock;
  clock.start();
  while (clock.elapsed() < 60) QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
}

bool WindowDriver::open(const QString& path) {
  window_->keeper().open(path);
  const bool ready = wait(
      [this] {
        return !window_->keeper().work().is_busy() && session().document().part() &&
               session().checks().corners() && session().checks().holes();
      },
      60);
  settle();
  return ready;
}

void WindowDriver::xdotool(const QStringList& arguments) {
  QProcess process;
  process.start(QStringLiteral("xdotool"), arguments);
  wait([&] { return process.state() == QProcess::NotRunning; }, 10);
  settle();
}

void WindowDriver::key(const QString& keys) {
  xdotool({"key", "--clearmodifiers", keys});
}

void WindowDriver::type(const QString& text) {
  xdotool({"type", "--delay", "8", "--", text});
}

void WindowDriver::click_widget(QWidget* widget, const QPoint& at, int button, int times) {
  const QPoint inside = at.x() < 0 ? widget->rect().center() : at;
  const QPoint global = widget->mapToGlobal(inside);
  // Several in a row are meant as one, however slow the machine is.
  constexpr int kSlowMachine_ms = 2000;
  if (times > 1) QApplication::setDoubleClickInterval(kSlowMachine_ms);
  xdotool({"mousemove", QString::number(global.x()), QString::number(global.y()), "click", "--repeat",
           QString::number(times), "--delay", QLatin1String(kQuick_ms), QString::number(button)});
  QApplication::setDoubleClickInterval(kDoubleClick_ms);
}

void WindowDriver::click_view(const QPointF& at, int button, int times) {
  click_widget(&window_->view_pane().view(), at.toPoint(), button, times);
}

void WindowDriver::press_view(const QPointF& at) {
  const QPoint global = window_->view_pane().view().mapToGlobal(at.toPoint());
  xdotool({"mousemove", QString::number(global.x()), QString::number(global.y()), "mousedown", "1"});
}

void WindowDriver::release() {
  xdotool({"mouseup", "1"});
}

void WindowDriver::drag_view(const QPointF& from, const QPointF& to, int button) {
  const auto global = [this](const QPointF& p) {
    return window_->view_pane().view().mapToGlobal(p.toPoint());
  };
  const QPoint a = global(from), middle = global((from + to) / 2), b = global(to);
  xdotool(
      {"mousemove", QString::number(a.x()), QString::number(a.y()), "mousedown", QString::number(button)});
  xdotool({"mousemove", QString::number(middle.x()), QString::number(middle.y())});
  xdotool({"mousemove", QString::number(b.x()), QString::number(b.y())});
  xdotool({"mouseup", QString::number(button)});
}

void WindowDriver::wheel_view(const QPointF& at, int steps, const QString& with_key) {
  const QPoint global = window_->view_pane().view().mapToGlobal(at.toPoint());
  xdotool({"mousemove", QString::number(global.x()), QString::number(global.y())});
  if (steps == 0) return;
  if (!with_key.isEmpty()) xdotool({"keydown", with_key});
  xdotool({"click", "--repeat", QString::number(std::abs(steps)), steps > 0 ? "4" : "5"});
  if (!with_key.isEmpty()) xdotool({"keyup", with_key});
}

QPointF WindowDriver::on_screen(const gp_Pnt& placed) {
  return window_->view_pane().view().to_screen(placed).value_or(QPointF(-1, -1));
}

QWidget* WindowDriver::child(const QString& name) {
  return window_->findChild<QWidget*>(name);
}

void WindowDriver::in_the_form(const char* name, std::function<void(QWidget*)> act) {
  auto* look = new QTimer(window_.get());
  QObject::connect(look, &QTimer::timeout, look, [this, look, name, act = std::move(act)] {
    QWidget* form = window_->findChild<QWidget*>(QLatin1String(name));
    if (!form || !form->isVisible()) return;
    look->deleteLater();
    look->stop();
    settle();
    act(form);
  });
  look->start(50);
}

bool WindowDriver::click_row(const char* name, const QString& beginning) {
  auto* list = window_->findChild<QListWidget*>(QLatin1String(name));
  for (int row = 0; list && list->isVisible() && row < list->count(); ++row) {
    if (!list->item(row)->text().startsWith(beginning)) continue;
    list->scrollToItem(list->item(row));
    settle();
    click_widget(list->viewport(), list->visualItemRect(list->item(row)).center());
    return true;
  }
  return false;
}

// Among the likely ones, or behind the group it is in.
bool WindowDriver::choose_offer(const QString& beginning) {
  if (click_row("tray.offers", beginning)) return true;
  const auto& offers = window_->session().tray().offers();
  const auto wanted = std::find_if(offers.begin(), offers.end(), [&](const Offer& offer) {
    return QString::fromStdString(offer.sentence).startsWith(beginning);
  });
  if (wanted == offers.end()) return false;
  QWidget* group =
      child(QStringLiteral("tray.group.") + QString::fromUtf8(makes_name(wanted->construction->makes)));
  if (!group) return false;
  click_widget(group, group->rect().center());
  settle();
  return click_row("tray.offers", beginning);
}

bool WindowDriver::run_command(const QString& words) {
  key(QStringLiteral("ctrl+k"));
  type(words);
  auto* list = window_->findChild<QListWidget*>(QStringLiteral("finder.list"));
  const bool found = list && list->isVisible() && list->count() > 0;
  key(found ? QStringLiteral("Return") : QStringLiteral("Escape"));
  return found;
}

}  // namespace anvil::test
