#include "app/dialogs/tolerance_form.h"

#include <fmt/format.h>

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "base/expression.h"
#include "job/edits.h"

namespace anvil::app {
ToleranceForm::ToleranceForm(Session& session, QWidget* parent) : QDialog(parent) {
  setObjectName(QStringLiteral("tolerances"));
  setWindowTitle(tr("Tolerances of this job"));
  setAttribute(Qt::WA_DeleteOnClose);
  const Display display = session.document().job().display;
  const QString exact_text = QString::fromStdString(tolerance_text(kExact, display)),
                widest_text = QString::fromStdString(tolerance_text(kWidest, display));
  auto* layout = new QVBoxLayout(this);
  auto* why = new QLabel(
      tr("Exact parts need no more than %1. Widen them where a part was approximated and what belongs "
         "together "
         "is refused: lines that miss each other by a hair, faces that are not quite parallel. At most %2.")
          .arg(exact_text, widest_text),
      this);
  why->setWordWrap(true);
  layout->addWidget(why);
  auto* rows = new QFormLayout;
  layout->addLayout(rows);
  const Tolerance now = session.document().job().tolerance;
  auto* linear =
      new QLineEdit(QString::fromStdString(fmt::format("{:g}", now.linear_mm / mm_per(display.unit))), this);
  auto* angular =
      new QLineEdit(QString::fromStdString(fmt::format("{:.4g}", degrees(now.angular_rad))), this);
  linear->setObjectName(QStringLiteral("tolerances.linear"));
  angular->setObjectName(QStringLiteral("tolerances.angular"));
  rows->addRow(tr("Meets within (%1)").arg(QString::fromLatin1(unit_name(display.unit))), linear);
  rows->addRow(tr("Parallel within (°)"), angular);
  auto* wrong = new QLabel(this);
  wrong->setWordWrap(true);
  layout->addWidget(wrong);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
  auto* exact = buttons->addButton(tr("Exact"), QDialogButtonBox::ResetRole);
  layout->addWidget(buttons);
  connect(exact, &QPushButton::clicked, this, [linear, angular, display] {
    linear->setText(QString::fromStdString(fmt::format("{:g}", kExact.linear_mm / mm_per(display.unit))));
    angular->setText(QString::fromStdString(fmt::format("{:.4g}", degrees(kExact.angular_rad))));
  });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(buttons, &QDialogButtonBox::accepted, this, [=, this, &session] {
    const auto length = evaluate_length(linear->text().toStdString(), display.unit, {});
    const auto angle = evaluate_angle(angular->text().toStdString(), {});
    if (!length || !angle)
      return wrong->setText(
          QString::fromStdString(!length ? length.error().sentence : angle.error().sentence));
    const Tolerance wanted{*length, *angle}, taken = sensible(wanted);
    if (std::abs(taken.linear_mm - wanted.linear_mm) > 1e-9 ||
        std::abs(taken.angular_rad - wanted.angular_rad) > 1e-8)
      return wrong->setText(tr("From %1 to %2 can be taken.").arg(exact_text, widest_text));
    session.document().act(tr("Tolerances"), with_tolerance(session.document().job(), taken),
                           QStringLiteral("tolerances"));
    accept();
  });
}

}  // namespace anvil::app
