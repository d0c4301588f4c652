#include "app/state/offer_memory.h"

#include <QSettings>

#include "construct/likely_offers.h"

namespace anvil::app {
namespace {

constexpr int kMost = 3;

// Kinds hold spaces and signs that settings take; a slash would make groups of them.
QString key_of(const std::vector<Given>& picks) {
  return QStringLiteral("offers/") + QString::fromStdString(kinds_of(picks));
}

}  // namespace

std::vector<std::string> OfferMemory::used_with(const std::vector<Given>& picks) const {
  std::vector<std::string> used;
  if (picks.empty()) return used;
  for (const QString& id : QSettings().value(key_of(picks)).toStringList()) used.push_back(id.toStdString());
  return used;
}

void OfferMemory::note(const std::vector<Given>& picks, const std::string& construction) {
  if (picks.empty()) return;
  QSettings settings;
  QStringList used = settings.value(key_of(picks)).toStringList();
  const QString id = QString::fromStdString(construction);
  used.prepend(id);
  settings.setValue(key_of(picks), QStringList(used.mid(0, kMost)));
}

}  // namespace anvil::app
