// What is being made becomes an entry, or a step of the placement.
#include "app/state/pick_tray.h"
#include "construct/registry.h"
#include "job/edits.h"

namespace anvil::app {

namespace {

bool takes_number(const Construction& construction) {
  return std::any_of(construction.parameters.begin(), construction.parameters.end(), [](const Parameter& p) {
    return !p.aside && (p.quantity == Quantity::kLength || p.quantity == Quantity::kAngle ||
                        p.quantity == Quantity::kRatio);
  });
}

}  // namespace

bool PickTray::can_keep() const {
  if (draft_) return !draft_->solutions.empty() && !(outcome_ && !outcome_->refused.isEmpty());
  return !likely_.empty();
}

bool PickTray::open_for_number() {
  if (draft_) return false;
  // What was made of such picks before, then as the offers come.
  const std::vector<std::string> used = memory_.used_with(givens());
  std::vector<size_t> in_turn;
  for (const size_t i : likely_)
    if (std::find(used.begin(), used.end(), offers_[i].construction->id) != used.end()) in_turn.push_back(i);
  for (size_t i = 0; i < offers_.size(); ++i)
    if (offers_[i].state == Offer::State::kReady) in_turn.push_back(i);
  for (const size_t i : in_turn)
    if (takes_number(*offers_[i].construction)) {
      choose(static_cast<int>(i));
      return true;
    }
  return false;
}

void PickTray::keep() {
  const ChangeBus::Hold hold(bus_);
  solve_what_was_typed();
  if (!draft_ && can_keep()) {
    choose(static_cast<int>(likely_.front()));
    if (takes_number(*draft_->construction)) return;
  }
  if (!draft_ || !can_keep()) return;
  const Draft draft = *draft_;
  const std::vector<Pick> picks = picks_;
  const QString name = act_name(draft);
  Job next = with_draft_kept(draft);
  if (!draft.editing_entry && draft.editing_step < 0) memory_.note(givens(), draft.construction->id);
  draft_.reset();
  picks_.clear();
  document_.wait_for_again(draft.editing_entry);
  if (document_.act(name, std::move(next))) return;
  draft_ = draft;  // refused: nothing of it is lost
  picks_ = picks;
  refresh_offers();
}

QString PickTray::act_name(const Draft& draft) const {
  if (draft.construction->makes == Makes::kPlacement)
    return draft.editing_step >= 0 ? tr("Edit placement") : tr("Place the part");
  const Entry* edited = job().find(draft.editing_entry);
  return edited ? tr("Edit %1").arg(QString::fromStdString(edited->name))
                : tr("Keep %1").arg(QString::fromUtf8(makes_name(draft.construction->makes)));
}

// A placement comes before every datum, so a step cannot lean on one: what it does now is kept by its
// numbers.
Job PickTray::with_draft_kept(const Draft& draft) const {
  Recipe recipe = recipe_of(draft);
  if (draft.construction->makes != Makes::kPlacement) {
    const Entry* edited = job().find(draft.editing_entry);
    return edited ? with_recipe(job(), edited->id, recipe) : with_copies(job(), recipe);
  }
  const bool leans = std::any_of(recipe.inputs.begin(), recipe.inputs.end(), [](const Reference& r) {
    return std::holds_alternative<EntryReference>(r.target);
  });
  const auto* step = std::get_if<PlacementStep>(&draft.solutions[draft.solution].value);
  if (leans && step) {
    Recipe fixed;
    fixed.construction = "place.by-matrix";
    fixed.bodies = recipe.bodies;
    fixed.parameters["matrix"] = matrix_text(step->motion);
    recipe = fixed;
  }
  if (draft.editing_step < 0 || !job().placement()) return with_placement_step(job(), recipe);
  std::vector<Recipe> steps = job().placement()->placement()->steps;
  if (draft.editing_step < static_cast<int>(steps.size())) steps[draft.editing_step] = recipe;
  return with_placement_steps(job(), std::move(steps));
}

bool PickTray::can_go_on() const {
  return draft_ && !draft_->editing_entry && draft_->construction->makes == Makes::kPoint &&
         !draft_->solutions.empty() && !draft_->construction->parameters.empty() &&
         start_role(*draft_->construction) >= 0;
}

bool PickTray::can_repeat() const {
  return draft_ && !draft_->editing_entry && draft_->editing_step < 0 && !draft_->solutions.empty() &&
         !draft_->construction->parameters.empty() && draft_->construction->makes != Makes::kPlacement;
}

void PickTray::keep_and_repeat() {
  if (can_repeat()) keep_then_start(false);
}

void PickTray::keep_and_go_on() {
  if (can_go_on()) keep_then_start(true);
}

void PickTray::keep_then_start(bool from_what_was_kept) {
  const Draft was = *draft_;
  std::vector<Reference> picked;
  for (const Pick& pick : picks_) picked.push_back(pick.reference);
  const int kept = job().next_id;
  keep();
  if (draft_) return;  // it was refused
  const int role = start_role(*was.construction);
  if (from_what_was_kept && role >= 0 && was.picks[role] != kReadingFrame)
    picked[was.picks[role]] = Reference{EntryReference{kept}, {}};
  const auto go_on = [this, was, picked] {
    start(was.construction->id);
    draft_->parameters = was.parameters;
    draft_->flipped = was.flipped;
    for (const Reference& reference : picked) add_pick(reference);
  };
  if (!document_.evaluating().is_busy()) return go_on();
  document_.when_evaluated(
      [this, go_on, began = document_.ticket().job] {  // the point that was kept is not there yet
        if (began == document_.ticket().job && is_empty()) go_on();
      });
}

}  // namespace anvil::app
