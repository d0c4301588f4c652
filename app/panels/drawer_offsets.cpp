// The drawer's table of work offsets.
#include <QStandardItemModel>
#include <QTreeView>

#include "app/panels/drawer.h"
#include "app/panels/drawer_cells.h"
#include "job/setup_on_machine.h"

namespace anvil::app {

// Every setup that has a machine: where the control finds the zero of each tool plane.
void Drawer::fill_offsets() {
  QStandardItemModel made;
  const Job& job = session_.document().job();
  const auto mm = [&](double v) { return number(v, format_length(v, job.display)); };
  for (const Entry& entry : job.entries) {
    if (!entry.setup()) continue;
    const auto on = setup_on_machine(job, session_.document().evaluation(), entry.id);
    if (!on) continue;
    for (const IndexedOffset& o : on->offsets)
      made.appendRow({words(QString::fromStdString(entry.name)), words(QString::fromStdString(o.plane)),
                      words(QString::fromStdString(work_offset_text(o.offset))),
                      words(QString::fromStdString(angles_text(*on->machine, o.angles))),
                      mm(o.in_machine.X()), mm(o.in_machine.Y()), mm(o.in_machine.Z()),
                      number(o.turn_rad, format_angle(o.turn_rad, job.display)), mm(o.in_setup.X()),
                      mm(o.in_setup.Y()), mm(o.in_setup.Z()), words(QString::fromStdString(o.remark))});
  }
  show_rows(offsets_.view, *offsets_.model, made);
}

int Drawer::count_offsets() const {
  const Document& document = session_.document();
  int count = 0;
  for (const Entry& entry : document.job().entries)
    if (entry.setup())
      if (const auto on = setup_on_machine(document.job(), document.evaluation(), entry.id))
        count += static_cast<int>(on->offsets.size());
  return count;
}

}  // namespace anvil::app
