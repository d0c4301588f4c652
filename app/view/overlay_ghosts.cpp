// What is being made, before it is kept: the draft or the offer pointed at, where the part would stand, and
// which of several solutions lies under the pointer.
#include <QLineF>

#include "app/theme.h"
#include "app/view/datum_shapes.h"
#include "app/view/overlay.h"
#include "app/view/strokes.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "part/measure.h"

namespace anvil::app {

const std::vector<Solution>* Overlay::ghost_solutions(size_t& preferred) const {
  preferred = 0;
  const int previewed = session_.tray().previewed();
  if (previewed >= 0 && previewed < static_cast<int>(session_.tray().offers().size())) {
    preferred = session_.tray().offers()[previewed].preferred;
    return &session_.tray().offers()[previewed].solutions;
  }
  if (!session_.tray().draft() && session_.tray().picks().size() > 1 && session_.tray().can_keep()) {
    preferred = session_.tray().offers().front().preferred;  // what Enter would take
    return &session_.tray().offers().front().solutions;
  }
  if (!session_.tray().draft()) return nullptr;
  preferred = session_.tray().draft()->solution;
  return &session_.tray().draft()->solutions;
}

void Overlay::draw_ghosts(QPainter& painter) {
  if (session_.checks().previewed_seat()) return ghost_ ? draw_seat(painter) : void();
  size_t preferred = 0;
  const std::vector<Solution>* solutions = ghost_solutions(preferred);
  if (!solutions || solutions->empty()) return;
  if (std::holds_alternative<PlacementStep>((*solutions)[preferred].value))
    return ghost_ ? draw_placed_box(painter) : void();
  for (size_t i = 0; i < solutions->size(); ++i)
    if (i != preferred) draw_value(painter, (*solutions)[i].value, theme().ghost, {}, true, 0.35);
  draw_value(painter, (*solutions)[preferred].value, theme().ghost, {}, true, 1.0);
}

// Worked out when something changes, not with every frame: where the part would stand, and its box there.
void Overlay::refresh_ghost() {
  ghost_.reset();
  update();
  const PartPtr part = session_.document().part();
  if (!part) return;
  if (const auto& seat = session_.checks().previewed_seat()) {
    ghost_ = {*seat, {}, {}};
  } else {
    size_t preferred = 0;
    const std::vector<Solution>* solutions = ghost_solutions(preferred);
    if (!solutions || solutions->empty()) return;
    if (const auto* step = std::get_if<PlacementStep>(&(*solutions)[preferred].value))
      ghost_ = {step->motion, {}, {}};
  }
  if (!ghost_) return;
  const gp_Trsf& lies = session_.document().evaluation().placement;
  ghost_->box = placed_box(*part, ghost_->motion * lies);
  if (!session_.checks().shown_faces().empty())
    ghost_->at = area_properties(part->topology().faces[session_.checks().shown_faces().front()].face)
                     .centroid.Transformed(lies);
}

void Overlay::draw_box_sizes(QPainter& painter, const gp_Pnt& where, const Box& box) {
  const Display& d = session_.document().job().display;
  const auto text = [&](int axis) {
    return QString::fromStdString(format_length(coordinate(box.size(), axis), d));
  };
  if (const auto at = view_.to_screen(where))
    draw_label(painter, *at + QPointF(12, 26), QStringLiteral("%1 × %2 × %3").arg(text(0), text(1), text(2)),
               theme().ghost);
}

// Where the part would stand: its box, moved, with its sizes, and the zero it is moved to.
void Overlay::draw_placed_box(QPainter& painter) {
  const Box& box = ghost_->box.box;
  painter.setPen(pen(theme().ghost, 1.6, Qt::DashLine));
  draw_box_lines(painter, box.min.XYZ(), box.max.XYZ(), world_frame());
  draw_frame(painter, world_frame(), 1.0, true);
  if (ghost_->box.exact) draw_box_sizes(painter, gp_Pnt(box.max.X(), box.min.Y(), box.max.Z()), box);
}

// A seat is shown on the part as it lies now: which way is up and where X goes; the face it stands on is lit.
void Overlay::draw_seat(QPainter& painter) {
  if (!ghost_->at) return;
  gp_Ax2 stand = world_frame().Transformed(ghost_->motion.Inverted());
  stand.SetLocation(*ghost_->at);
  draw_frame(painter, stand, 1.0, true);
  if (ghost_->box.exact) draw_box_sizes(painter, *ghost_->at, ghost_->box.box);
}

bool Overlay::is_flip_at(const QPointF& position) const {
  return is_tip_at(position, true);
}

bool Overlay::is_quarter_turn_at(const QPointF& position) const {
  return is_tip_at(position, false);
}

bool Overlay::is_tip_at(const QPointF& position, bool of_z) const {
  const auto& draft = session_.tray().draft();
  if (!draft || draft->solution >= draft->solutions.size()) return false;
  const auto* datum = std::get_if<FrameDatum>(&draft->solutions[draft->solution].value);
  if (!datum) return false;
  const gp_Ax2& frame = datum->frame;
  const double arm = kFrameArm_px * view_.mm_per_pixel();
  const gp_Vec axis(of_z ? frame.Direction() : frame.YDirection());
  const auto tip = view_.to_screen(frame.Location().Translated(axis * arm)),
             zero = view_.to_screen(frame.Location());
  // Looked at along the axis its tip lies on the zero, where the part is meant.
  return tip && zero && QLineF(*tip, *zero).length() > 14 && QLineF(*tip, position).length() <= 9;
}

int Overlay::ghost_at(const QPointF& position) const {
  if (!session_.tray().draft() || session_.tray().draft()->solutions.size() < 2) return -1;
  const Draft& draft = *session_.tray().draft();
  const auto near = [&](const gp_Pnt& p, double pixels) {
    const auto screen = view_.to_screen(p);
    return screen && QLineF(*screen, position).length() <= pixels;
  };
  const auto* now = std::get_if<FrameDatum>(&draft.solutions[draft.solution].value);
  const double arm = kFrameArm_px * view_.mm_per_pixel();
  int fallback = -1;
  for (size_t i = 0; i < draft.solutions.size(); ++i) {
    if (i == draft.solution) continue;
    const DatumValue& value = draft.solutions[i].value;
    if (const auto* frame = std::get_if<FrameDatum>(&value)) {
      // A click on the tip of an axis means "X here"; of the arrangements with that X the one with the
      // present Z is taken.
      if (!near(frame->frame.Location().Translated(gp_Vec(frame->frame.XDirection()) * arm), 10)) continue;
      if (now && frame->frame.Direction().IsEqual(now->frame.Direction(), 1e-6)) return static_cast<int>(i);
      fallback = static_cast<int>(i);
    } else if (near(datum_anchor(value), 14)) {
      return static_cast<int>(i);
    }
  }
  return fallback;
}

}  // namespace anvil::app
