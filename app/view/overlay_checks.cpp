// What the checks found, over the part: what the cutter in mind leaves, the passage and the pattern chosen in
// a table, and how far holes are from where a list wants them.
#include <QPainterPath>

#include "app/theme.h"
#include "app/view/overlay.h"
#include "app/view/strokes.h"
#include "base/units.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

// Deviations are drawn so long that the largest is told apart from the hole itself, and the scale is told.
constexpr double kLongest_px = 60;
constexpr double kScales[] = {1, 2, 5, 10, 20, 50, 100, 200, 500};

}  // namespace

// Hatched at the top of each run of like layers, with its outline at the foot.
void Overlay::draw_left(QPainter& painter) {
  const auto left = session_.checks().left();
  if (!left || !session_.checks().cutter_mm()) return;
  const gp_Trsf& placed = session_.document().evaluation().placement;
  const gp_Vec up(session_.checks().corners()->options.axis);
  const auto path_at = [&](const LeftLayer& layer, double lift) {
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    for (const std::vector<gp_Pnt>& outline : layer.outlines) {
      QPolygonF polygon;
      for (const gp_Pnt& p : outline)
        if (const auto at = view_.to_screen(p.Translated(up * lift).Transformed(placed))) polygon << *at;
      if (!polygon.isEmpty()) polygon << polygon.front();
      path.addPolygon(polygon);
    }
    return path;
  };
  const QColor colour = theme().does_not_fit;
  painter.setPen(QPen(colour, 1));
  for (size_t i = 0; i < left->layers.size(); ++i) {
    const LeftLayer& layer = left->layers[i];
    const bool same_above = i > 0 && std::abs(left->layers[i - 1].area_mm2 - layer.area_mm2) < 1e-6 &&
                            std::abs(left->layers[i - 1].bottom_mm - layer.top_mm) < 1e-9;
    if (!same_above) {
      painter.setBrush(faded(colour, 0.16));
      const QPainterPath top = path_at(layer, layer.top_mm - layer.bottom_mm);
      painter.drawPath(top);
      painter.setBrush(QBrush(colour, Qt::BDiagPattern));
      painter.drawPath(top);
    }
    const bool same_below = i + 1 < left->layers.size() &&
                            std::abs(left->layers[i + 1].area_mm2 - layer.area_mm2) < 1e-6 &&
                            std::abs(left->layers[i + 1].top_mm - layer.bottom_mm) < 1e-9;
    if (same_below) continue;
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(path_at(layer, 0));
  }
}

void Overlay::draw_passage(QPainter& painter) {
  const auto& passage = session_.checks().shown_passage();
  if (!passage) return;
  const gp_Trsf& placed = session_.document().evaluation().placement;
  const auto a = view_.to_screen(passage->on_a.Transformed(placed)),
             b = view_.to_screen(passage->on_b.Transformed(placed));
  if (!a || !b) return;
  painter.setPen(QPen(theme().panel, 5));
  painter.drawLine(*a, *b);
  painter.setPen(QPen(theme().does_not_fit, 2.2));
  painter.drawLine(*a, *b);
  painter.setBrush(theme().does_not_fit);
  for (const QPointF& end : {*a, *b}) painter.drawEllipse(end, 3.5, 3.5);
  const QString width =
      QString::fromStdString(format_length(passage->width_mm, session_.document().job().display));
  draw_label(painter, (*a + *b) / 2 + QPointF(10, -10),
             (passage->approximate ? tr("passage ≈ %1") : tr("passage %1")).arg(width), theme().ink);
}

// The row's line, the circle, the grid's lines or the mirror's line through the holes.
void Overlay::draw_pattern(QPainter& painter) {
  const auto holes = session_.checks().holes();
  const int index = session_.checks().shown_pattern();
  if (!holes || index < 0 || index >= static_cast<int>(holes->patterns.size())) return;
  const HolePattern& pattern = holes->patterns[static_cast<size_t>(index)];
  const gp_Trsf& placed = session_.document().evaluation().placement;
  const auto screen = [&](const gp_Pnt& p) { return view_.to_screen(p.Transformed(placed)); };
  QPen line(theme().accent, 1.6);
  line.setDashPattern({9, 3, 2, 3});
  painter.setPen(line);
  painter.setBrush(Qt::NoBrush);
  if (pattern.kind == HolePattern::Kind::kCircle) {
    const gp_Ax2 frame = make_frame(pattern.centre, pattern.normal, pattern.direction);
    QPolygonF circle;
    for (int i = 0; i <= 72; ++i) {
      const double t = 2 * kPi * i / 72, r = pattern.pitch_mm / 2;
      if (const auto at = screen(pattern.centre.Translated(gp_Vec(frame.XDirection()) * (r * std::cos(t)) +
                                                           gp_Vec(frame.YDirection()) * (r * std::sin(t)))))
        circle << *at;
    }
    painter.drawPolyline(circle);
    if (const auto at = screen(pattern.centre)) painter.drawEllipse(*at, 4, 4);
    return;
  }
  QPolygonF along;
  for (const int hole : pattern.holes)
    if (const auto at = screen(holes->holes[static_cast<size_t>(hole)].entry)) along << *at;
  if (pattern.kind == HolePattern::Kind::kGrid) {
    for (int i = 0; i + 1 < along.size(); ++i)
      if ((i + 1) % pattern.columns != 0) painter.drawLine(along[i], along[i + 1]);
    for (int i = 0; i + pattern.columns < along.size(); ++i)
      painter.drawLine(along[i], along[i + pattern.columns]);
    return;
  }
  if (pattern.kind == HolePattern::Kind::kMirror) {
    for (int i = 0; i + 1 < along.size(); i += 2) painter.drawLine(along[i], along[i + 1]);
    return;
  }
  painter.drawPolyline(along);
}

// An arrow from where the list has each hole to where it is, drawn larger than it is, and a cross where one
// is missing.
void Overlay::draw_comparison(QPainter& painter) {
  if (!comparison_shown_ || !session_.checks().hole_list()) return;
  const Checks::Compared& compared = session_.checks().comparison();
  const gp_Trsf out = into_frame(session_.document().frame()).Inverted();
  double longest = 0;
  for (const ComparedHole& row : compared.rows)
    if (row.state == ComparedHole::State::kFail && row.position_fails)
      longest = std::max(longest, row.true_position_mm / 2);
  double scale = 1;
  for (const double step : kScales)
    if (longest * step / view_.mm_per_pixel() <= kLongest_px) scale = step;
  for (const ComparedHole& row : compared.rows) {
    if (row.state == ComparedHole::State::kPass || row.listed_index < 0) continue;
    const gp_Pnt at = session_.checks().hole_list()->holes[static_cast<size_t>(row.listed_index)].at;
    const auto from = view_.to_screen(at.Transformed(out));
    if (!from) continue;
    painter.setPen(QPen(theme().does_not_fit, 2));
    painter.setBrush(Qt::NoBrush);
    if (row.state == ComparedHole::State::kFail) {
      painter.drawEllipse(*from, 4, 4);
      if (const auto to = view_.to_screen(at.Translated(row.deviation * scale).Transformed(out)))
        painter.drawLine(*from, *to);
    } else {
      painter.drawLine(*from - QPointF(6, 6), *from + QPointF(6, 6));
      painter.drawLine(*from - QPointF(6, -6), *from + QPointF(6, -6));
    }
    draw_label(painter, *from + QPointF(10, -8), QString::fromStdString(row.listed), theme().does_not_fit);
  }
  if (longest > 0) draw_label(painter, QPointF(12, 68), tr("deviations × %1").arg(scale), theme().ink);
}

}  // namespace anvil::app
