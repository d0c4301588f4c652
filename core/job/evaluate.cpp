#include "job/evaluate.h"

#include <fmt/format.h>

#include "construct/limits.h"
#include "construct/offers.h"
#include "geom/guard.h"
#include "geom/primitives.h"
#include "job/evaluate_setup.h"
#include "job/fingerprint.h"
#include "job/names.h"

namespace anvil {
namespace {

void add_region(Fingerprint& hash, const RegionReference& region) {
  hash.add(static_cast<size_t>(region.body));
  for (int i = 1; i <= 3; ++i) {
    hash.add(region.wish.at.Coord(i));
    hash.add(region.wish.seen_from.Coord(i));
  }
  hash.add(region.wish.within_mm);
  hash.add(region.wish.as ? static_cast<size_t>(*region.wish.as) : 99);
}

void add_recipe(Fingerprint& hash, const Job& job, const Evaluation& evaluation, const Recipe& recipe,
                const Names& names) {
  hash.add(names);
  hash.add(recipe.construction);
  hash.add(recipe.choice);
  hash.add(static_cast<size_t>(recipe.flipped));
  hash.add(static_cast<size_t>(job.display.unit));
  hash.add(static_cast<size_t>(recipe.unit));
  hash.add(job.tolerance.linear_mm);
  hash.add(job.tolerance.angular_rad);
  hash.add(recipe.parameters);
  for (const Reference& input : recipe.inputs) {
    if (const auto* entry = std::get_if<EntryReference>(&input.target)) {
      const auto at = evaluation.entries.find(entry->entry);
      hash.add(at == evaluation.entries.end() ? 0 : at->second.fingerprint);
      hash.add(static_cast<size_t>(entry->element) * 8 + static_cast<size_t>(entry->snap));
      if (entry->entry == kReadDelivered) hash.add(evaluation.placement);
      continue;
    }
    hash.add(evaluation.part_key);
    hash.add(evaluation.placement);
    if (const auto* region = std::get_if<RegionReference>(&input.target)) {
      add_region(hash, *region);
      continue;
    }
    const auto& topology = std::get<TopologyReference>(input.target);
    hash.add(static_cast<size_t>(topology.kind) * 8 + static_cast<size_t>(topology.snap));
    hash.add(static_cast<size_t>(topology.index_hint));
    hash.add(topology.where.X() + 3 * topology.where.Y() + 7 * topology.where.Z());
  }
}

// What picks are looked for on: geometry, and which delivered bodies it is.
std::string key_of(const PartPtr& part) {
  if (!part) return {};
  std::string key = part->geometry()->id();
  for (const Body& body : part->bodies()) key += fmt::format(" {}", body.delivered);
  return key;
}

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

// A whole figure gives its plane; one of a single line or circle what that gives.
Given given_by_figure(const FigureDatum& figure) {
  if (figure.edges.size() == 1) return given_by_curve(figure.edges.front(), Snap::kWhole);
  Given given;
  given.plane = figure.plane;
  given.direction = figure.plane.Axis().Direction();
  for (const TopoDS_Edge& edge : figure.edges) {
    const Given part = given_by_curve(edge, Snap::kWhole);
    given.extent.insert(given.extent.end(), part.extent.begin(), part.extent.end());
  }
  return given;
}

Result<Given> given_by_element(const DatumValue& value, const EntryReference& reference,
                               const std::string& name) {
  const auto* figure = std::get_if<FigureDatum>(&value);
  const auto count = figure ? static_cast<int>(figure->edges.size()) : 0;
  if (reference.element > count)
    return refuse(RefusalCode::kUnknownName,
                  fmt::format("{} has {} edges: there is no edge {}", name, count, reference.element));
  return given_by_curve(figure->edges[reference.element - 1], reference.snap);
}

Given given_by_value(const DatumValue& value) {
  Given given;
  if (const auto* point = std::get_if<PointDatum>(&value)) {
    given.point = point->point;
    given.extent = {point->point};
  } else if (const auto* axis = std::get_if<AxisDatum>(&value)) {
    given.axis = axis->axis;
    given.direction = axis->axis.Direction();
    for (double level : {axis->from_mm, axis->to_mm})
      given.extent.push_back(axis->axis.Location().Translated(gp_Vec(axis->axis.Direction()) * level));
  } else if (const auto* plane = std::get_if<PlaneDatum>(&value)) {
    given.plane = plane->plane;
    given.direction = plane->plane.Axis().Direction();
    const gp_Vec x = gp_Vec(plane->plane.XAxis().Direction()) * plane->half_x_mm,
                 y = gp_Vec(plane->plane.YAxis().Direction()) * plane->half_y_mm;
    for (const gp_Vec& corner : {x + y, x - y, -x + y, -x - y})
      given.extent.push_back(plane->centre.Translated(corner));
  } else if (const auto* frame = std::get_if<FrameDatum>(&value)) {
    given = given_by_frame(frame->frame);
  } else if (const auto* figure = std::get_if<FigureDatum>(&value)) {
    given = given_by_figure(*figure);
  }
  return given;
}

class Evaluator {
 public:
  Evaluator(const Job& job, const Evaluation* before, const Evaluating& how)
      : job_(job), before_(before), how_(how) {}

  Evaluation run() {
    result_.part = result_.arranged_from = job_.part();
    result_.part_key = key_of(result_.part);
    if (result_.part) result_.arranged.resize(result_.part->bodies().size());
    double done = 0;
    for (const Entry& entry : job_.entries) {
      if (how_.progress.stop()) break;
      how_.progress.say(entry.name, done++ / static_cast<double>(job_.entries.size()));
      if (entry.placement()) evaluate_placement(entry);
      if (entry.datum()) evaluate_datum(entry);
      if (entry.setup()) evaluate_setup_entry(entry);
      if (entry.part()) result_.entries[entry.id] = {};
      if (entry.healing()) evaluate_healing(*entry.healing(), result_.entries[entry.id]);
    }
    return std::move(result_);
  }

 private:
  const Evaluated* known(int id, size_t fingerprint) const {
    if (!before_) return nullptr;
    const auto at = before_->entries.find(id);
    return at != before_->entries.end() && at->second.fingerprint == fingerprint ? &at->second : nullptr;
  }

  std::optional<DatumValue> last_value(int id) const {
    if (!before_) return std::nullopt;
    const auto at = before_->entries.find(id);
    return at == before_->entries.end() ? std::nullopt : at->second.value;
  }

  void evaluate_healing(const HealingEntry& healing, Evaluated& evaluated) const {
    if (healing.part && result_.arranged_from == healing.part) return;
    evaluated.state = EntryState::kAttention;
    evaluated.reason = "the part has changed since it was healed: heal it again, or delete this entry";
  }

  // Moves some of the bodies against the others: in part coordinates the step is carried back through the
  // placement.
  void arrange(const std::vector<int>& bodies, const gp_Trsf& motion) {
    const gp_Trsf in_part = result_.placement.Inverted() * motion * result_.placement;
    for (size_t i = 0; i < result_.arranged.size(); ++i) {
      const int delivered = result_.arranged_from->bodies()[i].delivered;
      if (std::find(bodies.begin(), bodies.end(), delivered) != bodies.end())
        result_.arranged[i] = in_part * result_.arranged[i];
    }
    const bool as_before = before_ && before_->arranged_from == result_.arranged_from &&
                           std::equal(before_->arranged.begin(), before_->arranged.end(),
                                      result_.arranged.begin(), result_.arranged.end(), same_motion);
    result_.part = as_before ? before_->part : arranged_part(result_.arranged_from, result_.arranged);
    result_.part_key = key_of(result_.part);
  }

  // Steps build on each other; one that cannot be done is left out and said, the others still apply.
  void evaluate_placement(const Entry& entry) {
    Evaluated evaluated;
    int number = 0;
    for (const Recipe& step : entry.placement()->steps) {
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
      else
        arrange(step.bodies, motion);
    }
    Fingerprint hash;
    hash.add(result_.placement);
    for (const gp_Trsf& arranged : result_.arranged) hash.add(arranged);
    evaluated.fingerprint = hash.value();
    evaluated.value = PlacementStep{result_.placement};
    if (!known(entry.id, hash.value())) ++result_.computed;
    result_.entries[entry.id] = std::move(evaluated);
  }

  void evaluate_setup_entry(const Entry& entry) {
    const auto last = before_ ? before_->entries.find(entry.id) : decltype(before_->entries.end()){};
    const bool known = before_ && last != before_->entries.end();
    Evaluated evaluated = anvil::evaluate_setup(job_, result_, entry, known ? &last->second : nullptr,
                                                how_.only_known || how_.left_out.count(entry.id) > 0);
    const bool taken_over = known && last->second.fresh && last->second.fingerprint == evaluated.fingerprint;
    if (evaluated.fresh && !taken_over) ++result_.computed;
    if (evaluated.setup) result_.numbers[entry.id] = numbers_of(*evaluated.setup);
    result_.entries[entry.id] = std::move(evaluated);
  }

  void evaluate_datum(const Entry& entry) {
    if (entry.suppressed) {
      Evaluated& evaluated = result_.entries[entry.id];
      evaluated.state = EntryState::kSuppressed;
      evaluated.reason = "suppressed";
      return;
    }
    const Recipe& recipe = entry.datum()->recipe;
    Fingerprint hash;
    const Names names = names_for(job_, result_, recipe.parameters, entry.id);
    add_recipe(hash, job_, result_, recipe, names);
    if (const Evaluated* same = known(entry.id, hash.value())) {
      result_.entries[entry.id] = *same;
      if (const auto numbers = before_->numbers.find(entry.id); numbers != before_->numbers.end())
        result_.numbers[entry.id] = numbers->second;
      return;
    }
    Evaluated evaluated;
    if (how_.only_known || how_.left_out.count(entry.id)) {
      evaluated.state = EntryState::kAttention;
      evaluated.reason = kStoppedReason;
      evaluated.stopped = true;
      evaluated.value = last_value(entry.id);
      result_.entries[entry.id] = std::move(evaluated);
      return;
    }
    ++result_.computed;
    evaluated.fingerprint = hash.value();
    evaluated.tolerance = job_.tolerance;
    const Solutions solutions = solve_recipe(job_, result_, recipe, entry.id);
    if (solutions) {
      evaluated.value = (*solutions)[chosen(*solutions, recipe.choice)].value;
      evaluated.fresh = true;
      look_at_picks(recipe, evaluated);
      look_at_choice(*solutions, recipe, evaluated);
      look_at_limits(recipe, names, evaluated);
      result_.numbers[entry.id] = numbers_of(*evaluated.value, *find_construction(recipe.construction),
                                             recipe.parameters, recipe.unit, names);
    } else {
      const bool asks = solutions.error().code == RefusalCode::kAmbiguous;
      evaluated.state = asks ? EntryState::kAttention : EntryState::kRefused;
      std::vector<int> numbers(recipe.inputs.size());
      for (size_t i = 0; i < numbers.size(); ++i) numbers[i] = static_cast<int>(i) + 1;
      evaluated.reason = fill_numbers(solutions.error().sentence, numbers);
      evaluated.value = last_value(entry.id);
    }
    result_.entries[entry.id] = std::move(evaluated);
  }

  // What was found by intent is shown where it is now, but asks.
  void look_at_picks(const Recipe& recipe, Evaluated& evaluated) const {
    for (size_t i = 0; i < recipe.inputs.size(); ++i) {
      const auto located =
          result_.part ? locate(*result_.part, recipe.inputs[i]) : Result<Located>(Located());
      if (!located || located->how != Located::How::kByIntent) continue;
      evaluated.state = EntryState::kAttention;
      evaluated.reason =
          fmt::format("{} was found {} from where it was: look at it, then take it as it is",
                      circled(static_cast<int>(i) + 1), format_length(located->moved_mm, job_.display));
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
  Evaluation result_;
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

Result<Given> give(const Job& job, const Evaluation& evaluation, const Reference& reference) {
  Result<Given> given = refuse(RefusalCode::kUnknownName, "what was picked is no longer in the job");
  if (const auto* entry = std::get_if<EntryReference>(&reference.target)) {
    if (entry->entry == kReadPlaced) return given_by_frame(world_frame());
    if (entry->entry == kReadDelivered)
      return given_by_frame(world_frame().Transformed(evaluation.placement));
    const Entry* target = job.find(entry->entry);
    const auto at = evaluation.entries.find(entry->entry);
    if (!target || at == evaluation.entries.end()) return given;
    if (!at->second.fresh || !at->second.value)
      return refuse(
          RefusalCode::kGeometry,
          at->second.stopped ? fmt::format("it stands on {}, which was not computed", target->name)
          : at->second.state == EntryState::kSuppressed
              ? fmt::format("it stands on {}, which is suppressed", target->name)
              : fmt::format("it stands on {}, which cannot be built: mend that first", target->name));
    if (entry->element > 0 && at->second.setup)
      given = given_by_stock(*at->second.setup, entry->element, target->name);
    else if (entry->element > 0)
      given = given_by_element(*at->second.value, *entry, target->name);
    else
      given = given_by_value(*at->second.value);
  } else {
    const Entry* part = job.find(entry_of(reference));
    if (!part || !part->part()) return given;
    if (!evaluation.part) return given;
    const auto* region = std::get_if<RegionReference>(&reference.target);
    given = guarded("finding the pick", [&] {
      return region ? given_by(*evaluation.part, *region, evaluation.placement)
                    : given_by(*evaluation.part, std::get<TopologyReference>(reference.target),
                               evaluation.placement);
    });
  }
  if (given && reference.clicked) given->clicked = reference.clicked->Transformed(evaluation.placement);
  return given;
}

Solutions solve_recipe(const Job& job, const Evaluation& evaluation, const Recipe& recipe, int before) {
  const Construction* construction = find_construction(recipe.construction);
  if (!construction)
    return refuse(RefusalCode::kUnknownName,
                  fmt::format("this version does not know the construction \"{}\"", recipe.construction));
  if (!takes(*construction, recipe.inputs.size()))
    return refuse(RefusalCode::kBadInput, "the entry lacks some of its picks");
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
      solve(*construction, picks, recipe.parameters, job.display,
            names_for(job, evaluation, recipe.parameters, before), job.tolerance, recipe.unit);
  if (solutions && solutions->empty()) return refuse(RefusalCode::kGeometry, "there is no solution");
  if (solutions && recipe.flipped)
    for (Solution& solution : *solutions) turn_round(solution.value);
  return solutions;
}

Evaluation evaluate(const Job& job, const Evaluation* before, const Evaluating& how) {
  return Evaluator(job, before, how).run();
}

std::vector<EntryReference> pickable(const Evaluation& evaluation, int entry) {
  std::vector<EntryReference> all{{entry}};
  const auto at = evaluation.entries.find(entry);
  if (at == evaluation.entries.end() || !at->second.value) return all;
  if (at->second.setup && at->second.setup->stock)
    for (int element = 1; element <= kStockPoints + kStockSides; ++element) all.push_back({entry, element});
  const auto* figure = std::get_if<FigureDatum>(&*at->second.value);
  const auto count = figure ? static_cast<int>(figure->edges.size()) : 0;
  for (int element = 1; element <= count; ++element)
    for (const Snap snap : {Snap::kWhole, Snap::kStart, Snap::kMiddle, Snap::kEnd, Snap::kCentre})
      if (snap != Snap::kCentre || given_by_curve(figure->edges[element - 1], Snap::kWhole).is_circular_edge)
        all.push_back({entry, element, snap});
  return all;
}

gp_Ax2 reading_frame(const Job& job, const Evaluation& evaluation) {
  if (job.reading_frame == kReadDelivered) return world_frame().Transformed(evaluation.placement);
  const auto at = evaluation.entries.find(job.reading_frame);
  if (at == evaluation.entries.end() || !at->second.value) return world_frame();
  const auto* frame = std::get_if<FrameDatum>(&*at->second.value);
  return frame ? frame->frame : world_frame();
}

gp_Trsf part_to_reading(const Job& job, const Evaluation& evaluation) {
  return into_frame(reading_frame(job, evaluation)) * evaluation.placement;
}

gp_Ax2 active_tool_plane(const Job& job, const Evaluation& evaluation) {
  const auto at = evaluation.entries.find(job.reading_frame);
  const auto plane = static_cast<size_t>(std::max(0, job.tool_plane));
  if (at == evaluation.entries.end() || !at->second.setup || plane >= at->second.setup->planes.size())
    return reading_frame(job, evaluation);
  return at->second.setup->planes[plane].frame;
}

std::string tool_plane_name(const Job& job) {
  const Entry* entry = job.find(job.reading_frame);
  const std::string reading = reading_frame_name(job, job.reading_frame);
  const auto plane = static_cast<size_t>(std::max(0, job.tool_plane));
  if (!entry || !entry->setup() || plane == 0 || plane > entry->setup()->planes.size()) return reading;
  return entry->setup()->planes[plane - 1].name + " of " + reading;
}

std::string reading_frame_name(const Job& job, int frame) {
  if (frame == kReadDelivered) return "Part as delivered";
  const Entry* entry = job.find(frame);
  if (!entry || (!entry->is_frame() && !entry->setup())) return "Part as placed";
  return entry->setup() ? entry->name + " · " + entry->setup()->offset : entry->name;
}

}  // namespace anvil
