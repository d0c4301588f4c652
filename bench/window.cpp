// bench_window [FILE | ROWS]: the real window with FILE, or with a plate of ROWS x ROWS holes (34: 5,020
// faces): what it takes to open each table, each menu and a draft, until everything but the picture is done,
// and how much longer a frame takes than with nothing in it. Needs a display.
#include <QMenu>
#include <QMenuBar>
#include <QTemporaryDir>
#include <algorithm>

#include <AIS_InteractiveContext.hxx>
#include <AIS_ListOfInteractive.hxx>

#include "app/panels/drawer.h"
#include "bench/measured_window.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"

namespace {

using namespace anvil;
using bench::Clock;
using bench::MeasuredWindow;
using bench::seconds_since;

constexpr int kTurns = 7;

// What an act does by itself and what it leaves to be done at once, without the picture, which takes what a
// frame takes; undone in between.
void time_act(MeasuredWindow& measured, const char* what, const std::function<void()>& act,
              const std::function<void()>& undo) {
  std::vector<double> taken;
  for (int i = 0; i < kTurns; ++i) {
    measured.window().setUpdatesEnabled(false);
    const auto start = Clock::now();
    act();
    QCoreApplication::sendPostedEvents();
    taken.push_back(1e3 * seconds_since(start));
    measured.window().setUpdatesEnabled(true);
    QApplication::processEvents();
    undo();
    QApplication::processEvents();
  }
  std::printf("%-28s first %6.1f ms, ", what, taken.front());
  std::sort(taken.begin(), taken.end());
  std::printf("median %6.1f, slowest %6.1f\n", taken[taken.size() / 2], taken.back());
}

// From asking for a picture until it is on the screen: drawn anew, or what is over it alone.
double frame_ms(MeasuredWindow& measured, bool anew = true) {
  const int before = measured.frames();
  const auto start = Clock::now();
  anew ? measured.view().redraw() : measured.view().update();
  measured.wait([&] { return measured.frames() > before; });
  return 1e3 * seconds_since(start);
}

double median(std::vector<double> of) {
  std::sort(of.begin(), of.end());
  return of[of.size() / 2];
}

// Makes all that is displayed invisible in the pictures from now on, or no longer.
class Hidden {
 public:
  explicit Hidden(MeasuredWindow& measured)
      : hiding_(
            QObject::connect(&measured.view(), &app::OccView::about_to_draw, &measured.view(), [&measured] {
              AIS_ListOfInteractive there;
              measured.view().context()->DisplayedObjects(there);
              for (const auto& object : there)
                for (const auto& presentation : object->Presentations()) presentation->SetVisible(false);
            })) {}
  ~Hidden() { QObject::disconnect(hiding_); }
  Hidden(const Hidden&) = delete;
  Hidden& operator=(const Hidden&) = delete;

 private:
  QMetaObject::Connection hiding_;
};

// With and without the part turn by turn: the machine itself is slower and faster from minute to minute.
void time_frames(MeasuredWindow& measured, const char* what) {
  constexpr int kFrames = 15;
  std::vector<double> with, without, more;
  const auto next = [&](std::vector<double>& taken) {
    frame_ms(measured);
    taken.push_back(frame_ms(measured));
  };
  for (int i = 0; i < kFrames; ++i) {
    {
      const Hidden hidden(measured);
      next(without);
    }
    next(with);
    more.push_back(with.back() - without.back());
  }
  std::printf(
      "%s: a frame %.0f ms, with nothing in it %.0f, the one more than the other %.0f (least %.0f, most "
      "%.0f)\n",
      what, median(with), median(without), median(more), *std::min_element(more.begin(), more.end()),
      *std::max_element(more.begin(), more.end()));
  std::vector<double> hovers;
  hovers.reserve(kTurns);
  for (int i = 0; i < kTurns; ++i) hovers.push_back(frame_ms(measured, false));
  std::printf("%s: a hover %.0f ms\n", what, median(hovers));
}

void time_tables(MeasuredWindow& measured) {
  using Table = app::Drawer::Table;
  app::Drawer& drawer = measured.window().drawer();
  const std::pair<const char*, Table> tables[] = {
      {"table of corners", Table::kCorners},     {"table of holes", Table::kHoles},
      {"table of tool planes", Table::kPlanes},  {"table of offsets", Table::kOffsets},
      {"table of soundness", Table::kSoundness}, {"table of comparison", Table::kComparison}};
  for (const auto& [name, table] : tables)
    time_act(
        measured, name, [&drawer, table = table] { drawer.open(table); },
        [&drawer] { drawer.close_tables(); });
}

void time_menus(MeasuredWindow& measured) {
  for (QAction* title : measured.window().menuBar()->actions())
    if (QMenu* menu = title->menu())
      time_act(
          measured, ("menu " + title->text().remove(QLatin1Char('&'))).toUtf8().constData(),
          [menu] { menu->popup(QPoint(100, 100)); }, [menu] { menu->close(); });
}

// The largest face is picked; what it offers first is opened and dropped.
void time_picks_and_drafts(MeasuredWindow& measured) {
  app::Session& session = measured.session();
  const PartPtr part = session.document().part();
  const auto& faces = part->topology().faces;
  const auto largest = std::max_element(faces.begin(), faces.end(), [](const FaceInfo& a, const FaceInfo& b) {
    return a.edges.size() < b.edges.size();
  });
  const Reference face{
      session.document().describe(TopologyKind::kFace, static_cast<int>(largest - faces.begin())), {}};
  app::PickTray& tray = session.tray();
  time_act(
      measured, "pick with its offers", [&] { tray.add_pick(face); }, [&] { tray.clear_picks(); });
  tray.add_pick(face);
  time_act(
      measured, "draft of the first offer", [&] { tray.choose(static_cast<int>(tray.likely().front())); },
      [&] { tray.drop(); });
  for (const char* construction : {"plane.offset", "measure.face"})
    if (std::any_of(tray.offers().begin(), tray.offers().end(),
                    [&](const Offer& offer) { return offer.construction->id == construction; }))
      time_act(
          measured, construction, [&] { tray.start(construction); }, [&] { tray.drop(); });
}

}  // namespace

int main(int argc, char** argv) {
  if (app::prepare_display()) return 2;
  const QApplication application(argc, argv);
  constexpr double kLimit_s = 1200;
  const QTemporaryDir folder;
  QString file = QString::fromLocal8Bit(argc > 1 ? argv[1] : "34");
  if (const int rows = file.toInt(); rows > 0) {
    file = folder.filePath(QStringLiteral("plate.step"));
    Body body;
    body.name = "plate";
    body.shape = demo::plate_of_holes(rows, rows);
    if (!write_step({body}, {}, file.toStdString())) return 1;
  }
  MeasuredWindow measured(kLimit_s);
  measured.open(file);
  app::Session& session = measured.session();
  measured.wait([&] {
    return session.checks().holes() && session.checks().corners() && session.checks().soundness() &&
           !measured.window().keeper().work().is_busy() && session.checks().first_look() &&
           !session.checks().directing().is_busy();
  });
  std::printf("%zu faces\n", session.document().part()->topology().faces.size());
  // Until what is drawn from afar in place of a large part has been made.
  constexpr double kSettles_s = 6;
  frame_ms(measured);
  const auto settles = Clock::now();
  measured.wait([&] { return seconds_since(settles) > kSettles_s; });
  time_frames(measured, "as usual");
  measured.view().set_creases_darkened(false);
  time_frames(measured, "without darkened creases");
  measured.window().view_pane().set_style(app::DisplayStyle::kShaded);
  measured.view().set_creases_darkened(false);
  time_frames(measured, "without edges either");
  measured.window().view_pane().set_style(app::DisplayStyle::kShadedWithEdges);
  time_tables(measured);
  time_menus(measured);
  time_picks_and_drafts(measured);
  measured.end(0);
}
