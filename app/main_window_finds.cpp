// What the finder finds beside acts: what has a name in the job and on the part, and settings.
#include <QComboBox>

#include "app/main_window.h"
#include "app/panels/drawer.h"
#include "app/panels/finder.h"
#include "app/view/view_pane.h"
#include "job/edits.h"
#include "job/names.h"

namespace anvil::app {

std::vector<Findable> MainWindow::named_things() {
  std::vector<Findable> named;
  add_named_picks(named);
  add_entries(named);
  add_corners(named);
  add_settings(named);
  return named;
}

void MainWindow::add_named_picks(std::vector<Findable>& named) {
  const auto add = [&](const QString& name, const Reference& reference) {
    named.push_back(
        {tr("Pick %1").arg(name), {}, {}, [this, reference] { session_.tray().add_pick(reference); }});
  };
  for (const Entry& entry : session_.document().job().entries)
    if ((entry.datum() && entry.datum()->makes != Makes::kMeasurement) || entry.setup())
      for (const EntryReference& reference : pickable(session_.document().evaluation(), entry.id))
        add(QString::fromStdString(pick_name(session_.document().job(), reference)), {reference, {}});
  add(tr("Part as placed"), {EntryReference{kReadPlaced}, {}});
  add(tr("Part as delivered"), {EntryReference{kReadDelivered}, {}});
  if (!session_.document().part() || !session_.checks().holes()) return;
  for (const Hole& hole : session_.checks().holes()->holes)
    if (!hole.faces.empty())
      named.push_back(
          {tr("Pick %1").arg(tr("hole %1").arg(QString::fromStdString(hole.name))),
           {},
           {},
           [this, part = session_.document().part(), face = hole.faces.front()] {
             if (same_geometry(part, session_.document().part()))
               session_.tray().add_pick({session_.document().describe(TopologyKind::kFace, face), {}});
           }});
}

void MainWindow::add_entries(std::vector<Findable>& named) {
  for (const Entry& entry : session_.document().job().entries) {
    const QString name = QString::fromStdString(entry.name);
    if (entry.datum())
      named.push_back({tr("Edit %1").arg(name), tr("change entry"), {}, [this, id = entry.id] {
                         if (session_.document().job().find(id)) session_.tray().edit(id);
                       }});
    if (entry.setup())
      named.push_back({tr("Open %1").arg(name), tr("edit setup"), {}, [this, id = entry.id] {
                         if (session_.document().job().find(id)) session_.desk().open_setup(id);
                       }});
  }
}

// Shown on the part and in its table.
void MainWindow::add_corners(std::vector<Findable>& named) {
  const auto corners = session_.checks().corners();
  const PartPtr part = session_.document().part();
  if (!corners || !part) return;
  const Display& display = session_.document().job().display;
  for (const Corner& corner : corners->corners) {
    const QString size =
        corner.radius_mm > 0
            ? tr("R %1").arg(QString::fromStdString(format_length(corner.radius_mm, display)))
            : tr("sharp");
    named.push_back({tr("Corner %1, %2").arg(QString::fromStdString(corner.name), size),
                     tr("radius interior"),
                     {},
                     [this, part, corner] {
                       if (!same_geometry(part, session_.document().part())) return;
                       drawer_->open(Drawer::Table::kCorners);
                       session_.checks().show_faces(corner.faces);
                       view_->zoom_to(
                           corner.position.Transformed(session_.document().evaluation().placement));
                     }});
  }
}

// Whatever is chosen in the strip, each of its choices by name.
void MainWindow::add_settings(std::vector<Findable>& named) {
  const std::tuple<QComboBox*, QString, QString> choosers[] = {
      {frames_, tr("Read in %1"), tr("reading frame setting coordinates")},
      {units_, tr("Show in %1"), tr("unit units setting metric millimetre imperial")},
      {styles_, tr("Draw %1"), tr("display style setting render")}};
  for (const auto& [chooser, sentence, also] : choosers)
    for (int i = 0; i < chooser->count(); ++i)
      named.push_back({sentence.arg(chooser->itemText(i)), also, {}, [chooser = chooser, i] {
                         chooser->setCurrentIndex(i);
                         Q_EMIT chooser->activated(i);
                       }});
  constexpr int kMostDecimals = 6;
  for (int decimals = 0; decimals <= kMostDecimals; ++decimals)
    named.push_back({tr("Show %1 decimals").arg(decimals), tr("setting digits places"), {}, [this, decimals] {
                       Preferences now = Preferences::load();
                       now.decimals = decimals;
                       apply(now);
                     }});
}

}  // namespace anvil::app
