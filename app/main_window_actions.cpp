// The actions of the window and the menus they stand in.
#include <QActionGroup>
#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QMenu>
#include <QMenuBar>
#include <QSettings>

#include "app/dialogs/control_panel.h"
#include "app/dialogs/cutter_form.h"
#include "app/hand_over.h"
#include "app/main_window.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/panels/finder.h"
#include "app/panels/ledger.h"
#include "app/panels/offer_list.h"
#include "app/panels/tray.h"
#include "app/view/view_pane.h"
#include "construct/offers.h"
#include "job/edits.h"
#include "job/names.h"

namespace anvil::app {
namespace {

// "Plane midway between {1} and {2}" -> "Plane midway between ① and ② …"
QString menu_text(const Construction& construction) {
  return QString::fromStdString(fill_numbers(construction.sentence, pick_numbers(construction, {})));
}

QString room_of(const Construction& construction) {
  if (construction.makes == Makes::kPlacement) return QStringLiteral("orient.");
  if (construction.makes == Makes::kCorrection) return {};  // its id begins with "correct." already
  return construction.makes == Makes::kMeasurement ? QStringLiteral("inspect.") : QStringLiteral("define.");
}

}  // namespace

void MainWindow::build_actions() {
  build_job_actions();
  build_edit_actions();
  build_view_actions();
  build_construction_actions();
  build_setup_actions();
  build_hand_over_actions();
  build_help_actions();
}

void MainWindow::build_job_actions() {
  actions_.add(QStringLiteral("job.new"), tr("New job"), QKeySequence::New,
               [this] { leave_job([this] { keeper_.new_job(); }); });
  actions_.add(QStringLiteral("job.open"), tr("Open a part or a job …"), QKeySequence::Open,
               [this] { open_asked(); });
  actions_.add(QStringLiteral("job.add"), tr("Add a part to this job …"),
               QKeySequence(QStringLiteral("Ctrl+Shift+O")), [this] { add_asked(); });
  actions_.add(QStringLiteral("job.scale"), tr("Unit of the file …"), {}, [this] { scale_asked(); });
  actions_.add(QStringLiteral("job.tolerances"), tr("Tolerances of this job …"), {},
               [this] { tolerances_asked(); });
  actions_.add(QStringLiteral("job.save"), tr("Save"), QKeySequence::Save, [this] { save_asked(); });
  actions_.add(
      QStringLiteral("job.save-as"), tr("Save as …"), QKeySequence(QStringLiteral("Ctrl+Shift+S")), [this] {
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Save the job as"), keeper_.path(), tr("Jobs (*.anvil)"));
        if (!path.isEmpty()) keeper_.save_to(path);
      });
  actions_.add(QStringLiteral("job.quit"), tr("Quit"), QKeySequence::Quit, [this] { close(); });
}

void MainWindow::build_edit_actions() {
  actions_.add(QStringLiteral("edit.undo"), tr("Undo"), QKeySequence::Undo,
               [this] { session_.document().undo(); });
  actions_.add(QStringLiteral("edit.redo"), tr("Redo"), QKeySequence(QStringLiteral("Ctrl+Shift+Z")),
               [this] { session_.document().redo(); });
  actions_.add(QStringLiteral("tray.keep"), tr("Keep"), QKeySequence(Qt::Key_Return), [this] {
    if (!tray_->shows_offers() || !tray_->offers().take_marked()) session_.tray().keep();
  });
  actions_.add(QStringLiteral("tray.keep-again"), tr("Keep, and once more from the same picks"),
               QKeySequence(QStringLiteral("Shift+Return")), [this] {
                 session_.tray().keep_and_repeat();
                 tray_->focus_parameters();
               });
  actions_.add(QStringLiteral("tray.keep-on"), tr("Keep, and go on from the new point"),
               QKeySequence(QStringLiteral("Ctrl+Return")), [this] {
                 session_.tray().keep_and_go_on();
                 tray_->focus_parameters();
               });
  actions_.add(QStringLiteral("tray.drop"), tr("Drop, or end what runs"), QKeySequence(Qt::Key_Escape),
               [this] {
                 if (!session_.drop()) works_->cancel_newest();
               });
  actions_.add(QStringLiteral("tray.next"), tr("Next solution"), QKeySequence(Qt::Key_N),
               [this] { session_.tray().next_solution(); });
  actions_.add(QStringLiteral("tray.quarter"), tr("Quarter turn of the frame"), QKeySequence(Qt::Key_Q),
               [this] { session_.tray().quarter_turn(); });
  actions_.add(QStringLiteral("tray.flip"), tr("Flip"), QKeySequence(Qt::Key_F),
               [this] { session_.tray().flip(); });
  actions_.add(QStringLiteral("tray.region"), tr("Tolerance of the picked region of a scan"),
               QKeySequence(QStringLiteral("Ctrl+R")), [this] {
                 if (!tray_->focus_region()) Q_EMIT session_.bus().told(tr("Pick a region of a scan first."));
               });
  actions_.add(QStringLiteral("edit.unpick"), tr("Let go of the last pick"), QKeySequence(Qt::Key_Backspace),
               [this] { session_.tray().remove_last_pick(); });
  actions_.add(QStringLiteral("edit.rename"), tr("Rename the entry"), QKeySequence(Qt::Key_F2), [this] {
    if (!drawer_->rename_current()) ledger_->rename_current();
  });
  actions_.add(QStringLiteral("edit.hide"), tr("Hide or show the entry"),
               QKeySequence(QStringLiteral("Ctrl+H")), [this] { ledger_->toggle_current(); });
  actions_.add(QStringLiteral("edit.delete"), tr("Delete the entry"), QKeySequence(Qt::Key_Delete),
               [this] { ledger_->remove_current(); });
  actions_.add(QStringLiteral("edit.preferences"), tr("Preferences …"),
               QKeySequence(QStringLiteral("Ctrl+,")), [this] {
                 auto* form = new PreferencesForm(this);
                 connect(form, &PreferencesForm::changed, this, &MainWindow::apply);
                 form->show();
               });
  actions_.add(QStringLiteral("edit.find-command"), tr("Find a command"),
               QKeySequence(QStringLiteral("Ctrl+K")), [this] { finder_->begin(); });
}

void MainWindow::build_view_actions() {
  using Side = ViewPane::Side;
  const std::tuple<const char*, QString, char, Side> sides[] = {
      {"view.look-top", tr("Top"), '8', Side::kTop},
      {"view.look-front", tr("Front"), '5', Side::kFront},
      {"view.look-right", tr("Right"), '6', Side::kRight},
      {"view.look-back", tr("Back"), '0', Side::kBack},
      {"view.look-left", tr("Left"), '4', Side::kLeft},
      {"view.look-bottom", tr("Bottom"), '2', Side::kBottom},
      {"view.look-iso", tr("Iso"), '7', Side::kIso}};
  // As the views of a drawing lie around its front view: on the numeric pad, and with Alt on any digits.
  const auto add_view = [this](const QString& id, const QString& text, char digit,
                               std::function<void()> run) {
    QAction* action = actions_.add(id, text, QKeySequence(QStringLiteral("Alt+%1").arg(QLatin1Char(digit))),
                                   std::move(run));
    action->setShortcuts(
        {action->shortcut(), QKeySequence(QKeyCombination(Qt::KeypadModifier, Qt::Key(digit)))});
    view_->add_row_action(action);
  };
  for (const auto& [id, text, digit, side] : sides)
    add_view(QLatin1String(id), text, digit, [this, side = side] { view_->look_from(side); });
  add_view(QStringLiteral("view.along-tool"), tr("Along tool"), '9', [this] { view_->look_along_tool(); });
  add_view(QStringLiteral("view.square"), tr("Square"), '1', [this] { view_->look_square(); });
  add_view(QStringLiteral("view.fit"), tr("Fit"), '3', [this] { view_->fit(); });
  actions_.add(QStringLiteral("view.corners"), tr("Table of corners"),
               QKeySequence(QStringLiteral("Ctrl+Shift+C")),
               [this] { drawer_->open(Drawer::Table::kCorners); });
  actions_.add(QStringLiteral("view.holes"), tr("Table of holes"),
               QKeySequence(QStringLiteral("Ctrl+Shift+H")),
               [this] { drawer_->open(Drawer::Table::kHoles); });
  actions_.add(QStringLiteral("view.planes"), tr("Table of tool planes, side by side"),
               QKeySequence(QStringLiteral("Ctrl+Shift+G")),
               [this] { drawer_->open(Drawer::Table::kPlanes); });
  actions_.add(QStringLiteral("view.offsets"), tr("Table of work offsets"),
               QKeySequence(QStringLiteral("Ctrl+Shift+T")),
               [this] { drawer_->open(Drawer::Table::kOffsets); });
  actions_.add(QStringLiteral("view.soundness"), tr("Table of soundness"),
               QKeySequence(QStringLiteral("Ctrl+Shift+F")),
               [this] { drawer_->open(Drawer::Table::kSoundness); });
  actions_.add(QStringLiteral("view.comparison"), tr("Table of comparison"),
               QKeySequence(QStringLiteral("Ctrl+Shift+L")),
               [this] { drawer_->open(Drawer::Table::kComparison); });
  actions_.add(QStringLiteral("inspect.compare"), tr("Compare holes with a list …"), QKeySequence(),
               [this] { compare_asked(); });
  actions_.add(QStringLiteral("inspect.cutters"), tr("Cutters of this job …"), QKeySequence(),
               [this] { (new CutterForm(session_, this))->show(); });
  build_display_actions();
  actions_.add(QStringLiteral("view.close-drawer"), tr("Close the tables"),
               QKeySequence(QStringLiteral("Ctrl+Shift+W")), [this] { drawer_->close_tables(); });
  actions_.checkable(QStringLiteral("view.dark"), tr("Dark theme"),
                     QKeySequence(QStringLiteral("Ctrl+Shift+D")), [this](bool on) { set_dark(on); });
}

// Sections, boxes, bodies, kept views, and turning by keys.
void MainWindow::build_display_actions() {
  const auto add = [this](const char* id, const QString& text, const char* keys, std::function<void()> run) {
    actions_.add(QLatin1String(id), text, QKeySequence(QLatin1String(keys)), std::move(run));
  };
  add("view.zoom-picks", tr("Zoom to the picks"), "Ctrl+J", [this] { view_->zoom_to_picks(); });
  add("view.zoom-area", tr("Zoom to a dragged rectangle"), "Ctrl+Shift+J",
      [this] { view_->view().zoom_by_next_drag(); });
  add("view.walk-next", tr("What lies under the pointer: the next"), "Ctrl+Down", [this] { view_->walk(1); });
  add("view.walk-back", tr("What lies under the pointer: the one before"), "Ctrl+Up",
      [this] { view_->walk(-1); });
  add("view.section", tr("Section at the pick"), "Ctrl+Shift+X", [this] {
    view_->begin_section();
    refresh();
  });
  add("view.section-flip", tr("Section: the other side"), "", [this] { view_->flip_section(); });
  add("view.section-end", tr("End the section"), "", [this] {
    view_->end_section();
    refresh();
  });
  actions_.checkable(QStringLiteral("view.box"), tr("Box of the part, with sizes"),
                     QKeySequence(QStringLiteral("Ctrl+B")), [this](bool on) { view_->show_box(on); });
  actions_.checkable(QStringLiteral("view.plain-colour"), tr("All bodies in the workbench's colour"),
                     QKeySequence(QStringLiteral("Ctrl+Shift+B")), [this](bool on) { view_->set_plain(on); });
  add("view.isolate", tr("Look at the picked bodies alone"), "Ctrl+I", [this] {
    std::set<int> bodies;
    for (const Pick& pick : session_.tray().picks())
      if (const auto body = body_of(pick.reference)) bodies.insert(*body);
    session_.document().isolate(std::move(bodies));
  });
  add("view.all-bodies", tr("Look at all bodies again"), "Ctrl+Shift+I",
      [this] { session_.document().isolate({}); });
  add("view.keep", tr("Keep this view …"), "Ctrl+Shift+K", [this] { keep_view_asked(); });
  constexpr double kStep_deg = 15, kQuarter_deg = 90;
  const std::tuple<const char*, const char*, double, double, double> turns[] = {{"left", "Left", -1, 0, 0},
                                                                                {"right", "Right", 1, 0, 0},
                                                                                {"up", "Up", 0, 1, 0},
                                                                                {"down", "Down", 0, -1, 0}};
  for (const auto& [name, key, right, up, roll] : turns) {
    for (const double step : {kStep_deg, kQuarter_deg}) {
      const bool quarter = step == kQuarter_deg;
      actions_.add(QStringLiteral("view.turn-%1-%2").arg(QLatin1String(name)).arg(step),
                   tr("Turn the view %1 by %2°").arg(QLatin1String(name)).arg(step),
                   QKeySequence(QStringLiteral("Alt+%1%2")
                                    .arg(quarter ? QStringLiteral("Shift+") : QString(), QLatin1String(key))),
                   [this, right = right * radians(step), up = up * radians(step)] {
                     view_->view().turn(right, up, 0);
                   });
    }
  }
  add("view.turn-clockwise", tr("Turn the view clockwise by 15°"), "Alt+.",
      [this] { view_->view().turn(0, 0, radians(kStep_deg)); });
  add("view.turn-anticlockwise", tr("Turn the view anticlockwise by 15°"), "Alt+,",
      [this] { view_->view().turn(0, 0, -radians(kStep_deg)); });
}

void MainWindow::build_construction_actions() {
  actions_.add(QStringLiteral("orient.seats"), tr("Suggest seats"),
               QKeySequence(QStringLiteral("Ctrl+Shift+P")), [this] {
                 session_.tray().clear_picks();
                 session_.checks().suggest_seats();
               });
  actions_.add(QStringLiteral("orient.collapse"), tr("Make the placement one step"), {}, [this] {
    session_.document().act(
        tr("Collapse the placement"),
        with_collapsed_placement(session_.document().job(), session_.document().evaluation().placement));
  });
  for (const Construction& construction : constructions()) {
    if (construction.roles.empty() && construction.id == "place.quarter-turn") continue;
    const QString id = room_of(construction) + QString::fromStdString(construction.id);
    actions_.add(id, menu_text(construction), {},
                 [this, name = construction.id] { session_.tray().start(name); });
  }
  const std::tuple<const char*, const char*, const char*> turns[] = {
      {"X", "forward", "Ctrl+Alt+X"}, {"X", "backward", "Ctrl+Alt+Shift+X"},
      {"Y", "forward", "Ctrl+Alt+Y"}, {"Y", "backward", "Ctrl+Alt+Shift+Y"},
      {"Z", "forward", "Ctrl+Alt+Z"}, {"Z", "backward", "Ctrl+Alt+Shift+Z"}};
  for (const auto& [about, sense, keys] : turns) {
    const QString id =
        QStringLiteral("orient.quarter-%1-%2").arg(QLatin1String(about), QLatin1String(sense)).toLower();
    const QString text = tr("Quarter turn about %1, %2").arg(QLatin1String(about), QLatin1String(sense));
    actions_.add(id, text, QKeySequence(QLatin1String(keys)),
                 [this, about = std::string(about), sense = std::string(sense)] {
                   Recipe step;
                   step.construction = "place.quarter-turn";
                   step.parameters = {{"about", about}, {"sense", sense}};
                   session_.document().act(tr("Quarter turn"),
                                           with_placement_step(session_.document().job(), step));
                 });
  }
}

void MainWindow::build_hand_over_actions() {
  actions_.add(QStringLiteral("body.heal"), tr("Heal the part …"), {}, [this] { heal_asked(); });
  const auto ask = [this](const QString& title, const QString& suffix, const QString& filter) {
    const QString name = keeper_.title().section(QLatin1Char('.'), 0, 0) + suffix;
    return QFileDialog::getSaveFileName(this, title, name, filter);
  };
  actions_.add(QStringLiteral("hand-over.part"),
               tr("Part as STEP, IGES, BREP or STL, in the reading frame …"),
               QKeySequence(QStringLiteral("Ctrl+E")), [this] { export_asked(); });
  actions_.add(QStringLiteral("hand-over.hole-list"), tr("Hole list as CSV or JSON …"), {}, [this, ask] {
    const QString path =
        ask(tr("Write the hole list"), QStringLiteral("-holes.csv"), tr("Hole lists (*.csv *.json)"));
    if (!path.isEmpty()) write_hole_list_to(path);
  });
  actions_.add(
      QStringLiteral("hand-over.drill-drawing"), tr("Drill drawing along the tool axis …"), {}, [this] {
        drill_drawing_asked(
            active_tool_plane(session_.document().job(), session_.document().evaluation()).Direction());
      });
  actions_.add(QStringLiteral("hand-over.drill-drawing-pick"), tr("Drill drawing along the pick …"), {},
               [this] {
                 const auto& picks = session_.tray().picks();
                 drill_drawing_asked(picks.empty() ? std::nullopt : picks.front().given.direction);
               });
  actions_.add(QStringLiteral("hand-over.sheet"), tr("Setup sheet as PDF …"),
               QKeySequence(QStringLiteral("Ctrl+P")), [this, ask] {
                 const QString path =
                     ask(tr("Write the setup sheet"), QStringLiteral("-setup.pdf"), tr("PDF (*.pdf)"));
                 if (!path.isEmpty()) write_setup_sheet_to(path);
               });
  actions_.add(QStringLiteral("hand-over.setup-sheets"), tr("Setup sheets, all setups …"), {},
               [this] { setup_sheets_asked(); });
  for (const TextReport& report : text_reports())
    if (!report.window_has_its_own)
      actions_.add(QStringLiteral("hand-over.") + QLatin1String(report.id), tr("%1 …").arg(tr(report.name)),
                   {}, [this, &report, ask] {
                     const QString ending = QStringLiteral(".") + QLatin1String(report.suffix);
                     const QString path = ask(tr(report.name), QStringLiteral("-%1").arg(report.id) + ending,
                                              tr("%1 (*%2)").arg(tr(report.name), ending));
                     if (!path.isEmpty()) tell_written(write_text_report(session_, report, path), path);
                   });
  actions_.add(QStringLiteral("hand-over.control"), tr("Control …"), {}, [this] {
    if (auto* open = findChild<ControlPanel*>()) return open->raise();
    (new ControlPanel(session_, this))->show();
  });
  for (const NamedForm& form : orientation_forms())
    actions_.add(QStringLiteral("hand-over.copy-") + QString::fromLatin1(form.id),
                 tr("Copy the tool plane: %1").arg(QString::fromUtf8(form.name)), {},
                 [this, kind = form.form] {
                   const auto text = active_plane_text(session_, kind);
                   if (!text) return notice_->tell(QString::fromStdString(text.error().sentence));
                   QApplication::clipboard()->setText(QString::fromStdString(*text));
                   notice_->confirm(tr("Copied."));
                 });
}

void MainWindow::build_setup_actions() {
  actions_.add(QStringLiteral("define.setup"), tr("Setup on a frame"),
               QKeySequence(QStringLiteral("Ctrl+Shift+U")), [this] { session_.desk().keep_as_setup(); });
  actions_.add(QStringLiteral("define.tool-plane"), tr("Tool plane on a frame"),
               QKeySequence(QStringLiteral("Ctrl+T")), [this] { session_.desk().keep_as_tool_plane(); });
}

void MainWindow::build_menus() {
  // Groups of actions by the beginnings of their ids, with a line between groups.
  const auto fill = [this](const QString& title, const std::vector<std::vector<const char*>>& groups,
                           QMenu* above = nullptr) {
    QMenu* menu = above ? above->addMenu(title) : menuBar()->addMenu(title);
    for (const std::vector<const char*>& group : groups) {
      if (!menu->isEmpty()) menu->addSeparator();
      for (const char* prefix : group)
        for (QAction* action : actions_.all())
          if (action->objectName().startsWith(QLatin1String(prefix))) menu->addAction(action);
    }
    return menu;
  };
  QMenu* job =
      fill(tr("&Job"),
           {{"job.new", "job.open"}, {"job.add", "job.scale", "job.tolerances"}, {"job.save"}, {"job.quit"}});
  recent_menu_ = new QMenu(tr("Recent"), this);
  job->insertMenu(job->actions().at(2), recent_menu_);
  connect(recent_menu_, &QMenu::aboutToShow, this, [this] { fill_recent(recent_menu_); });
  fill(tr("&Edit"), {{"edit."}, {"tray."}});
  QMenu* view = fill(tr("&View"), {{"view.look"},
                                   {"view.along", "view.square", "view.fit", "view.zoom"},
                                   {"view.walk"},
                                   {"view.section"},
                                   {"view.box", "view.plain", "view.isolate", "view.all"},
                                   {"view.keep"},
                                   {"view.close", "view.dark"}});
  views_menu_ = new QMenu(tr("Kept views"), this);
  auto* turning = new QMenu(tr("Turn by exact steps"), this);
  for (QAction* action : actions_.all())
    if (action->objectName().startsWith(QLatin1String("view.turn"))) turning->addAction(action);
  QAction* keep = actions_.find(QStringLiteral("view.keep"));
  view->insertMenu(keep, turning);
  view->insertMenu(keep, views_menu_);
  connect(views_menu_, &QMenu::aboutToShow, this, [this] { fill_kept_views(views_menu_); });
  QMenu* define = fill(tr("&Define"), {});
  fill(tr("Points"), {{"define.point"}}, define);
  fill(tr("Axes"), {{"define.axis"}}, define);
  fill(tr("Planes"), {{"define.plane"}}, define);
  fill(tr("Frames"), {{"define.frame"}}, define);
  fill(tr("Drawn on a plane"), {{"define.figure"}}, define);
  define->addSeparator();
  for (const char* id : {"define.setup", "define.tool-plane"})
    define->addAction(actions_.find(QLatin1String(id)));
  fill(tr("&Orient"), {{"orient.seats"}, {"orient.place"}, {"orient.quarter"}, {"orient.collapse"}});
  QMenu* inspect = fill(tr("&Inspect"), {{"view.corners", "view.holes", "view.planes", "view.offsets",
                                          "view.soundness", "view.comparison"},
                                         {"inspect.compare", "inspect.cutters"}});
  fill(tr("Measure"), {{"inspect."}}, inspect);
  QMenu* correct = fill(tr("&Correct"), {});
  fill(tr("Holes"),
       {{"correct.line-up", "correct.even", "correct.on-"},
        {"correct.move", "correct.resize"},
        {"correct.repeat"}},
       correct);
  fill(tr("New holes"), {{"correct.add"}}, correct);
  fill(tr("Faces"), {{"correct.face", "correct.radius"}}, correct);
  fill(tr("Bodies"), {{"correct.body", "correct.raise"}, {"correct.own"}, {"correct.cut", "correct.trim"}},
       correct);
  fill(tr("Corrections repeated"), {{"correct.again"}}, correct);
  correct->addAction(actions_.find(QStringLiteral("correct.close")));
  correct->addSeparator();
  for (QAction* action : actions_.all())
    if (action->objectName().startsWith(QLatin1String("body."))) correct->addAction(action);
  fill(tr("&Hand over"), {{"hand-over."}});
  fill(tr("Hel&p"), {{"help."}});
}

}  // namespace anvil::app
