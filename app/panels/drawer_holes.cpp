// The drawer's table of holes, slots and the patterns they make.
#include <QSortFilterProxyModel>
#include <QStandardItemModel>
#include <QTreeView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"
#include "app/panels/hole_rows.h"
#include "geom/primitives.h"
#include "inspect/hole_text.h"
#include "inspect/standard_sizes.h"

namespace anvil::app {
namespace {

// The form, and of holes stored as splines how closely they are what is told.
QString hole_words(const HoleReport& report, const Hole& hole, const Display& display) {
  const QString form = QString::fromStdString(form_text(report, hole.group, display.unit));
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

// In the reading frame.
std::optional<HoleReport> reading_report(const Session& session) {
  if (!session.checks().holes()) return std::nullopt;
  return moved(*session.checks().holes(), session.document().part_to_reading());
}

class HoleTable {
 public:
  HoleTable(const Session& session, const HoleReport& report)
      : session_(session), report_(report), d_(session.document().job().display) {}

  void fill(QStandardItemModel& model) const {
    for (size_t i = 0; i < report_.holes.size(); ++i) model.appendRow(hole_row(i));
    for (size_t i = 0; i < report_.slots.size(); ++i) model.appendRow(slot_row(i));
    for (size_t i = 0; i < report_.patterns.size(); ++i) model.appendRow(pattern_row(i));
  }

 private:
  [[nodiscard]] QStandardItem* mm(double v) const { return number(v, format_length(v, d_)); }
  [[nodiscard]] QString text(double v) const { return QString::fromStdString(format_length(v, d_)); }
  static QStandardItem* along(const gp_Dir& direction) {
    return words(QString::fromStdString(direction_text(direction)));
  }
  [[nodiscard]] QList<QStandardItem*> row_of(const std::string& name, double size, double depth,
                                             const gp_Pnt& at, const gp_Dir& axis, const QString& form,
                                             const QString& could_be) const {
    return {words(QString::fromStdString(name)),
            mm(size),
            mm(depth),
            mm(at.X()),
            mm(at.Y()),
            mm(at.Z()),
            along(axis),
            words(form),
            words(could_be)};
  }
  static void own(QStandardItem* first, const std::vector<int>& faces, int number) {
    first->setEditable(true);
    first->setData(number, kHoleRole);
    first->setData(face_list(faces), kFacesRole);
    if (!faces.empty()) first->setData(QVariantList{faces.front()}, kPicksRole);
  }

  [[nodiscard]] QList<QStandardItem*> hole_row(size_t index) const {
    const Hole& h = report_.holes[index];
    auto row = row_of(h.name, h.diameter_mm, h.depth_mm, h.entry, h.axis, hole_words(report_, h, d_),
                      h.round ? QString::fromStdString(could_be_text(h.diameter_mm)) : QString());
    own(row.front(), h.faces, static_cast<int>(index));
    make_rows_later(row.front(), [&session = session_, index](QStandardItem& under) {
      if (const auto report = reading_report(session); report && index < report->holes.size())
        add_hole_details(under, session, *report, index);
    });
    return row;
  }

  [[nodiscard]] QList<QStandardItem*> slot_row(size_t index) const {
    const Slot& s = report_.slots[index];
    const QString form = QObject::tr("slot %1 × %2%3")
                             .arg(text(s.width_mm), text(s.length_mm),
                                  s.through    ? QObject::tr(" through")
                                  : s.open_end ? QObject::tr(", open at one end")
                                               : QString());
    auto row = row_of(s.name, s.width_mm, s.depth_mm, midpoint(s.centre_a, s.centre_b), s.axis, form, {});
    own(row.front(), s.faces, static_cast<int>(report_.holes.size() + index));
    return row;
  }

  // With its holes under it.
  [[nodiscard]] QList<QStandardItem*> pattern_row(size_t index) const {
    const HolePattern& pattern = report_.patterns[index];
    QVariantList all, picks;
    auto* name = words(QObject::tr("pattern %1").arg(index + 1));
    for (const int number : pattern.holes) {
      const Hole& hole = report_.holes[static_cast<size_t>(number)];
      for (const int face : hole.faces) all << face;
      if (!hole.faces.empty()) picks << hole.faces.front();
    }
    make_rows_later(name, [&session = session_, index](QStandardItem& under) {
      if (const auto report = reading_report(session); report && index < report->patterns.size())
        HoleTable(session, *report).add_holes_of(report->patterns[index], under);
    });
    name->setData(all, kFacesRole);
    name->setData(picks, kPicksRole);
    name->setData(static_cast<int>(index), kPatternRole);
    return {name,
            words({}),
            words({}),
            mm(pattern.centre.X()),
            mm(pattern.centre.Y()),
            mm(pattern.centre.Z()),
            along(pattern.normal),
            words(pattern_words(pattern, d_)),
            words({})};
  }

  // How far each is off, and the move that would mend it.
  void add_holes_of(const HolePattern& pattern, QStandardItem& under) const {
    for (size_t k = 0; k < pattern.holes.size(); ++k) {
      const Hole& hole = report_.holes[static_cast<size_t>(pattern.holes[k])];
      const HoleDeviation& off = pattern.deviations[k];
      const QString mend = QObject::tr("%1 along, %2 across; to mend: X %3  Y %4  Z %5")
                               .arg(text(off.along_mm), text(off.across_mm), text(off.mend.X()),
                                    text(off.mend.Y()), text(off.mend.Z()));
      auto row = row_of(hole.name, hole.diameter_mm, hole.depth_mm, hole.entry, hole.axis, mend, {});
      row.front()->setData(face_list(hole.faces), kFacesRole);
      if (!hole.faces.empty()) row.front()->setData(QVariantList{hole.faces.front()}, kPicksRole);
      under.appendRow(row);
    }
  }

  const Session& session_;
  const HoleReport& report_;
  const Display& d_;
};

}  // namespace

void Drawer::fill_holes() {
  QStandardItemModel made;
  if (const auto report = reading_report(session_)) HoleTable(session_, *report).fill(made);
  show_rows(holes_.view, *holes_.model, made);
}

// What is selected stays so.
void Drawer::refill_hole_details() {
  const auto report = reading_report(session_);
  if (!report) return;
  for (int i = 0; i < holes_.model->rowCount(); ++i) {
    QStandardItem& row = *holes_.model->item(i);
    const QVariant hole = row.data(kHoleRole);
    const bool is_hole = hole.isValid() && static_cast<size_t>(hole.toInt()) < report->holes.size();
    if (!is_hole || has_rows_to_make(row)) continue;
    const QModelIndex shown = holes_.proxy->mapFromSource(row.index());
    const bool was_open = holes_.view->isExpanded(shown);
    row.removeRows(0, row.rowCount());
    add_hole_details(row, session_, *report, static_cast<size_t>(hole.toInt()));
    if (was_open) holes_.view->expand(shown);
  }
  fit_columns(holes_.view);
}

void Drawer::take_hole_name(const QStandardItem& cell) {
  if (cell.column() != 0 || !cell.data(kHoleRole).isValid() || !session_.checks().holes()) return;
  const int number = cell.data(kHoleRole).toInt();
  const int holes = static_cast<int>(session_.checks().holes()->holes.size());
  const HoleOrSlot which{number >= holes, number >= holes ? number - holes : number};
  // The row may be exchanged by what follows, and this cell with it.
  QMetaObject::invokeMethod(
      this, [this, which, name = cell.text()] { session_.checks().rename_hole(which, name); },
      Qt::QueuedConnection);
}

bool Drawer::rename_current() {
  if (!is_open() || !holes_.view->isVisible() || !holes_.view->hasFocus()) return false;
  const QModelIndex current = holes_.view->currentIndex().siblingAtColumn(0);
  if (!current.data(kHoleRole).isValid()) return false;
  holes_.view->edit(current);
  return true;
}

void Drawer::pick_selected() {
  const PartPtr part = session_.document().part();
  if (!part) return;
  for (const QModelIndex& row : holes_.view->selectionModel()->selectedRows())
    for (const QVariant& face : row.data(kPicksRole).toList()) {
      const Reference hole{session_.document().describe(TopologyKind::kFace, face.toInt()), {}};
      if (!session_.tray().is_picked(hole)) session_.tray().add_pick(hole);
    }
}

}  // namespace anvil::app
