// The drawer's table of tool planes: what the corners along each of them allow, side by side.
#include <QLabel>
#include <QStandardItemModel>
#include <QTreeView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"

namespace anvil::app {
namespace {

// Of the list, by what the plane's corners and passages let go everywhere.
QString from_the_list(const PlaneCheck& plane, const Inspection& by, const Display& d) {
  if (by.cutters.empty() || !plane.corners.largest_cutter_mm) return {};
  const Cutter* best = largest_within(by.cutters, *plane.corners.largest_cutter_mm);
  return best ? QString::fromStdString(cutter_text(*best, d)) : QObject::tr("none");
}

QString reach_words(const PlaneCheck& plane) {
  const auto reached = std::count_if(plane.reach.begin(), plane.reach.end(), [](HoleReach reach) {
    return reach == HoleReach::kFromEntry || reach == HoleReach::kFromExit;
  });
  return QObject::tr("%1 of %2").arg(reached).arg(plane.reach.size());
}

}  // namespace

void Drawer::fill_planes() {
  QStandardItemModel made;
  const Job& job = session_.document().job();
  const auto survey = session_.checks().survey();
  const bool has_setup = std::any_of(job.entries.begin(), job.entries.end(),
                                     [](const Entry& entry) { return entry.setup() != nullptr; });
  planes_text_->setText(!has_setup ? tr("There is no setup yet: make one from a frame (Define, Setup on a "
                                        "frame) and its tool planes stand here.")
                        : survey   ? tr("A click looks along the tool plane.")
                                   : tr("Corners are being looked for along each tool plane …"));
  if (!survey) return show_rows(planes_.view, *planes_.model, made);
  const Display& d = job.display;
  const auto length = [&](const std::optional<double>& mm, bool approximate) {
    return mm ? number(*mm, (approximate ? "≈ " : "") + format_length(*mm, d)) : words({});
  };
  for (const PlaneCheck& plane : survey->planes) {
    const bool active = job.reading_frame == plane.setup && job.tool_plane == plane.plane;
    QList<QStandardItem*> row{
        words(QString::fromStdString(plane.setup_name)),
        words((active ? QStringLiteral("▸ ") : QString()) + QString::fromStdString(plane.plane_name)),
        length(plane.corners.smallest_radius_mm, plane.corners.approximate),
        number(plane.corners.sharp, std::to_string(plane.corners.sharp)),
        plane.corners.narrowest
            ? length(plane.corners.narrowest->width_mm, plane.corners.narrowest->approximate)
            : words({}),
        length(plane.corners.largest_cutter_mm, plane.corners.approximate),
        words(from_the_list(plane, job.inspection, d)),
        words(reach_words(plane)),
        number(static_cast<double>(plane.corners.not_judged), std::to_string(plane.corners.not_judged)),
        words(QString::fromStdString(plane.corners.reservations))};
    if (active) {
      QFont bold = row[1]->font();
      bold.setBold(true);
      row[1]->setFont(bold);
    }
    row.front()->setData(plane.setup, kSetupRole);
    row.front()->setData(plane.plane, kPlaneRole);
    made.appendRow(row);
  }
  show_rows(planes_.view, *planes_.model, made);
}

}  // namespace anvil::app
