// Columns and data roles of the ledger's rows.
#pragma once

#include <Qt>

namespace anvil::app {

enum LedgerColumn { kName, kState, kEye, kColumns };
inline constexpr int kIdRole = Qt::UserRole, kStepRole = Qt::UserRole + 1, kNameRole = Qt::UserRole + 2,
                     kBodyRole = Qt::UserRole + 3, kGroupRole = Qt::UserRole + 4,
                     kPlaneRole = Qt::UserRole + 5;

}  // namespace anvil::app
