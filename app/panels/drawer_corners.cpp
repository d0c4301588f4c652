// The drawer's table of corners: by pocket or by radius, opened to single corners.
#include <QSortFilterProxyModel>
#include <QStandardItemModel>
#include <QTreeView>
#include <map>
#include <set>

#include "app/panels/cutter_strip.h"
#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"
#include "geom/primitives.h"

namespace anvil::app {
namespace {

QString corner_words(CornerKind kind) {
  switch (kind) {
    case CornerKind::kWallRound:
      return QObject::tr("wall, round");
    case CornerKind::kWallSharp:
      return QObject::tr("wall, sharp");
    case CornerKind::kTaper:
      return QObject::tr("wall, tapered");
    case CornerKind::kFreeForm:
      return QObject::tr("wall, free form");
    case CornerKind::kFloorRound:
      return QObject::tr("floor, round");
    case CornerKind::kFloorSharp:
      return QObject::tr("floor, sharp");
  }
  return {};
}

QString pocket_words(const Pocket& pocket) {
  QString text = pocket.round     ? QObject::tr("round pocket")
                 : pocket.through ? QObject::tr("through pocket")
                                  : QObject::tr("pocket");
  if (pocket.open) text += QObject::tr(", open");
  return pocket.undercut ? text + QObject::tr(", undercut") : text;
}

enum Column {
  kName,
  kKind,
  kRadius,
  kFloor,
  kFit,
  kLeft,
  kPassage,
  kLargest,
  kDepth,
  kReach,
  kRatio,
  kBottom,
  kTop,
  kX,
  kY,
  kCutter,
  kColumns
};

// In the unit's cube.
QStandardItem* volume_cell(double volume_mm3, const Display& d) {
  const double unit = mm_per(d.unit);
  return number(volume_mm3, format_length(volume_mm3 / (unit * unit), {d.unit, 1}));
}

class CornerRows {
 public:
  CornerRows(const Session& session, double cutter_mm)
      : session_(session),
        report_(*session.checks().corners()),
        d_(session.document().job().display),
        cutter_mm_(cutter_mm) {
    into_ = session.document().part_to_reading();
    // Levels in the report count from the origin of the file; in the table from the zero of the reading
    // frame.
    base_ = gp_Pnt(0, 0, 0).Transformed(into_.Inverted()).XYZ().Dot(report_.options.axis.XYZ());
  }

  void by_pocket(QStandardItemModel& model) const {
    std::map<int, QStandardItem*> pockets;
    for (size_t p = 0; p < report_.pockets.size(); ++p) {
      const QList<QStandardItem*> row = pocket_row(static_cast<int>(p));
      pockets[static_cast<int>(p)] = row.front();
      model.appendRow(row);
    }
    for (const Corner& corner : report_.corners) {
      const auto own = pockets.find(corner.pocket);
      own == pockets.end() ? model.appendRow(corner_row(corner)) : own->second->appendRow(corner_row(corner));
    }
  }

  // "R 3.000 × 12", the smallest first; those that cannot be reached after the others.
  void by_radius(QStandardItemModel& model) const {
    std::map<std::tuple<bool, bool, long>, std::vector<const Corner*>> groups;
    for (const Corner& corner : report_.corners)
      groups[{corner.undercut, !corner.is_wall(), std::lround(corner.radius_mm * 1e3)}].push_back(&corner);
    for (const auto& [key, corners] : groups) {
      auto row = empty_row();
      const bool sharp = corners.front()->radius_mm <= 0;
      row[kName]->setText(
          sharp ? QObject::tr("sharp × %1").arg(corners.size())
                : QObject::tr("R %1 × %2").arg(text(corners.front()->radius_mm)).arg(corners.size()));
      row[kKind]->setText(std::get<1>(key) ? QObject::tr("floor") : QObject::tr("wall"));
      if (std::get<0>(key)) row[kKind]->setText(row[kKind]->text() + QObject::tr(", undercut"));
      set(row, kRadius, corners.front()->radius_mm);
      std::vector<int> faces;
      for (const Corner* corner : corners) {
        row[kName]->appendRow(corner_row(*corner));
        const std::vector<int> own = faces_of(*corner);
        faces.insert(faces.end(), own.begin(), own.end());
      }
      row[kName]->setData(face_list(faces), kFacesRole);
      model.appendRow(row);
    }
  }

 private:
  [[nodiscard]] QString text(double mm) const { return QString::fromStdString(format_length(mm, d_)); }

  static QList<QStandardItem*> empty_row() {
    QList<QStandardItem*> row;
    for (int i = 0; i < kColumns; ++i) row << words({});
    return row;
  }
  void set(QList<QStandardItem*>& row, Column column, double mm, bool approximate = false) const {
    delete row[column];
    row[column] = number(mm, (approximate ? "≈ " : "") + format_length(mm, d_));
  }
  void set(QList<QStandardItem*>& row, Column column, const std::optional<double>& mm,
           bool approximate = false) const {
    if (mm) set(row, column, *mm, approximate);
  }
  void set_ratio(QList<QStandardItem*>& row, double reach) const {
    delete row[kRatio];
    row[kRatio] = number(reach / cutter_mm_, format_length(reach / cutter_mm_, {Unit::kMillimetre, 1}));
  }

  void set_fit(QList<QStandardItem*>& row, CutterFit fit) const {
    static const char* const kFits[] = {"✓ fits", "≈ tight", "✕ no"};
    const auto state = static_cast<size_t>(fit);
    QStandardItem* cell = row[kFit];
    cell->setText(QString::fromUtf8(kFits[state]));
    cell->setForeground(state == 0 ? theme().fits : state == 1 ? theme().tight : theme().does_not_fit);
    cell->setData(cell->text(), kSortRole);
  }

  [[nodiscard]] std::vector<int> faces_of(const Corner& c) const {
    std::vector<int> faces = c.faces;
    const TopologyIndex& topology = session_.document().part()->topology();
    if (faces.empty())
      for (int edge : c.edges)
        for (int face : {topology.edges[edge].face_a, topology.edges[edge].face_b}) faces.push_back(face);
    return faces;
  }

  [[nodiscard]] QList<QStandardItem*> corner_row(const Corner& c) const {
    auto row = empty_row();
    const gp_Pnt at = c.position.Transformed(into_);
    row[kName]->setText(QString::fromStdString(c.name));
    row[kKind]->setText(corner_words(c.kind));
    const bool approximate = c.kind == CornerKind::kFreeForm;
    if (c.kind == CornerKind::kWallSharp)
      row[kRadius]->setText(QString::fromStdString(format_angle(c.angle_rad, {d_.unit, d_.decimals, 1})));
    else
      set(row, kRadius, c.radius_mm, approximate);
    row[kRadius]->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    set(row, kFloor, c.floor_radius_mm);
    if (c.undercut)
      row[kFit]->setText(QObject::tr("undercut"));
    else if (c.is_wall())
      set_fit(row, fit_in(report_, c, cutter_mm_));
    if (c.deviation_mm > 0)
      row[kFit]->setToolTip(
          QObject::tr("Stored as a spline; it is this within %1").arg(deviation_text(c.deviation_mm, d_)));
    if (c.is_wall() && c.radius_mm > 0)
      set(row, kLargest, 2 * c.radius_mm * report_.options.margin, approximate);
    set(row, kDepth, c.depth_mm);
    set(row, kReach, c.reach_mm, c.reach_is_from_mesh);
    set_ratio(row, c.reach_mm);
    set(row, kBottom, c.bottom_mm - base_);
    set(row, kTop, c.top_mm - base_);
    set(row, kX, at.X());
    set(row, kY, at.Y());
    row[kName]->setData(face_list(faces_of(c)), kFacesRole);
    return row;
  }

  [[nodiscard]] QList<QStandardItem*> pocket_row(int index) const {
    const Pocket& p = report_.pockets[static_cast<size_t>(index)];
    auto row = empty_row();
    row[kName]->setText(QString::fromStdString(p.name));
    row[kKind]->setText(pocket_words(p));
    set(row, kRadius, p.smallest_corner_mm, p.smallest_is_approximate);
    row[kFloor]->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    if (p.has_sharp_floor)
      row[kFloor]->setText(QObject::tr("sharp"));
    else
      set(row, kFloor, p.floor_radius_mm);
    if (!p.undercut) set_fit(row, fit_in(report_, p, cutter_mm_));
    if (const auto left = session_.checks().left_in_pockets();
        left && static_cast<size_t>(index) < left->size()) {
      delete row[kLeft];
      row[kLeft] = volume_cell((*left)[static_cast<size_t>(index)], d_);
    }
    if (p.narrowest) set(row, kPassage, p.narrowest->width_mm, p.narrowest->approximate);
    set(row, kLargest, p.largest_cutter_mm, p.smallest_is_approximate);
    set(row, kDepth, p.depth_mm);
    set(row, kReach, p.reach_mm);
    set_ratio(row, p.reach_mm);
    set(row, kBottom, p.bottom_mm - base_);
    set(row, kTop, p.top_mm - base_);
    set_cutter(row, index);
    std::vector<int> faces = p.faces;
    if (p.narrowest) faces.insert(faces.end(), {p.narrowest->face_a, p.narrowest->face_b});
    row[kName]->setData(face_list(faces), kFacesRole);
    row[kName]->setData(index, kPocketRole);
    return row;
  }

  // The cutter of the list for a pocket, or why the smallest of them does not go; all in the tool tip.
  void set_cutter(QList<QStandardItem*>& row, int pocket) const {
    const auto judged = session_.checks().judged_cutters();
    if (!judged) return;
    const std::vector<Cutter>& cutters = session_.document().job().inspection.cutters;
    for (const PocketCutters& own : *judged) {
      if (own.pocket != pocket || own.tried.empty() ||
          own.tried.back().cutter >= static_cast<int>(cutters.size()))
        continue;
      QStringList all;
      for (const CutterInPocket& tried : own.tried) {
        QString told = QString::fromStdString(cutter_text(cutters[static_cast<size_t>(tried.cutter)], d_)) +
                       (tried.failures.empty() ? QObject::tr(": fits") : QStringLiteral(": "));
        QStringList why;
        for (const CutterFailure& failure : tried.failures)
          why << QString::fromStdString(failure_text(failure, d_));
        if (tried.left_at_floor_mm > 1e-6)
          why << QObject::tr("leaves R %1 at the floor").arg(text(tried.left_at_floor_mm));
        all << told + (tried.failures.empty() && !why.isEmpty() ? QStringLiteral(", ") : QString()) +
                   why.join(QStringLiteral("; "));
      }
      if (own.largest)
        row[kCutter]->setText(
            QString::fromStdString(cutter_text(cutters[static_cast<size_t>(*own.largest)], d_)));
      else
        row[kCutter]->setText(QObject::tr("none: ") + all.back());
      row[kCutter]->setToolTip(all.join(QLatin1Char('\n')));
    }
  }

  const Session& session_;
  const CornerReport& report_;
  const Display& d_;
  double cutter_mm_;
  gp_Trsf into_;
  double base_ = 0;
};

}  // namespace

void Drawer::fill_corners() {
  QStandardItemModel made;
  if (session_.checks().corners()) {
    const CornerRows rows(session_, strip_->cutter_mm());
    strip_->grouping() == CutterStrip::Grouping::kByPocket ? rows.by_pocket(made) : rows.by_radius(made);
  }
  show_rows(corners_.view, *corners_.model, made);
}

// In the cells alone, so that what is selected stays so. While the slider is dragged nothing is known.
void Drawer::refill_left() {
  const auto left = session_.checks().left_in_pockets();
  if (!left) return;
  for (int row = 0; row < corners_.model->rowCount(); ++row) {
    const QVariant pocket = corners_.model->item(row, kName)->data(kPocketRole);
    if (pocket.isValid() && static_cast<size_t>(pocket.toInt()) < left->size())
      corners_.model->setItem(
          row, kLeft,
          volume_cell((*left)[static_cast<size_t>(pocket.toInt())], session_.document().job().display));
  }
}

}  // namespace anvil::app
