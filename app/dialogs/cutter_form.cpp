#include "app/dialogs/cutter_form.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/theme.h"
#include "base/expression.h"
#include "base/file.h"
#include "job/edits.h"

namespace anvil::app {
namespace {

enum Column { kNumber, kName, kDiameter, kCornerRadius, kFlute, kReach, kHolder, kColumns };

}  // namespace

CutterForm::CutterForm(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), unit_(session.document().job().display.unit) {
  setObjectName(QStringLiteral("cutters"));
  setWindowTitle(tr("Cutters of this job"));
  setAttribute(Qt::WA_DeleteOnClose);
  resize(760, 420);
  auto* layout = new QVBoxLayout(this);
  const QString unit = QString::fromLatin1(unit_name(unit_));
  auto* what = new QLabel(
      tr("Lengths in %1. What is left empty is not judged. Reach is from the tip to the holder.").arg(unit),
      this);
  what->setWordWrap(true);
  layout->addWidget(what);
  table_ = new QTableWidget(0, kColumns, this);
  table_->setObjectName(QStringLiteral("cutters.table"));
  table_->setHorizontalHeaderLabels(
      {tr("Number"), tr("Name"), tr("Ø"), tr("Corner radius"), tr("Flutes"), tr("Reach"), tr("Holder Ø")});
  table_->verticalHeader()->hide();
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->horizontalHeader()->setSectionResizeMode(kName, QHeaderView::Stretch);
  layout->addWidget(table_, 1);
  wrong_ = new QLabel(this);
  wrong_->setObjectName(QStringLiteral("cutters.wrong"));
  wrong_->setWordWrap(true);
  layout->addWidget(wrong_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
  const auto add = [&](const char* name, const QString& text, auto run) {
    auto* button = buttons->addButton(text, QDialogButtonBox::ActionRole);
    button->setObjectName(QString::fromLatin1(name));
    button->setAutoDefault(false);
    connect(button, &QPushButton::clicked, this, run);
  };
  add("cutters.add", tr("Add"), [this] {
    table_->insertRow(table_->rowCount());
    table_->setCurrentCell(table_->rowCount() - 1, kNumber);
  });
  add("cutters.remove", tr("Remove"), [this] {
    if (table_->currentRow() >= 0) table_->removeRow(table_->currentRow());
  });
  add("cutters.read", tr("Read …"), [this] { read_asked(); });
  add("cutters.write", tr("Write …"), [this] { write_asked(); });
  layout->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(buttons, &QDialogButtonBox::accepted, this, &CutterForm::keep);
  // It stands beside the window: another job has other cutters.
  connect(&session.document(), &Document::opened, this, &QDialog::close);
  show_cutters(session.document().job().inspection.cutters);
}

void CutterForm::show_cutters(const std::vector<Cutter>& cutters) {
  const double mm = mm_per(unit_);
  table_->setRowCount(static_cast<int>(cutters.size()));
  for (int row = 0; row < table_->rowCount(); ++row) {
    const Cutter& c = cutters[static_cast<size_t>(row)];
    const auto length = [&](const std::optional<double>& v) {
      return v ? QString::fromStdString(format_plain(*v / mm)) : QString();
    };
    const QString texts[kColumns] = {QString::fromStdString(c.number),
                                     QString::fromStdString(c.name),
                                     length(c.diameter_mm),
                                     c.corner_radius_mm > 0 ? length(c.corner_radius_mm) : QString(),
                                     length(c.flute_mm),
                                     length(c.reach_mm),
                                     length(c.holder_mm)};
    for (int column = 0; column < kColumns; ++column) {
      auto* item = new QTableWidgetItem(texts[column]);
      if (column >= kDiameter) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      table_->setItem(row, column, item);
    }
  }
}

// Written as a list and read again, so that the same things are refused as in a file; lengths are
// expressions.
Result<std::vector<Cutter>> CutterForm::typed() const {
  std::vector<Cutter> cutters;
  for (int row = 0; row < table_->rowCount(); ++row) {
    const auto text = [&](int column) {
      const QTableWidgetItem* item = table_->item(row, column);
      return item ? item->text().trimmed().toStdString() : std::string();
    };
    std::optional<double> lengths[kColumns];
    bool empty = true;
    for (int column = 0; column < kColumns; ++column) empty = empty && text(column).empty();
    if (empty) continue;
    for (int column = kDiameter; column < kColumns; ++column) {
      if (text(column).empty()) continue;
      const auto length = evaluate_length(text(column), unit_, {});
      if (!length)
        return refuse(RefusalCode::kBadInput,
                      tr("Row %1: ").arg(row + 1).toStdString() + length.error().sentence);
      lengths[column] = *length;
    }
    cutters.push_back({text(kNumber), text(kName), lengths[kDiameter].value_or(0),
                       lengths[kCornerRadius].value_or(0), lengths[kFlute], lengths[kReach],
                       lengths[kHolder]});
  }
  return read_cutters(cutters_csv(cutters, Unit::kMillimetre));
}

void CutterForm::read_asked() {
  const QString path = QFileDialog::getOpenFileName(this, tr("Read a list of cutters"), {},
                                                    tr("Lists (*.csv *.txt *.tsv *.json);;All files (*)"));
  if (path.isEmpty()) return;
  const auto text = read_file(path.toStdString());
  const auto cutters = text ? read_cutters(*text, unit_) : Result<std::vector<Cutter>>(refuse(text));
  if (!cutters) return wrong_->setText(QString::fromStdString(cutters.error().sentence));
  wrong_->clear();
  show_cutters(*cutters);
}

void CutterForm::write_asked() {
  const auto cutters = typed();
  if (!cutters) return wrong_->setText(QString::fromStdString(cutters.error().sentence));
  const QString path = QFileDialog::getSaveFileName(this, tr("Write the list of cutters"),
                                                    QStringLiteral("cutters.csv"), tr("Lists (*.csv)"));
  if (path.isEmpty()) return;
  const auto written = write_file_atomically(path.toStdString(), cutters_csv(*cutters, unit_));
  wrong_->setText(written ? QString() : QString::fromStdString(written.error().sentence));
}

void CutterForm::keep() {
  auto cutters = typed();
  if (!cutters) return wrong_->setText(QString::fromStdString(cutters.error().sentence));
  Inspection next = session_.document().job().inspection;
  next.cutters = std::move(*cutters);
  session_.document().act(tr("Cutters"), with_inspection(session_.document().job(), std::move(next)));
  accept();
}

}  // namespace anvil::app
