#include "app/panels/hole_rows.h"

#include "app/panels/drawer_cells.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

QString step_words(StepKind kind) {
  switch (kind) {
    case StepKind::kBore:
      return QObject::tr("bore");
    case StepKind::kCounterbore:
      return QObject::tr("counterbore");
    case StepKind::kCountersink:
      return QObject::tr("countersink");
    case StepKind::kTaper:
      return QObject::tr("taper");
    case StepKind::kChamfer:
      return QObject::tr("chamfer");
    case StepKind::kGroove:
      return QObject::tr("groove");
    case StepKind::kTip:
      return QObject::tr("tip");
    case StepKind::kBall:
      return QObject::tr("ball bottom");
    case StepKind::kFlat:
      break;
  }
  return QObject::tr("flat bottom");
}

class HoleRows {
 public:
  HoleRows(QStandardItem& under, const Session& session, const HoleReport& report, size_t index)
      : under_(under),
        session_(session),
        report_(report),
        hole_(report.holes[index]),
        index_(index),
        d_(session.document().job().display),
        into_(session.document().part_to_reading()) {}

  void add_all() {
    add_opening(tr("opening"), hole_.entry, hole_.entry_slope_rad);
    if (hole_.exit) add_opening(tr("other opening"), *hole_.exit, hole_.exit_slope_rad);
    for (const HoleStep& step : hole_.steps) add_step(step);
    add_seen();
    if (const auto survey = session_.checks().survey()) {
      if (index_ < survey->around.size()) add_around(survey->around[index_]);
      add_reach(survey->planes);
    } else {
      add(tr("…"), {tr("what is around it is being looked for")});
    }
  }

 private:
  static QString tr(const char* text) { return QObject::tr(text); }
  [[nodiscard]] QString mm(double v) const { return QString::fromStdString(format_length(v, d_)); }
  [[nodiscard]] QString angle(double rad) const { return QString::fromStdString(format_angle(rad, d_)); }

  struct Told {
    QString words;
    std::optional<double> diameter = std::nullopt, depth = std::nullopt;
    std::optional<gp_Pnt> at = std::nullopt;  // in the reading frame
    std::vector<int> show = {};               // faces
  };

  void add(const QString& name, const Told& told) {
    const auto cell = [&](const std::optional<double>& v) {
      return v ? number(*v, format_length(*v, d_)) : words({});
    };
    auto* first = words(name);
    if (!told.show.empty()) first->setData(face_list(told.show), kShowRole);
    if (told.at) {
      const gp_Pnt in_part = told.at->Transformed(into_.Inverted());
      first->setData(QVariantList{in_part.X(), in_part.Y(), in_part.Z()}, kPlaceRole);
    }
    under_.appendRow({first, cell(told.diameter), cell(told.depth), told.at ? cell(told.at->X()) : words({}),
                      told.at ? cell(told.at->Y()) : words({}), told.at ? cell(told.at->Z()) : words({}),
                      words({}), words(told.words), words({})});
  }

  void add_opening(const QString& name, const gp_Pnt& at, const std::optional<double>& slope_rad) {
    QString text =
        tr("polar %1 at %2").arg(mm(std::hypot(at.X(), at.Y())), angle(std::atan2(at.Y(), at.X())));
    constexpr double kSquare_rad = 1e-6;
    text += !slope_rad                 ? tr(", in no flat face")
            : *slope_rad < kSquare_rad ? tr(", square to its face")
                                       : tr(", its face leans %1").arg(angle(*slope_rad));
    add(name, {text, {}, {}, at});
  }

  void add_step(const HoleStep& step) {
    QString text;
    if (std::abs(step.end_diameter_mm - step.diameter_mm) > 1e-6)
      text = tr("to Ø %1").arg(mm(step.end_diameter_mm));
    if (step.angle_rad > 1e-9) text += (text.isEmpty() ? QString() : tr(", ")) + angle(step.angle_rad);
    add(step_words(step.kind), {text, step.diameter_mm, step.depth_mm});
  }

  // As an ellipse, along each axis of the reading frame, beside what it truly is.
  void add_seen() {
    QStringList views;
    for (const auto& [name, along] : {std::pair("X", gp_Dir(1, 0, 0)), std::pair("Y", gp_Dir(0, 1, 0)),
                                      std::pair("Z", gp_Dir(0, 0, 1))}) {
      const ApparentShape seen = seen_along(hole_, along);
      const bool looks_round = seen.long_mm - seen.short_mm < 5e-4;
      views << tr("%1 %2 × %3").arg(QLatin1String(name), mm(seen.long_mm), mm(seen.short_mm)) +
                   (looks_round && !hole_.round ? tr(" (looks round)") : QString());
    }
    const QString truly =
        hole_.round ? tr("truly round") : tr("truly %1 × %2").arg(mm(hole_.long_mm), mm(hole_.short_mm));
    add(tr("seen along"), {views.join(tr(", ")) + tr("; ") + truly});
  }

  void add_around(const HoleSurroundings& s) {
    if (s.next) {
      const Hole& other = report_.holes[static_cast<size_t>(s.next->hole)];
      add(tr("next hole"),
          {tr("%1, %2 from axis to axis").arg(QString::fromStdString(other.name), mm(s.next->distance_mm)),
           {},
           {},
           {},
           other.faces});
    }
    if (s.edge)
      add(tr("edge"),
          {tr("%1 from the axis").arg(mm(s.edge->distance_mm)), {}, {}, s.edge->at.Transformed(into_)});
    if (s.wall) add_wall(tr("wall"), *s.wall, tr("%1 to the next face"));
    if (s.floor) add_wall(tr("floor"), *s.floor, tr("%1 left under it"));
    for (const CrossedHole& c : s.crossed) {
      const Hole& other = report_.holes[static_cast<size_t>(c.hole)];
      add(tr("crosses"),
          {QString::fromStdString(other.name), {}, {}, c.place.Transformed(into_), other.faces});
    }
  }
  void add_wall(const QString& name, const WallThickness& wall, const QString& text) {
    add(name, {text.arg(mm(wall.thickness_mm)), {}, {}, wall.on_face.Transformed(into_), {wall.face}});
  }

  void add_reach(const std::vector<PlaneCheck>& planes) {
    if (planes.empty()) return;
    QStringList names;
    for (const PlaneCheck& plane : planes) {
      if (index_ >= plane.reach.size()) continue;
      const HoleReach reach = plane.reach[index_];
      if (reach == HoleReach::kAslant) continue;
      const QString name = QString::fromStdString(
          plane.plane == 0 ? plane.setup_name : plane.setup_name + " " + plane.plane_name);
      names << (reach == HoleReach::kFromEntry  ? name
                : reach == HoleReach::kFromExit ? tr("%1 (its other end)").arg(name)
                                                : tr("%1 but for what stands above it").arg(name));
    }
    add(tr("reached by"), {names.isEmpty() ? tr("no tool plane of the setups") : names.join(tr(", "))});
  }

  QStandardItem& under_;
  const Session& session_;
  const HoleReport& report_;
  const Hole& hole_;
  size_t index_;
  const Display& d_;
  gp_Trsf into_;
};

}  // namespace

void add_hole_details(QStandardItem& hole_row, const Session& session, const HoleReport& report,
                      size_t hole) {
  HoleRows(hole_row, session, report, hole).add_all();
}

}  // namespace anvil::app
