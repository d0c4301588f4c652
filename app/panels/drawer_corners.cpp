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

// Shared with the rows that are to be made later.
class CornerRows : public std::enable_shared_from_this<CornerRows> {
 public:
  CornerRows(const Session& session, double cutter_mm)
      : session_(session),
        kept_(session.checks().corners()),
        report_(*kept_),
        part_(session.document().part()),
        d_(session.document().job().display),
        cutter_mm_(cutter_mm) {
    into_ = session.document().part_to_reading();
    // Levels in the report count from the origin of the file; in the table from the zero of the reading
    // frame.
    base_ = gp_Pnt(0, 0, 0).Transformed(into_.Inverted()).XYZ().Dot(report_.options.axis.XYZ());
  }

  void by_pocket(QStandardItemModel& model) const {
    std::map<int, std::vector<const Corner*>> in_pockets;
    for (const Corner& corner : report_.corners) in_pockets[corner.pocket].push_back(&corner);
    for (int p = 0; p < static_cast<int>(report_.pockets.size()); ++p) {
      const QList<QStandardItem*> row = pocket_row(p);
      put_under(row.front(), in_pockets[p]);
      in_pockets.erase(p);
      model.appendRow(row);
    }
    for (const auto& [none, corners] : in_pockets)
      for (const Corner* corner : corners) model.appendRow(corner_row(*corner));
  }

  // "R 3.000 × 12", the smallest first; those that cannot be reached after the others.
  void by_radius(QStandardItemModel& model) const {
    std::map<std::tuple<bool, bool, long>, std::vector<const Corner*>> groups;
    for (const Corner& corner : report_.corners)
      groups[{corner.undercut, !corner.is_wall(), std::lround(corner.radius_mm * 1e3)}].push_back(&corner);
    for (const auto& [key, corners] : groups) {
      const bool sharp = corners.front()->radius_mm <= 0;
      auto row = row_called(
          sharp ? QObject::tr("sharp × %1").arg(corners.size())
                : QObject::tr("R %1 × %2").arg(text(corners.front()->radius_mm)).arg(corners.size()));
      set_words(row, kKind,
                (std::get<1>(key) ? QObject::tr("floor") : QObject::tr("wall")) +
                    (std::get<0>(key) ? QObject::tr(", undercut") : QString()));
      set(row, kRadius, corners.front()->radius_mm);
      std::vector<int> faces;
      for (const Corner* corner : corners) {
        const std::vector<int> own = faces_of(*corner);
        faces.insert(faces.end(), own.begin(), own.end());
      }
      row[kName]->setData(face_list(faces), kFacesRole);
      put_under(row[kName], corners);
      model.appendRow(row);
    }
  }

 private:
  void put_under(QStandardItem* row, const std::vector<const Corner*>& corners) const {
    if (corners.empty()) return;
    make_rows_later(row, [rows = shared_from_this(), corners](QStandardItem& under) {
      for (const Corner* corner : corners) under.appendRow(rows->corner_row(*corner));
    });
  }

  [[nodiscard]] QString text(double mm) const { return QString::fromStdString(format_length(mm, d_)); }

  // Cells are made as they get something to tell: of thousands half have nothing.
  static QList<QStandardItem*> row_called(const QString& name) {
    QList<QStandardItem*> row(kColumns, nullptr);
    row[kName] = words(name);
    return row;
  }
  static QStandardItem* set_words(QList<QStandardItem*>& row, Column column, const QString& told) {
    return row[column] = words(told);
  }
  void set(QList<QStandardItem*>& row, Column column, double mm, bool approximate = false) const {
    row[column] = number(mm, (approximate ? "≈ " : "") + format_length(mm, d_));
  }
  void set(QList<QStandardItem*>& row, Column column, const std::optional<double>& mm,
           bool approximate = false) const {
    if (mm) set(row, column, *mm, approximate);
  }
  void set_ratio(QList<QStandardItem*>& row, double reach) const {
    row[kRatio] = number(reach / cutter_mm_, format_length(reach / cutter_mm_, {Unit::kMillimetre, 1}));
  }

  void set_fit(QList<QStandardItem*>& row, CutterFit fit) const {
    static const char* const kFits[] = {"✓ fits", "≈ tight", "✕ no"};
    const auto state = static_cast<size_t>(fit);
    set_words(row, kFit, QString::fromUtf8(kFits[state]))
        ->setForeground(state == 0   ? theme().fits
                        : state == 1 ? theme().tight
                                     : theme().does_not_fit);
  }

  [[nodiscard]] std::vector<int> faces_of(const Corner& c) const {
    std::vector<int> faces = c.faces;
    const TopologyIndex& topology = part_->topology();
    if (faces.empty())
      for (int edge : c.edges)
        for (int face : {topology.edges[edge].face_a, topology.edges[edge].face_b}) faces.push_back(face);
    return faces;
  }

  [[nodiscard]] QList<QStandardItem*> corner_row(const Corner& c) const {
    auto row = row_called(QString::fromStdString(c.name));
    const gp_Pnt at = c.position.Transformed(into_);
    set_words(row, kKind, corner_words(c.kind));
    const bool approximate = c.kind == CornerKind::kFreeForm;
    if (c.kind == CornerKind::kWallSharp)
      set_words(row, kRadius, QString::fromStdString(format_angle(c.angle_rad, {d_.unit, d_.decimals, 1})))
          ->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    else
      set(row, kRadius, c.radius_mm, approximate);
    set(row, kFloor, c.floor_radius_mm);
    if (c.undercut)
      set_words(row, kFit, QObject::tr("undercut"));
    else if (c.is_wall())
      set_fit(row, fit_in(report_, c, cutter_mm_));
    if (c.deviation_mm > 0)
      (row[kFit] ? row[kFit] : set_words(row, kFit, {}))
          ->setToolTip(QObject::tr("Stored as a spline; it is this within %1")
                           .arg(deviation_text(c.deviation_mm, d_)));
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
    auto row = row_called(QString::fromStdString(p.name));
    set_words(row, kKind, pocket_words(p));
    set(row, kRadius, p.smallest_corner_mm, p.smallest_is_approximate);
    if (p.has_sharp_floor)
      set_words(row, kFloor, QObject::tr("sharp"))->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    else
      set(row, kFloor, p.floor_radius_mm);
    if (!p.undercut) set_fit(row, fit_in(report_, p, cutter_mm_));
    if (const auto left = session_.checks().left_in_pockets();
        left && static_cast<size_t>(index) < left->size())
      row[kLeft] = volume_cell((*left)[static_cast<size_t>(index)], d_);
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
      const QString chosen =
          own.largest ? QString::fromStdString(cutter_text(cutters[static_cast<size_t>(*own.largest)], d_))
                      : QObject::tr("none: ") + all.back();
      set_words(row, kCutter, chosen)->setToolTip(all.join(QLatin1Char('\n')));
    }
  }

  const Session& session_;
  std::shared_ptr<const CornerReport> kept_;
  const CornerReport& report_;
  PartPtr part_;  // the report's
  Display d_;
  double cutter_mm_;
  gp_Trsf into_;
  double base_ = 0;
};

}  // namespace

void Drawer::fill_corners() {
  QStandardItemModel made;
  if (session_.checks().corners()) {
    const auto rows = std::make_shared<const CornerRows>(session_, strip_->cutter_mm());
    strip_->grouping() == CutterStrip::Grouping::kByPocket ? rows->by_pocket(made) : rows->by_radius(made);
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
