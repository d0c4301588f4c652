// Columns and data roles of the ledger's rows.
#pragma once

#include <QTreeWidgetItem>

namespace anvil::app {

enum LedgerColumn { kName, kState, kEye, kColumns };
inline constexpr int kIdRole = Qt::UserRole, kStepRole = Qt::UserRole + 1, kNameRole = Qt::UserRole + 2,
                     kBodyRole = Qt::UserRole + 3, kGroupRole = Qt::UserRole + 4,
                     kLedgerPlaneRole = Qt::UserRole + 5;

// What a row stands for, as a value: nothing that a row's click or menu sets off may look at the row itself
// any more, because every act builds the rows anew.
struct LedgerRow {
  int entry = 0;                         // 0: a heading
  int body = -1, plane = -1, step = -1;  // of the entry; -1: none of these
  QString name;                          // as it is edited

  static LedgerRow of(const QTreeWidgetItem* item) {
    if (!item) return {};
    const auto number = [item](int role) {
      const QVariant value = item->data(kName, role);
      return value.isValid() ? value.toInt() : -1;
    };
    return {item->data(kName, kIdRole).toInt(), number(kBodyRole), number(kLedgerPlaneRole),
            number(kStepRole), item->data(kName, kNameRole).toString()};
  }
  [[nodiscard]] bool is_entry() const { return entry != 0 && body < 0 && plane < 0 && step < 0; }
};

}  // namespace anvil::app
