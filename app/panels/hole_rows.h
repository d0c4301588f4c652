// What stands under a hole in the drawer's table: openings, steps, how it looks in the views of the reading
// frame, what is around it, and which tool planes reach it.
#pragma once

#include <QStandardItem>

#include "app/state/session.h"

namespace anvil::app {

// `report` in the reading frame. Rows have the columns of the table of holes.
void add_hole_details(QStandardItem& hole_row, const Session& session, const HoleReport& report, size_t hole);

}  // namespace anvil::app
