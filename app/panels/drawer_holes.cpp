// The drawer's table of holes, slots and the patterns they make.
#include <QStandardItemModel>
#include <QTreeView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"
#include "geom/primitives.h"
#include "inspect/standard_sizes.h"

namespace anvil::app {
namespace {

// The form, and of holes stored as splines how closely they are what is told.
QString hole_words(const HoleReport& report, const Hole& hole, const Display& display) {
  const QString form = QString::fromStdString(report.groups[hole.group].form);
  return hole.deviation_mm > 0
             ? QObject::tr("%1 (within %2)").arg(form, deviation_text(hole.deviation_mm, display))
             : form;
}

// "row of 4, pitch 48.000, even"
QString pattern_words(const HolePattern& pattern, const Display& d) {
  const auto mm = [&](double v) { return QString::fromStdString(format_length(v, d)); };
  QString text;
  switch (pattern.kind) {
    case HolePattern::Kind::kRow:
      text = QObject::tr("row of %1, pitch %2").arg(pattern.holes.size()).arg(mm(pattern.pitch_mm));
      break;
    case HolePattern::Kind::kGrid:
      text = QObject::tr("grid %1 × %2, pitches %3 and %4")
                 .arg(pattern.columns)
                 .arg(pattern.rows)
                 .arg(mm(pattern.pitch_mm), mm(pattern.second_pitch_mm));
      break;
    case HolePattern::Kind::kCircle:
      text = QObject::tr("circle of %1, Ø %2, from %3")
                 .arg(pattern.holes.size())
                 .arg(mm(pattern.pitch_mm), QString::fromStdString(format_angle(pattern.start_angle_rad, d)));
      break;
    case HolePattern::Kind::kMirror:
      text = QObject::tr("mirrored, %1 apart").arg(mm(pattern.pitch_mm));
      break;
  }
  if (pattern.kind != HolePattern::Kind::kMirror)
    text += pattern.even ? QObject::tr(", even") : QObject::tr(", not even");
  constexpr double kTold_mm = 5e-4;
  if (pattern.largest_deviation_mm > kTold_mm)
    text += QObject::tr(", one is %1 off").arg(mm(pattern.largest_deviation_mm));
  return text;
}

}  // namespace

void Drawer::fill_holes() {
  QStandardItemModel& model = *holes_.model;
  model.removeRows(0, model.rowCount());
  if (!session_.holes()) return;
  const Display& d = session_.job().display;
  const HoleReport report =
      moved(*session_.holes(), into_frame(session_.frame()) * session_.evaluation().placement);
  const auto mm = [&](double v) { return number(v, format_length(v, d)); };
  for (const Hole& h : report.holes) {
    QList<QStandardItem*> row{
        words(QString::fromStdString(h.name)),
        mm(h.diameter_mm),
        mm(h.depth_mm),
        mm(h.entry.X()),
        mm(h.entry.Y()),
        mm(h.entry.Z()),
        words(QString::fromStdString(direction_text(h.axis))),
        words(hole_words(report, h, d)),
        words(h.round ? QString::fromStdString(could_be_text(h.diameter_mm)) : QString())};
    row.front()->setData(face_list(h.faces), kFacesRole);
    model.appendRow(row);
  }
  for (const Slot& s : report.slots) {
    const gp_Pnt middle = midpoint(s.centre_a, s.centre_b);
    const QString form = tr("slot %1 × %2%3")
                             .arg(QString::fromStdString(format_length(s.width_mm, d)),
                                  QString::fromStdString(format_length(s.length_mm, d)),
                                  s.through ? tr(" through") : QString());
    QList<QStandardItem*> row{words(QString::fromStdString(s.name)),
                              mm(s.width_mm),
                              mm(s.depth_mm),
                              mm(middle.X()),
                              mm(middle.Y()),
                              mm(middle.Z()),
                              words(QString::fromStdString(direction_text(s.axis))),
                              words(form)};
    row.front()->setData(face_list(s.faces), kFacesRole);
    model.appendRow(row);
  }
  add_patterns(report);
  fit_columns(holes_.view);
}

// Each pattern with its holes under it: how far each is off, and the move that would mend it.
void Drawer::add_patterns(const HoleReport& report) {
  const Display& d = session_.job().display;
  const auto mm = [&](double v) { return number(v, format_length(v, d)); };
  const auto text = [&](double v) { return QString::fromStdString(format_length(v, d)); };
  for (size_t i = 0; i < report.patterns.size(); ++i) {
    const HolePattern& pattern = report.patterns[i];
    QVariantList all;
    auto* name = words(tr("pattern %1").arg(i + 1));
    for (size_t k = 0; k < pattern.holes.size(); ++k) {
      const Hole& hole = report.holes[pattern.holes[k]];
      for (const int face : hole.faces) all << face;
      const HoleDeviation& off = pattern.deviations[k];
      const QString mend = tr("%1 along, %2 across; to mend: X %3  Y %4  Z %5")
                               .arg(text(off.along_mm), text(off.across_mm), text(off.mend.X()),
                                    text(off.mend.Y()), text(off.mend.Z()));
      QList<QStandardItem*> row{words(QString::fromStdString(hole.name)),
                                mm(hole.diameter_mm),
                                mm(hole.depth_mm),
                                mm(hole.entry.X()),
                                mm(hole.entry.Y()),
                                mm(hole.entry.Z()),
                                words(QString::fromStdString(direction_text(hole.axis))),
                                words(mend)};
      row.front()->setData(face_list(hole.faces), kFacesRole);
      name->appendRow(row);
    }
    name->setData(all, kFacesRole);
    name->setData(static_cast<int>(i), kPatternRole);
    holes_.model->appendRow(
        {name, words({}), words({}), mm(pattern.centre.X()), mm(pattern.centre.Y()), mm(pattern.centre.Z()),
         words(QString::fromStdString(direction_text(pattern.normal))), words(pattern_words(pattern, d))});
  }
}

}  // namespace anvil::app
