// Cells of the drawer's tables.
#pragma once

#include <QStandardItem>
#include <QTreeView>

#include "app/theme.h"
#include "base/units.h"

namespace anvil::app {

inline constexpr int kSortRole = Qt::UserRole, kFacesRole = Qt::UserRole + 1, kPlaceRole = Qt::UserRole + 2,
                     kPatternRole = Qt::UserRole + 3, kPocketRole = Qt::UserRole + 4;

// A number that sorts as one and shows as the user's unit has it.
inline QStandardItem* number(double value, const std::string& text) {
  auto* item = new QStandardItem(QString::fromStdString(text));
  item->setData(value, kSortRole);
  item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
  item->setFont(number_font());
  item->setEditable(false);
  return item;
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

inline void fit_columns(QTreeView* view) {
  for (int column = 0; column + 1 < view->model()->columnCount(); ++column)
    view->resizeColumnToContents(column);
}

}  // namespace anvil::app
