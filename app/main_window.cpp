#include "app/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QDate>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/dialogs/cutter_form.h"
#include "app/forms/form_place.h"
#include "app/hand_over.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/panels/finder.h"
#include "app/panels/guide_pane.h"
#include "app/panels/ledger.h"
#include "app/panels/offer_list.h"
#include "app/panels/tray.h"
#include "app/panels/welcome.h"
#include "app/theme.h"
#include "app/view/view_pane.h"
#include "job/edits.h"

namespace anvil::app {

MainWindow::MainWindow() : keeper_(session_), actions_(this) {
  setObjectName(QStringLiteral("main_window"));
  qApp->installEventFilter(this);
  setAcceptDrops(true);
  resize(1280, 800);
  setMinimumSize(1100, 700);
  auto* root = new QWidget(this);
  root->setObjectName(QStringLiteral("root"));
  setCentralWidget(root);
  auto* layout = new QVBoxLayout(root);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  notice_ = new NoticeBar(root);
  layout->addWidget(notice_);
  layout->addWidget(build_panels(root), 1);
  build_actions();
  build_menus();
  build_strip();

  connect(&session_.bus(), &ChangeBus::changed, this, [this](Changes what) {
    if (what & (Change::kJob | Change::kDraft | Change::kPicks | Change::kChecks | Change::kBodies))
      refresh();
    if (what & Change::kToolPlane) view_->look_along_tool();
    if (what & Change::kDraft) focus_draft();
  });
  connect(&keeper_, &JobKeeper::changed, this, &MainWindow::refresh);
  connect(&session_.bus(), &ChangeBus::told, this, [this](const QString& s) { notice_->tell(s); });
  connect(&keeper_, &JobKeeper::told, this, [this](const QString& s) { notice_->tell(s); });
  connect(&keeper_, &JobKeeper::confirmed, this, [this](const QString& s) { notice_->confirm(s); });
  connect(
      &keeper_, &JobKeeper::recovery_offered, this, [this](const QString& sentence, const LeftBehind& left) {
        notice_->tell(sentence,
                      {{tr("Recover"), [this, left] { leave_job([this, left] { keeper_.recover(left); }); }},
                       {tr("Discard it"), [this, left] { keeper_.discard_left(left); }}});
      });
  connect(&keeper_, &JobKeeper::resize_offered, this,
          [this](const QString& sentence, size_t file, double scale) {
            notice_->tell(sentence, {{tr("Resize by %1").arg(scale, 0, 'g', 6),
                                      [this, file, scale] { keeper_.rescale(file, scale); }},
                                     {tr("It is right"), [] {}}});
          });
  connect(ledger_, &Ledger::form_wanted, forms_, &FormPlace::open);
  connect(&session_.document(), &Document::opened, forms_, &FormPlace::close_form);
  connect(drawer_, &Drawer::heal_wanted, this, &MainWindow::heal_asked);
  connect(drawer_, &Drawer::cutters_wanted, this, [this] { (new CutterForm(session_, this))->show(); });
  connect(drawer_, &Drawer::list_wanted, this, &MainWindow::compare_asked);
  connect(drawer_, &Drawer::table_shown, this, [this](Drawer::Table table, bool open) {
    view_->show_comparison(open && table == Drawer::Table::kComparison);
  });
  connect(&view_->view(), &OccView::gl_failed, this, [this](const QString& s) { notice_->tell(s); });
  connect(view_, &ViewPane::faces_picked, drawer_, &Drawer::select_faces);
  connect(drawer_, &Drawer::cutter_changed, view_, &ViewPane::colour_corners);
  build_welcome();
  works_ = new ProgressStack({progress_, checking_, evaluating_, drafting_, growing_, proposing_, surveying_,
                              reporting_, writing_, saving_, healing_},
                             view_);
  apply_to_view(Preferences::load());
  refresh();
}

// What is not taken by a field stays a command: N, F, Q.
void MainWindow::focus_draft() {
  const Construction* now = session_.tray().draft() ? session_.tray().draft()->construction : nullptr;
  if (now && now != drafted_ && !tray_->focus_parameters()) view_->view().setFocus();
  drafted_ = now;
}

// Each where it stays: one that changes its parent is styled anew, with all that is in it. The tray keeps its
// height beside the tables.
QWidget* MainWindow::build_panels(QWidget* parent) {
  const auto splitter = [](Qt::Orientation orientation, QWidget* in) {
    auto* made = new QSplitter(orientation, in);
    made->setHandleWidth(1);
    made->setChildrenCollapsible(false);
    return made;
  };
  auto* sides = splitter(Qt::Horizontal, parent);
  auto* levels = splitter(Qt::Vertical, sides);
  auto* upper = splitter(Qt::Horizontal, levels);
  auto* right = splitter(Qt::Vertical, sides);
  ledger_ = new Ledger(session_, upper);
  view_ = new ViewPane(session_, upper);
  session_.tray().set_seen_from([this] { return view_->seen(); });
  drawer_ = new Drawer(session_, levels);
  forms_ = new FormPlace(right);
  tray_ = new Tray(session_, right);
  guide_ = new GuidePane(right);
  build_progress();
  guide_->setMinimumHeight(330);
  guide_->hide();
  ledger_->setMinimumWidth(250);
  tray_->setMinimumWidth(250);
  for (const auto& [pane, stretched] : {std::pair{upper, 1}, {levels, 0}, {right, 1}, {sides, 0}})
    pane->setStretchFactor(stretched, 1);
  upper->setSizes({250, 740});
  sides->setSizes({990, 290});
  return sides;
}

void MainWindow::build_progress() {
  progress_ = new ProgressLine(keeper_.work(), this);
  checking_ = new ProgressLine(session_.checks().checking(), this);
  evaluating_ = new ProgressLine(session_.document().evaluating(), this);
  drafting_ = new ProgressLine(session_.tray().drafting(), this);
  growing_ = new ProgressLine(session_.tray().growing(), this);
  proposing_ = new ProgressLine(session_.desk().proposing(), this);
  surveying_ = new ProgressLine(session_.checks().surveying(), this);
  reporting_ = new ProgressLine(session_.checks().reporting(), this);
  writing_ = new ProgressLine(keeper_.output(), this);
  saving_ = new ProgressLine(keeper_.saving(), this);
  healing_ = new ProgressLine(keeper_.healing(), this);
}

void MainWindow::build_strip() {
  auto* strip = new QFrame(this);
  strip->setObjectName(QStringLiteral("strip"));
  auto* row = new QHBoxLayout(strip);
  row->setContentsMargins(8, 5, 8, 5);
  row->setSpacing(4);
  for (const auto& [id, name] :
       {std::pair{"job.open", "open"}, {"job.save", "save"}, {"edit.undo", "undo"}, {"edit.redo", "redo"}}) {
    QAction* action = actions_.find(QLatin1String(id));
    action->setIcon(icon(QLatin1String(name), theme().ink));
    auto* button = new QToolButton(strip);
    button->setDefaultAction(action);
    button->setIconSize(QSize(18, 18));
    button->setFocusPolicy(Qt::NoFocus);
    row->addWidget(button);
  }
  row->addSpacing(10);
  auto* reading = new QLabel(tr("Reading in"), strip);
  reading->setObjectName(QStringLiteral("quiet"));
  row->addWidget(reading);
  frames_ = new QComboBox(strip);
  frames_->setObjectName(QStringLiteral("reading_frame"));
  frames_->setMinimumWidth(170);
  units_ = new QComboBox(strip);
  units_->setObjectName(QStringLiteral("unit"));
  units_->addItems({QStringLiteral("mm"), QStringLiteral("inch")});
  styles_ = new QComboBox(strip);
  styles_->setObjectName(QStringLiteral("display_style"));
  styles_->addItems(
      {tr("shaded, edges"), tr("shaded"), tr("wireframe"), tr("hidden lines dimmed"), tr("see through")});
  styles_->setMinimumWidth(150);
  frames_->setAccessibleName(tr("Reading frame"));
  units_->setAccessibleName(tr("Unit"));
  styles_->setAccessibleName(tr("Display style"));
  for (QComboBox* box : {frames_, units_, styles_}) {
    box->setFocusPolicy(Qt::TabFocus);
    row->addWidget(box);
    row->addSpacing(6);
  }
  row->addStretch(1);
  finder_ = new Finder(strip);
  finder_->setFixedWidth(230);
  finder_->setFocusPolicy(Qt::ClickFocus);
  finder_->set_actions(actions_.all());
  finder_->set_named([this] { return named_things(); });
  row->addWidget(finder_);
  static_cast<QVBoxLayout*>(centralWidget()->layout())->insertWidget(0, strip);

  connect(frames_, &QComboBox::activated, this, [this](int index) {
    session_.document().act(tr("Read in another frame"),
                            with_reading_frame(session_.document().job(), frames_->itemData(index).toInt()),
                            QStringLiteral("reading"));
  });
  connect(units_, &QComboBox::activated, this, [this](int index) {
    Display display = session_.document().job().display;
    display.unit = index == 1 ? Unit::kInch : Unit::kMillimetre;
    session_.document().act(tr("Show in %1").arg(units_->itemText(index)),
                            with_display(session_.document().job(), display), QStringLiteral("unit"));
  });
  connect(styles_, &QComboBox::activated, this,
          [this](int index) { view_->set_style(static_cast<DisplayStyle>(index)); });
}

void MainWindow::refresh_frames() {
  refreshing_ = true;
  frames_->clear();
  const auto add = [&](int id) {
    frames_->addItem(QString::fromStdString(reading_frame_name(session_.document().job(), id)), id);
  };
  add(kReadPlaced);
  add(kReadDelivered);
  for (const Entry& entry : session_.document().job().entries)
    if (entry.is_frame() || entry.setup()) add(entry.id);
  frames_->setCurrentIndex(std::max(0, frames_->findData(session_.document().job().reading_frame)));
  units_->setCurrentIndex(session_.document().job().display.unit == Unit::kInch ? 1 : 0);
  refreshing_ = false;
}

void MainWindow::refresh() {
  refresh_frames();
  const History& history = session_.document().history();
  QAction* undo = actions_.find(QStringLiteral("edit.undo"));
  QAction* redo = actions_.find(QStringLiteral("edit.redo"));
  undo->setEnabled(history.can_undo());
  redo->setEnabled(history.can_redo());
  undo->setText(history.can_undo() ? tr("Undo: %1").arg(QString::fromStdString(history.undo_name()))
                                   : tr("Undo"));
  redo->setText(history.can_redo() ? tr("Redo: %1").arg(QString::fromStdString(history.redo_name()))
                                   : tr("Redo"));
  const bool has_part = session_.document().part() != nullptr;
  place_welcome();
  const bool has_draft = session_.tray().draft().has_value();
  for (QAction* action : actions_.all()) {
    const QString id = action->objectName();
    if (id.startsWith(QLatin1String("define.")) || id.startsWith(QLatin1String("orient.")) ||
        id.startsWith(QLatin1String("inspect.")) || id.startsWith(QLatin1String("body.")) ||
        id.startsWith(QLatin1String("hand-over.")) || id.startsWith(QLatin1String("view.look")))
      action->setEnabled(has_part);
  }
  for (const char* id : {"tray.next", "tray.flip", "tray.quarter"})
    actions_.find(QLatin1String(id))->setEnabled(has_draft);
  actions_.find(QStringLiteral("tray.keep"))->setEnabled(session_.tray().can_keep());
  actions_.find(QStringLiteral("tray.keep-again"))->setEnabled(session_.tray().can_repeat());
  actions_.find(QStringLiteral("tray.keep-on"))->setEnabled(session_.tray().can_go_on());
  actions_.find(QStringLiteral("edit.unpick"))->setEnabled(!session_.tray().picks().empty());
  actions_.find(QStringLiteral("job.save"))->setEnabled(has_part && !keeper_.read_only());
  actions_.find(QStringLiteral("job.save-as"))->setEnabled(has_part && !keeper_.read_only());
  for (const char* id :
       {"job.add", "job.scale", "job.tolerances", "view.section", "view.zoom-picks", "view.keep"})
    actions_.find(QLatin1String(id))->setEnabled(has_part);
  for (const char* id : {"view.section-flip", "view.section-end"})
    actions_.find(QLatin1String(id))->setEnabled(view_->has_section());
  actions_.find(QStringLiteral("view.all-bodies"))->setEnabled(!session_.document().isolated().empty());
  actions_.find(QStringLiteral("view.isolate"))->setEnabled(!session_.tray().picks().empty());
  actions_.find(QStringLiteral("orient.collapse"))
      ->setEnabled(session_.document().job().placement() != nullptr);
  actions_.find(QStringLiteral("hand-over.sheet"))
      ->setEnabled(has_part && session_.checks().holes() && session_.checks().corners());
  actions_.find(QStringLiteral("hand-over.hole-list"))->setEnabled(has_part && session_.checks().holes());
  actions_.find(QStringLiteral("view.square"))
      ->setEnabled(!session_.tray().picks().empty() && session_.tray().picks().back().given.direction);
  setWindowTitle(keeper_.title() + QStringLiteral("[*] — True Anvil"));
  setWindowModified(!history.is_saved());
}

void MainWindow::set_dark(bool dark) {
  apply_theme(*qApp, dark ? Theme::dark_one() : Theme::light());
  QSettings().setValue(QStringLiteral("theme/dark"), dark);
  for (const auto& [id, name] :
       {std::pair{"job.open", "open"}, {"job.save", "save"}, {"edit.undo", "undo"}, {"edit.redo", "redo"}})
    actions_.find(QLatin1String(id))->setIcon(icon(QLatin1String(name), theme().ink));
  actions_.find(QStringLiteral("view.dark"))->setChecked(dark);
  view_->refresh_theme();
  session_.bus().announce(Change::kJob | Change::kPicks);
}

// --- opening, saving, leaving

void MainWindow::leave_job(std::function<void()> then) {
  if (session_.document().history().is_saved() || !session_.document().part()) return then();
  QMessageBox box(QMessageBox::Question, tr("Unsaved changes"),
                  tr("%1 has changes that are not saved.").arg(keeper_.title()), QMessageBox::NoButton, this);
  box.setObjectName(QStringLiteral("unsaved_changes"));
  QPushButton* save = box.addButton(tr("Save"), QMessageBox::AcceptRole);
  QPushButton* discard = box.addButton(tr("Discard"), QMessageBox::DestructiveRole);
  box.addButton(tr("Stay"), QMessageBox::RejectRole);
  box.setDefaultButton(save);
  box.exec();
  if (box.clickedButton() == save)
    save_asked(std::move(then));
  else if (box.clickedButton() == discard)
    then();
}

void MainWindow::confirm_and_open(const QString& path) {
  leave_job([this, path] { keeper_.open(path); });
}

bool MainWindow::save_asked(std::function<void()> then) {
  QString path = keeper_.path();
  if (path.isEmpty())
    path = QFileDialog::getSaveFileName(
        this, tr("Save the job"), keeper_.title().section(QLatin1Char('.'), 0, 0) + QStringLiteral(".anvil"),
        tr("Jobs (*.anvil)"));
  if (path.isEmpty()) return false;
  if (QFileInfo(path).suffix().isEmpty()) path += QStringLiteral(".anvil");
  keeper_.save_to(path, std::move(then));
  return true;
}

// While nothing is open, Enter in a field ends what is typed there, and takes no offer; in the finder it
// always runs what was found. In a form Enter and Esc are the form's.
bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::Resize && view_ && watched == &view_->view()) place_welcome();
  const bool typed = event->type() == QEvent::ShortcutOverride || event->type() == QEvent::KeyPress;
  auto* widget = qobject_cast<QWidget*>(watched);
  if (typed && widget && widget->window() == this && take_letter(static_cast<QKeyEvent*>(event))) return true;
  if (event->type() == QEvent::ShortcutOverride && widget) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    const bool enter = key == Qt::Key_Return || key == Qt::Key_Enter, in_form = forms_->holds(widget);
    const bool in_field = qobject_cast<QLineEdit*>(widget) && (widget == finder_ || !session_.tray().draft());
    if ((enter && (in_form || in_field)) || (key == Qt::Key_Escape && in_form)) {
      event->accept();
      return true;
    }
  }
  return QMainWindow::eventFilter(watched, event);
}

// A number typed after picking goes to the first offer that takes one.
void MainWindow::keyPressEvent(QKeyEvent* event) {
  const QString text = event->text();
  const bool plain = !(event->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier));
  const bool number =
      text.size() == 1 && (text[0].isDigit() || text[0] == QLatin1Char('-') || text[0] == QLatin1Char('.'));
  if (plain && number && (session_.tray().draft() || session_.tray().open_for_number()))
    return tray_->start_number(text);
  QMainWindow::keyPressEvent(event);
}

// A field that still has the cursor ends its edit when it goes, to a panel that is half gone.
MainWindow::~MainWindow() {
  for (QLineEdit* field : findChildren<QLineEdit*>()) field->blockSignals(true);
  qApp->removeEventFilter(this);
  session_.bus().disconnect(this);
  keeper_.disconnect(this);
  // While they go they are hidden and laid out once more, and ask the session for what they show.
  qDeleteAll(findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (closing_) {
    keeper_.work().cancel();
    keeper_.discard_safety_copy();
    return event->accept();
  }
  event->ignore();
  leave_job([this] {
    closing_ = true;
    QMetaObject::invokeMethod(this, &QWidget::close, Qt::QueuedConnection);
  });
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  QStringList paths;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) paths << url.toLocalFile();
  if (!paths.isEmpty()) leave_job([this, paths] { open_files(paths); });
}

// --- hand over

void MainWindow::tell_written(const Result<void>& written, const QString& path) {
  if (written)
    notice_->confirm(tr("Written: %1.").arg(QFileInfo(path).fileName()));
  else
    notice_->tell(QString::fromStdString(written.error().sentence));
}

void MainWindow::write_setup_sheet_to(const QString& path) {
  auto written = write_setup_sheet(session_, view_->picture(), path);
  tell_written(written, path);
}

void MainWindow::setup_sheets_asked() {
  const QString path =
      QFileDialog::getSaveFileName(this, tr("Write the setup sheets"), {}, tr("Setup sheets (*.pdf *.html)"));
  if (!path.isEmpty()) write_setup_sheets_to(path);
}

// Corners along every tool plane are looked for behind the window; the pictures are taken when they are
// there.
void MainWindow::write_setup_sheets_to(const QString& path) {
  if (!session_.checks().holes())
    return notice_->tell(tr("Holes are still being looked for: try again in a moment."));
  using Sheets = Result<std::vector<SetupSheet>>;
  session_.checks().reporting().start<Sheets>(
      tr("Making setup sheets"),
      [job = session_.document().job(), evaluation = session_.document().evaluation(),
       holes = session_.checks().holes(), date = QDate::currentDate().toString(Qt::ISODate).toStdString()](
          const Progress& progress) { return make_setup_sheets(job, evaluation, *holes, date, progress); },
      [this, path, began = session_.document().ticket()](const Sheets& sheets) {
        if (began.job != session_.document().ticket().job)
          return notice_->tell(
              tr("Another job was opened before its setup sheets were made: none were written."));
        if (!sheets) return notice_->tell(QString::fromStdString(sheets.error().sentence));
        Pictures pictures;
        for (const SetupSheet& sheet : *sheets)
          for (const SheetPlane& plane : sheet.planes)
            pictures[plane.picture] = view_->picture_along(plane.placed);
        tell_written(write_setup_sheets(*sheets, pictures, path), path);
      });
}

void MainWindow::write_hole_list_to(const QString& path) {
  auto written = write_hole_list(session_, path);
  tell_written(written, path);
}

}  // namespace anvil::app
