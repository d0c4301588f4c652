// true-anvil-screenshots DEMO_FOLDER OUT_FOLDER: one picture of each main view, from the demo data, in the
// real window.
#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QSettings>
#include <QTreeView>
#include <cstdio>

#include "app/main_window.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/start_up.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "demo/demo_part.h"
#include "geom/primitives.h"
#include "geom/quiet.h"
#include "job/edits.h"
#include "job/setup_edits.h"
#include "setup/shipped_machines.h"

namespace {

using namespace anvil;
using namespace anvil::app;

class Photographer {
 public:
  Photographer(QString demo, QString out) : demo_(std::move(demo)), out_(std::move(out)) {
    window_.resize(1280, 800);
    window_.show();
  }

  bool run() {
    if (!open("saddle-plate.anvil")) return false;
    shoot("main");
    corrections();
    offers();
    frame();
    corners();
    holes();
    seats();
    section();
    soundness();
    comparison();
    setups();
    scan();
    window_.keeper().discard_safety_copy();
    return good_;
  }

 private:
  Session& session() { return window_.session(); }

  void wait(const std::function<bool()>& done) {
    QElapsedTimer clock;
    clock.start();
    while ((!done() || session().document().evaluating().is_busy()) && clock.elapsed() < 60000)
      QApplication::processEvents(QEventLoop::AllEvents, 20);
    for (int i = 0; i < 12; ++i) QApplication::processEvents(QEventLoop::AllEvents, 20);
  }

  bool open(const char* name) {
    window_.keeper().open(demo_ + QLatin1Char('/') + QLatin1String(name));
    wait([&] {
      return !window_.keeper().work().is_busy() && session().document().part() &&
             session().checks().corners();
    });
    return session().checks().corners() != nullptr;
  }

  void shoot(const char* name) {
    wait([] { return true; });
    good_ =
        window_.grab().save(out_ + QLatin1Char('/') + QLatin1String(name) + QStringLiteral(".png")) && good_;
  }

  // Picks what is under the pointer at a point given in the reading frame.
  void pick(double x, double y, double z) {
    const gp_Ax2 frame = session().document().frame();
    const gp_Pnt at = frame.Location().Translated(
        gp_Vec(frame.XDirection()) * x + gp_Vec(frame.YDirection()) * y + gp_Vec(frame.Direction()) * z);
    const auto screen = window_.view_pane().view().to_screen(at);
    const auto found = screen ? window_.view_pane().finder().at(*screen) : std::vector<Candidate>();
    if (found.empty()) {
      good_ = false;
      return;
    }
    session().tray().add_pick(found.front().reference);
  }

  void choose(const char* construction) {
    for (size_t i = 0; i < session().tray().offers().size(); ++i)
      if (session().tray().offers()[i].construction->id == construction)
        return session().tray().choose(static_cast<int>(i));
    good_ = false;
  }

  // A hole of the plate by where it opens.
  void pick_hole(double x, double y) {
    const Document& document = session().document();
    for (const Hole& hole : session().checks().holes()->holes) {
      const gp_Pnt at = hole.entry.Transformed(document.part_to_reading());
      if (std::hypot(at.X() - x, at.Y() - y) > 0.5) continue;
      return session().tray().add_pick(
          Reference{document.describe(TopologyKind::kFace, hole.faces.front()), {}});
    }
    good_ = false;
  }

  void tried() {
    wait([&] { return session().tray().outcome() != nullptr; });
  }

  void corrections() {
    for (const double x : {18.0, 66.0, 114.0, 162.0}) pick_hole(x, 82);
    choose("correct.line-up");
    tried();
    window_.view_pane().look_from(ViewPane::Side::kTop);
    shoot("correct-line-up");
    session().tray().drop_all();
    pick(90, 62, -10);
    choose("correct.face-push");
    session().tray().set_parameter("distance", "-4");
    window_.view_pane().look_from(ViewPane::Side::kIso);
    wait([&] { return session().tray().outcome() && session().tray().outcome()->report; });
    shoot("correct-push");
    session().tray().drop_all();
    pick(130, 0, 0);
    pick_hole(140, 30);
    choose("correct.repeat-along");
    session().tray().set_parameter("length", "10");
    wait([&] { return session().tray().outcome() && session().tray().outcome()->report; });
    shoot("correct-pattern");
    session().tray().drop_all();
  }

  void offers() {
    window_.view_pane().look_from(ViewPane::Side::kIso);
    pick(150, 0, -11);
    window_.view_pane().look_from(ViewPane::Side::kBack);
    pick(150, 90, -11);
    window_.view_pane().look_from(ViewPane::Side::kIso);
    wait([] { return true; });
    session().tray().preview(0);
    shoot("offers");
    session().tray().clear_picks();
  }

  void frame() {
    pick(130, 0, 0);
    pick(180, 70, 0);
    choose("frame.two-lines");
    shoot("frame");
    session().drop();
    session().tray().clear_picks();
  }

  void select_row(Drawer::Table table, int row) {
    QTreeView* view = window_.drawer().table(table);
    view->setCurrentIndex(view->model()->index(row, 0));
  }

  // The cutters of the list, one of them in mind, and what it leaves.
  void corners() {
    Inspection inspection = session().document().job().inspection;
    if (auto cutters = read_cutters(demo::cutters_csv())) inspection.cutters = std::move(*cutters);
    session().document().act(QStringLiteral("Cutters"),
                             with_inspection(session().document().job(), inspection));
    wait(
        [&] { return session().checks().judged_cutters() && !session().checks().judged_cutters()->empty(); });
    window_.drawer().open(Drawer::Table::kCorners);
    wait([&] { return session().checks().corners() != nullptr; });
    session().checks().think_of_cutter(8.0);
    auto* diameter = window_.findChild<QLineEdit*>(QStringLiteral("drawer.cutter-diameter"));
    diameter->setText(QStringLiteral("8"));
    Q_EMIT diameter->editingFinished();
    wait([&] { return session().checks().left() && !session().checks().leaving().is_busy(); });
    window_.view_pane().look_from(ViewPane::Side::kIso);
    select_row(Drawer::Table::kCorners, 0);
    shoot("corners");
    session().checks().show_faces({});
    session().checks().show_passage(std::nullopt);
  }

  // The list in the coordinates of the file.
  void comparison() {
    if (!open("saddle-plate.step")) return;
    wait([&] { return session().checks().holes() != nullptr; });
    window_.compare_with(demo_ + QStringLiteral("/saddle-plate-holes.csv"));
    window_.view_pane().look_from(ViewPane::Side::kFront);
    shoot("comparison");
    window_.drawer().close_tables();
    window_.keeper().discard_safety_copy();
  }

  void holes() {
    window_.set_dark(true);
    window_.drawer().open(Drawer::Table::kHoles);
    QTreeView* table = window_.drawer().table(Drawer::Table::kHoles);
    const int pattern = table->model()->rowCount() - 2;  // the row that one hole misses
    table->expand(table->model()->index(pattern, 0));
    select_row(Drawer::Table::kHoles, pattern);
    table->scrollTo(table->model()->index(pattern, 0), QAbstractItemView::PositionAtTop);
    window_.view_pane().look_from(ViewPane::Side::kTop);
    shoot("holes");
    window_.set_dark(false);
    window_.drawer().close_tables();
    window_.write_drill_drawing_to(out_ + QStringLiteral("/drill-drawing.pdf"),
                                   session().document().frame().Direction());
    // What was written is told, and must be gone again before the next picture.
    wait([&] { return !session().checks().reporting().is_busy() && window_.notice().isHidden(); });
  }

  void seats() {
    if (!open("saddle-plate.step")) return;
    session().checks().suggest_seats();
    session().checks().preview_seat(0);
    shoot("seats");
    session().checks().take_seat(0);
  }

  void section() {
    window_.view_pane().look_from(ViewPane::Side::kIso);
    for (size_t i = 0; i < session().document().part()->topology().faces.size(); ++i) {
      const Given side = given_by_face(*session().document().part(), static_cast<int>(i),
                                       session().document().evaluation().placement);
      if (!side.plane || !side.plane->Axis().Direction().IsEqual(gp_Dir(0, -1, 0), 1e-6) ||
          side.surface->kind != SurfaceKind::kPlane)
        continue;
      session().tray().add_pick({describe(*session().document().part(), session().document().part_entry(),
                                          TopologyKind::kFace, static_cast<int>(i)),
                                 {}});
      break;
    }
    window_.view_pane().begin_section();
    window_.view_pane().set_section_offset(-28);
    session().tray().clear_picks();
    window_.view_pane().show_box(true);
    wait([&] { return session().checks().box().has_value(); });
    shoot("section");
    window_.view_pane().show_box(false);
    window_.view_pane().end_section();
  }

  void soundness() {
    if (!open("torn-bracket.step")) return;
    window_.drawer().open(Drawer::Table::kSoundness);
    wait([&] { return session().checks().soundness() != nullptr; });
    select_row(Drawer::Table::kSoundness, 1);
    shoot("soundness");
    window_.drawer().close_tables();
  }

  // The housing on its seat, OP10 on its top, tool planes as proposed, on the cradle.
  void setups() {
    if (!open("declination-housing.step")) return;
    wait([&] { return session().checks().holes() != nullptr; });
    window_.view_pane().set_style(DisplayStyle::kShadedWithEdges);
    window_.findChild<QComboBox*>(QStringLiteral("display_style"))->setCurrentIndex(0);
    session().checks().suggest_seats();
    session().checks().take_seat(0);
    window_.view_pane().look_from(ViewPane::Side::kIso);
    pick(0, -44, 80);
    choose("frame.on-face");
    session().desk().keep_as_setup();
    wait([&] { return session().checks().corners() != nullptr && session().checks().holes() != nullptr; });
    const Setup* setup = session().desk().opened_setup();
    if (!setup) {
      good_ = false;
      return;
    }
    Setup on = *setup;
    on.machine = "cradle-ac";
    on.stock.kind = Stock::Kind::kAllowance;
    Job job = session().document().job();
    for (const Machine& machine : shipped_machines())
      if (machine.id == on.machine) job = with_machine(std::move(job), machine);
    session().document().act(QStringLiteral("setup"),
                             with_setup_changed(std::move(job), session().desk().opened_setup_id(), on));
    session().desk().propose_planes();
    wait([&] { return session().desk().proposals() != nullptr; });
    session().desk().point_at_proposal(1);
    shoot("proposals");
    std::vector<int> all(session().desk().proposals()->axes.size());
    for (size_t i = 0; i < all.size(); ++i) all[i] = static_cast<int>(i);
    session().desk().keep_proposals(all);
    window_.view_pane().look_from(ViewPane::Side::kIso);
    shoot("setup");
    session().desk().activate_plane(session().desk().opened_setup_id(), 2);
    QElapsedTimer clock;
    clock.start();
    wait([&] { return clock.elapsed() > 1200 && session().checks().corners() != nullptr; });
    shoot("tool-plane");
    window_.drawer().open(Drawer::Table::kOffsets);
    shoot("offsets");
    window_.drawer().close_tables();
    window_.write_setup_sheets_to(out_ + QStringLiteral("/setup-sheets.pdf"));
    wait([&] { return !session().checks().reporting().is_busy(); });
    window_.keeper().discard_safety_copy();
  }

  // The casting stood on its flat face by one region, then its axis from another.
  void scan() {
    good_ = good_ && open("counterweight-scan.stl");
    const gp_Trsf from_drawing = demo::counterweight_scan().placement;
    const auto pick_drawn = [&](const gp_Pnt& drawn) {
      const gp_Pnt at = drawn.Transformed(session().document().evaluation().placement * from_drawing);
      pick(at.X(), at.Y(), at.Z());
    };
    const gp_Dir below = gp_Dir(0, 0, -1).Transformed(from_drawing);
    window_.view_pane().view().look(below, square_to(below, gp_Dir(0, 0, 1)));
    window_.view_pane().fit();
    pick_drawn({-28, 0, 0});
    choose("place.face-down");
    session().tray().keep();
    wait([] { return true; });
    window_.view_pane().look_from(ViewPane::Side::kIso);
    pick_drawn({-45, 0, 20});
    pick_drawn({54, 0, 20});
    shoot("scan");
    session().tray().clear_picks();
  }

  QString demo_, out_;
  MainWindow window_;
  bool good_ = true;
};

}  // namespace

int main(int argc, char** argv) {
  if (argc != 3 || anvil::app::prepare_display()) return 2;
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("true-anvil-screenshots"));
  anvil::quiet_kernel();
  apply_theme(application, Theme::light());
  const bool good = Photographer(QString::fromLocal8Bit(argv[1]), QString::fromLocal8Bit(argv[2])).run();
  if (!good) std::fprintf(stderr, "true-anvil-screenshots: a picture could not be made\n");
  return good ? 0 : 1;
}
