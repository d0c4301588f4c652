// The section of the view: a plane that cuts the part away on one side.
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QToolButton>

#include "app/theme.h"
#include "app/view/view_pane.h"
#include "base/expression.h"
#include "geom/primitives.h"

namespace anvil::app {

void ViewPane::build_section_bar() {
  section_bar_ = new QFrame(this);
  section_bar_->setObjectName(QStringLiteral("view_row"));
  auto* row = new QHBoxLayout(section_bar_);
  row->setContentsMargins(10, 2, 6, 2);
  row->addWidget(new QLabel(tr("Section, moved by"), section_bar_));
  section_field_ = new QLineEdit(section_bar_);
  section_field_->setObjectName(QStringLiteral("section.offset"));
  section_field_->setAccessibleName(tr("Offset of the section"));
  section_field_->setFont(number_font());
  section_field_->setFixedWidth(110);
  row->addWidget(section_field_);
  const auto button = [&](const QString& text, void (ViewPane::*act)()) {
    auto* made = new QToolButton(section_bar_);
    made->setText(text);
    made->setFocusPolicy(Qt::NoFocus);
    connect(made, &QToolButton::clicked, this, act);
    row->addWidget(made);
  };
  button(tr("Other side"), &ViewPane::flip_section);
  button(tr("End the section"), &ViewPane::end_section);
  auto* hint = new QLabel(tr("or drag its handle"), section_bar_);
  hint->setObjectName(QStringLiteral("quiet"));
  row->addWidget(hint);
  row->addStretch(1);
  layout()->addWidget(section_bar_);
  section_bar_->hide();
  connect(section_field_, &QLineEdit::returnPressed, this, [this] {
    const auto typed =
        evaluate_length(section_field_->text().toStdString(), session_.document().job().display.unit, {});
    section_field_->setToolTip(typed ? QString() : QString::fromStdString(typed.error().sentence));
    section_field_->setStyleSheet(typed ? QString()
                                        : QStringLiteral("color: %1;").arg(theme().does_not_fit.name()));
    if (typed) set_section_offset(*typed);
  });
}

void ViewPane::begin_section() {
  const PartPtr part = session_.document().part();
  if (!part) return;
  gp_XYZ sum;
  const std::vector<gp_Pnt> points = outline_points();
  for (const gp_Pnt& p : points) sum += p.XYZ() / static_cast<double>(points.size());
  Section section;
  section.handle = gp_Pnt(sum);
  section.base = gp_Pln(section.handle, view_->camera_view()->Camera()->Direction().Reversed());
  for (const Pick& pick : session_.tray().picks()) {
    if (pick.given.plane)
      section.base = *pick.given.plane;
    else if (pick.given.axis)  // through the axis, as square to the line of sight as that allows
      section.base = gp_Pln(pick.given.axis->Location(),
                            square_to(pick.given.axis->Direction(), section.base.Axis().Direction()));
    else if (pick.given.point)
      section.base.SetLocation(*pick.given.point);
  }
  section.handle = foot_on(section.base, section.handle);
  section_ = section;
  section_bar_->show();
  show_section();
}

void ViewPane::set_section_offset(double mm) {
  if (!section_) return;
  section_->offset_mm = mm;
  show_section();
}

void ViewPane::flip_section() {
  if (!section_) return;
  section_->flipped = !section_->flipped;
  show_section();
}

void ViewPane::end_section() {
  section_.reset();
  section_bar_->hide();
  scene_.set_section(std::nullopt);
  overlay_->set_section(std::nullopt, {});
}

void ViewPane::show_section() {
  const gp_Vec shift = gp_Vec(section_->base.Axis().Direction()) * section_->offset_mm;
  gp_Pln plane = section_->base.Translated(shift);
  const gp_Pnt handle = section_->handle.Translated(shift);
  if (section_->flipped) plane = gp_Pln(plane.Location(), plane.Axis().Direction().Reversed());
  scene_.set_section(plane);
  overlay_->set_section(plane, handle);
  section_field_->setText(
      QString::fromStdString(format_length(section_->offset_mm, session_.document().job().display)));
}

// The handle follows the pointer along the plane's normal as it looks on the screen.
bool ViewPane::drag_section(QEvent* event) {
  if (!section_) return false;
  const bool press = event->type() == QEvent::MouseButtonPress, move = event->type() == QEvent::MouseMove,
             release = event->type() == QEvent::MouseButtonRelease;
  if (!press && !move && !release) return false;
  auto* mouse = static_cast<QMouseEvent*>(event);
  // How far along the normal the pointer is, from the section's base.
  const auto along_normal = [&]() -> std::optional<double> {
    const gp_Vec normal(section_->base.Axis().Direction());
    const auto zero = view_->to_screen(section_->handle),
               one_mm = view_->to_screen(section_->handle.Translated(normal));
    if (!zero || !one_mm) return std::nullopt;
    const QPointF along = *one_mm - *zero;
    const double length2 = QPointF::dotProduct(along, along);
    return length2 > 1e-6 ? std::optional(QPointF::dotProduct(mouse->position() - *zero, along) / length2)
                          : std::nullopt;
  };
  if (press && mouse->button() == Qt::LeftButton && overlay_->is_section_handle(mouse->position())) {
    dragging_section_ = true;
    section_grip_mm_ = section_->offset_mm - along_normal().value_or(section_->offset_mm);
    return true;
  }
  if (!dragging_section_) return false;
  if (release) {
    dragging_section_ = false;
    return true;
  }
  if (const auto at = along_normal()) set_section_offset(*at + section_grip_mm_);
  return true;
}

}  // namespace anvil::app
