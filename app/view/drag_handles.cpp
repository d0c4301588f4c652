// Dragging the numbers of what is being made by their handles in the view.
#include <QLineF>
#include <QMouseEvent>

#include "app/view/overlay.h"
#include "app/view/view_pane.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

constexpr double kReach_px = 12, kRoundStep_px = 3, kArm_px = Overlay::kHandleArm_px;

}  // namespace

std::optional<NumberHandle> ViewPane::handle_under(const QPointF& position) const {
  for (const NumberHandle& handle : session_.tray().handles())
    if (const auto at = view_->to_screen(handle.knob(kArm_px * view_->mm_per_pixel()));
        at && QLineF(*at, position).length() <= kReach_px)
      return handle;
  return std::nullopt;
}

// "Up to here": the number at which the handle stands level with what lies under the pointer.
std::optional<double> ViewPane::snapped_value(const NumberHandle& handle, const QPointF& position) {
  const double length2 = handle.per_unit.SquareMagnitude();
  for (const Candidate& candidate : finder_.at(position)) {
    const auto given = give(session_.document().job(), session_.document().evaluation(), candidate.reference);
    if (!given || session_.tray().is_picked(candidate.reference)) continue;
    const bool level =
        given->plane && parallel(given->plane->Axis().Direction(), gp_Dir(handle.per_unit), 1e-6);
    if (!level && !given->point) continue;
    const gp_Pnt to = level ? given->plane->Location() : *given->point;
    return handle.value + gp_Vec(handle.at, to).Dot(handle.per_unit) / length2;
  }
  return std::nullopt;
}

// The angles at which an axis of the frame being turned lies along a picked direction.
std::vector<double> ViewPane::lined_up_degrees(const NumberHandle& handle) const {
  const auto& draft = session_.tray().draft();
  if (!draft || draft->solution >= draft->solutions.size()) return {};
  const auto* frame = std::get_if<FrameDatum>(&draft->solutions[draft->solution].value);
  if (!frame) return {};
  const gp_Vec arm(frame->frame.Location(), handle.at), about = arm.Crossed(handle.per_unit);
  if (about.Magnitude() < 1e-9) return {};
  std::vector<double> all;
  for (const Pick& pick : session_.tray().picks()) {
    if (!pick.given.direction) continue;
    const gp_Vec wanted(*pick.given.direction), axis = about.Normalized();
    const gp_Vec flat = wanted - axis * wanted.Dot(axis);
    if (flat.Magnitude() < 1e-6) continue;
    const double turn = degrees(arm.AngleWithRef(flat, axis));
    for (int quarter = -4; quarter <= 4; ++quarter)
      all.push_back(degrees(handle.value) + turn + 90 * quarter);
  }
  return all;
}

// One step of the drag: along the way the handle takes on the screen, to a round number or up to a pick.
void ViewPane::move_handle(const NumberHandle& handle, const QPointF& position) {
  const gp_Pnt knob = handle.knob(kArm_px * view_->mm_per_pixel());
  const auto zero = view_->to_screen(knob);
  const double small = handle.quantity == Quantity::kLength ? 1 : 0.01;
  const auto one = view_->to_screen(knob.Translated(handle.per_unit * small));
  if (!zero || !one) return;
  const QPointF along = (*one - *zero) / small;
  const double pixels2 = QPointF::dotProduct(along, along);
  if (pixels2 < 1e-6) return;  // looked at along its way
  double value = handle.value + QPointF::dotProduct(position - *zero, along) / pixels2;
  const double step = kRoundStep_px / std::sqrt(pixels2);
  if (const auto snapped =
          handle.quantity == Quantity::kLength ? snapped_value(handle, position) : std::nullopt)
    value = *snapped;
  else if (handle.quantity == Quantity::kAngle)
    value = radians(snapped_degrees(degrees(value), degrees(step), lined_up_degrees(handle)));
  else
    value = rounded_to_step(value, step);
  if (handle.quantity == Quantity::kRatio) value = std::clamp(value, 0.0, 1.0);
  session_.tray().set_parameter(handle.parameter,
                                handle_text(handle, value, session_.document().job().display));
}

bool ViewPane::drag_handle(QEvent* event) {
  const bool press = event->type() == QEvent::MouseButtonPress, move = event->type() == QEvent::MouseMove,
             release = event->type() == QEvent::MouseButtonRelease;
  if (!press && !move && !release) return false;
  auto* mouse = static_cast<QMouseEvent*>(event);
  if (press && mouse->button() == Qt::LeftButton) {
    const auto handle = handle_under(mouse->position());
    dragged_parameter_ = handle ? handle->parameter : std::string();
    return handle.has_value();
  }
  if (dragged_parameter_.empty()) return false;
  if (release) {
    dragged_parameter_.clear();
    return true;
  }
  if (!(mouse->buttons() & Qt::LeftButton)) return true;
  for (const NumberHandle& handle : session_.tray().handles())
    if (handle.parameter == dragged_parameter_) {
      move_handle(handle, mouse->position());
      break;
    }
  return true;
}

}  // namespace anvil::app
