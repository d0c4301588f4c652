// The ledger's setups: their tool planes as rows, and what their menu offers.
#include <QMenu>

#include "app/panels/ledger.h"
#include "app/panels/ledger_roles.h"
#include "app/theme.h"
#include "job/setup_edits.h"

namespace anvil::app {

void Ledger::add_planes(QTreeWidgetItem* parent, const Entry& entry) {
  const auto at = session_.document().evaluation().entries.find(entry.id);
  if (at == session_.document().evaluation().entries.end() || !at->second.setup) return;
  const auto machine = session_.document().job().machines.find(entry.setup()->machine);
  const bool reading = session_.document().job().reading_frame == entry.id;
  int number = 0;
  for (const PlaneValue& plane : at->second.setup->planes) {
    const int index = number++;
    if (index == 0 && at->second.setup->planes.size() == 1) continue;  // its own alone says nothing new
    QString text = index == 0 ? tr("along Z") : QString::fromStdString(plane.name);
    if (machine != session_.document().job().machines.end() && plane.pose() && !plane.pose()->angles.empty())
      text +=
          QStringLiteral("   ") + QString::fromStdString(angles_text(machine->second, plane.pose()->angles));
    auto* item = new QTreeWidgetItem(parent);
    item->setText(kName, text);
    item->setToolTip(kName, plane.problem.empty() ? tr("Look along this tool plane")
                                                  : QString::fromStdString(plane.problem));
    item->setData(kName, kIdRole, entry.id);
    item->setData(kName, kLedgerPlaneRole, index);
    const bool active = reading && session_.document().job().tool_plane == index;
    item->setForeground(kName, !plane.problem.empty() ? theme().does_not_fit
                               : active               ? theme().accent
                                                      : theme().quiet_ink);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
  }
  parent->setExpanded(true);
}

void Ledger::plane_menu(int setup, int plane, const QPoint& at) {
  QMenu menu(this);
  menu.setObjectName(QStringLiteral("ledger.plane_menu"));
  menu.addAction(tr("Look along it"), this,
                 [this, setup, plane] { session_.desk().activate_plane(setup, plane); });
  if (plane > 0) {
    const auto index = static_cast<size_t>(plane - 1);
    for (const int by : {-1, +1})
      menu.addAction(by < 0 ? tr("Move up") : tr("Move down"), this, [this, setup, index, by] {
        session_.document().act(tr("Move a tool plane"),
                                with_moved_tool_plane(session_.document().job(), setup, index, by));
      });
    menu.addSeparator();
    menu.addAction(tr("Remove"), this, [this, setup, index] {
      session_.document().act(tr("Remove a tool plane"),
                              without_tool_plane(session_.document().job(), setup, index));
    });
  }
  menu.exec(at);
}

void Ledger::add_setup_actions(QMenu& menu, const Entry& entry) {
  const int id = entry.id;
  if (session_.document().evaluation().entries.at(id).stopped)
    menu.addAction(tr("Compute it"), this, [this] { session_.document().compute_stopped(); });
  menu.addAction(tr("Open its card"), this, [this, id] { session_.desk().open_setup(id); });
  const auto added = [this](const QString& name, Job next, int made) {
    session_.document().act(name, std::move(next));
    session_.desk().open_setup(made);
  };
  menu.addAction(tr("Copy"), this, [this, id, added] {
    int made = 0;
    Job next = with_copied_setup(session_.document().job(), id, &made);
    added(tr("Copy a setup"), std::move(next), made);
  });
  QMenu* over = menu.addMenu(tr("Turn the part over"));
  for (const char about : {'X', 'Y'})
    over->addAction(tr("about %1").arg(QLatin1Char(about)), this, [this, id, about, added] {
      int made = 0;
      Job next = with_flipped_setup(session_.document().job(), id, about, &made);
      added(tr("Turn the part over"), std::move(next), made);
    });
  menu.addAction(tr("Move up"), this,
                 [this, id] { try_act(tr("Move up"), with_moved(session_.document().job(), id, -1)); });
  menu.addAction(tr("Move down"), this,
                 [this, id] { try_act(tr("Move down"), with_moved(session_.document().job(), id, +1)); });
}

}  // namespace anvil::app
