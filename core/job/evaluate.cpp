#include "job/evaluate.h"

#include <fmt/format.h>

#include "construct/limits.h"
#include "construct/offers.h"
#include "geom/guard.h"
#include "geom/primitives.h"
#include "job/correcting.h"
#include "job/evaluate_setup.h"
#include "job/healing.h"
#include "job/names.h"
#include "job/pick_keys.h"
#include "job/result_cache.h"
#include "part/element_content.h"

namespace anvil {
namespace {

void turn_round(DatumValue& value) {
  if (auto* plane = std::get_if<PlaneDatum>(&value)) {
    gp_Ax3 position = plane->plane.Position();
    position.ZReverse();
    plane->plane = gp_Pln(
        gp_Ax3(position.Location(), plane->plane.Axis().Direction().Reversed(), position.XDirection()));
  } else if (auto* axis = std::get_if<AxisDatum>(&value)) {
    axis->axis.Reverse();
    std::swap(axis->from_mm, axis->to_mm);
    axis->from_mm = -axis->from_mm;
    axis->to_mm = -axis->to_mm;
  } else if (auto* frame = std::get_if<FrameDatum>(&value)) {
    frame->frame =
        gp_Ax2(frame->frame.Location(), frame->frame.Direction().Reversed(), frame->frame.XDirection());
  }
}

// What came of a datum, whoever asked for it.
struct Built {
  Evaluated evaluated;
  std::shared_ptr<const Names> numbers;
};

size_t bytes_of(const DatumValue& value) {
  constexpr size_t kEdge_bytes = 800;
  size_t bytes = sizeof value;
  if (const auto* figure = std::get_if<FigureDatum>(&value)) bytes += figure->edges.size() * kEdge_bytes;
  if (const auto* measured = std::get_if<Measurement>(&value)) bytes += measured->details.size() * 64;
  return bytes;
}

size_t bytes_of(const Solutions& solutions) {
  size_t bytes = sizeof solutions;
  if (!solutions) return bytes + solutions.error().sentence.size();
  for (const Solution& solution : *solutions)
    bytes += sizeof solution + bytes_of(solution.value) + solution.key.size() + solution.note.size();
  return bytes;
}

size_t bytes_of(const Built& built) {
  const size_t value = built.evaluated.value ? bytes_of(*built.evaluated.value) : 0;
  return sizeof built + value + built.evaluated.reason.size() +
         (built.numbers ? built.numbers->size() * 96 : 0);
}

Solutions solve_anew(const Job& job, const Evaluation& evaluation, const Recipe& recipe, const Names& names) {
  const Construction* construction = find_construction(recipe.construction);
  if (!construction)
    return refuse(RefusalCode::kUnknownName,
                  fmt::format("this version does not know the construction \"{}\"", recipe.construction));
  std::vector<Given> givens;
  for (const Reference& input : recipe.inputs) {
    auto given = give(job, evaluation, input);
    if (!given) return refuse(given);
    givens.push_back(std::move(*given));
  }
  std::vector<const Given*> picks;
  for (size_t role = 0; role < givens.size(); ++role) {
    if (!gives(givens[role], need_of(*construction, role)))
      return refuse(RefusalCode::kGeometry, fmt::format("{{{}}} does not give {}", role + 1,
                                                        need_text(need_of(*construction, role))));
    picks.push_back(&givens[role]);
  }
  Solutions solutions =
      solve(*construction, picks, recipe.parameters, job.display, names, job.tolerance, recipe.unit);
  if (solutions && solutions->empty()) return refuse(RefusalCode::kGeometry, "there is no solution");
  if (solutions && recipe.flipped)
    for (Solution& solution : *solutions) turn_round(solution.value);
  return solutions;
}

// What was solved for a ghost is there when it is kept.
Solutions solve_by(const ContentKey& key, const Job& job, const Evaluation& evaluation, const Recipe& recipe,
                   const Names& names) {
  if (const auto known = evaluation.cache->find<Solutions>(key)) return *known;
  Solutions solutions = solve_anew(job, evaluation, recipe, names);
  if (!solutions && !is_lasting(solutions.error().code)) return solutions;
  const size_t bytes = bytes_of(solutions);
  return *evaluation.cache->keep(key, std::move(solutions), bytes);
}

class Evaluator {
 public:
  Evaluator(const Job& job, const Evaluation* before, const Evaluating& how)
      : job_(job), before_(before), how_(how) {
    result_.cache = how.cache                   ? how.cache
                    : before_ && before_->cache ? before_->cache
                                                : std::make_shared<ResultCache>();
  }

  Evaluation run() {
    result_.of = job_.entries;
    result_.display = job_.display;
    result_.tolerance = job_.tolerance;
    on_same_terms_ = before_ && before_->display == job_.display &&
                     before_->tolerance.linear_mm == job_.tolerance.linear_mm &&
                     before_->tolerance.angular_rad == job_.tolerance.angular_rad;
    double done = 0;
    for (const Entry& entry : job_.entries) {
      place_ = static_cast<size_t>(done);
      if (how_.progress.stop()) break;
      how_.progress.say(entry.name, done++ / static_cast<double>(job_.entries.size()));
      std::visit([&](const auto& content) { evaluate_entry(entry, content); }, entry.content);
    }
    // Whoever looks at it must not wait for its index.
    if (result_.part && !how_.progress.stop()) static_cast<void>(result_.part->topology());
    return std::move(result_);
  }

 private:
  std::optional<DatumValue> last_value(int id) const {
    if (!before_) return std::nullopt;
    const auto at = before_->entries.find(id);
    return at == before_->entries.end() ? std::nullopt : at->second.value;
  }

  void add_state(PartState state) {
    result_.part = state.part;
    result_.states.push_back(std::move(state));
    result_.part_key = key_after(result_.part_key, result_.states.back());
    state_keys_.push_back(result_.part_key);
  }

  void evaluate_entry(const Entry& entry, const PartEntry& content) {
    result_.entries[entry.id] = {};
    if (result_.states.empty()) add_state({content.part(), entry.id});
  }

  void evaluate_entry(const Entry& entry, const HealingEntry& content) {
    Evaluated& evaluated = result_.entries[entry.id];
    if (!result_.part) return;
    const HealOptions& options = content.options;
    auto known = known_healing(*result_.cache, *result_.part, options);
    if (!known && (how_.only_known || how_.left_out.count(entry.id))) {
      evaluated = left_out().evaluated;
      return;
    }
    if (!known) ++result_.computed;
    const Result<HealedPart> healed =
        known ? *known : heal_once(*result_.cache, *result_.part, options, how_.progress);
    if (!healed) {
      evaluated.state = EntryState::kRefused;
      evaluated.reason = healed.error().sentence;
      return;
    }
    evaluated.healed = std::make_shared<const HealReport>(healed->report);
    evaluated.fresh = true;
    add_state(as_before(healed_state(result_.part, *healed, entry.id)));
  }

  // The very part of the evaluation before where nothing of it is new: whoever looks at it sees that.
  PartState as_before(PartState state) const {
    if (!before_) return state;
    for (const PartState& last : before_->states)
      if (last.made_by == state.made_by && same_geometry(last.part, state.part) &&
          same_dress(*last.part, *state.part))
        state.part = last.part;
    return state;
  }

  static bool same_dress(const Part& a, const Part& b) {
    return std::equal(a.bodies().begin(), a.bodies().end(), b.bodies().begin(), b.bodies().end(),
                      [](const Body& x, const Body& y) {
                        return x.name == y.name && x.colour == y.colour && x.path == y.path &&
                               x.source == y.source && x.face_colours == y.face_colours;
                      });
  }

  // Moves some of the bodies against the others: in part coordinates the step is carried back through the
  // placement.
  void arrange(int entry, const std::vector<int>& bodies, const gp_Trsf& motion) {
    const gp_Trsf in_part = result_.placement.Inverted() * motion * result_.placement;
    if (result_.states.back().only_moved) {
      result_.states.pop_back();
      state_keys_.pop_back();
      result_.part_key = state_keys_.empty() ? ContentKey() : state_keys_.back();
    }
    const PartPtr from = result_.states.back().part;
    arranged_.resize(from->bodies().size());
    for (size_t i = 0; i < arranged_.size(); ++i) {
      const int delivered = from->bodies()[i].delivered;
      if (std::find(bodies.begin(), bodies.end(), delivered) != bodies.end())
        arranged_[i] = in_part * arranged_[i];
    }
    PartState state{arranged_as_before(from), entry};
    state.only_moved = true;
    add_state(std::move(state));
  }

  // The part of the evaluation before, where it was arranged from the same one in the same way.
  PartPtr arranged_as_before(const PartPtr& from) const {
    const bool had = before_ && before_->states.size() > 1 && before_->states.back().only_moved &&
                     before_->states[before_->states.size() - 2].part == from;
    if (!had) return arranged_part(from, arranged_);
    const auto& bodies = before_->states.back().part->bodies();
    const bool same =
        std::equal(bodies.begin(), bodies.end(), arranged_.begin(), arranged_.end(),
                   [](const Body& body, const gp_Trsf& m) { return same_motion(body.arranged, m); });
    return same ? before_->states.back().part : arranged_part(from, arranged_);
  }

  // Steps build on each other; one that cannot be done is left out and said, the others still apply.
  void evaluate_entry(const Entry& entry, const PlacementEntry& content) {
    Evaluated evaluated;
    int number = 0;
    for (const Recipe& step : content.steps) {
      ++number;
      const Solutions solutions = solve_recipe(job_, result_, step);
      evaluated.step_reasons.push_back(solutions ? "" : solutions.error().sentence);
      if (!solutions) {
        evaluated.state = EntryState::kRefused;
        evaluated.reason = fmt::format("step {}: {}", number, solutions.error().sentence);
        continue;
      }
      Evaluated looked;
      look_at_picks(step, looked);
      if (looked.state == EntryState::kAttention && evaluated.state == EntryState::kCurrent) {
        evaluated.state = looked.state;
        evaluated.reason = fmt::format("step {}: {}", number, looked.reason);
      }
      const gp_Trsf motion =
          std::get<PlacementStep>((*solutions)[chosen(*solutions, step.choice)].value).motion;
      if (step.bodies.empty())
        result_.placement = motion * result_.placement;
      else if (result_.part)
        arrange(entry.id, step.bodies, motion);
    }
    KeyMaker maker;
    add_to(maker, result_.placement);
    for (const gp_Trsf& arranged : arranged_) add_to(maker, arranged);
    evaluated.key = maker.key();
    evaluated.value = PlacementStep{result_.placement};
    const auto last = before_ ? before_->entries.find(entry.id) : decltype(before_->entries.end()){};
    if (!before_ || last == before_->entries.end() || last->second.key != evaluated.key) ++result_.computed;
    result_.entries[entry.id] = std::move(evaluated);
  }

  void evaluate_entry(const Entry& entry, const Setup&) {
    const auto last = before_ ? before_->entries.find(entry.id) : decltype(before_->entries.end()){};
    const bool known = before_ && last != before_->entries.end();
    Evaluated evaluated = anvil::evaluate_setup(job_, result_, entry, known ? &last->second : nullptr,
                                                how_.only_known || how_.left_out.count(entry.id) > 0);
    const bool taken_over = known && last->second.fresh && last->second.key == evaluated.key;
    if (evaluated.fresh && !taken_over) ++result_.computed;
    if (evaluated.setup)
      result_.numbers[entry.id] = std::make_shared<const Names>(numbers_of(*evaluated.setup));
    result_.entries[entry.id] = std::move(evaluated);
  }

  void evaluate_entry(const Entry& entry, const DatumEntry& content) {
    if (entry.suppressed) {
      Evaluated& evaluated = result_.entries[entry.id];
      evaluated.state = EntryState::kSuppressed;
      evaluated.reason = "suppressed";
      return;
    }
    const Recipe& recipe = content.recipe;
    if (const Evaluated* same = as_before(entry.id, recipe)) {
      result_.entries[entry.id] = *same;
      result_.numbers[entry.id] = before_->numbers.at(entry.id);
      if (content.makes == Makes::kCorrection && is_state_as_before(entry.id)) return;
    } else {
      evaluate_recipe(entry, recipe);
    }
    if (content.makes == Makes::kCorrection) correct(entry.id);
  }

  void evaluate_recipe(const Entry& entry, const Recipe& recipe) {
    const Names names = names_for(job_, result_, recipe.parameters, entry.id);
    KeyMaker maker;
    if (!add_recipe(maker, job_, result_, recipe, names))  // what it stands on is not there: nothing to solve
      return take(entry.id, refused(recipe, solve_anew(job_, result_, recipe, names).error()));
    const ContentKey solving = maker.key();
    maker.add(recipe.choice);
    if (const auto known = result_.cache->find<Built>(maker.key())) return take(entry.id, *known);
    if (how_.only_known || how_.left_out.count(entry.id)) return take(entry.id, left_out());
    ++result_.computed;
    Built built = build(recipe, names, solving);
    built.evaluated.key = maker.key();
    const size_t bytes = bytes_of(built);
    take(entry.id, *result_.cache->keep(maker.key(), std::move(built), bytes));
  }

  // The part as the correction leaves it; refused, it leaves it as it is.
  void correct(int id) {
    Evaluated& evaluated = result_.entries[id];
    const auto* planned = evaluated.value ? std::get_if<PlannedCorrection>(&*evaluated.value) : nullptr;
    if (!planned || !evaluated.fresh) return;
    if (!result_.part) return refuse_correction(id, "there is no part to go with it: bring one in first");
    evaluated.corrected.reset();
    if (planned->plan->steps.empty() && planned->plan->bodies.empty())
      return refuse_correction(id, "it changes nothing yet");
    if (const Evaluated* tried = tried_before(id)) {
      const std::string why = tried->reason;
      refuse_correction(id, why);
      result_.entries[id].tried_on = result_.part;
      return;
    }
    const bool known = is_known(*result_.cache, *result_.part, *planned->plan);
    if (!known && (how_.only_known || how_.left_out.count(id))) {
      take(id, left_out());
      return;
    }
    if (!known) ++result_.computed;
    auto corrected = corrected_once(*result_.cache,
                                    {result_.part, planned->plan, result_.placement, id, job_.find(id)->name},
                                    donors(), how_.progress);
    if (!corrected) {
      refuse_correction(id, corrected.error().sentence);
      if (!is_lasting(corrected.error().code)) result_.entries[id].tried_on = result_.part;
      return;
    }
    evaluated.corrected = std::make_shared<const CorrectionReport>(std::move(corrected->report));
    if (planned->plan->steps.empty()) corrected->state.recipe = evaluated.key;
    add_state(as_before(std::move(corrected->state)));
  }

  // What found no time, memory or room is not tried again by every act elsewhere, but when the entry comes
  // back (undo and redo), is edited, or stands on something else.
  const Evaluated* tried_before(int id) const {
    if (!before_ || !job_.entries.shares(place_, before_->of)) return nullptr;
    const auto last = before_->entries.find(id);
    const bool same =
        last != before_->entries.end() && last->second.tried_on && last->second.tried_on == result_.part;
    return same ? &last->second : nullptr;
  }

  // The state that a correction made before, where it begins with the very part it began with then.
  bool is_state_as_before(int id) {
    for (size_t i = 1; i < before_->states.size(); ++i)
      if (before_->states[i].made_by == id && before_->states[i - 1].part == result_.part &&
          is_called_as_before(id)) {
        add_state(before_->states[i]);
        return true;
      }
    return false;
  }

  // Bodies that it made are called as it is.
  bool is_called_as_before(int id) const {
    const Entry* now = job_.find(id);
    return std::any_of(before_->of.begin(), before_->of.end(), [&](const Entry& entry) {
      return entry.id == id && (&entry == now || entry.name == now->name);
    });
  }

  void refuse_correction(int id, const std::string& why) {
    Evaluated& evaluated = result_.entries[id];
    evaluated.state = EntryState::kRefused;
    evaluated.reason = why;
    evaluated.fresh = false;
  }

  std::vector<GeometryPtr> donors() const {
    std::vector<GeometryPtr> all;
    if (before_)
      for (const PartState& state : before_->states) all.push_back(state.part->geometry());
    return all;
  }

  // The same entry on the same ground: it is what it was, and nothing needs to be asked.
  const Evaluated* as_before(int id, const Recipe& recipe) const {
    const bool same = on_same_terms_ && job_.entries.shares(place_, before_->of) &&
                      same_motion(result_.placement, before_->placement);
    if (!same) return nullptr;
    const auto last = before_->entries.find(id);
    if (last == before_->entries.end() || !last->second.fresh || last->second.names_others ||
        !(result_.part_key == last->second.on_part))
      return nullptr;
    for (const Reference& input : recipe.inputs) {
      const auto* to = std::get_if<EntryReference>(&input.target);
      if (!to || to->entry == kReadPlaced || to->entry == kReadDelivered) continue;
      const auto then = before_->entries.find(to->entry), now = result_.entries.find(to->entry);
      if (then == before_->entries.end() || now == result_.entries.end() || !now->second.fresh ||
          now->second.key != then->second.key)
        return nullptr;
    }
    return &last->second;
  }

  void take(int id, const Built& built) {
    Evaluated& evaluated = result_.entries[id] = built.evaluated;
    evaluated.on_part = result_.part_key;
    if (!evaluated.value) evaluated.value = last_value(id);
    if (evaluated.fresh) result_.numbers[id] = built.numbers;
  }

  static Built left_out() {
    Built built;
    built.evaluated.state = EntryState::kAttention;
    built.evaluated.reason = kStoppedReason;
    built.evaluated.stopped = true;
    return built;
  }

  Built refused(const Recipe& recipe, const Refusal& why) const {
    Built built;
    const bool asks = why.code == RefusalCode::kAmbiguous;
    built.evaluated.state = asks ? EntryState::kAttention : EntryState::kRefused;
    std::vector<int> numbers(recipe.inputs.size());
    for (size_t i = 0; i < numbers.size(); ++i) numbers[i] = static_cast<int>(i) + 1;
    built.evaluated.reason = fill_numbers(why.sentence, numbers);
    built.evaluated.tolerance = job_.tolerance;
    return built;
  }

  Built build(const Recipe& recipe, const Names& names, const ContentKey& solving) const {
    const Solutions solutions = solve_by(solving, job_, result_, recipe, names);
    if (!solutions) return refused(recipe, solutions.error());
    Built built;
    Evaluated& evaluated = built.evaluated;
    evaluated.tolerance = job_.tolerance;
    evaluated.names_others = !names.empty();
    evaluated.value = (*solutions)[chosen(*solutions, recipe.choice)].value;
    evaluated.fresh = true;
    look_at_picks(recipe, evaluated);
    look_at_choice(*solutions, recipe, evaluated);
    look_at_limits(recipe, names, evaluated);
    built.numbers = std::make_shared<const Names>(numbers_of(
        *evaluated.value, *find_construction(recipe.construction), recipe.parameters, recipe.unit, names));
    return built;
  }

  // What was found by intent, or as one of several pieces, is shown where it is now, but asks.
  void look_at_picks(const Recipe& recipe, Evaluated& evaluated) const {
    for (size_t i = 0; i < recipe.inputs.size(); ++i) {
      const auto located =
          result_.part ? located_pick(result_, recipe.inputs[i]) : Result<Located>(Located());
      if (!located || located->how < Located::How::kOfPieces) continue;
      const std::string pick = circled(static_cast<int>(i) + 1);
      evaluated.state = EntryState::kAttention;
      evaluated.reason =
          located->how == Located::How::kByIntent
              ? fmt::format("{} was found {} from where it was: look at it, then take it as it is", pick,
                            format_length(located->moved_mm, job_.display))
              : fmt::format(
                    "{} is {} pieces now, and the one nearest to the click is taken: look at it, then "
                    "take it as it is",
                    pick, located->candidates.size());
    }
  }

  // Nothing is guessed: another solution than the one that was meant is shown, but asks.
  static void look_at_choice(const std::vector<Solution>& solutions, const Recipe& recipe,
                             Evaluated& evaluated) {
    if (recipe.choice.empty() || has_solution(solutions, recipe.choice)) return;
    evaluated.state = EntryState::kAttention;
    evaluated.reason = "the solution that was chosen no longer exists: choose again";
  }

  void look_at_limits(const Recipe& recipe, const Names& names, Evaluated& evaluated) const {
    const auto* measurement = std::get_if<Measurement>(&*evaluated.value);
    const auto limit = recipe.parameters.find("limit");
    if (!measurement || limit == recipe.parameters.end()) return;
    const auto limits = limits_from(limit->second, measurement->kind, recipe.unit, names);
    const std::string broken =
        limits ? limits_broken(*measurement, *limits, job_.display) : "Limit: " + limits.error().sentence;
    if (broken.empty()) return;
    evaluated.state = EntryState::kAttention;
    evaluated.reason = broken;
  }

  const Job& job_;
  const Evaluation* before_;
  const Evaluating& how_;
  std::vector<ContentKey> state_keys_;  // up to and with each state
  Evaluation result_;
  size_t place_ = 0;               // of the entry under way
  bool on_same_terms_ = false;     // as the evaluation before: what things are told and taken to meet by
  std::vector<gp_Trsf> arranged_;  // one a body: how it was moved against the others
};

}  // namespace

const char* state_name(EntryState state) {
  switch (state) {
    case EntryState::kCurrent:
      return "current";
    case EntryState::kAttention:
      return "attention";
    case EntryState::kRefused:
      return "refused";
    case EntryState::kSuppressed:
      return "suppressed";
  }
  return "refused";
}

Solutions solve_recipe(const Job& job, const Evaluation& evaluation, const Recipe& recipe, int before) {
  const Names names = names_for(job, evaluation, recipe.parameters, before);
  KeyMaker maker;
  if (!evaluation.cache || !add_recipe(maker, job, evaluation, recipe, names))
    return solve_anew(job, evaluation, recipe, names);
  return solve_by(maker.key(), job, evaluation, recipe, names);
}

Evaluation evaluate(const Job& job, const Evaluation* before, const Evaluating& how) {
  return Evaluator(job, before, how).run();
}

}  // namespace anvil
