#include "construct/corrections.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "construct/helpers.h"
#include "construct/solve.h"
#include "correct/reach.h"
#include "part/measure.h"
#include "part/mesh.h"

namespace anvil {
namespace {

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

int body_of(const PartPick& pick) {
  const TopologyIndex& topology = pick.part->topology();
  return pick.kind == TopologyKind::kFace   ? topology.faces[pick.index].body
         : pick.kind == TopologyKind::kEdge ? topology.edges[pick.index].body
                                            : topology.vertices[pick.index].body;
}

Result<PickedFaces> faces_from(const Inputs& in, size_t first, size_t end) {
  PickedFaces picked;
  for (size_t role = first; role < end; ++role) {
    const auto pick = part_of(in, role);
    if (!pick) return refuse(pick);
    picked.pick = *pick;
    // A face that an exporter split counts as one.
    const TopologyIndex& topology = pick->part->topology();
    const int patch = topology.faces[pick->index].patch;
    auto& own = picked.by_body[topology.faces[pick->index].body];
    own.insert(pick->index);
    if (patch >= 0) own.insert(topology.patches[patch].faces.begin(), topology.patches[patch].faces.end());
  }
  return picked;
}

Parameter joins() {
  return {"how", "It is", Quantity::kChoice, "joined", {"joined", "cut away", "kept in common"}};
}

Combining combining(const Inputs& in) {
  const std::string& how = in.choices.at("how");
  return how == "joined" ? Combining::kJoin : how == "cut away" ? Combining::kCut : Combining::kCommon;
}

namespace {

// Held, and named, in its middle.
Solutions held_at(Plan plan, const TopoDS_Shape& placed, std::string note) {
  Solution solution = planned(std::move(plan), {}, "only", std::move(note));
  std::get<PlannedCorrection>(solution.value).places.push_back(volume_properties(placed).centroid);
  return std::vector<Solution>{std::move(solution)};
}

}  // namespace

Solutions with_tool(const Inputs& in, size_t role, const TopoDS_Shape& placed_tool, std::string note) {
  const auto pick = part_of(in, role);
  if (!pick) return refuse(pick);
  const TopoDS_Shape tool = placed_tool.Moved(TopLoc_Location(pick->placement.Inverted()));
  Plan plan;
  plan.steps.push_back({body_of(*pick), CombineWith{{tool}, combining(in)}});
  return held_at(std::move(plan), placed_tool, std::move(note));
}

Solutions as_own_body(const TopoDS_Shape& placed, std::string note) {
  mesh_shape(placed);
  Plan plan;
  plan.bodies.push_back(placed);
  return held_at(std::move(plan), placed, std::move(note));
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

Result<std::vector<gp_Pnt>> places_across(const std::vector<PickedHole>& holes) {
  const gp_Dir axis = holes.front().hole.axis.Transformed(holes.front().pick.placement);
  std::vector<gp_Pnt> at;
  for (const PickedHole& hole : holes) {
    if (!hole.hole.axis.IsParallel(holes.front().hole.axis, 1e-3))
      return refused("the holes do not run the same way: they stand in no row");
    const gp_Pnt entry = hole.hole.entry.Transformed(hole.pick.placement);
    at.push_back(at.empty() ? entry : at.front().Translated(across(gp_Vec(at.front(), entry), axis)));
  }
  return at;
}

Solution each_moved(const std::vector<PickedHole>& holes, const std::vector<gp_Vec>& moves, std::string key,
                    const Display& display, size_t first) {
  constexpr double kStays_mm = 1e-6;
  std::string move, stay;
  std::vector<HoleChange> changes;
  for (size_t i = 0; i < moves.size(); ++i) {
    const std::string number = fmt::format("{{{}}}", first + i + 1);
    const bool stays = moves[i].Magnitude() < kStays_mm;
    if (stays)
      stay += (stay.empty() ? "" : ", ") + number;
    else
      move += fmt::format("{}{} moves {}", move.empty() ? "" : ", ", number,
                          format_length(moves[i].Magnitude(), display));
    if (!stays) changes.push_back(moved_by(holes[i], moves[i]));
  }
  if (changes.empty()) return planned({}, {}, std::move(key), "they stand so already");
  return planned(plan_of(changes), holes.front().pick.placement, std::move(key),
                 move + (stay.empty() ? "" : "; " + stay + " stay"));
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
