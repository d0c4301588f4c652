// The session's evaluation: off the interface thread, waited for a moment because most are quick.
#include <utility>

#include "app/session.h"

namespace anvil::app {
void Session::refresh_evaluation() {
  for (auto id = stopped_.begin(); id != stopped_.end();)
    id = job().find(*id) ? std::next(id) : stopped_.erase(id);
  const auto before = std::make_shared<const Evaluation>(evaluation_);
  evaluating_.start_patiently<Evaluation>(
      tr("Evaluating the job"), patience_,
      [now = job(), before, stopped = stopped_, cache = cache_](const Progress& progress) {
        return evaluate(now, before.get(), {progress, stopped, false, cache});
      },
      [this](Evaluation done) { take_evaluation(std::move(done)); });
  if (evaluating_.is_busy()) refresh_offers();  // what was kept leaves the tray at once
}

// The user will not wait: what is known stands, the rest is left out until it is asked for again.
void Session::stop_evaluating() {
  Evaluation known = evaluate(job(), &evaluation_, {{}, stopped_, true, cache_});
  for (const auto& [id, evaluated] : known.entries)
    if (evaluated.stopped) stopped_.insert(id);
  take_evaluation(std::move(known));
}

void Session::compute_stopped() {
  stopped_.clear();
  refresh_evaluation();
}

void Session::take_evaluation(Evaluation done) {
  evaluation_ = std::move(done);
  const PartPtr now = part();
  const bool placed_anew = !same_motion(seen_placement_, evaluation_.placement);
  const bool moved = !same_geometry(now, seen_part_) || placed_anew;
  const bool refined = std::exchange(refining_, false) && !placed_anew;
  seen_part_ = now;
  seen_placement_ = evaluation_.placement;
  if (moved) {  // proposed axes name faces, as findings do
    proposing_.cancel();
    proposals_.reset();
  }
  refresh_checks();  // first: nobody may meet the findings of another part
  refresh_soundness();
  refresh_box();
  if (moved && !seats_.empty()) suggest_seats();
  refresh_picks();
  if (moved && refined) Q_EMIT part_refined();
  if (moved && !refined) Q_EMIT part_changed();
  Q_EMIT job_changed();
  Q_EMIT bodies_changed();
  if (std::exchange(look_when_evaluated_, false)) Q_EMIT plane_activated();
  if (const auto then = std::exchange(when_evaluated_, {})) then();
}

// --- the draft

void Session::refresh_draft() {
  drafting_.cancel();
  if (draft_ && !takes(*draft_->construction, draft_->picks.size())) {
    draft_->solutions.clear();
    draft_->reason.clear();
  } else if (draft_ && draft_->construction->takes_time) {
    draft_->reason = tr("Being computed …");
    drafting_.start_patiently<Solutions>(
        tr("Computing"), patience_,
        [now = job(), evaluation = std::make_shared<const Evaluation>(evaluation_),
         recipe = recipe_of(*draft_), before = draft_->editing_entry](const Progress&) {
          return solve_recipe(now, *evaluation, recipe, before);
        },
        [this](Solutions solutions) { settle_draft(std::move(solutions)); });
    if (!drafting_.is_busy()) return;
    draft_->solutions.clear();
  } else if (draft_) {
    return settle_draft(solve_draft(*draft_));
  }
  refresh_handles();
  Q_EMIT draft_changed();
}

void Session::settle_draft(Solutions solutions) {
  if (!draft_) return;
  Draft& d = *draft_;
  if (d.solution < d.solutions.size()) d.kept_key = d.solutions[d.solution].key;
  d.solutions.clear();
  d.reason.clear();
  if (solutions) {
    d.solutions = std::move(*solutions);
    d.solution = d.kept_key.empty() ? preferred_solution(d) : chosen(d.solutions, d.kept_key);
  } else {
    d.reason = QString::fromStdString(
        fill_numbers(solutions.error().sentence, pick_numbers(*d.construction, d.picks)));
  }
  refresh_handles();
  Q_EMIT draft_changed();
}

// --- one after the other

bool Session::can_go_on() const {
  return draft_ && !draft_->editing_entry && draft_->construction->makes == Makes::kPoint &&
         !draft_->solutions.empty() && !draft_->construction->parameters.empty() &&
         start_role(*draft_->construction) >= 0;
}

bool Session::can_repeat() const {
  return draft_ && !draft_->editing_entry && draft_->editing_step < 0 && !draft_->solutions.empty() &&
         !draft_->construction->parameters.empty() && draft_->construction->makes != Makes::kPlacement;
}

void Session::keep_and_repeat() {
  if (can_repeat()) keep_then_start(false);
}

void Session::keep_and_go_on() {
  if (can_go_on()) keep_then_start(true);
}

void Session::keep_then_start(bool from_what_was_kept) {
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
  if (!evaluating_.is_busy()) return go_on();
  when_evaluated_ = [this, go_on, began = job_number_] {  // the point that was kept is not there yet
    if (began == job_number_ && !draft_ && picks_.empty()) go_on();
  };
}

}  // namespace anvil::app
