// monkey [ACTS] [SEED] [FILE...]: drives the real window as nobody sensible would: clicks, drags, wheels and
// types at random over every widget, menu, dialog and the view, corrects and repeats, saves, opens jobs and
// parts in the middle of long work, undoes as fast as keys go. Ends with status 0 when the window outlived
// all of it and nothing is left over: descriptors, threads, processes and temporary files are counted before
// and after. A crash tells where it was, a standstill of more than 30 s ends it. With the same seed it does
// the same, as far as the machine is as fast.
#include <execinfo.h>
#include <unistd.h>

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QFile>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>
#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <random>
#include <thread>

#include "app/main_window.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "demo/demo_job.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"
#include "geom/quiet.h"
#include "store/job_file.h"
#include "support/process.h"

namespace {

using namespace anvil;

std::atomic<int> g_act{0};
std::atomic<const char*> g_what{"starting"};

void tell_where(int signal) {
  std::fprintf(stderr, "after act %d (%s):\n", g_act.load(), g_what.load());
  void* frames[64];
  ::backtrace_symbols_fd(frames, ::backtrace(frames, 64), STDERR_FILENO);
  std::signal(signal, SIG_DFL);
  std::raise(signal);
}

class Monkey : public QObject {
 public:
  Monkey(app::MainWindow& window, QStringList files, int acts, unsigned seed)
      : window_(window), files_(std::move(files)), acts_(acts), random_(seed) {
    xdotool_.start(QStringLiteral("xdotool"), {QStringLiteral("-")});
    connect(&timer_, &QTimer::timeout, this, &Monkey::act);
    timer_.start(15);
  }

 private:
  int number(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
  template <class List>
  auto any_of(const List& list) {
    return list[number(0, static_cast<int>(list.size()) - 1)];
  }

  void send(const QString& line) { xdotool_.write(line.toUtf8() + '\n'); }
  void move_to(const QPoint& global) {
    send(QStringLiteral("mousemove %1 %2").arg(global.x()).arg(global.y()));
  }

  // Fires in dialogs' and menus' own loops too.
  void act() {
    if (g_act == acts_) return finish();
    if (++g_act == acts_ / 4) before_ = held();  // pools and caches have been filled by then
    if (!window_.isVisible()) window_.show();
    QWidget* const popup = QApplication::activePopupWidget();
    QWidget* const modal = QApplication::activeModalWidget();
    QWidget* const top = popup ? popup : modal ? modal : static_cast<QWidget*>(&window_);
    const int kind = number(0, 99);
    if ((popup || modal) && kind < 15) return press("Escape");
    if (kind < 50) return click_something(top);
    if (kind < 62) return view_gesture();
    if (kind < 74) return press(any_of(kKeys));
    if (kind < 82) return type_something();
    if (kind < 86) return trigger_something();
    if (kind < 91) return correct_something();
    if (kind < 92) return undo_storm();
    if (kind < 94) return open_something();
    if (kind < 95) return save_something();
    wheel();
  }

  void press(const char* key) {
    g_what = key;
    send(QStringLiteral("key --clearmodifiers ") + QString::fromLatin1(key));
  }

  void click_something(const QWidget* top) {
    g_what = "click";
    QList<QWidget*> seen;
    for (QWidget* widget : top->findChildren<QWidget*>())
      if (widget->isVisible() && widget->isEnabled() &&
          (qobject_cast<QAbstractButton*>(widget) || qobject_cast<QAbstractItemView*>(widget) ||
           qobject_cast<QComboBox*>(widget) || qobject_cast<QLineEdit*>(widget)))
        seen << widget;
    if (const auto* menu = qobject_cast<const QMenu*>(top)) return click(menu->mapToGlobal(inside(menu)));
    if (seen.empty()) return press("Return");
    const QWidget* widget = any_of(seen);
    if (const auto* view = qobject_cast<const QAbstractItemView*>(widget)) widget = view->viewport();
    click(widget->mapToGlobal(inside(widget)));
  }

  QPoint inside(const QWidget* widget) {
    return QPoint(number(0, std::max(1, widget->width() - 1)), number(0, std::max(1, widget->height() - 1)));
  }

  void click(const QPoint& at) {
    move_to(at);
    const int how = number(0, 9);
    send(how == 0   ? QStringLiteral("click 3")
         : how == 1 ? QStringLiteral("click --repeat 2 --delay 40 1")
                    : QStringLiteral("click 1"));
  }

  void view_gesture() {
    g_what = "view";
    const QWidget& view = window_.view_pane().view();
    move_to(view.mapToGlobal(inside(&view)));
    const int button = number(1, 3);
    if (number(0, 2) > 0) return send(QStringLiteral("click %1").arg(button));
    send(QStringLiteral("mousedown %1").arg(button));
    move_to(view.mapToGlobal(inside(&view)));
    send(QStringLiteral("mouseup %1").arg(button));
  }

  void wheel() {
    g_what = "wheel";
    const QWidget& view = window_.view_pane().view();
    move_to(view.mapToGlobal(inside(&view)));
    send(QStringLiteral("click --repeat %1 --delay 5 %2").arg(number(1, 4)).arg(number(4, 5)));
  }

  void type_something() {
    g_what = "type";
    send(QStringLiteral("type --delay 2 -- ") + QString::fromLatin1(any_of(kTexts)));
    if (number(0, 1)) send(QStringLiteral("key Return"));
  }

  // An action of the menus, as its entry would; not the ones that end the program.
  void trigger_something() { trigger_one_of({}); }

  // A correction or a repetition chosen, a few picks on the part, kept.
  void correct_something() {
    trigger_one_of(QStringLiteral("correct."));
    for (int picks = number(1, 3); picks > 0; --picks) {
      const QWidget& view = window_.view_pane().view();
      move_to(view.mapToGlobal(inside(&view)));
      send(QStringLiteral("click 1"));
    }
    if (number(0, 3) == 0) send(QStringLiteral("type --delay 2 -- 200"));
    send(QStringLiteral("key Return"));
  }

  void undo_storm() {
    g_what = "undo and redo";
    send(QStringLiteral("key --repeat 30 --delay 2 ctrl+z"));
    send(QStringLiteral("key --repeat 30 --delay 2 ctrl+shift+z"));
  }

  void save_something() {
    g_what = "save";
    if (QApplication::activeModalWidget()) return;
    later([this] { window_.keeper().save_to(QDir::currentPath() + QStringLiteral("/saved.anvil")); });
  }

  void trigger_one_of(const QString& beginning) {
    g_what = "menu";
    QList<QAction*> actions;
    for (QAction* action : window_.findChildren<QAction*>())
      if (action->isEnabled() && !action->menu() && !action->isSeparator() &&
          action->objectName().startsWith(beginning) &&
          !action->objectName().contains(QStringLiteral("quit")))
        actions << action;
    if (actions.empty() || QApplication::activeModalWidget() || QApplication::activePopupWidget()) return;
    QAction* const action = any_of(actions);
    last_action_ = action->objectName().toUtf8();
    g_what = last_action_.constData();
    later([action] { action->trigger(); });
  }

  void open_something() {
    g_what = "open";
    if (files_.empty() || QApplication::activeModalWidget()) return;
    later([this, file = any_of(files_)] { window_.keeper().open(file); });
  }

  // What may open a dialog must not be in the way of the next act.
  template <class Work>
  void later(Work work) {
    QMetaObject::invokeMethod(&window_, std::move(work), Qt::QueuedConnection);
  }

  // An empty job, nothing under way: what is there now is left over.
  void finish() {
    timer_.stop();
    g_what = "finishing";
    if (QWidget* modal = QApplication::activeModalWidget()) modal->close();
    window_.keeper().new_job();
    QTimer::singleShot(kRest_ms, this, [this] {
      const Held now = held();
      std::printf(
          "%d acts, the window stands; descriptors %d to %d, threads %d to %d, processes %d to %d, "
          "temporary folders %d to %d, memory %d to %d MB\n",
          acts_, before_.descriptors, now.descriptors, before_.threads, now.threads, before_.processes,
          now.processes, before_.folders, now.folders, before_.memory_mb, now.memory_mb);
      std::fflush(stdout);
      constexpr int kMoreDescriptors = 30, kMoreThreads = 8;
      const bool leaks = now.descriptors > before_.descriptors + kMoreDescriptors ||
                         now.threads > before_.threads + kMoreThreads ||
                         now.processes > before_.processes + 2 || now.folders > before_.folders + 1;
      ::_exit(leaks ? 1 : 0);
    });
  }

  struct Held {
    int descriptors = 0, threads = 0, processes = 0, folders = 0, memory_mb = 0;
  };
  static Held held() {
    Held held;
    const auto count = [](const QString& folder, const QString& name) {
      return static_cast<int>(
          QDir(folder)
              .entryList({name}, QDir::AllEntries | QDir::System | QDir::Hidden | QDir::NoDotAndDotDot)
              .size());
    };
    held.descriptors = count(QStringLiteral("/proc/self/fd"), QStringLiteral("*"));
    held.threads = count(QStringLiteral("/proc/self/task"), QStringLiteral("*"));
    held.folders = count(QDir::tempPath(), QStringLiteral("true-anvil-scratch-*"));
    held.processes = test::children();
    QFile status(QStringLiteral("/proc/self/status"));
    if (status.open(QIODevice::ReadOnly))
      for (const QByteArray& line : status.readAll().split('\n'))
        if (line.startsWith("VmRSS:")) held.memory_mb = line.simplified().split(' ').value(1).toInt() / 1024;
    return held;
  }
  static constexpr int kRest_ms = 12000;

  static constexpr std::array<const char*, 24> kKeys{
      "Return", "Escape", "Tab",   "F2",    "Delete", "BackSpace",   "ctrl+z", "ctrl+y", "ctrl+shift+z",
      "Up",     "Down",   "Left",  "Right", "alt+8",  "alt+5",       "n",      "f",      "q",
      "ctrl+s", "ctrl+k", "space", "w",     "ctrl+a", "shift+Return"};
  static constexpr std::array<const char*, 10> kTexts{"12.5", "-3",    "1/4in", "1,5",   "stock.x/2",
                                                      "((((", "plane", "hole",  "1e308", "Zero"};

  app::MainWindow& window_;
  QStringList files_;
  int acts_;
  std::mt19937 random_;
  QProcess xdotool_;
  QTimer timer_;
  QByteArray last_action_;
  Held before_;
};

// Ends a window that does not answer any more.
void watch() {
  std::thread([] {
    int last = -1, still = 0;
    for (;;) {
      std::this_thread::sleep_for(std::chrono::seconds(1));
      still = g_act == last ? still + 1 : 0;
      last = g_act;
      if (still < 30) continue;
      std::fprintf(stderr, "the window stood still for 30 s after act %d (%s)\n", last, g_what.load());
      ::kill(::getpid(), SIGABRT);
    }
  }).detach();
}

QStringList own_files(const QString& folder) {
  const QString plate = folder + QStringLiteral("/plate.step"), job = folder + QStringLiteral("/demo.anvil");
  static_cast<void>(write_step(demo::saddle_plate().bodies, {}, plate.toStdString()));
  if (const auto made = demo::saddle_plate_job(plate.toStdString()); made)
    static_cast<void>(save_job(*made, job.toStdString()));
  return {plate, job, folder + QStringLiteral("/gone.step")};
}

}  // namespace

int main(int argc, char** argv) {
  std::signal(SIGSEGV, tell_where);
  std::signal(SIGABRT, tell_where);
  const int acts = argc > 1 ? std::atoi(argv[1]) : 500;
  const unsigned seed = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 20261127U;
  const QTemporaryDir home;
  QDir(home.path()).mkdir(QStringLiteral("tmp"));
  qputenv("TMPDIR", (home.path() + QStringLiteral("/tmp")).toUtf8());
  for (const char* name : {"HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_RUNTIME_DIR"})
    qputenv(name, home.path().toUtf8());
  if (const char* why = app::prepare_display()) {
    std::fprintf(stderr, "the window cannot be driven: %s\n", why);
    return 1;
  }
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("true-anvil-test"));
  QApplication::setQuitOnLastWindowClosed(false);
  QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
  quiet_kernel();
  app::apply_theme(application, app::Theme::light());
  QStringList files = own_files(home.path());
  for (int i = 3; i < argc; ++i) files << QString::fromLocal8Bit(argv[i]);
  QDir::setCurrent(home.path());
  std::printf("seed %u, %d files\n", seed, static_cast<int>(files.size()));
  app::MainWindow window;
  window.move(0, 0);
  window.show();
  window.keeper().open(files[1]);
  watch();
  const Monkey monkey(window, files, acts, seed);
  return QApplication::exec();
}
