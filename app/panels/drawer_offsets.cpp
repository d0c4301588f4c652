// The drawer's table of work offsets.
#include <QHeaderView>
#include <QStandardItemModel>
#include <QTableView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"
#include "setup/indexed_offsets.h"

namespace anvil::app {

// Every setup that has a machine: where the control finds the zero of each tool plane.
void Drawer::fill_offsets() {
  QStandardItemModel& model = *offsets_.model;
  model.removeRows(0, model.rowCount());
  const Job& job = session_.job();
  const auto mm = [&](double v) { return number(v, format_length(v, job.display)); };
  for (const Entry& entry : job.entries) {
    const auto at = session_.evaluation().entries.find(entry.id);
    const auto machine = entry.setup() ? job.machines.find(entry.setup()->machine) : job.machines.end();
    if (machine == job.machines.end() || at == session_.evaluation().entries.end() || !at->second.setup)
      continue;
    const auto place = place_of(*entry.setup(), job.display, {});
    if (!place) continue;
    const auto offsets = indexed_offsets(machine->second, *entry.setup(), *at->second.setup, *place);
    if (!offsets) continue;
    for (const IndexedOffset& o : *offsets)
      model.appendRow({words(QString::fromStdString(entry.name)), words(QString::fromStdString(o.plane)),
                       words(QString::fromStdString(work_offset_text(o.offset))),
                       words(QString::fromStdString(angles_text(machine->second, o.angles))),
                       mm(o.in_machine.X()), mm(o.in_machine.Y()), mm(o.in_machine.Z()),
                       number(o.turn_rad, format_angle(o.turn_rad, job.display)), mm(o.in_setup.X()),
                       mm(o.in_setup.Y()), mm(o.in_setup.Z()), words(QString::fromStdString(o.remark))});
  }
  offsets_.view->resizeColumnsToContents();
  offsets_.view->horizontalHeader()->setStretchLastSection(true);
}

}  // namespace anvil::app
