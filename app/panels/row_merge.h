// Brings a table to new rows by touching only those that are others now: what is selected, open and scrolled
// to in the rest stays so.
#pragma once

#include <QStandardItemModel>

namespace anvil::app {

// Takes the rows of `made` over into `shown`. A row whose only child in `made` is empty stands for one that
// is filled when it is opened: what is under it already stays. True when anything was touched.
bool merge_rows(QStandardItemModel& shown, QStandardItemModel& made);

}  // namespace anvil::app
