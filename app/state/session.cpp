#include "app/state/session.h"

namespace anvil::app {

void Session::drop() {
  if (!checks_.seats().empty()) {
    checks_.drop_seats();
    if (tray_.is_empty()) return;
  } else if (tray_.is_empty() && desk_.opened_setup()) {
    return desk_.open_setup(0);
  }
  tray_.drop();
}

QString Session::still_needed_text() const {
  if (tray_.replacing() >= 0)
    return tr("Pick what takes the place of %1.").arg(QString::fromStdString(circled(tray_.replacing() + 1)));
  const std::optional<Draft>& draft = tray_.draft();
  if (!draft && !checks_.seats().empty())
    return tr(
        "Point at a seat to see which face it stands on; click to take it. Esc leaves the part as it lies.");
  if (!draft)
    return tray_.picks().empty()
               ? tr("Pick faces, edges or points on the part. What they determine is offered here.")
           : tray_.can_keep() ? tr("Enter takes the first offer; a number opens the first that takes one.")
                              : QString();
  if (!draft->reason.isEmpty()) return draft->reason;
  return QString::fromStdString(still_needed(*draft->construction, tray_.givens()));
}

}  // namespace anvil::app
