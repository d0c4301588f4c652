#include "app/forms/tolerance_form.h"

#include <fmt/format.h>

#include <QLineEdit>

#include "base/expression.h"
#include "job/edits.h"

namespace anvil::app {

ToleranceForm::ToleranceForm(Session& session, QWidget* parent)
    : TrayForm("tolerances", tr("Tolerances of this job"), parent),
      session_(session),
      unit_(session.document().job().display.unit) {
  const Display& display = session.document().job().display;
  say(tr("Exact parts need no more than %1. Widen them where a part was approximated and what belongs "
         "together is refused: lines that miss each other by a hair, faces that are not quite parallel. At "
         "most %2.")
          .arg(QString::fromStdString(tolerance_text(kExact, display)),
               QString::fromStdString(tolerance_text(kWidest, display))));
  linear_ =
      field(tr("Meets within (%1)").arg(QString::fromLatin1(unit_name(unit_))), {}, "tolerances.linear");
  angular_ = field(tr("Parallel within (°)"), {}, "tolerances.angular");
  show_tolerance(session.document().job().tolerance);
  add_button(tr("Exact"), "tolerances.exact", [this] { show_tolerance(kExact); });
  ends_with(tr("Use them"), [this] { return take(); });
}

void ToleranceForm::show_tolerance(const Tolerance& tolerance) {
  linear_->setText(QString::fromStdString(fmt::format("{:g}", tolerance.linear_mm / mm_per(unit_))));
  angular_->setText(QString::fromStdString(fmt::format("{:.4g}", degrees(tolerance.angular_rad))));
}

QString ToleranceForm::take() {
  const auto length = evaluate_length(linear_->text().toStdString(), unit_, {});
  const auto angle = evaluate_angle(angular_->text().toStdString(), {});
  if (!length) return QString::fromStdString(length.error().sentence);
  if (!angle) return QString::fromStdString(angle.error().sentence);
  const Tolerance wanted{*length, *angle}, taken = sensible(wanted);
  const Display& display = session_.document().job().display;
  if (std::abs(taken.linear_mm - wanted.linear_mm) > 1e-9 ||
      std::abs(taken.angular_rad - wanted.angular_rad) > 1e-8)
    return tr("From %1 to %2 can be taken.")
        .arg(QString::fromStdString(tolerance_text(kExact, display)),
             QString::fromStdString(tolerance_text(kWidest, display)));
  session_.document().act(tr("Tolerances"), with_tolerance(session_.document().job(), taken),
                          QStringLiteral("tolerances"));
  return {};
}

}  // namespace anvil::app
