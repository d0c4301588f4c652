// Holes, and whatever corrections add or cut, repeated: along a direction, about an axis, mirrored at a
// plane.
#include <fmt/format.h>

#include <BRepBuilderAPI_Transform.hxx>
#include <set>
#include <sstream>

#include "base/expression.h"
#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/skipped_places.h"
#include "part/mesh.h"

namespace anvil {
namespace {

using Motions = Result<std::vector<gp_Trsf>>;

// Of a hole its mirror image is a hole of the same form.
gp_Ax2 axes_moved(const gp_Ax2& at, const gp_Trsf& motion) {
  return {at.Location().Transformed(motion), at.Direction().Transformed(motion)};
}

// Of one correction. Patterns of patterns multiply.
constexpr size_t kMostBodies = 256, kMostCuts = 1000;

Result<void> is_not_too_much(size_t made, size_t motions, size_t most, const char* what) {
  if (made * motions <= most) return {};
  return refuse(
      RefusalCode::kBadInput,
      fmt::format("{} times {} would be {} {}, more than the {} of one correction: repeat fewer of them, "
                  "or in several corrections",
                  made, motions, made * motions, what, most));
}

// Copies of the picked holes by every one of the motions (placed).
Solutions holes_repeated(const Inputs& in, const std::vector<gp_Trsf>& motions) {
  const auto holes = holes_from(in, 1, in.picks.size());
  if (!holes) return refuse(holes);
  if (auto good = is_not_too_much(holes->size(), motions.size(), kMostCuts, "holes"); !good)
    return refuse(good);
  std::vector<HoleChange> copies;
  for (const PickedHole& hole : *holes) {
    const gp_Trsf out = hole.pick.placement, back = out.Inverted();
    for (const gp_Trsf& motion : motions) {
      const gp_Ax2 at = axes_moved(hole.there.at, back * motion * out);
      if (at.Location().Distance(hole.there.at.Location()) < 1e-6)
        return refused("a copy would come to lie on the hole itself");
      copies.push_back({hole, hole.there.form, at});
    }
  }
  const auto note = fmt::format("{} more", copies.size());
  return std::vector<Solution>{planned(plan_of_copies(copies), holes->front().pick.placement, "only", note)};
}

// One that only lies elsewhere shares all but its place, triangles too.
TopoDS_Shape copy_of(const TopoDS_Shape& solid, const gp_Trsf& motion) {
  if (!motion.IsNegative()) return solid.Moved(TopLoc_Location(motion));
  TopoDS_Shape mirrored = BRepBuilderAPI_Transform(solid, motion, true).Shape();
  mesh_shape(mirrored);
  return mirrored;
}

// What a step makes that would be made again.
size_t count_of(const PlanStep& step) {
  if (const auto* body = std::get_if<CombineWith>(&step.what)) return body->tools.size();
  const auto* holes = std::get_if<RemakeHoles>(&step.what);
  return holes ? holes->made.size() : 1;
}

// What a step adds or cuts, once more by every motion (in part coordinates); nothing where it does something
// else.
std::optional<PlanStep> step_repeated(const PlanStep& step, const std::vector<gp_Trsf>& motions) {
  if (const auto* body = std::get_if<CombineWith>(&step.what)) {
    CombineWith copies{{}, body->how};
    for (const gp_Trsf& motion : motions)
      for (const TopoDS_Shape& tool : body->tools) copies.tools.push_back(copy_of(tool, motion));
    return PlanStep{step.body, std::move(copies)};
  }
  const auto* holes = std::get_if<RemakeHoles>(&step.what);
  if (!holes) return std::nullopt;
  RemakeHoles copies;
  for (const gp_Trsf& motion : motions)
    for (HoleToMake hole : holes->made) {
      hole.at = axes_moved(hole.at, motion);
      hole.instead_of.reset();
      copies.made.push_back(std::move(hole));
    }
  return PlanStep{step.body, std::move(copies)};
}

// Steps on one body are one.
void add_to(Plan& plan, PlanStep step) {
  for (PlanStep& known : plan.steps) {
    if (known.body != step.body) continue;
    auto* tools = std::get_if<CombineWith>(&known.what);
    auto* holes = std::get_if<RemakeHoles>(&known.what);
    if (auto* more = std::get_if<CombineWith>(&step.what); more && tools && tools->how == more->how) {
      tools->tools.insert(tools->tools.end(), more->tools.begin(), more->tools.end());
      return;
    }
    if (auto* more = std::get_if<RemakeHoles>(&step.what); more && holes) {
      holes->made.insert(holes->made.end(), more->made.begin(), more->made.end());
      return;
    }
  }
  plan.steps.push_back(std::move(step));
}

Result<void> can_be_repeated(const Inputs& in, size_t motions) {
  size_t bodies = 0, cuts = 0;
  for (size_t role = 1; role < in.picks.size(); ++role) {
    const Plan& plan = *in[role].correction->plan;
    bodies += plan.bodies.size();
    for (const PlanStep& step : plan.steps) cuts += count_of(step);
  }
  if (auto good = is_not_too_much(bodies, motions, kMostBodies, "bodies"); !good) return good;
  return is_not_too_much(cuts, motions, kMostCuts, "holes and cuts");
}

Solutions corrections_repeated(const Inputs& in, const std::vector<gp_Trsf>& motions) {
  if (auto good = can_be_repeated(in, motions.size()); !good) return refuse(good);
  Plan plan;
  for (size_t role = 1; role < in.picks.size(); ++role) {
    const CorrectionPick& pick = *in[role].correction;
    const gp_Trsf out = pick.placement, back = out.Inverted();
    std::vector<gp_Trsf> own;
    own.reserve(motions.size());
    for (const gp_Trsf& motion : motions) own.push_back(back * motion * out);
    for (const PlanStep& step : pick.plan->steps) {
      auto copies = step_repeated(step, own);
      if (!copies)
        return refused(fmt::format(
            "{{{}}} changes what is there; what adds or cuts a body or holes can be repeated", role + 1));
      add_to(plan, std::move(*copies));
    }
    for (const TopoDS_Shape& body : pick.plan->bodies)
      for (const gp_Trsf& motion : motions) plan.bodies.push_back(copy_of(body, motion));
  }
  for (size_t i = 0; i < plan.steps.size(); ++i)
    for (size_t other = 0; other < i; ++other)
      if (plan.steps[i].body == plan.steps[other].body)
        return refused("they do different things to one body: repeat them one by one");
  return std::vector<Solution>{planned(std::move(plan), {}, "only", fmt::format("{} more", motions.size()))};
}

Motions motions_for(const Inputs& in, const std::function<gp_Trsf(int)>& to_place) {
  const auto skip = skipped_places(in.choices.at("skip"));
  if (!skip) return refuse(skip);
  std::vector<gp_Trsf> motions;
  const auto count = static_cast<int>(in.numbers.at("places"));
  for (int place = 2; place <= count; ++place)
    if (!skip->count(place)) motions.push_back(to_place(place - 1));
  if (motions.empty()) return refuse(RefusalCode::kBadInput, "a pattern has two places or more");
  return motions;
}

Motions along(const Inputs& in) {
  const auto count = in.numbers.at("places");
  const double spacing = in.choices.at("given") == "spacing"
                             ? in.numbers.at("length")
                             : in.numbers.at("length") / std::max(1.0, count - 1);
  return motions_for(in, [&](int place) {
    gp_Trsf shift;
    shift.SetTranslation(gp_Vec(*in[0].direction) * (place * spacing));
    return shift;
  });
}

Motions about(const Inputs& in) {
  const auto count = in.numbers.at("places");
  const double total = in.numbers.at("angle");
  const bool is_round = std::abs(std::abs(total) - 2 * kPi) < 1e-9;
  const double step =
      in.choices.at("given") == "spacing" ? total : total / std::max(1.0, is_round ? count : count - 1);
  return motions_for(in, [&](int place) {
    gp_Trsf turn;
    turn.SetRotation(*in[0].axis, place * step);
    return turn;
  });
}

Motions mirrored(const Inputs& in) {
  gp_Trsf mirror;
  mirror.SetMirror(in[0].plane->Position().Ax2());
  return std::vector<gp_Trsf>{mirror};
}

Construction repeating(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                       Motions (*motions)(const Inputs&), std::vector<Parameter> parameters) {
  const bool of_holes = roles.back() == Need::kHole;
  Construction c = correcting(
      id, "Pattern", sentence, std::move(roles), rank,
      [motions, of_holes](const Inputs& in) -> Solutions {
        const auto places = motions(in);
        if (!places) return refuse(places);
        return of_holes ? holes_repeated(in, *places) : corrections_repeated(in, *places);
      },
      std::move(parameters));
  c.repeats = true;
  c.ordered = true;
  return c;
}

std::vector<Parameter> places(const char* count, Parameter step, const char* given) {
  return {{"places", "Places", Quantity::kCount, count},
          std::move(step),
          {"given", "Given is", Quantity::kChoice, given, {"spacing", "total"}},
          {"skip", "Skip", Quantity::kText, "", {}, true}};
}

std::vector<Parameter> in_a_row() {
  return places("3", {"length", "Length", Quantity::kLength, "20mm"}, "spacing");
}

std::vector<Parameter> in_a_ring() {
  return places("4", {"angle", "Angle", Quantity::kAngle, "360"}, "total");
}

}  // namespace

Construction correct_repeat_along() {
  return repeating("correct.repeat-along", "Repeat hole {rest} along {1}", {Need::kDirection, Need::kHole},
                   78, along, in_a_row());
}

Construction correct_repeat_about() {
  return repeating("correct.repeat-about", "Repeat hole {rest} about axis {1}", {Need::kAxis, Need::kHole},
                   78, about, in_a_ring());
}

Construction correct_repeat_mirrored() {
  return repeating("correct.repeat-mirrored", "Mirror hole {rest} at plane {1}", {Need::kPlane, Need::kHole},
                   79, mirrored, {});
}

Construction correct_again_along() {
  return repeating("correct.again-along", "Repeat correction {rest} along {1}",
                   {Need::kDirection, Need::kCorrection}, 78, along, in_a_row());
}

Construction correct_again_about() {
  return repeating("correct.again-about", "Repeat correction {rest} about axis {1}",
                   {Need::kAxis, Need::kCorrection}, 78, about, in_a_ring());
}

Construction correct_again_mirrored() {
  return repeating("correct.again-mirrored", "Mirror correction {rest} at plane {1}",
                   {Need::kPlane, Need::kCorrection}, 79, mirrored, {});
}

}  // namespace anvil
