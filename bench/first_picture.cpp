// bench_first_picture FILE: the real window opens FILE; prints the seconds from asking for it to a drawn
// frame on which a face can be picked. Needs a display.
#include <QApplication>
#include <QTimer>
#include <chrono>
#include <cstdio>

#include "app/main_window.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "exchange/worker_client.h"
#include "geom/quiet.h"

int main(int argc, char** argv) {
  using namespace anvil::app;
  if (argc < 2 || prepare_display()) return 2;
  QApplication application(argc, argv);
  anvil::quiet_kernel();
  apply_theme(application, Theme::light());
  MainWindow window;
  window.show();
  anvil::keep_worker_ready();  // as the application does
  const auto shown =
      std::chrono::steady_clock::now();  // the empty window is up, as when a user chooses a file
  QTimer heartbeat;  // so that waiting for events ends; spinning would take a core from what is measured
  heartbeat.start(20);
  while (std::chrono::steady_clock::now() - shown < std::chrono::seconds(1))
    QApplication::processEvents(QEventLoop::WaitForMoreEvents);
  const auto start = std::chrono::steady_clock::now();
  bool there = false, drawn = false;
  QObject::connect(&window.session(), &Session::part_changed, &window, [&, start] {
    there = true;
    if (std::getenv("TRUE_ANVIL_PHASES"))
      std::fprintf(stderr, "part there %.3f\n",
                   std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
  });
  QObject::connect(&window.view_pane().view(), &QOpenGLWidget::frameSwapped, &window, [&] { drawn = there; });
  window.keeper().open(QString::fromLocal8Bit(argv[1]));
  while (!drawn && std::chrono::steady_clock::now() - start < std::chrono::minutes(5))
    QApplication::processEvents(QEventLoop::WaitForMoreEvents);
  const OccView& view = window.view_pane().view();
  const bool pickable =
      !window.view_pane().finder().at(QPointF(view.width() / 2.0, view.height() / 2.0)).empty();
  std::printf("%.3f %s\n", std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(),
              pickable ? "pickable" : "nothing under the middle of the view");
  std::fflush(stdout);
  window.keeper().discard_safety_copy();
  std::_Exit(drawn ? 0 : 1);
}
