#include "app/dialogs/heal_form.h"

#include <QCheckBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "base/expression.h"
#include "base/units.h"

namespace anvil::app {

HealForm::HealForm(const HealOptions& start, QWidget* parent) : QDialog(parent), start_(start) {
  setObjectName(QStringLiteral("heal_form"));
  setWindowTitle(tr("Heal the part"));
  auto* layout = new QVBoxLayout(this);
  auto* told = new QLabel(
      tr("The file stays as it came. Healing is an entry of the ledger and can be deleted."), this);
  told->setWordWrap(true);
  layout->addWidget(told);
  const auto box = [&](const QString& text, bool on, const char* name) {
    auto* made = new QCheckBox(text, this);
    made->setObjectName(QString::fromLatin1(name));
    made->setChecked(on);
    layout->addWidget(made);
    return made;
  };
  sew_ = box(tr("Sew open borders and loose faces together"), start.sew, "heal.sew");
  fix_ = box(tr("Put outlines and orientation right"), start.fix, "heal.fix");
  slivers_ = box(tr("Drop sliver faces and tiny edges"), start.drop_slivers, "heal.slivers");
  unify_ = box(tr("Join faces that were split"), start.unify, "heal.unify");
  recognise_ = box(tr("Recognise planes, cylinders, cones, spheres and tori in B-splines"), start.recognise,
                   "heal.recognise");
  auto* rows = new QFormLayout;
  layout->addLayout(rows);
  tolerance_ = new QLineEdit(QString::number(start.tolerance_mm) + QStringLiteral("mm"), this);
  limit_ = new QLineEdit(QString::number(start.limit_mm) + QStringLiteral("mm"), this);
  tolerance_->setObjectName(QStringLiteral("heal.tolerance"));
  limit_->setObjectName(QStringLiteral("heal.limit"));
  rows->addRow(tr("Gaps up to"), tolerance_);
  rows->addRow(tr("Move nothing by more than"), limit_);
  auto* buttons = new QDialogButtonBox(this);
  buttons->addButton(tr("Heal"), QDialogButtonBox::AcceptRole)->setObjectName(QStringLiteral("primary"));
  buttons->addButton(tr("Leave"), QDialogButtonBox::RejectRole);
  layout->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

HealOptions HealForm::options() const {
  HealOptions o{sew_->isChecked(),       fix_->isChecked(),   slivers_->isChecked(), unify_->isChecked(),
                recognise_->isChecked(), start_.tolerance_mm, start_.limit_mm};
  const auto length = [](const QLineEdit* field, double otherwise) {
    const auto typed = evaluate_length(field->text().toStdString(), Unit::kMillimetre, {});
    return typed && *typed > 0 ? *typed : otherwise;
  };
  o.tolerance_mm = length(tolerance_, o.tolerance_mm);
  o.limit_mm = length(limit_, o.limit_mm);
  return o;
}

}  // namespace anvil::app
