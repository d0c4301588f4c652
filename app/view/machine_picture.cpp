#include "app/view/machine_picture.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>

#include "app/theme.h"
#include "app/view/strokes.h"
#include "base/units.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

constexpr int kFrames = 18, kFrame_ms = 30;

// Everything is drawn about one place, whatever the machine's size: only directions matter here.
struct Drawing {
  QPainter& painter;
  QPointF centre;
  double scale;

  [[nodiscard]] QPointF at(const gp_Pnt& p) const {
    // From the front right, from above.
    static const gp_Dir right(0.86, 0.5, 0), up(-0.25, 0.43, 0.87);
    return centre + QPointF(p.XYZ().Dot(right.XYZ()), -p.XYZ().Dot(up.XYZ())) * scale;
  }
  void line(const gp_Pnt& a, const gp_Pnt& b) const { painter.drawLine(at(a), at(b)); }
  void polygon(const std::vector<gp_Pnt>& corners) const {
    QPolygonF outline;
    for (const gp_Pnt& corner : corners) outline << at(corner);
    painter.drawPolygon(outline);
  }
  void block(const gp_Trsf& motion, const gp_XYZ& low, const gp_XYZ& high) const {
    const auto corner = [&](int i) {
      return gp_Pnt(i & 1 ? high.X() : low.X(), i & 2 ? high.Y() : low.Y(), i & 4 ? high.Z() : low.Z())
          .Transformed(motion);
    };
    for (const auto& face : {std::array{0, 1, 3, 2}, std::array{4, 5, 7, 6}, std::array{0, 1, 5, 4},
                             std::array{2, 3, 7, 6}, std::array{0, 2, 6, 4}, std::array{1, 3, 7, 5}})
      polygon({corner(face[0]), corner(face[1]), corner(face[2]), corner(face[3])});
  }
  // A disc square to the axis, and the axis itself.
  void disc(const gp_Ax1& axis, double radius) const {
    const gp_Ax2 frame = make_frame(axis.Location(), axis.Direction(), gp_Dir(1, 0.1, 0));
    std::vector<gp_Pnt> rim;
    for (int i = 0; i < 32; ++i) {
      const double t = 2 * kPi * i / 32;
      rim.push_back(axis.Location().Translated(gp_Vec(frame.XDirection()) * (radius * std::cos(t)) +
                                               gp_Vec(frame.YDirection()) * (radius * std::sin(t))));
    }
    polygon(rim);
  }
};

gp_Trsf turn_about_origin(const gp_Dir& axis, double angle) {
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), axis), angle);
  return turn;
}

void draw_name(QPainter& painter, const QPointF& at, const std::string& name) {
  painter.drawText(QRectF(at.x() - 8, at.y() - 8, 16, 16), Qt::AlignCenter, QString::fromStdString(name));
}

}  // namespace

MachinePicture::MachinePicture(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("machine_picture"));
  setMinimumHeight(150);
  moving_.setInterval(kFrame_ms);
  connect(&moving_, &QTimer::timeout, this, &MachinePicture::step);
}

void MachinePicture::show_pose(const Machine& machine, const Angles& angles) {
  const bool same = machine_ && machine_->id == machine.id && now_.size() == angles.size();
  machine_ = machine;
  from_ = same ? now_ : angles;
  to_ = angles;
  now_ = from_;
  frame_ = 0;
  if (from_ == to_)
    moving_.stop();
  else
    moving_.start();
  update();
}

void MachinePicture::step() {
  ++frame_;
  const double t = std::min(1.0, static_cast<double>(frame_) / kFrames), eased = t * t * (3 - 2 * t);
  for (size_t i = 0; i < now_.size(); ++i) now_[i] = from_[i] + (to_[i] - from_[i]) * eased;
  if (t >= 1) {
    now_ = to_;
    moving_.stop();
  }
  update();
}

void MachinePicture::paintEvent(QPaintEvent*) {
  if (!machine_) return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const Drawing draw{painter, QPointF(width() * 0.5, height() * 0.6), std::min(width(), height()) / 125.0};
  // From the bed outwards; each table carries the next.
  gp_Trsf carried;
  double size = 46;
  for (size_t i = 0; i < machine_->rotary.size(); ++i) {
    const RotaryAxis& rotary = machine_->rotary[i];
    if (!rotary.on_table) continue;
    const gp_Dir axis = rotary.axis.Direction().Transformed(carried);
    carried = carried * turn_about_origin(rotary.axis.Direction(), now_[i]);
    painter.setPen(QPen(theme().quiet_ink, 1.2));
    painter.setBrush(faded(theme().accent, 0.14));
    draw.disc(gp_Ax1(gp_Pnt(0, 0, 0), axis), size);
    painter.setPen(QPen(theme().accent, 1.2, Qt::DashLine));
    const gp_Vec out(axis);
    draw.line(gp_Pnt(out.Reversed().XYZ() * (size + 6)), gp_Pnt(out.XYZ() * (size + 6)));
    painter.setPen(theme().ink);
    // At the end that the part and the tool leave free.
    const bool lower_end = axis.Z() < -1e-6 || (axis.Z() < 1e-6 && axis.X() > 0);
    draw_name(painter, draw.at(gp_Pnt((lower_end ? out : out.Reversed()).XYZ() * (size + 14))), rotary.name);
    size *= 0.72;
  }
  painter.setPen(QPen(theme().part_edge, 1));
  painter.setBrush(faded(theme().part, 0.75));
  draw.block(carried, gp_XYZ(-20, -13, 0), gp_XYZ(20, 13, 14));
  gp_Trsf head;
  for (size_t i = 0; i < machine_->rotary.size(); ++i)
    if (!machine_->rotary[i].on_table)
      head = head * turn_about_origin(machine_->rotary[i].axis.Direction(), now_[i]);
  // The tool, its tip over the part.
  const gp_Vec along = gp_Vec(0, 0, 1).Transformed(head);
  const gp_Pnt tip(0, 0, 24);
  painter.setPen(QPen(theme().axis_z, 4, Qt::SolidLine, Qt::RoundCap));
  draw.line(tip, tip.Translated(along * 22));
  painter.setPen(QPen(theme().quiet_ink, 11, Qt::SolidLine, Qt::FlatCap));
  draw.line(tip.Translated(along * 24), tip.Translated(along * 44));
  painter.setPen(theme().ink);
  for (size_t i = 0; i < machine_->rotary.size(); ++i)
    if (!machine_->rotary[i].on_table)
      draw_name(painter, draw.at(tip.Translated(along * 56)) + QPointF(12.0 * static_cast<double>(i), 0),
                machine_->rotary[i].name);
}

}  // namespace anvil::app
