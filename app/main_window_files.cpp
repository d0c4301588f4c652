// What the window asks before files come in or go out, and what it remembers between runs.
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QMenu>

#include "app/dialogs/export_form.h"
#include "app/dialogs/heal_form.h"
#include "app/hand_over.h"
#include "app/main_window.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/view/view_pane.h"
#include "base/expression.h"
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
  ExportForm form(session_, this);
  if (form.exec() != QDialog::Accepted) return;
  const QString suffix = QString::fromStdString(form.format().suffixes.front());
  const QString name = keeper_.title().section(QLatin1Char('.'), 0, 0) + QStringLiteral("-placed.") + suffix;
  QString path = QFileDialog::getSaveFileName(
      this, tr("Write the part"), name,
      QStringLiteral("%1 (*.%2)").arg(QString::fromLatin1(form.format().name), suffix));
  if (path.isEmpty()) return;
  if (QFileInfo(path).suffix().isEmpty()) path += QLatin1Char('.') + suffix;
  ExportRequest request = form.request();
  request.file = path.toStdString();
  keeper_.export_part(request);
}

void MainWindow::heal_asked() {
  if (!session_.document().part()) return;
  HealOptions start;
  if (const Entry* healing = session_.document().job().healing()) start = healing->healing()->options;
  HealForm form(start, this);
  if (form.exec() == QDialog::Accepted) keeper_.heal(form.options());
}

// A factor beyond what the file's own unit says: "25.4", "1/25.4".
void MainWindow::scale_asked() {
  const Entry* entry = session_.document().job().first_part();
  if (!entry) return;
  const auto& sources = entry->part()->sources;
  size_t index = 0;
  if (sources.size() > 1) {
    QStringList names;
    for (const SourceFile& file : sources) names << QString::fromStdString(file.part->source().file_name);
    bool chosen = false;
    const QString name =
        QInputDialog::getItem(this, tr("Unit of a file"), tr("Which file"), names, 0, false, &chosen);
    if (!chosen) return;
    index = static_cast<size_t>(names.indexOf(name));
  }
  const SourceInfo& source = sources[index].part->source();
  bool given = false;
  const QString text = QInputDialog::getText(
      this, tr("Unit of the file"),
      tr("%1 says its unit is %2.\nMultiply its lengths by (25.4 where inches were meant, 1/25.4 the other "
         "way):")
          .arg(QString::fromStdString(source.file_name), QString::fromStdString(source.unit_name)),
      QLineEdit::Normal, QString::number(sources[index].scale, 'g', 12), &given);
  if (!given) return;
  const auto scale = evaluate_number(text.toStdString(), {});
  if (!scale || !(*scale > 0))
    return notice_->tell(tr("\"%1\" is not a factor above zero; nothing was changed.").arg(text));
  keeper_.rescale(index, *scale);
}

void MainWindow::keep_view_asked() {
  bool given = false;
  const QString proposed = tr("View %1").arg(session_.document().job().views.size() + 1);
  const QString name =
      QInputDialog::getText(this, tr("Keep this view"), tr("Name"), QLineEdit::Normal, proposed, &given);
  if (given && !name.trimmed().isEmpty())
    session_.document().act(tr("Keep a view"), with_view(session_.document().job(),
                                                         view_->present_view(name.trimmed().toStdString())));
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

void MainWindow::apply(const Preferences& preferences) {
  if (preferences.dark != actions_.find(QStringLiteral("view.dark"))->isChecked()) set_dark(preferences.dark);
  view_->view().set_buttons(preferences.right_button_turns ? OccView::Buttons::kRightTurns
                                                           : OccView::Buttons::kMiddleTurns);
  Display display = session_.document().job().display;
  if (display.decimals == preferences.decimals) return;
  display.decimals = preferences.decimals;
  session_.document().act(tr("Show %1 decimals").arg(preferences.decimals),
                          with_display(session_.document().job(), display), QStringLiteral("decimals"));
}

}  // namespace anvil::app
