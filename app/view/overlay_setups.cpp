// Setups over the part: the work zero of every shown one, and of the one that is read in its stock and the
// tool planes, each with the tool's direction.
#include "app/theme.h"
#include "app/view/overlay.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

constexpr double kToolArm_px = 46;

}  // namespace

void Overlay::draw_setups(QPainter& painter) {
  for (const Entry& entry : session_.document().job().entries) {
    const auto at = session_.document().evaluation().entries.find(entry.id);
    if (!entry.setup() || !entry.visible || at == session_.document().evaluation().entries.end() ||
        !at->second.setup)
      continue;
    const SetupValue& value = *at->second.setup;
    const bool in_use =
        session_.document().job().reading_frame == entry.id || session_.desk().opened_setup_id() == entry.id;
    draw_value(painter, FrameDatum{value.frame}, theme().datum,
               QString::fromStdString(reading_frame_name(session_.document().job(), entry.id)), false,
               in_use ? 1.0 : 0.5);
    if (!in_use) continue;
    if (value.stock) draw_stock(painter, *value.stock);
    for (size_t i = 1; i < value.planes.size(); ++i)
      draw_tool_plane(painter, value.planes[i], static_cast<int>(i) == session_.document().job().tool_plane);
  }
}

void Overlay::draw_stock(QPainter& painter, const StockBlock& stock) {
  QPen pen(theme().accent, 1.2, Qt::DashDotLine);
  painter.setPen(pen);
  if (!stock.round) return draw_box_lines(painter, stock.box.min.XYZ(), stock.box.max.XYZ(), stock.frame);
  const gp_Trsf out = into_frame(stock.frame).Inverted();
  const int own = stock.along - 'X', u = (own + 1) % 3, v = (own + 2) % 3;
  const double radius = stock_diameter(stock) / 2;
  const gp_XYZ centre = stock.box.centre().XYZ();
  constexpr int kSides = 48;
  QPolygonF ends[2];
  for (int i = 0; i <= kSides; ++i) {
    const double t = 2 * kPi * i / kSides;
    for (const bool upper : {false, true}) {
      gp_XYZ p = centre;
      set_coordinate(p, own, coordinate(upper ? stock.box.max : stock.box.min, own));
      set_coordinate(p, u, coordinate(centre, u) + radius * std::cos(t));
      set_coordinate(p, v, coordinate(centre, v) + radius * std::sin(t));
      if (const auto at = view_.to_screen(gp_Pnt(p).Transformed(out))) ends[upper ? 1 : 0] << *at;
    }
  }
  painter.setBrush(Qt::NoBrush);
  for (const QPolygonF& end : ends) painter.drawPolyline(end);
  for (int i = 0; i < kSides; i += kSides / 4)
    if (ends[0].size() > i && ends[1].size() > i) painter.drawLine(ends[0][i], ends[1][i]);
}

// Its zero, the way back along the tool, and X.
void Overlay::draw_tool_plane(QPainter& painter, const PlaneValue& plane, bool active) {
  const double arm = kToolArm_px * view_.mm_per_pixel();
  const gp_Pnt zero = plane.frame.Location();
  const auto from = view_.to_screen(zero),
             back = view_.to_screen(zero.Translated(gp_Vec(plane.frame.Direction()) * arm)),
             x = view_.to_screen(zero.Translated(gp_Vec(plane.frame.XDirection()) * (arm * 0.5)));
  if (!from || !back || !x) return;
  const QColor colour = plane.problem.empty() ? theme().axis_z : theme().does_not_fit;
  painter.setPen(QPen(colour, active ? 3.2 : 1.8, Qt::SolidLine, Qt::RoundCap));
  painter.drawLine(*from, *back);
  painter.setPen(QPen(theme().axis_x, active ? 2.4 : 1.4, Qt::SolidLine, Qt::RoundCap));
  painter.drawLine(*from, *x);
  painter.setPen(Qt::NoPen);
  painter.setBrush(colour);
  painter.drawEllipse(*back, 3, 3);
  draw_label(painter, *back + QPointF(8, -6), QString::fromStdString(plane.name), colour);
}

}  // namespace anvil::app
