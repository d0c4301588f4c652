#include "app/session.h"

#include "construct/registry.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "job/gate.h"
#include "job/names.h"

namespace anvil::app {

Session::Session(QObject* parent) : QObject(parent) {
  // Before anybody else hears of it.
  connect(this, &Session::checks_changed, this, &Session::refresh_names);
  connect(this, &Session::checks_changed, this, &Session::refresh_comparison);
  connect(this, &Session::checks_changed, this, &Session::refresh_survey);
  connect(this, &Session::list_changed, this, &Session::refresh_comparison);
  connect(&evaluating_, &Background::cancelled, this, &Session::stop_evaluating);
  connect(&drafting_, &Background::cancelled, this, &Session::drop);
  connect(&growing_, &Background::cancelled, this, [this] { grow_.clear(); });
  for (Background* background : {&checking_, &sounding_, &boxing_, &evaluating_, &drafting_, &growing_,
                                 &proposing_, &reporting_, &leaving_})
    connect(background, &Background::failed, this, &Session::tell);
}

int Session::part_entry() const {
  const Entry* entry = job().first_part();
  return entry ? entry->id : 0;
}

void Session::reset(Job job) {
  history_ = History(std::move(job));
  ++job_number_;
  refining_ = false;
  picks_.clear();
  when_evaluated_ = {};
  proposing_.cancel();
  proposals_.reset();
  growing_.cancel();
  grow_.clear();
  draft_.reset();
  stopped_.clear();
  evaluation_ = {};
  drop_list();
  refresh_evaluation();
}

bool Session::act(const QString& name, Job next, const QString& field) {
  auto passed = through_gate(std::move(next));
  if (!passed) {
    tell(QString::fromStdString(passed.error().sentence));
    return false;
  }
  if (same_job(*passed, job())) {
    refresh_offers();
    return true;
  }
  history_.act(name.toStdString(), std::move(*passed), field.toStdString());
  refresh_evaluation();
  return true;
}

void Session::exchange_part(const PartPtr& shown, const PartPtr& checked) {
  history_.amend([&](Job job) { return with_checked_part(std::move(job), shown, checked); });
  refining_ = true;
  refresh_evaluation();
}

void Session::undo() {
  history_.undo();
  draft_.reset();
  refresh_evaluation();
}

void Session::redo() {
  history_.redo();
  draft_.reset();
  refresh_evaluation();
}

void Session::mark_saved(int revision) {
  history_.mark_saved(revision);
  Q_EMIT job_changed();
}

void Session::mark_unsaved() {
  history_.mark_unsaved();
  Q_EMIT job_changed();
}

// --- picks

Result<Pick> Session::make_pick(const Reference& reference) const {
  auto given = give(job(), evaluation_, reference);
  if (!given) return refuse(given);
  Pick pick{reference, std::move(*given), {}};
  if (const auto* entry = std::get_if<EntryReference>(&reference.target)) {
    pick.text = QString::fromStdString(pick_name(job(), *entry));
  } else if (pick.given.region) {
    pick.text = QString::fromStdString(region_text(*pick.given.region, job().display));
  } else if (const PartPtr p = part()) {
    const auto& topology = std::get<TopologyReference>(reference.target);
    if (const auto located = located_pick(evaluation_, reference))
      pick.text =
          QString::fromStdString(pick_text(*p, topology.kind, located->index, topology.snap, job().display));
  }
  return pick;
}

bool Session::is_picked(const Reference& reference) const {
  return pick_of(reference) >= 0;
}

void Session::add_pick(const Reference& reference) {
  if (const int picked = pick_of(reference); picked >= 0) return remove_pick(picked);
  const auto* region = std::get_if<RegionReference>(&reference.target);
  if (!region) return take_pick(reference);
  grow_then({*region}, [this, reference] { take_pick(reference); });
}

void Session::take_pick(const Reference& reference) {
  auto pick = make_pick(reference);
  if (!pick) {
    Q_EMIT told(QString::fromStdString(pick.error().sentence));
    return;
  }
  if (replacing_ >= 0 && replacing_ < static_cast<int>(picks_.size()))
    picks_[static_cast<size_t>(replacing_)] = std::move(*pick);
  else
    picks_.push_back(std::move(*pick));
  replacing_ = -1;
  refresh_offers();
}

void Session::add_picks(const std::vector<Reference>& references) {
  constexpr size_t kMost = 500;
  if (references.size() > kMost)
    return tell(tr("%1 things lie in there; up to %2 are picked at once: draw a smaller rectangle.")
                    .arg(references.size())
                    .arg(kMost));
  for (const Reference& reference : references)
    if (!is_picked(reference))
      if (auto pick = make_pick(reference)) picks_.push_back(std::move(*pick));
  replacing_ = -1;
  refresh_offers();
}

void Session::replace_pick_next(int index) {
  replacing_ = index == replacing_ ? -1 : index;
  Q_EMIT picks_changed();
  Q_EMIT draft_changed();
}

void Session::replace_last_pick(const Reference& reference) {
  if (!picks_.empty()) picks_.pop_back();
  if (is_picked(reference)) return refresh_offers();
  add_pick(reference);
}

void Session::remove_pick(int index) {
  if (index < 0 || index >= static_cast<int>(picks_.size())) return;
  picks_.erase(picks_.begin() + index);
  replacing_ = -1;
  refresh_offers();
}

void Session::remove_last_pick() {
  remove_pick(static_cast<int>(picks_.size()) - 1);
}

void Session::move_pick(int from, int to) {
  const int count = static_cast<int>(picks_.size());
  if (from < 0 || from >= count || to < 0 || to >= count || from == to) return;
  Pick pick = std::move(picks_[from]);
  picks_.erase(picks_.begin() + from);
  picks_.insert(picks_.begin() + to, std::move(pick));
  refresh_offers();
}

void Session::clear_picks() {
  picks_.clear();
  replacing_ = -1;
  refresh_offers();
}

void Session::refresh_picks() {
  std::vector<RegionReference> regions;
  for (const Pick& pick : picks_)
    if (const auto* region = std::get_if<RegionReference>(&pick.reference.target)) regions.push_back(*region);
  grow_then(std::move(regions), [this] {
    std::vector<Pick> kept;
    for (const Pick& pick : picks_)
      if (auto again = make_pick(pick.reference)) kept.push_back(std::move(*again));
    if (kept.size() != picks_.size()) replacing_ = -1;  // it counts picks
    picks_ = std::move(kept);
    refresh_offers();
  });
}

std::vector<Given> Session::givens() const {
  std::vector<Given> all;
  for (const Pick& pick : picks_) all.push_back(pick.given);
  return all;
}

// --- offers and draft

Asking Session::asking() const {
  return {job().display, frame(), job().tolerance, seen()};
}

void Session::refresh_offers() {
  previewed_ = -1;
  offers_ = offers_for(givens(), asking());
  if (draft_) assign_draft();
  Q_EMIT picks_changed();
  refresh_draft();
}

void Session::preview(int offer) {
  if (offer == previewed_) return;
  previewed_ = offer;
  Q_EMIT draft_changed();
}

void Session::choose(int index) {
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

void Session::start(const std::string& construction) {
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
void Session::assign_draft() {
  const auto all = givens();
  auto assigned = assign(*draft_->construction, all);
  draft_->picks = assigned ? std::move(*assigned) : std::vector<int>{};
}

size_t Session::preferred_solution(const Draft& draft) const {
  std::vector<const Given*> picked;
  for (int pick : draft.picks)
    if (pick != kReadingFrame) picked.push_back(&picks_[pick].given);
  return preferred(draft.solutions, picked);
}

Names Session::draft_names() const {
  return draft_ ? names_for(job(), evaluation_, draft_->parameters, draft_->editing_entry) : Names();
}

Recipe Session::recipe_of(const Draft& d) const {
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
Solutions Session::solve_draft(const Draft& d) const {
  const Recipe recipe = recipe_of(d);
  if (d.editing_step < 0 || !job().placement())
    return solve_recipe(job(), evaluation_, recipe, d.editing_entry);
  std::vector<Recipe> before = job().placement()->placement()->steps;
  before.resize(std::min<size_t>(before.size(), d.editing_step));
  const Job until_then = with_placement_steps(job(), std::move(before));
  return solve_recipe(until_then, evaluate(until_then, nullptr, {.cache = cache_}), recipe);
}

void Session::set_parameter(const std::string& id, const std::string& text) {
  if (!draft_) return;
  draft_->parameters[id] = text;
  refresh_draft();
}

void Session::choose_solution(size_t index) {
  if (!draft_ || index >= draft_->solutions.size()) return;
  draft_->solution = index;
  refresh_handles();
  Q_EMIT draft_changed();
}

void Session::next_solution() {
  if (draft_ && draft_->solutions.size() > 1)
    choose_solution((draft_->solution + 1) % draft_->solutions.size());
}

void Session::leave_out_worst() {
  if (!draft_ || draft_->solution >= draft_->solutions.size()) return;
  const int role = draft_->solutions[draft_->solution].worst_role;
  if (role >= 0 && role < static_cast<int>(draft_->picks.size())) remove_pick(draft_->picks[role]);
}

void Session::quarter_turn() {
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

void Session::open_asides(bool open) {
  if (!draft_ || draft_->asides_open == open) return;
  draft_->asides_open = open;
  refresh_handles();
  Q_EMIT draft_changed();
}

void Session::flip() {
  if (!draft_) return;
  draft_->flipped = !draft_->flipped;
  refresh_draft();
}

void Session::set_moving_bodies(std::vector<int> delivered) {
  if (!draft_) return;
  draft_->bodies = std::move(delivered);
  refresh_draft();
}

namespace {

bool takes_number(const Construction& construction) {
  return std::any_of(construction.parameters.begin(), construction.parameters.end(), [](const Parameter& p) {
    return !p.aside && (p.quantity == Quantity::kLength || p.quantity == Quantity::kAngle ||
                        p.quantity == Quantity::kRatio);
  });
}

}  // namespace

bool Session::can_keep() const {
  if (draft_) return !draft_->solutions.empty();
  return !offers_.empty() && offers_.front().state == Offer::State::kReady;
}

bool Session::open_for_number() {
  if (draft_) return false;
  for (size_t i = 0; i < offers_.size(); ++i)
    if (offers_[i].state == Offer::State::kReady && takes_number(*offers_[i].construction)) {
      choose(static_cast<int>(i));
      return true;
    }
  return false;
}

void Session::keep() {
  if (!draft_ && can_keep()) {
    choose(0);
    if (takes_number(*draft_->construction)) return;
  }
  if (!draft_ || draft_->solutions.empty()) return;
  const Draft draft = *draft_;
  const std::vector<Pick> picks = picks_;
  const QString name = act_name(draft);
  Job next = with_draft_kept(draft);
  draft_.reset();
  picks_.clear();
  stopped_.erase(draft.editing_entry);
  if (act(name, std::move(next))) return;
  draft_ = draft;  // refused: nothing of it is lost
  picks_ = picks;
  refresh_offers();
}

QString Session::act_name(const Draft& draft) const {
  if (draft.construction->makes == Makes::kPlacement)
    return draft.editing_step >= 0 ? tr("Edit placement") : tr("Place the part");
  const Entry* edited = job().find(draft.editing_entry);
  return edited ? tr("Edit %1").arg(QString::fromStdString(edited->name))
                : tr("Keep %1").arg(QString::fromUtf8(makes_name(draft.construction->makes)));
}

// A placement comes before every datum, so a step cannot lean on one: what it does now is kept by its
// numbers.
Job Session::with_draft_kept(const Draft& draft) const {
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

void Session::drop() {
  if (!draft_ && picks_.empty() && opened_setup() && seats_.empty()) return open_setup(0);
  if (!seats_.empty()) {
    seats_.clear();
    preview_seat(-1);
    Q_EMIT seats_changed();
    Q_EMIT draft_changed();
    if (!draft_ && picks_.empty()) return;
  }
  if (draft_) {
    const bool editing = draft_->editing_entry || draft_->editing_step >= 0;
    draft_.reset();
    if (editing) picks_.clear();
    refresh_offers();
    return;
  }
  clear_picks();
}

void Session::edit(int id, int step) {
  const Entry* entry = job().find(id);
  if (!entry) return;
  const Recipe* recipe = nullptr;
  if (entry->datum()) recipe = &entry->datum()->recipe;
  if (entry->placement() && step >= 0 && step < static_cast<int>(entry->placement()->steps.size()))
    recipe = &entry->placement()->steps[step];
  const Construction* construction = recipe ? find_construction(recipe->construction) : nullptr;
  if (!construction) return;
  picks_.clear();
  for (const Reference& input : recipe->inputs) {
    auto pick = make_pick(input);
    if (pick)
      picks_.push_back(std::move(*pick));
    else
      Q_EMIT told(QString::fromStdString(pick.error().sentence));
  }
  Draft draft;
  draft.construction = construction;
  draft.parameters = initial_parameters(*construction);
  for (const auto& [parameter, text] : recipe->parameters) draft.parameters[parameter] = text;
  draft.unit = recipe->unit;
  draft.flipped = recipe->flipped;
  draft.bodies = recipe->bodies;
  draft.kept_key = recipe->choice;
  draft.editing_entry = entry->datum() ? id : 0;
  draft.editing_step = entry->datum() ? -1 : step;
  if (picks_.size() == recipe->inputs.size())
    for (size_t i = 0; i < picks_.size(); ++i) draft.picks.push_back(static_cast<int>(i));
  draft_ = std::move(draft);
  offers_ = offers_for(givens(), asking());
  refresh_draft();
  draft_->solution = chosen(draft_->solutions, recipe->choice);
  refresh_handles();
  Q_EMIT picks_changed();
  Q_EMIT draft_changed();
}

QString Session::still_needed_text() const {
  if (replacing() >= 0)
    return tr("Pick what takes the place of %1.").arg(QString::fromStdString(circled(replacing() + 1)));
  if (!draft_ && !seats_.empty())
    return tr(
        "Point at a seat to see which face it stands on; click to take it. Esc leaves the part as it lies.");
  if (!draft_)
    return picks_.empty()
               ? tr("Pick faces, edges or points on the part. What they determine is offered here.")
           : can_keep() ? tr("Enter takes the first offer; a number opens the first that takes one.")
                        : QString();
  if (!draft_->reason.isEmpty()) return draft_->reason;
  return QString::fromStdString(still_needed(*draft_->construction, givens()));
}

void Session::show_faces(std::vector<int> faces, std::vector<RegionPtr> regions) {
  shown_faces_ = std::move(faces);
  shown_regions_ = std::move(regions);
  Q_EMIT shown_changed();
}

}  // namespace anvil::app
