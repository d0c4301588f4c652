// What the window asks before files come in or go out, and what it remembers between runs.
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>

#include "app/forms/choice_form.h"
#include "app/forms/export_form.h"
#include "app/forms/form_place.h"
#include "app/forms/heal_form.h"
#include "app/forms/tolerance_form.h"
#include "app/forms/unit_form.h"
#include "app/hand_over.h"
#include "app/main_window.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/view/view_pane.h"
#include "base/file.h"
#include "job/edits.h"
#include "report/drill_drawing.h"

namespace anvil::app {
namespace {

QString part_filter() {
  QStringList patterns;
  for (const Format& format : formats())
    for (const std::string& suffix : format.suffixes)
      patterns << QStringLiteral("*.%1").arg(QString::fromStdString(suffix));
  patterns << QStringLiteral("*.stpz") << QStringLiteral("*.gz");
  QStringList upper;
  for (const QString& pattern : patterns) upper << pattern.toUpper();
  return (patterns + upper).join(QLatin1Char(' '));
}

}  // namespace

void MainWindow::open_asked() {
  const QStringList paths =
      QFileDialog::getOpenFileNames(this, tr("Open parts or a job"), {},
                                    tr("Parts and jobs (%1 *.anvil);;All files (*)").arg(part_filter()));
  if (!paths.isEmpty()) leave_job([this, paths] { open_files(paths); });
}

void MainWindow::add_asked() {
  const QStringList paths = QFileDialog::getOpenFileNames(this, tr("Add parts to this job"), {},
                                                          tr("Parts (%1);;All files (*)").arg(part_filter()));
  for (const QString& path : paths) keeper_.add_part(path);
}

void MainWindow::compare_asked() {
  const QString path = QFileDialog::getOpenFileName(this, tr("Compare the holes with a list"), {},
                                                    tr("Lists (*.csv *.txt *.tsv);;All files (*)"));
  if (!path.isEmpty()) compare_with(path);
}

void MainWindow::compare_with(const QString& path) {
  const auto text = read_file(path.toStdString());
  const auto list =
      text ? parse_hole_list(*text, session_.document().job().display.unit) : Result<HoleList>(refuse(text));
  const QString name = QFileInfo(path).fileName();
  if (!list) return notice_->tell(tr("%1: %2").arg(name, QString::fromStdString(list.error().sentence)));
  session_.checks().compare_with(name, *list);
  drawer_->open(Drawer::Table::kComparison);
}

void MainWindow::open_files(const QStringList& paths) {
  if (!paths.isEmpty()) keeper_.open(paths);
}

void MainWindow::drill_drawing_asked(const std::optional<gp_Dir>& towards_eye) {
  if (!towards_eye)
    return notice_->tell(tr("Pick what gives a direction first: a flat face, an axis, an edge."));
  const QString name = keeper_.title().section(QLatin1Char('.'), 0, 0) + QStringLiteral("-holes.dxf");
  const QString path = QFileDialog::getSaveFileName(this, tr("Write the drill drawing"), name,
                                                    tr("Drawings (*.dxf *.svg *.pdf)"));
  if (!path.isEmpty()) write_drill_drawing_to(path, *towards_eye);
}

void MainWindow::write_drill_drawing_to(const QString& path, const gp_Dir& towards_eye) {
  if (!session_.checks().holes())
    return notice_->tell(tr("Holes are still being looked for: try again in a moment."));
  DrillView view;
  view.towards_eye = towards_eye;
  view.placement = session_.document().evaluation().placement;
  view.frame = session_.document().frame();
  view.frame_name = reading_frame_name(session_.document().job(), session_.document().job().reading_frame);
  view.part_name = session_.document().part()->source().file_name;
  view.display = session_.document().job().display;
  session_.checks().reporting().start<Result<Drawing>>(
      tr("Drawing the holes"),
      [part = session_.document().part(), holes = session_.checks().holes(), view](const Progress& progress) {
        return drill_drawing(*part, *holes, view, progress);
      },
      [this, path, began = session_.document().ticket()](const Result<Drawing>& drawing) {
        if (began.job != session_.document().ticket().job)
          return notice_->tell(tr("Another job was opened before its drawing was made: none was written."));
        tell_written(drawing ? write_drawing(*drawing, path) : Result<void>(refuse(drawing)), path);
      });
}

void MainWindow::export_asked() {
  const auto write = [this](ExportRequest request, const Format& format) {
    const QString suffix = QString::fromStdString(format.suffixes.front());
    const QString name =
        keeper_.title().section(QLatin1Char('.'), 0, 0) + QStringLiteral("-placed.") + suffix;
    QString path = QFileDialog::getSaveFileName(
        this, tr("Write the part"), name,
        QStringLiteral("%1 (*.%2)").arg(QString::fromLatin1(format.name), suffix));
    if (path.isEmpty()) return false;
    if (QFileInfo(path).suffix().isEmpty()) path += QLatin1Char('.') + suffix;
    request.file = path.toStdString();
    keeper_.export_part(request);
    return true;
  };
  forms_->open(new ExportForm(session_, write, this));
}

void MainWindow::heal_asked() {
  if (!session_.document().part()) return;
  HealOptions start;
  if (const Entry* healing = session_.document().job().healing()) start = healing->healing()->options;
  forms_->open(new HealForm(
      start, [this](const HealOptions& options) { keeper_.heal(options); }, this));
}

void MainWindow::tolerances_asked() {
  forms_->open(new ToleranceForm(session_, this));
}

void MainWindow::scale_asked() {
  if (session_.document().job().first_part())
    forms_->open(new UnitForm(
        session_, [this](size_t file, double scale) { keeper_.rescale(file, scale); }, this));
}

void MainWindow::keep_view_asked() {
  const QString proposed = tr("View %1").arg(session_.document().job().views.size() + 1);
  const auto keep = [this](const QString& name) {
    if (name.isEmpty()) return tr("A view needs a name.");
    session_.document().act(tr("Keep a view"),
                            with_view(session_.document().job(), view_->present_view(name.toStdString())));
    return QString();
  };
  forms_->open(
      new ChoiceForm({tr("Keep this view"), {}, tr("Name"), {proposed}, true, tr("Keep it")}, keep, this));
}

void MainWindow::fill_recent(QMenu* menu) {
  menu->clear();
  for (const QString& path : JobKeeper::recent_files()) {
    QAction* action =
        menu->addAction(QFileInfo(path).fileName(), this, [this, path] { confirm_and_open(path); });
    action->setToolTip(path);
    action->setEnabled(QFileInfo::exists(path));
  }
  if (menu->isEmpty()) menu->addAction(tr("Nothing yet"))->setEnabled(false);
}

void MainWindow::fill_kept_views(QMenu* menu) {
  menu->clear();
  for (const KeptView& kept : session_.document().job().views) {
    QMenu* one = menu->addMenu(QString::fromStdString(kept.name));
    one->addAction(tr("Look"), this, [this, kept] { view_->go_to(kept); });
    one->addAction(tr("Forget"), this, [this, kept] {
      session_.document().act(tr("Forget a view"), without_view(session_.document().job(), kept.name));
    });
  }
  if (menu->isEmpty()) menu->addAction(tr("No view kept yet"))->setEnabled(false);
}

void MainWindow::apply_to_view(const Preferences& preferences) {
  view_->view().set_buttons(preferences.right_button_turns ? OccView::Buttons::kRightTurns
                                                           : OccView::Buttons::kMiddleTurns);
  view_->view().set_smooth(preferences.smooth_moves);
}

void MainWindow::apply(const Preferences& preferences) {
  if (preferences.dark != actions_.find(QStringLiteral("view.dark"))->isChecked()) set_dark(preferences.dark);
  apply_to_view(preferences);
  Display display = session_.document().job().display;
  if (display.decimals == preferences.decimals) return;
  display.decimals = preferences.decimals;
  session_.document().act(tr("Show %1 decimals").arg(preferences.decimals),
                          with_display(session_.document().job(), display), QStringLiteral("decimals"));
}

}  // namespace anvil::app
