// Cells of the drawer's tables.
#pragma once

#include <QStandardItem>
#include <QTreeView>
#include <set>

#include "app/panels/row_merge.h"
#include "app/theme.h"
#include "base/units.h"

namespace anvil::app {

inline constexpr int kSortRole = Qt::UserRole, kFacesRole = Qt::UserRole + 1, kPlaceRole = Qt::UserRole + 2,
                     kPatternRole = Qt::UserRole + 3, kPocketRole = Qt::UserRole + 4,
                     kHoleRole = Qt::UserRole + 5,  // of the report; slots count on after the holes
    kPicksRole = Qt::UserRole + 6,                  // a face for each hole to be picked
    kSetupRole = Qt::UserRole + 7, kPlaneRole = Qt::UserRole + 8,
                     kShowRole = Qt::UserRole + 9,  // faces to show that are not the row's own
    kLastRole = kShowRole, kMakeRole = kLastRole + 1;

// A number that sorts as one and shows as the user's unit has it. How it stands is not stored with each of
// thousands.
class NumberCell : public QStandardItem {
 public:
  NumberCell(double value, const std::string& text) : QStandardItem(QString::fromStdString(text)) {
    setData(value, kSortRole);
    setEditable(false);
  }
  [[nodiscard]] QVariant data(int role) const override {
    if (role == Qt::TextAlignmentRole) return QVariant::fromValue(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::FontRole) return number_font();
    return QStandardItem::data(role);
  }
};

inline QStandardItem* number(double value, const std::string& text) {
  return new NumberCell(value, text);
}

inline QStandardItem* words(const QString& text) {
  auto* item = new QStandardItem(text);
  item->setData(text, kSortRole);
  item->setEditable(false);
  return item;
}

inline QVariantList face_list(const std::vector<int>& faces) {
  QVariantList list;
  for (int face : faces) list << face;
  return list;
}

// What is less than the last digit reads as that digit, not as nothing.
inline QString deviation_text(double mm, const Display& display) {
  const int decimals = display.decimals + 1;
  const double least = mm_per(display.unit) * std::pow(10, -decimals);
  return QString::fromStdString(format_length(std::max(least, mm), {display.unit, decimals}));
}

// Rows at the top that stand open, by their names, and opened again after the table was filled anew.
inline std::set<QString> opened_rows(const QTreeView* view) {
  std::set<QString> opened;
  for (int row = 0; row < view->model()->rowCount(); ++row)
    if (const QModelIndex index = view->model()->index(row, 0); view->isExpanded(index))
      opened.insert(index.data().toString());
  return opened;
}
inline void open_rows(QTreeView* view, const std::set<QString>& opened) {
  for (int row = 0; !opened.empty() && row < view->model()->rowCount(); ++row)
    if (const QModelIndex index = view->model()->index(row, 0); opened.count(index.data().toString()) > 0)
      view->expand(index);
}

// As wide as the longest words in each column, of all rows that can be scrolled to; the last has the rest.
void fit_columns(QTreeView* view);

// The rows of an open table brought to those that were made, with what was open still so.
inline void show_rows(QTreeView* view, TableRows& shown, QStandardItemModel& made) {
  const std::set<QString> opened = opened_rows(view);
  if (!shown.become(made)) return;
  open_rows(view, opened);
  fit_columns(view);
}

}  // namespace anvil::app
