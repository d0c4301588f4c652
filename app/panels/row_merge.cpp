#include "app/panels/row_merge.h"

#include <algorithm>

namespace anvil::app {
namespace {

bool same_cell(const QStandardItem* a, const QStandardItem* b) {
  if (!a || !b) return a == b;
  const QModelIndex x = a->index(), y = b->index();
  return a->flags() == b->flags() && x.model()->itemData(x) == y.model()->itemData(y);
}

bool is_filled_later(const QStandardItem& row) {
  return row.rowCount() == 1 && row.child(0)->text().isEmpty();
}

bool same_row(const QStandardItem& shown_parent, int i, const QStandardItem& made_parent, int j) {
  const int columns = std::max(shown_parent.columnCount(), made_parent.columnCount());
  for (int column = 0; column < columns; ++column)
    if (!same_cell(shown_parent.child(i, column), made_parent.child(j, column))) return false;
  const QStandardItem &shown = *shown_parent.child(i), &made = *made_parent.child(j);
  if (is_filled_later(made)) return shown.rowCount() > 0;
  if (shown.rowCount() != made.rowCount()) return false;
  for (int row = 0; row < made.rowCount(); ++row)
    if (!same_row(shown, row, made, row)) return false;
  return true;
}

}  // namespace

// What is alike at the start and at the end stays; what lies between is exchanged.
bool merge_rows(QStandardItemModel& shown, QStandardItemModel& made) {
  const QStandardItem &old = *shown.invisibleRootItem(), &now = *made.invisibleRootItem();
  int first = 0, old_end = old.rowCount(), now_end = now.rowCount();
  while (first < old_end && first < now_end && same_row(old, first, now, first)) ++first;
  while (old_end > first && now_end > first && same_row(old, old_end - 1, now, now_end - 1)) {
    --old_end;
    --now_end;
  }
  if (first == old_end && first == now_end) return false;
  // Of as many rows, those between that are alike stay as well.
  const bool one_for_one = old_end == now_end;
  if (!one_for_one) {
    shown.removeRows(first, old_end - first);
    for (int row = first; row < now_end; ++row) shown.insertRow(row, made.takeRow(first));
    return true;
  }
  std::vector<int> others;
  for (int row = first; row < old_end; ++row)
    if (!same_row(old, row, now, row)) others.push_back(row);
  for (auto row = others.rbegin(); row != others.rend(); ++row) {
    shown.removeRow(*row);
    shown.insertRow(*row, made.takeRow(*row));
  }
  return true;
}

}  // namespace anvil::app
