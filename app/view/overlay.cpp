#include "app/view/overlay.h"

#include <QLineF>

#include "app/theme.h"
#include "app/view/datum_shapes.h"
#include "app/view/strokes.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "report/json_reports.h"

namespace anvil::app {
Overlay::Overlay(OccView& view, const Session& session) : QWidget(&view), view_(view), session_(session) {
  setAttribute(Qt::WA_TransparentForMouseEvents);
  setAttribute(Qt::WA_NoSystemBackground);
}

void Overlay::set_hover(const std::optional<Candidate>& candidate, const QString& text) {
  hover_ = candidate;
  hover_text_ = text;
  lying_here_.clear();
  update();
}

void Overlay::tell_what_lies_here(const QPointF& pointer, const QStringList& texts, int marked) {
  marked_here_ = marked;
  pointer_ = pointer;
  lying_here_ = texts;
  update();
}

void Overlay::set_rectangle(const QRectF& area, bool touching) {
  rectangle_ = area;
  touching_ = touching;
  update();
}

void Overlay::set_corner_line(const QString& text, const QColor& colour, const QString& note) {
  corner_line_ = text;
  corner_note_ = note;
  corner_colour_ = colour;
  update();
}

void Overlay::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setFont(number_font());
  // Labels keep off the numbers of picks, and off each other.
  find_badges();
  taken_.clear();
  for (const auto& badge : badges_)
    if (badge) taken_.emplace_back(*badge - QPointF(11, 11), QSizeF(22, 22));
  draw_left(painter);
  draw_box(painter);
  draw_datums(painter);
  draw_setups(painter);
  draw_ghosts(painter);
  draw_handles(painter);
  draw_section(painter);
  draw_pattern(painter);
  draw_passage(painter);
  draw_comparison(painter);
  draw_place(painter);
  draw_picks(painter);
  draw_hover(painter);
  draw_triad(painter);
  const auto fitting = [&](const QString& text) {
    return QFontMetricsF(painter.font()).elidedText(text, Qt::ElideRight, width() - 20);
  };
  if (!corner_line_.isEmpty()) draw_label(painter, QPointF(12, 20), fitting(corner_line_), corner_colour_);
  if (!corner_note_.isEmpty()) draw_label(painter, QPointF(12, 44), fitting(corner_note_), theme().ink);
  if (rectangle_.isEmpty()) return;
  painter.setPen(pen(theme().accent, 1, touching_ ? Qt::DashLine : Qt::SolidLine));
  painter.setBrush(faded(theme().accent, 0.10));
  painter.drawRect(rectangle_);
}

// Where it was wanted, or the nearest row above or below that is free.
QRectF Overlay::free_place_for(const QRectF& wanted) {
  constexpr int kMostRows = 6;
  const auto is_free = [&](const QRectF& box) {
    return box.top() >= 0 && box.bottom() <= height() &&
           std::none_of(taken_.begin(), taken_.end(), [&](const QRectF& one) { return one.intersects(box); });
  };
  QRectF place = wanted;
  for (int row = 0; row <= 2 * kMostRows && !is_free(place); ++row) {
    const int way = row % 2 ? -1 : 1;
    const int rows_off = row / 2 + 1;
    place = wanted.translated(0, way * rows_off * (wanted.height() + 1));
  }
  if (!is_free(place)) place = wanted;
  taken_.push_back(place);
  return place;
}

void Overlay::draw_label(QPainter& painter, const QPointF& at, const QString& text, const QColor& colour) {
  const QFontMetricsF metrics(painter.font());
  QRectF box = metrics.boundingRect(text).translated(at).adjusted(-5, -3, 5, 3);
  box.moveLeft(std::clamp(box.left(), 2.0, std::max(2.0, width() - box.width() - 2)));
  box.moveTop(std::clamp(box.top(), 2.0, std::max(2.0, height() - box.height() - 2)));
  box = free_place_for(box);
  painter.setPen(Qt::NoPen);
  painter.setBrush(faded(theme().panel, 0.86));
  painter.drawRoundedRect(box, 4, 4);
  painter.setPen(colour);
  painter.drawText(box, Qt::AlignCenter, text);
}

void Overlay::draw_badge(QPainter& painter, const QPointF& at, int number) {
  constexpr double kRadius = 10;
  painter.setPen(pen(theme().panel, 1.5));
  painter.setBrush(theme().pick(number - 1));
  painter.drawEllipse(at, kRadius, kRadius);
  painter.setPen(theme().dark ? QColor(0x1A1A1A) : QColor(0xFFFFFF));
  QFont font = number_font();
  font.setStyleName(QStringLiteral("SemiBold"));
  painter.setFont(font);
  painter.drawText(QRectF(at.x() - kRadius, at.y() - kRadius, 2 * kRadius, 2 * kRadius), Qt::AlignCenter,
                   QString::number(number));
  painter.setFont(number_font());
}

// A setup that is shown is drawn in the place of the frame it is zeroed in.
bool Overlay::stands_for_setup(int frame) const {
  const auto& entries = session_.document().job().entries;
  return std::any_of(entries.begin(), entries.end(), [&](const Entry& entry) {
    if (!entry.setup() || !entry.visible) return false;
    const auto* to = std::get_if<EntryReference>(&entry.setup()->frame.target);
    return to && to->entry == frame;
  });
}

void Overlay::draw_datums(QPainter& painter) {
  for (const Entry& entry : session_.document().job().entries) {
    const auto at = session_.document().evaluation().entries.find(entry.id);
    if (!entry.datum() || !entry.visible || at == session_.document().evaluation().entries.end() ||
        !at->second.value)
      continue;
    if (session_.tray().draft() && session_.tray().draft()->editing_entry == entry.id) continue;
    if (stands_for_setup(entry.id)) continue;
    const bool asks = at->second.state == EntryState::kAttention && at->second.fresh;
    const bool good = at->second.state == EntryState::kCurrent || asks;
    const QColor own = asks ? theme().does_not_fit : entry.colour ? on_screen(*entry.colour) : theme().datum;
    QString name = QString::fromStdString(entry.name);
    if (session_.document().job().reading_frame == entry.id)
      name = QString::fromStdString(reading_frame_name(session_.document().job(), entry.id));
    draw_value(painter, *at->second.value, good ? own : theme().quiet_ink, name, false, good ? 1.0 : 0.5);
  }
}

void Overlay::draw_value(QPainter& painter, const DatumValue& value, const QColor& colour,
                         const QString& name, bool ghost, double opacity) {
  if (const auto* frame = std::get_if<FrameDatum>(&value)) {
    draw_frame(painter, frame->frame, opacity, ghost);
  } else if (const auto* m = std::get_if<Measurement>(&value)) {
    draw_measurement(painter, *m, faded(colour, opacity));
  } else {
    if (const auto* plane = std::get_if<PlaneDatum>(&value)) {
      QPolygonF outline;
      for (const gp_Pnt& corner : plane_corners(*plane))
        if (auto p = view_.to_screen(corner)) outline << *p;
      painter.setPen(Qt::NoPen);
      painter.setBrush(faded(colour, (ghost ? 0.16 : 0.07) * opacity));
      painter.drawPolygon(outline);
    }
    const bool is_axis = std::holds_alternative<AxisDatum>(value);
    painter.setPen(is_axis ? long_dash(faded(colour, opacity), 1.6)
                           : pen(faded(colour, opacity), ghost ? 2.2 : 1.6));
    for (const auto& [a, b] : datum_segments(value, view_.mm_per_pixel())) {
      const auto p = view_.to_screen(a), q = view_.to_screen(b);
      if (p && q) painter.drawLine(*p, *q);
    }
  }
  if (name.isEmpty()) return;
  if (auto anchor = view_.to_screen(datum_anchor(value))) {
    const bool is_frame = std::holds_alternative<FrameDatum>(value);  // its arms take the other side
    draw_label(painter, *anchor + (is_frame ? QPointF(-70, 20) : QPointF(8, -8)), name, colour);
  }
}

void Overlay::draw_frame(QPainter& painter, const gp_Ax2& frame, double opacity, bool dashed) {
  const auto zero = view_.to_screen(frame.Location());
  if (!zero) return;
  const double arm = kFrameArm_px * view_.mm_per_pixel();
  const std::tuple<gp_Dir, QColor, const char*> arms[] = {{frame.XDirection(), theme().axis_x, "X"},
                                                          {frame.YDirection(), theme().axis_y, "Y"},
                                                          {frame.Direction(), theme().axis_z, "Z"}};
  for (const auto& [direction, colour, letter] : arms) {
    const auto tip = view_.to_screen(frame.Location().Translated(gp_Vec(direction) * arm));
    if (!tip) continue;
    painter.setPen(pen(faded(colour, opacity), 2.4, dashed ? Qt::DashLine : Qt::SolidLine));
    painter.drawLine(*zero, *tip);
    if (QLineF(*zero, *tip).length() < 12) continue;
    painter.setPen(faded(colour, opacity));
    const QPointF beyond = *tip + (*tip - *zero) * (9 / QLineF(*zero, *tip).length());
    painter.drawText(QRectF(beyond.x() - 8, beyond.y() - 8, 16, 16), Qt::AlignCenter,
                     QString::fromLatin1(letter));
  }
  painter.setPen(Qt::NoPen);
  painter.setBrush(faded(theme().ink, opacity));
  painter.drawEllipse(*zero, 3, 3);
}

void Overlay::draw_measurement(QPainter& painter, const Measurement& m, const QColor& colour) {
  const auto a = view_.to_screen(m.from), b = view_.to_screen(m.to);
  if (!a || !b) return;
  painter.setPen(pen(colour, 1.6));
  painter.drawLine(*a, *b);
  painter.setBrush(colour);
  for (const QPointF& end : {*a, *b}) painter.drawEllipse(end, 2.5, 2.5);
  const std::string text = measurement_text({m.kind, m.value, {}, {}, {}}, session_.document().job().display);
  draw_label(painter, (*a + *b) / 2 + QPointF(6, 16), QString::fromStdString(text), colour);
}

void Overlay::draw_box_lines(QPainter& painter, const gp_XYZ& low, const gp_XYZ& high, const gp_Ax2& frame) {
  const gp_Trsf out = into_frame(frame).Inverted();
  const auto corner = [&](int i) {
    return gp_Pnt(i & 1 ? high.X() : low.X(), i & 2 ? high.Y() : low.Y(), i & 4 ? high.Z() : low.Z())
        .Transformed(out);
  };
  for (int i = 0; i < 8; ++i) {
    for (int bit : {1, 2, 4}) {
      if (i & bit) continue;
      const auto a = view_.to_screen(corner(i)), b = view_.to_screen(corner(i | bit));
      if (a && b) painter.drawLine(*a, *b);
    }
  }
}

void Overlay::set_comparison_shown(bool shown) {
  comparison_shown_ = shown;
  update();
}

void Overlay::set_box_shown(bool shown) {
  box_shown_ = shown;
  update();
}

// The box in the reading frame, each edge it shows best with its length.
void Overlay::draw_box(QPainter& painter) {
  if (!box_shown_ || !session_.checks().box()) return;
  const gp_XYZ low = session_.checks().box()->min.XYZ(), high = session_.checks().box()->max.XYZ();
  painter.setPen(pen(theme().quiet_ink, 1.2, Qt::DashLine));
  draw_box_lines(painter, low, high, session_.document().frame());
  const gp_Trsf out = into_frame(session_.document().frame()).Inverted();
  const Display& d = session_.document().job().display;
  for (int axis = 0; axis < 3; ++axis) {
    gp_XYZ middle = axis == 2 ? gp_XYZ(high.X(), low.Y(), 0) : gp_XYZ(low.X(), low.Y(), low.Z());
    if (axis == 1) middle.SetX(high.X());
    set_coordinate(middle, axis, (coordinate(low, axis) + coordinate(high, axis)) / 2);
    static const QColor Theme::*const kColours[] = {&Theme::axis_x, &Theme::axis_y, &Theme::axis_z};
    if (const auto at = view_.to_screen(gp_Pnt(middle).Transformed(out)))
      draw_label(
          painter, *at,
          QStringLiteral("%1 %2")
              .arg(QChar(u"XYZ"[axis]), 0)
              .arg(QString::fromStdString(format_length(coordinate(high, axis) - coordinate(low, axis), d))),
          theme().*kColours[axis]);
  }
}

void Overlay::set_section(const std::optional<gp_Pln>& plane, const gp_Pnt& handle) {
  section_ = plane;
  section_handle_ = handle;
  update();
}

bool Overlay::is_section_handle(const QPointF& position) const {
  if (!section_) return false;
  const auto at = view_.to_screen(section_handle_);
  return at && QLineF(*at, position).length() <= 12;
}

// A round handle with the direction it moves in.
void Overlay::draw_handle(QPainter& painter, const gp_Pnt& handle, const gp_Dir& along) {
  const auto at = view_.to_screen(handle);
  const double arm = 0.7 * kHandleArm_px * view_.mm_per_pixel();
  for (const double sense : {1.0, -1.0}) {
    const auto tip = view_.to_screen(handle.Translated(gp_Vec(along) * (arm * sense)));
    if (!at || !tip) continue;
    painter.setPen(pen(theme().accent, 2.4));
    painter.drawLine(*at, *tip);
  }
  if (!at) return;
  painter.setPen(pen(theme().panel, 2));
  painter.setBrush(theme().accent);
  painter.drawEllipse(*at, 8, 8);
}

void Overlay::draw_section(QPainter& painter) {
  if (section_) draw_handle(painter, section_handle_, section_->Axis().Direction());
}

void Overlay::draw_handles(QPainter& painter) {
  if (session_.tray().previewed() >= 0) return;
  for (const NumberHandle& handle : session_.tray().handles())
    draw_handle(painter, handle.knob(kHandleArm_px * view_.mm_per_pixel()), gp_Dir(handle.per_unit));
  draw_free_handle(painter);
}

// Where lengths start at one place: between their handles both are taken hold of.
void Overlay::draw_free_handle(QPainter& painter) {
  for (const NumberHandle& handle : session_.tray().handles()) {
    const auto at = handle.shares_place && handle.quantity == Quantity::kLength ? view_.to_screen(handle.at)
                                                                                : std::nullopt;
    if (!at) continue;
    painter.setPen(pen(theme().accent, 2.4));
    painter.setBrush(theme().panel);
    painter.drawRect(QRectF(at->x() - 6, at->y() - 6, 12, 12));
    return;
  }
}

// Where a finding is.
void Overlay::draw_place(QPainter& painter) {
  if (!session_.checks().shown_place()) return;
  const auto at = view_.to_screen(
      session_.checks().shown_place()->Transformed(session_.document().evaluation().placement));
  if (!at) return;
  painter.setBrush(Qt::NoBrush);
  for (const auto& [colour, width] : {std::pair{theme().panel, 5.0}, {theme().does_not_fit, 2.4}}) {
    painter.setPen(pen(colour, width));
    painter.drawEllipse(*at, 14, 14);
    for (const QPointF& d : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
      painter.drawLine(*at + d * 14, *at + d * 22);
  }
}

void Overlay::find_badges() {
  badges_.clear();
  for (const Pick& pick : session_.tray().picks()) {
    gp_Pnt at = pick.given.clicked.value_or(gp_Pnt());
    if (pick.given.point && !pick.given.is_circular_edge)
      at = *pick.given.point;
    else if (!pick.given.clicked && !pick.given.extent.empty())
      at = pick.given.extent.front();
    badges_.push_back(view_.to_screen(at));
  }
}

void Overlay::draw_picks(QPainter& painter) {
  for (size_t i = 0; i < badges_.size(); ++i)
    if (badges_[i]) draw_badge(painter, *badges_[i], static_cast<int>(i) + 1);
}

void Overlay::draw_hover(QPainter& painter) {
  if (hover_) {
    if (!lying_here_.isEmpty()) draw_what_lies_here(painter);
    const auto* topology = std::get_if<TopologyReference>(&hover_->reference.target);
    const bool begins_region = std::holds_alternative<RegionReference>(hover_->reference.target);
    if (begins_region || (topology && topology->snap != Snap::kWhole)) {
      if (auto p = view_.to_screen(hover_->at)) {
        painter.setPen(pen(theme().accent, 2.2));
        painter.setBrush(faded(theme().panel, 0.6));
        painter.drawEllipse(*p, 6, 6);
      }
    }
    painter.setFont(number_font());
    draw_label(painter, QPointF(12, height() - 38), hover_text_, theme().ink);
    draw_label(painter, QPointF(12, height() - 14),
               QString::fromStdString(
                   point_text(hover_->at, session_.document().frame(), session_.document().job().display)),
               theme().ink);
  }
}

// What a click takes stands out among what further clicks, or Ctrl and the wheel, walk to.
void Overlay::draw_what_lies_here(QPainter& painter) {
  const QFontMetricsF metrics(painter.font());
  double wide = 0;
  for (const QString& text : lying_here_) wide = std::max(wide, metrics.horizontalAdvance(text));
  const double row = metrics.height() + 2;
  QRectF box(pointer_ + QPointF(16, 14),
             QSizeF(wide + 16, row * static_cast<double>(lying_here_.size()) + 8));
  box.moveLeft(std::min(box.left(), width() - box.width() - 2));
  box.moveTop(std::min(box.top(), height() - box.height() - 2));
  painter.setPen(pen(theme().line, 1));
  painter.setBrush(faded(theme().panel, 0.94));
  painter.drawRoundedRect(box, 4, 4);
  for (qsizetype i = 0; i < lying_here_.size(); ++i) {
    const QRectF line(box.left() + 8, box.top() + 4 + row * static_cast<double>(i), wide, row);
    if (i == marked_here_) painter.fillRect(line.adjusted(-5, 0, 5, 0), faded(theme().accent, 0.22));
    painter.setPen(i == marked_here_ ? theme().ink : theme().quiet_ink);
    painter.drawText(line, Qt::AlignVCenter | Qt::AlignLeft, lying_here_[i]);
  }
}

void Overlay::draw_triad(QPainter& painter) {
  if (!session_.document().part()) return;
  const QPointF centre(width() - 52, height() - 52);
  const gp_Ax2 frame = session_.document().frame();
  const auto& camera = view_.camera_view()->Camera();
  const gp_Dir up = camera->OrthogonalizedUp(), right = camera->Direction().Crossed(up);
  const std::tuple<gp_Dir, QColor, const char*> arms[] = {{frame.XDirection(), theme().axis_x, "X"},
                                                          {frame.YDirection(), theme().axis_y, "Y"},
                                                          {frame.Direction(), theme().axis_z, "Z"}};
  for (const auto& [direction, colour, letter] : arms) {
    const QPointF tip = centre + QPointF(direction.Dot(right), -direction.Dot(up)) * 32;
    painter.setPen(pen(colour, 2.2));
    painter.drawLine(centre, tip);
    const double length = QLineF(centre, tip).length();
    if (length < 8) {
      painter.setBrush(colour);
      painter.drawEllipse(centre, 3.5, 3.5);
      continue;
    }
    const QPointF beyond = tip + (tip - centre) * (9 / length);
    painter.drawText(QRectF(beyond.x() - 8, beyond.y() - 8, 16, 16), Qt::AlignCenter,
                     QString::fromLatin1(letter));
  }
}

}  // namespace anvil::app
