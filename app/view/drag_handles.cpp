// Dragging the numbers of what is being made by their handles in the view.
#include <QLineF>
#include <QMouseEvent>
#include <algorithm>

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

// Of lengths that start at one place the first two: taken hold of between them, both are dragged at once.
// None where they are seen edge on.
std::vector<NumberHandle> ViewPane::free_handles() const {
  std::vector<NumberHandle> free;
  for (const NumberHandle& handle : session_.tray().handles())
    if (handle.shares_place && handle.quantity == Quantity::kLength && free.size() < 2 &&
        (free.empty() || free.front().at.Distance(handle.at) < 1e-6))
      free.push_back(handle);
  if (free.size() < 2) return {};
  const gp_Vec square = free[0].per_unit.Crossed(free[1].per_unit);
  const bool edge_on =
      std::abs(square.Normalized().Dot(gp_Vec(view_->camera_view()->Camera()->Direction()))) < 0.1;
  return edge_on ? std::vector<NumberHandle>{} : free;
}

// To where the pointer meets the plane of both, or to a point that lies under it; round numbers otherwise.
void ViewPane::move_freely(const std::vector<NumberHandle>& handles, const QPointF& position) {
  const gp_Vec a = handles[0].per_unit, b = handles[1].per_unit;
  const gp_Dir square(a.Crossed(b));
  const gp_Ax1 ray = view_->ray_at(position);
  const double share = gp_Vec(ray.Direction()).Dot(gp_Vec(square));
  if (std::abs(share) < 1e-9) return;
  gp_Pnt to = ray.Location().Translated(gp_Vec(ray.Direction()) *
                                        (gp_Vec(ray.Location(), handles[0].at).Dot(gp_Vec(square)) / share));
  bool is_round = true;
  for (const Candidate& candidate : finder_.at(position)) {
    const auto given = give(session_.document().job(), session_.document().evaluation(), candidate.reference);
    if (!given || !given->point || session_.tray().is_picked(candidate.reference)) continue;
    to = *given->point;
    is_round = false;
    break;
  }
  const gp_Vec way(handles[0].at, to);
  const double step = kRoundStep_px * view_->mm_per_pixel();
  for (const NumberHandle& handle : handles) {
    const double more = way.Dot(handle.per_unit) / handle.per_unit.SquareMagnitude();
    const double value = is_round ? rounded_to_step(handle.value + more, step) : handle.value + more;
    session_.tray().set_parameter(handle.parameter,
                                  handle_text(handle, value, session_.document().job().display));
  }
}

bool ViewPane::drag_handle(QEvent* event) {
  const bool press = event->type() == QEvent::MouseButtonPress, move = event->type() == QEvent::MouseMove,
             release = event->type() == QEvent::MouseButtonRelease;
  if (!press && !move && !release) return false;
  auto* mouse = static_cast<QMouseEvent*>(event);
  if (press && mouse->button() == Qt::LeftButton) {
    dragged_.clear();
    const auto handle = handle_under(mouse->position());
    if (handle) dragged_.push_back(handle->parameter);
    const std::vector<NumberHandle> free = handle ? std::vector<NumberHandle>{} : free_handles();
    const auto between = free.empty() ? std::nullopt : view_->to_screen(free.front().at);
    if (between && QLineF(*between, mouse->position()).length() <= kReach_px)
      for (const NumberHandle& each : free) dragged_.push_back(each.parameter);
    return !dragged_.empty();
  }
  if (dragged_.empty()) return false;
  if (release) {
    dragged_.clear();
    return true;
  }
  if (!(mouse->buttons() & Qt::LeftButton)) return true;
  std::vector<NumberHandle> held;
  for (const NumberHandle& handle : session_.tray().handles())
    if (std::find(dragged_.begin(), dragged_.end(), handle.parameter) != dragged_.end())
      held.push_back(handle);
  if (held.size() == 1) move_handle(held.front(), mouse->position());
  if (held.size() == 2) move_freely(held, mouse->position());
  return true;
}

}  // namespace anvil::app
