#include "app/dialogs/export_form.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "base/expression.h"

namespace anvil::app {

ExportForm::ExportForm(const Session& session, QWidget* parent) : QDialog(parent), session_(session) {
  setObjectName(QStringLiteral("export_form"));
  setWindowTitle(tr("Write the part"));
  setMinimumWidth(420);
  auto* layout = new QVBoxLayout(this);
  auto* told = new QLabel(tr("Read in %1. The file is read back and compared before it is kept.")
                              .arg(QString::fromStdString(reading_frame_name(
                                  session.document().job(), session.document().job().reading_frame))),
                          this);
  told->setWordWrap(true);
  layout->addWidget(told);
  auto* rows = new QFormLayout;
  layout->addLayout(rows);
  format_ = new QComboBox(this);
  format_->setObjectName(QStringLiteral("export.format"));
  for (const Format& format : formats())
    if (format.write) format_->addItem(QString::fromLatin1(format.name), QString::fromLatin1(format.id));
  rows->addRow(tr("Kind"), format_);
  exact_ = new QWidget(this);
  auto* exact = new QFormLayout(exact_);
  exact->setContentsMargins(0, 0, 0, 0);
  unit_ = new QComboBox(exact_);
  unit_->addItems({QStringLiteral("MM"), QStringLiteral("INCH")});
  exact->addRow(tr("Unit of the file"), unit_);
  rows->addRow(exact_);
  mesh_ = new QWidget(this);
  auto* mesh = new QFormLayout(mesh_);
  mesh->setContentsMargins(0, 0, 0, 0);
  deviation_ = new QLineEdit(QStringLiteral("0.05mm"), mesh_);
  deviation_->setObjectName(QStringLiteral("export.deviation"));
  angle_ = new QLineEdit(QStringLiteral("12"), mesh_);
  mesh->addRow(tr("Largest deviation"), deviation_);
  mesh->addRow(tr("Largest angle, degrees"), angle_);
  rows->addRow(mesh_);
  if (session.document().part() && session.document().part()->bodies().size() > 1) {
    bodies_ = new QListWidget(this);
    bodies_->setObjectName(QStringLiteral("export.bodies"));
    for (const Body& body : session.document().part()->bodies()) {
      auto* item = new QListWidgetItem(QString::fromStdString(body.name), bodies_);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
      item->setCheckState(session.document().is_shown(body) ? Qt::Checked : Qt::Unchecked);
    }
    bodies_->setMaximumHeight(140);
    rows->addRow(tr("Bodies"), bodies_);
  }
  auto* buttons = new QDialogButtonBox(this);
  buttons->addButton(tr("Choose the file …"), QDialogButtonBox::AcceptRole)
      ->setObjectName(QStringLiteral("primary"));
  buttons->addButton(tr("Leave"), QDialogButtonBox::RejectRole);
  layout->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(format_, &QComboBox::currentIndexChanged, this, &ExportForm::refresh);
  refresh();
}

const Format& ExportForm::format() const {
  return *format_by_id(format_->currentData().toString().toStdString());
}

void ExportForm::refresh() {
  const std::string id = format().id;
  mesh_->setVisible(id == "stl");
  exact_->setVisible(id == "step" || id == "iges");
  adjustSize();
}

ExportRequest ExportForm::request() const {
  ExportRequest request;
  request.format = format().id;
  request.options.unit = unit_->currentText().toStdString();
  const auto deviation =
      evaluate_length(deviation_->text().toStdString(), session_.document().job().display.unit, {});
  const auto angle = evaluate_angle(angle_->text().toStdString(), {});
  if (deviation && *deviation > 0) request.options.mesh_deviation_mm = *deviation;
  if (angle && *angle > 0) request.options.mesh_angle_rad = *angle;
  for (int i = 0; bodies_ && i < bodies_->count(); ++i)
    if (bodies_->item(i)->checkState() == Qt::Checked) request.bodies.push_back(i);
  return request;
}

}  // namespace anvil::app
