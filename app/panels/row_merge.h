// Brings a table to new rows by touching only those that are others now: what is selected, open and scrolled
// to in the rest stays so. What stands under a row may wait until it is asked for.
#pragma once

#include <QStandardItemModel>
#include <functional>

namespace anvil::app {

using MakeRows = std::function<void(QStandardItem& under)>;

// `make` appends to the row when what is under it is first asked for.
void make_rows_later(QStandardItem* row, const MakeRows& make);
bool has_rows_to_make(const QStandardItem& row);
void make_rows_now(QStandardItem& row);  // nothing where there are none to make

// Takes the rows of `made` over into `shown`. True when anything was touched.
bool merge_rows(QStandardItemModel& shown, QStandardItemModel& made);

// The rows of one table.
class TableRows : public QStandardItemModel {
 public:
  using QStandardItemModel::QStandardItemModel;
  // As merge_rows; into an empty table all come at once, which for a thousand takes a tenth of the time.
  bool become(QStandardItemModel& made);

  [[nodiscard]] bool hasChildren(const QModelIndex& parent = {}) const override;
  [[nodiscard]] bool canFetchMore(const QModelIndex& parent) const override;
  void fetchMore(const QModelIndex& parent) override;
};

}  // namespace anvil::app
