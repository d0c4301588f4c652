// Cells of the drawer's tables.
#pragma once

#include <QStandardItem>

#include "app/theme.h"

namespace anvil::app {

inline constexpr int kSortRole = Qt::UserRole, kFacesRole = Qt::UserRole + 1, kPlaceRole = Qt::UserRole + 2;

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

}  // namespace anvil::app
