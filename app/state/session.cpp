#include "app/state/session.h"

namespace anvil::app {

bool Session::drop() {
  const bool nothing_held = tray_.is_empty() && tray_.replacing() < 0;
  if (!nothing_held)
    tray_.drop();
  else if (desk_.opened_setup())
    desk_.open_setup(0);
  else if (!checks_.seats().empty())
    checks_.drop_seats();
  else
    return false;
  return true;
}

Leaning Session::leaning() const {
  const Job& job = document_.job();
  const auto look = checks_.first_look();
  const bool has_frame = std::any_of(job.entries.begin(), job.entries.end(),
                                     [](const Entry& entry) { return entry.setup() || entry.is_frame(); });
  return {look && !look->stands && !look->seats.empty() && !job.placement(), !has_frame, {}};
}

QString Session::still_needed_text() const {
  if (tray_.replacing() >= 0)
    return tr("Pick what takes the place of %1.").arg(QString::fromStdString(circled(tray_.replacing() + 1)));
  const std::optional<Draft>& draft = tray_.draft();
  if (!draft && tray_.picks().empty() && !checks_.seats().empty())
    return tr(
        "Point at a seat to see which face it stands on; click to take it. Esc leaves the part as it lies.");
  if (!draft)
    return !document_.part() ? tr("A part or a job comes first: drop it into the window.")
           : tray_.picks().empty()
               ? tr("Pick faces, edges or points on the part. What they determine is offered here.")
           : tray_.can_keep() ? tr("Enter takes the first offer, a number the first that takes one; "
                                   "letters filter.")
                              : QString();
  if (!draft->reason.isEmpty()) return draft->reason;
  return QString::fromStdString(still_needed(*draft->construction, tray_.givens()));
}

}  // namespace anvil::app
