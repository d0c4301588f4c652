#include "app/work_bar.h"

#include <QPainter>

#include "app/theme.h"

namespace anvil::app {
namespace {

constexpr int kWhole = 1000;
constexpr int kSteps = 6;  // from one end to the other

}  // namespace

WorkBar::WorkBar(QWidget* parent) : QProgressBar(parent) {
  setFixedSize(180, 8);
  setTextVisible(false);
  setRange(0, 0);
}

void WorkBar::set_share(double share) {
  const bool known = share >= 0;
  if ((maximum() > 0) != known) setRange(0, known ? kWhole : 0);
  if (known) return setValue(static_cast<int>(share * kWhole));
  step_ = (step_ + 1) % kSteps;
  update();
}

// The style would begin an animation of its own where the end is not known.
void WorkBar::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QRectF groove = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
  const double radius = groove.height() / 2;
  painter.setPen(theme().line);
  painter.setBrush(theme().field);
  painter.drawRoundedRect(groove, radius, radius);
  const bool known = maximum() > 0;
  const double from = known ? 0 : static_cast<double>(step_) / kSteps;
  const double wide = known ? static_cast<double>(value()) / kWhole : 1.0 / kSteps;
  const QRectF done(groove.left() + from * groove.width(), groove.top(), wide * groove.width(),
                    groove.height());
  if (done.width() < 1) return;
  painter.setPen(Qt::NoPen);
  painter.setBrush(theme().accent);
  painter.drawRoundedRect(done.adjusted(0.5, 0.5, -0.5, -0.5), radius, radius);
}

}  // namespace anvil::app
