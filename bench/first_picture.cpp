// bench_first_picture FILE: the real window opens FILE; prints the seconds from asking for it to a drawn
// frame on which a face can be picked. Needs a display.
#include "bench/measured_window.h"

int main(int argc, char** argv) {
  using namespace anvil;
  if (argc < 2 || app::prepare_display()) return 2;
  const QApplication application(argc, argv);
  constexpr double kLimit_s = 300;
  bench::MeasuredWindow measured(kLimit_s);
  const bool drawn = measured.open(QString::fromLocal8Bit(argv[1]));
  const app::OccView& view = measured.view();
  const bool pickable =
      !measured.window().view_pane().finder().at(QPointF(view.width() / 2.0, view.height() / 2.0)).empty();
  std::printf("%.3f %s\n", measured.seconds_since_asked(),
              pickable ? "pickable" : "nothing under the middle of the view");
  measured.end(drawn ? 0 : 1);
}
