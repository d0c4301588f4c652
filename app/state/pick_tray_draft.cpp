// What is being made: begun, its numbers and solutions.
#include "app/state/pick_tray.h"
#include "construct/registry.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "job/names.h"

namespace anvil::app {

void PickTray::choose(int index) {
  if (index < 0 || index >= static_cast<int>(offers_.size())) return;
  const Offer& offer = offers_[index];
  Draft draft;
  draft.construction = offer.construction;
  draft.parameters = initial_parameters(*offer.construction, seen());
  draft.unit = job().display.unit;
  if (offer.state != Offer::State::kNeedsMore) draft.picks = offer.picks;
  draft_ = std::move(draft);
  previewed_ = -1;
  refresh_draft();
}

void PickTray::start(const std::string& construction) {
  Draft draft;
  draft.construction = find_construction(construction);
  if (!draft.construction) return;
  draft.parameters = initial_parameters(*draft.construction, seen());
  draft.unit = job().display.unit;
  draft_ = std::move(draft);
  assign_draft();
  refresh_draft();
}

// Keeps an assignment that still holds; else looks for one among the picks there are now.
void PickTray::assign_draft() {
  const auto all = givens();
  auto assigned = assign(*draft_->construction, all);
  draft_->picks = assigned ? std::move(*assigned) : std::vector<int>{};
}

size_t PickTray::preferred_solution(const Draft& draft) const {
  std::vector<const Given*> picked;
  for (int pick : draft.picks)
    if (pick != kReadingFrame) picked.push_back(&picks_[pick].given);
  return preferred(draft.solutions, picked);
}

Names PickTray::draft_names() const {
  return draft_ ? names_for(job(), evaluation(), draft_->parameters, draft_->editing_entry) : Names();
}

Recipe PickTray::recipe_of(const Draft& d) const {
  Recipe recipe;
  recipe.construction = d.construction->id;
  for (int pick : d.picks)
    recipe.inputs.push_back(pick == kReadingFrame ? Reference{EntryReference{job().reading_frame}, {}}
                                                  : picks_[pick].reference);
  recipe.parameters = d.parameters;
  recipe.unit = d.unit;
  recipe.flipped = d.flipped;
  if (d.construction->makes == Makes::kPlacement) recipe.bodies = d.bodies;
  if (d.solution < d.solutions.size()) recipe.choice = d.solutions[d.solution].key;
  return recipe;
}

// A placement step moves the part as it stands before the step, so an edited one is solved without those
// after it.
Solutions PickTray::solve_draft(const Draft& d) const {
  const Recipe recipe = recipe_of(d);
  if (d.editing_step < 0 || !job().placement())
    return solve_recipe(job(), evaluation(), recipe, d.editing_entry);
  std::vector<Recipe> before = job().placement()->placement()->steps;
  before.resize(std::min<size_t>(before.size(), d.editing_step));
  const Job until_then = with_placement_steps(job(), std::move(before));
  return solve_recipe(until_then, evaluate(until_then, nullptr, {.cache = document_.cache()}), recipe);
}

void PickTray::refresh_draft() {
  typed_.stop();
  drafting_.cancel();
  if (draft_ && !takes(*draft_->construction, draft_->picks.size())) {
    draft_->solutions.clear();
    draft_->reason.clear();
  } else if (draft_ && draft_->construction->takes_time) {
    draft_->reason = tr("Being computed …");
    drafting_.start_patiently<Solutions>(
        tr("Computing"), document_.patience(),
        [now = job(), evaluation = std::make_shared<const Evaluation>(evaluation()),
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
  try_correction();
  bus_.announce(Change::kDraft);
}

void PickTray::settle_draft(Solutions solutions) {
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
  try_correction();
  bus_.announce(Change::kDraft);
}

void PickTray::set_parameter(const std::string& id, const std::string& text) {
  if (!draft_) return;
  draft_->parameters[id] = text;
  typed_.start();
}

void PickTray::solve_what_was_typed() {
  if (typed_.isActive()) refresh_draft();
}

void PickTray::choose_solution(size_t index) {
  solve_what_was_typed();
  if (!draft_ || index >= draft_->solutions.size()) return;
  draft_->solution = index;
  refresh_handles();
  try_correction();
  bus_.announce(Change::kDraft);
}

void PickTray::next_solution() {
  if (draft_ && draft_->solutions.size() > 1)
    choose_solution((draft_->solution + 1) % draft_->solutions.size());
}

void PickTray::leave_out_worst() {
  if (!draft_ || draft_->solution >= draft_->solutions.size()) return;
  const int role = draft_->solutions[draft_->solution].worst_role;
  if (role >= 0 && role < static_cast<int>(draft_->picks.size())) remove_pick(draft_->picks[role]);
}

void PickTray::quarter_turn() {
  if (!draft_ || draft_->solution >= draft_->solutions.size()) return;
  const auto* now = std::get_if<FrameDatum>(&draft_->solutions[draft_->solution].value);
  if (!now) return;
  // Among the arrangements with this Z, the next X anticlockwise.
  double least = 2 * kPi;
  size_t next = draft_->solution;
  for (size_t i = 0; i < draft_->solutions.size(); ++i) {
    const gp_Ax2& other = std::get<FrameDatum>(draft_->solutions[i].value).frame;
    if (!other.Direction().IsEqual(now->frame.Direction(), 1e-6)) continue;
    double turn = now->frame.XDirection().AngleWithRef(other.XDirection(), now->frame.Direction());
    if (turn < 0) turn += 2 * kPi;
    if (turn < 1e-6 || turn >= least) continue;
    least = turn;
    next = i;
  }
  if (next != draft_->solution || !draft_->parameters.count("rz")) return choose_solution(next);
  // A frame of a single arrangement is turned by its own number.
  std::string& turn = draft_->parameters["rz"];
  const auto now_rad = evaluate_angle(turn, draft_names());
  set_parameter(
      "rz", now_rad ? format_plain(std::fmod(std::round(degrees(*now_rad) * 1e9) / 1e9 + 90, 360)) : "90");
}

void PickTray::open_asides(bool open) {
  if (!draft_ || draft_->asides_open == open) return;
  draft_->asides_open = open;
  refresh_handles();
  bus_.announce(Change::kDraft);
}

void PickTray::flip() {
  if (!draft_) return;
  draft_->flipped = !draft_->flipped;
  refresh_draft();
}

void PickTray::set_moving_bodies(std::vector<int> delivered) {
  if (!draft_) return;
  draft_->bodies = std::move(delivered);
  refresh_draft();
}

void PickTray::edit(int id, int step) {
  const Entry* entry = job().find(id);
  if (!entry) return;
  const Recipe* recipe = nullptr;
  if (entry->datum()) recipe = &entry->datum()->recipe;
  if (entry->placement() && step >= 0 && step < static_cast<int>(entry->placement()->steps.size()))
    recipe = &entry->placement()->steps[step];
  if (!recipe || !find_construction(recipe->construction)) return;
  const ChangeBus::Hold hold(bus_);
  document_.look_before(entry->is_correction() ? id : 0);
  if (!document_.evaluating().is_busy()) return edit_recipe(*entry, *recipe, step);
  document_.when_evaluated([this, id, step, began = document_.ticket()] {
    const Entry* same = began == document_.ticket() ? job().find(id) : nullptr;
    if (same && same->datum()) edit_recipe(*same, same->datum()->recipe, step);
  });
}

void PickTray::edit_recipe(const Entry& entry, const Recipe& recipe, int step) {
  const ChangeBus::Hold hold(bus_);
  picks_.clear();
  for (const Reference& input : recipe.inputs) {
    auto pick = make_pick(input);
    if (pick)
      picks_.push_back(std::move(*pick));
    else
      bus_.tell(QString::fromStdString(pick.error().sentence));
  }
  Draft draft;
  draft.construction = find_construction(recipe.construction);
  draft.parameters = initial_parameters(*draft.construction);
  for (const auto& [parameter, text] : recipe.parameters) draft.parameters[parameter] = text;
  draft.unit = recipe.unit;
  draft.flipped = recipe.flipped;
  draft.bodies = recipe.bodies;
  draft.kept_key = recipe.choice;
  draft.editing_entry = entry.datum() ? entry.id : 0;
  draft.editing_step = entry.datum() ? -1 : step;
  if (picks_.size() == recipe.inputs.size())
    for (size_t i = 0; i < picks_.size(); ++i) draft.picks.push_back(static_cast<int>(i));
  draft_ = std::move(draft);
  offers_ = offers_for(givens(), asking());
  refresh_draft();
  draft_->solution = chosen(draft_->solutions, recipe.choice);
  refresh_handles();
  bus_.announce(Change::kPicks);
  bus_.announce(Change::kDraft);
}

void PickTray::refresh_handles() {
  handles_.clear();
  if (!draft_ || draft_->solution >= draft_->solutions.size() || draft_->construction->takes_time) return;
  const Names names = draft_names();
  handles_ = handles_of({*draft_->construction, draft_->parameters, draft_->unit, names, draft_->asides_open},
                        draft_->solutions[draft_->solution], [this](const ParameterTexts& texts) {
                          Draft stepped = *draft_;
                          stepped.parameters = texts;
                          return solve_draft(stepped);
                        });
}

}  // namespace anvil::app
