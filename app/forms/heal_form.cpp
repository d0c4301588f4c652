#include "app/forms/heal_form.h"

#include <QCheckBox>
#include <QLineEdit>

#include "base/expression.h"
#include "base/units.h"

namespace anvil::app {

HealForm::HealForm(const HealOptions& start, std::function<void(const HealOptions&)> heal, QWidget* parent)
    : TrayForm("heal_form", tr("Heal the part"), parent) {
  say(tr("The file stays as it came. Healing is an entry of the ledger and can be deleted."));
  sew_ = tick(tr("Sew open borders and loose faces together"), start.sew, "heal.sew");
  fix_ = tick(tr("Put outlines and orientation right"), start.fix, "heal.fix");
  slivers_ = tick(tr("Drop sliver faces and tiny edges"), start.drop_slivers, "heal.slivers");
  unify_ = tick(tr("Join faces that were split"), start.unify, "heal.unify");
  recognise_ = tick(tr("Recognise planes, cylinders, cones, spheres and tori in B-splines"), start.recognise,
                    "heal.recognise");
  tolerance_ =
      field(tr("Gaps up to"), QString::number(start.tolerance_mm) + QStringLiteral("mm"), "heal.tolerance");
  limit_ = field(tr("Move nothing by more than"), QString::number(start.limit_mm) + QStringLiteral("mm"),
                 "heal.limit");
  ends_with(tr("Heal"), [this, heal = std::move(heal)] {
    const auto tolerance = evaluate_length(tolerance_->text().toStdString(), Unit::kMillimetre, {});
    const auto limit = evaluate_length(limit_->text().toStdString(), Unit::kMillimetre, {});
    if (!tolerance) return QString::fromStdString(tolerance.error().sentence);
    if (!limit) return QString::fromStdString(limit.error().sentence);
    if (!(*tolerance > 0) || !(*limit > 0)) return tr("Both lengths are above zero.");
    heal({sew_->isChecked(), fix_->isChecked(), slivers_->isChecked(), unify_->isChecked(),
          recognise_->isChecked(), *tolerance, *limit});
    return QString();
  });
}

}  // namespace anvil::app
