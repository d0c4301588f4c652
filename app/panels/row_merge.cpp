#include "app/panels/row_merge.h"

#include <QSignalBlocker>
#include <algorithm>

#include "app/panels/drawer_cells.h"

namespace anvil::app {

void make_rows_later(QStandardItem* row, const MakeRows& make) {
  row->setData(QVariant::fromValue(make), kMakeRole);
}

bool has_rows_to_make(const QStandardItem& row) {
  return row.data(kMakeRole).isValid();
}

void make_rows_now(QStandardItem& row) {
  if (!has_rows_to_make(row)) return;
  const auto make = row.data(kMakeRole).value<MakeRows>();
  {
    const QSignalBlocker quiet(row.model());  // nothing that is seen changes with it
    row.setData({}, kMakeRole);
  }
  make(row);
}

namespace {

void hand_on(const QStandardItem& made, QStandardItem& shown) {
  const QSignalBlocker quiet(shown.model());
  shown.setData(made.data(kMakeRole), kMakeRole);
}

bool same_cell(const QStandardItem* a, const QStandardItem* b) {
  if (!a || !b) return a == b;
  constexpr int kCompared[] = {Qt::DisplayRole, Qt::ToolTipRole, Qt::ForegroundRole, Qt::TextAlignmentRole};
  const auto alike = [&](int role) { return a->data(role) == b->data(role); };
  if (a->flags() != b->flags() || !std::all_of(std::begin(kCompared), std::end(kCompared), alike))
    return false;
  for (int role = Qt::UserRole; role <= kLastRole; ++role)
    if (!alike(role)) return false;
  return true;
}

// Where nobody has asked yet what is under a row, it is asked of the new one from now on.
bool same_row(const QStandardItem& shown_parent, int i, const QStandardItem& made_parent, int j) {
  const int columns = std::max(shown_parent.columnCount(), made_parent.columnCount());
  for (int column = 0; column < columns; ++column)
    if (!same_cell(shown_parent.child(i, column), made_parent.child(j, column))) return false;
  QStandardItem &shown = *shown_parent.child(i), &made = *made_parent.child(j);
  if (has_rows_to_make(shown) && has_rows_to_make(made)) {
    hand_on(made, shown);
    return true;
  }
  make_rows_now(made);
  make_rows_now(shown);
  if (shown.rowCount() != made.rowCount()) return false;
  for (int row = 0; row < made.rowCount(); ++row)
    if (!same_row(shown, row, made, row)) return false;
  return true;
}

// All rows at once; nobody is told of each.
void take_all(QStandardItemModel& shown, QStandardItemModel& made) {
  const QSignalBlocker quiet(shown);
  std::vector<QList<QStandardItem*>> rows;
  while (made.rowCount() > 0) rows.push_back(made.takeRow(made.rowCount() - 1));
  std::for_each(rows.rbegin(), rows.rend(), [&](const auto& row) { shown.appendRow(row); });
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

bool TableRows::become(QStandardItemModel& made) {
  if (rowCount() > 0 || made.rowCount() == 0) return merge_rows(*this, made);
  beginResetModel();
  take_all(*this, made);
  endResetModel();
  return true;
}

bool TableRows::hasChildren(const QModelIndex& parent) const {
  return canFetchMore(parent) || QStandardItemModel::hasChildren(parent);
}

bool TableRows::canFetchMore(const QModelIndex& parent) const {
  const QStandardItem* row = itemFromIndex(parent);
  return row && has_rows_to_make(*row);
}

void TableRows::fetchMore(const QModelIndex& parent) {
  if (QStandardItem* row = itemFromIndex(parent)) make_rows_now(*row);
}

}  // namespace anvil::app
