// Corrections that are being made are tried behind the window, so that what they add and remove is seen
// before they are kept.
#include "app/state/pick_tray.h"
#include "job/correcting.h"

namespace anvil::app {

void PickTray::look_as_edited() {
  const Entry* edited = draft_ ? job().find(draft_->editing_entry) : nullptr;
  document_.look_before(edited && edited->is_correction() ? edited->id : 0);
}

std::shared_ptr<const Plan> PickTray::plan_in_view() const {
  const std::vector<Solution>* solutions = nullptr;
  size_t chosen_one = 0;
  if (draft_) {
    solutions = &draft_->solutions;
    chosen_one = draft_->solution;
  } else if (previewed_ >= 0 && previewed_ < static_cast<int>(offers_.size())) {
    solutions = &offers_[previewed_].solutions;
    chosen_one = offers_[previewed_].preferred;
  }
  if (!solutions || chosen_one >= solutions->size()) return nullptr;
  const auto* planned = std::get_if<PlannedCorrection>(&(*solutions)[chosen_one].value);
  const bool does_something = planned && (!planned->plan->steps.empty() || !planned->plan->bodies.empty());
  return does_something ? planned->plan : nullptr;
}

void PickTray::try_correction() {
  const auto plan = plan_in_view();
  if (plan == tried_) return;
  tried_ = plan;
  outcome_.reset();
  correcting_.cancel();
  if (!plan || !document_.part()) return;
  using Corrected = Result<CorrectedPart>;
  correcting_.start_patiently<Corrected>(
      tr("Trying the correction"), std::chrono::milliseconds(30),
      [what = Correcting{document_.part(), plan, document_.evaluation().placement},
       cache = document_.cache()](const Progress& progress) {
        return corrected_once(*cache, what, {}, progress);
      },
      [this, plan](const Corrected& corrected) {
        if (plan != tried_) return;
        auto outcome = std::make_shared<Outcome>();
        if (corrected)
          outcome->report = std::make_shared<const CorrectionReport>(corrected->report);
        else
          outcome->refused = QString::fromStdString(corrected.error().sentence);
        outcome_ = std::move(outcome);
        bus_.announce(Change::kDraft);
      });
}

}  // namespace anvil::app
