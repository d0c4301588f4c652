#include "construct/corrections.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "construct/helpers.h"
#include "construct/solve.h"
#include "correct/reach.h"

namespace anvil {
namespace {

// How far cutters reach over an opening and beyond an end, so that no skin is left.
constexpr double kOverrun_mm = 1.0;

// Over a mouth that leans, or lies in no plane: as far as its lowest place is below its highest.
double overrun(const std::optional<double>& slope_rad, double diameter_mm) {
  constexpr double kSteepest_rad = 80 * kPi / 180;
  if (!slope_rad) return kOverrun_mm + diameter_mm;
  return kOverrun_mm + diameter_mm / 2 * std::tan(std::min(*slope_rad, kSteepest_rad));
}

double widest(const HoleForm& form) {
  double widest = 0;
  for (const HoleStep& step : form.steps) widest = std::max({widest, step.diameter_mm, step.end_diameter_mm});
  return widest;
}

}  // namespace

Construction correcting(const char* id, const char* kept_as, const char* sentence, std::vector<Need> roles,
                        int rank, std::function<Solutions(const Inputs&)> solve,
                        std::vector<Parameter> parameters) {
  Construction c = described(Makes::kCorrection, id, sentence, std::move(roles), rank, std::move(solve),
                             std::move(parameters));
  c.kept_as = kept_as;
  return c;
}

Result<PartPick> part_of(const Inputs& in, size_t role) {
  if (!in[role].picked)
    return refused(
        fmt::format("a correction changes the part: pick {{{}}} on the part itself, not an entry", role + 1));
  return *in[role].picked;
}

Result<PickedHole> hole_of(const Inputs& in, size_t role) {
  const auto pick = part_of(in, role);
  if (!pick) return refuse(pick);
  auto hole = hole_of_face(*pick->part, pick->index);
  if (!hole) return refused(fmt::format("{{{}}} is no hole", role + 1));
  if (!hole->full_turn)
    return refused(fmt::format(
        "the hole of {{{}}} is open along its side: what it was cut with cannot be told", role + 1));
  PickedHole picked{*pick, std::move(*hole), {}};
  picked.there = {form_of(picked.hole), gp_Ax2(picked.hole.entry, picked.hole.axis), picked.hole.faces};
  return picked;
}

Result<std::vector<PickedHole>> holes_from(const Inputs& in, size_t first, size_t end) {
  std::vector<PickedHole> holes;
  for (size_t i = first; i < end; ++i) {
    auto hole = hole_of(in, i);
    if (!hole) return refuse(hole);
    const bool known = std::any_of(holes.begin(), holes.end(), [&](const PickedHole& other) {
      return other.hole.faces == hole->hole.faces;
    });
    if (!known) holes.push_back(std::move(*hole));
  }
  return holes;
}

HoleChange moved_by(const PickedHole& hole, const gp_Vec& placed) {
  return {hole, hole.there.form, hole.there.at.Translated(in_part(hole.pick, placed))};
}

Feature feature_of_hole(const TopologyIndex& topology, const Hole& hole) {
  return feature_of(topology, with_enclosed(topology, hole.faces));
}

gp_Vec in_part(const PartPick& pick, const gp_Vec& placed) {
  return placed.Transformed(pick.placement.Inverted());
}
gp_Pnt in_part(const PartPick& pick, const gp_Pnt& placed) {
  return placed.Transformed(pick.placement.Inverted());
}
gp_Dir in_part(const PartPick& pick, const gp_Dir& placed) {
  return placed.Transformed(pick.placement.Inverted());
}

namespace {

// Where there is more material at its new place, what goes through goes through that too.
HoleToMake made(const HoleChange& change) {
  const Hole& hole = change.hole.hole;
  const Part& part = *change.hole.pick.part;
  const double widest_mm = widest(change.form);
  HoleToMake made{change.form, change.at, overrun(hole.entry_slope_rad, widest_mm),
                  overrun(hole.exit_slope_rad, widest_mm), change.hole.there};
  const gp_Dir out = change.at.Direction();
  made.above_mm +=
      material_beyond(part, hole.body, change.at.Location(), out, change.form.steps.front().diameter_mm / 2);
  if (!change.form.through) return made;
  const gp_Pnt end = change.at.Location().Translated(gp_Vec(out) * -depth_of(change.form));
  made.below_mm +=
      material_beyond(part, hole.body, end, out.Reversed(), change.form.steps.back().end_diameter_mm / 2);
  return made;
}

}  // namespace

Plan plan_of(const std::vector<HoleChange>& changes) {
  if (changes.empty()) return {};
  std::map<int, RemakeHoles> by_body;
  std::map<int, std::vector<int>> faces;
  for (const HoleChange& change : changes) {
    const Hole& hole = change.hole.hole;
    by_body[hole.body].made.push_back(made(change));
    auto& own = faces[hole.body];
    own.insert(own.end(), hole.faces.begin(), hole.faces.end());
  }
  // All holes of one plan are of one part.
  const TopologyIndex& topology = changes.front().hole.pick.part->topology();
  Plan plan;
  for (auto& [body, step] : by_body) {
    step.closed = feature_of(topology, with_enclosed(topology, faces[body]));
    plan.steps.push_back({body, std::move(step)});
  }
  return plan;
}

gp_Vec across(const gp_Vec& way, const gp_Dir& axis) {
  return way - gp_Vec(axis) * way.Dot(gp_Vec(axis));
}

Plan plan_of_copies(const std::vector<HoleChange>& copies) {
  std::map<int, RemakeHoles> by_body;
  for (const HoleChange& copy : copies) {
    HoleToMake one = made(copy);
    one.instead_of.reset();
    by_body[copy.hole.hole.body].made.push_back(std::move(one));
  }
  Plan plan;
  for (auto& [body, step] : by_body) plan.steps.push_back({body, std::move(step)});
  return plan;
}

Solution planned(Plan plan, const gp_Trsf& placement, std::string key, std::string note) {
  PlannedCorrection correction;
  for (const PlanStep& step : plan.steps)
    if (const auto* holes = std::get_if<RemakeHoles>(&step.what))
      for (const HoleToMake& hole : holes->made)
        correction.places.push_back(hole.at.Location().Transformed(placement));
  correction.plan = std::make_shared<const Plan>(std::move(plan));
  return {std::move(correction), std::move(key), std::move(note)};
}

}  // namespace anvil
