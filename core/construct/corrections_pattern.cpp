// Holes repeated: along a direction, about an axis, mirrored at a plane.
#include <fmt/format.h>

#include <set>
#include <sstream>

#include "base/expression.h"
#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

// "2, 5": places of the pattern that stay empty, the first one being the hole itself.
Result<std::set<int>> skipped(const std::string& text) {
  std::set<int> places;
  std::istringstream in(text);
  for (std::string part; std::getline(in, part, ',');) {
    if (part.find_first_not_of(' ') == std::string::npos) continue;
    const auto place = evaluate_number(part, {});
    if (!place || *place != std::floor(*place) || *place < 2)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("\"{}\" is no place of the pattern: whole numbers from 2", part));
    places.insert(static_cast<int>(*place));
  }
  return places;
}

// Copies of the picked holes by every one of the motions (placed).
Solutions repeated(const Inputs& in, const std::vector<gp_Trsf>& motions) {
  const auto holes = holes_from(in, 1, in.picks.size());
  if (!holes) return refuse(holes);
  std::vector<HoleChange> copies;
  for (const PickedHole& hole : *holes) {
    const gp_Trsf out = hole.pick.placement, back = out.Inverted();
    for (const gp_Trsf& motion : motions)
      copies.push_back({hole, hole.there.form, hole.there.at.Transformed(back * motion * out)});
  }
  const auto note = fmt::format("{} more", copies.size());
  return std::vector<Solution>{planned(plan_of_copies(copies), holes->front().pick.placement, "only", note)};
}

Result<std::vector<gp_Trsf>> motions_for(const Inputs& in, const std::function<gp_Trsf(int)>& to_place) {
  const auto skip = skipped(in.choices.at("skip"));
  if (!skip) return refuse(skip);
  std::vector<gp_Trsf> motions;
  const auto count = static_cast<int>(in.numbers.at("holes"));
  for (int place = 2; place <= count; ++place)
    if (!skip->count(place)) motions.push_back(to_place(place - 1));
  if (motions.empty()) return refuse(RefusalCode::kBadInput, "a pattern has two places or more");
  return motions;
}

Solutions along(const Inputs& in) {
  const auto count = in.numbers.at("holes");
  const double spacing = in.choices.at("given") == "spacing"
                             ? in.numbers.at("length")
                             : in.numbers.at("length") / std::max(1.0, count - 1);
  const auto motions = motions_for(in, [&](int place) {
    gp_Trsf shift;
    shift.SetTranslation(gp_Vec(*in[0].direction) * (place * spacing));
    return shift;
  });
  if (!motions) return refuse(motions);
  return repeated(in, *motions);
}

Solutions about(const Inputs& in) {
  const auto count = in.numbers.at("holes");
  const double total = in.numbers.at("angle");
  const bool is_round = std::abs(std::abs(total) - 2 * kPi) < 1e-9;
  const double step =
      in.choices.at("given") == "spacing" ? total : total / std::max(1.0, is_round ? count : count - 1);
  const auto motions = motions_for(in, [&](int place) {
    gp_Trsf turn;
    turn.SetRotation(*in[0].axis, place * step);
    return turn;
  });
  if (!motions) return refuse(motions);
  return repeated(in, *motions);
}

// The mirror image of a hole is a hole of the same form.
Solutions mirrored(const Inputs& in) {
  const auto holes = holes_from(in, 1, in.picks.size());
  if (!holes) return refuse(holes);
  std::vector<HoleChange> copies;
  for (const PickedHole& hole : *holes) {
    gp_Trsf mirror;
    mirror.SetMirror(gp_Ax2(in_part(hole.pick, in[0].plane->Location()),
                            in_part(hole.pick, in[0].plane->Axis().Direction())));
    const gp_Pnt at = hole.there.at.Location().Transformed(mirror);
    const gp_Dir out = hole.there.at.Direction().Transformed(mirror);
    if (at.Distance(hole.there.at.Location()) < 1e-6)
      return refused("a hole that lies in the plane is its own mirror image");
    copies.push_back({hole, hole.there.form, gp_Ax2(at, out)});
  }
  return std::vector<Solution>{planned(plan_of_copies(copies), holes->front().pick.placement, "only",
                                       fmt::format("{} more", copies.size()))};
}

Construction repeating(const char* id, const char* sentence, Need by, int rank,
                       std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters) {
  Construction c =
      correcting(id, "Pattern", sentence, {by, Need::kHole}, rank, std::move(solve), std::move(parameters));
  c.repeats = true;
  c.ordered = true;
  return c;
}

}  // namespace

Construction correct_repeat_along() {
  return repeating("correct.repeat-along", "Repeat hole {rest} along {1}", Need::kDirection, 78, along,
                   {{"holes", "Holes", Quantity::kCount, "3"},
                    {"length", "Length", Quantity::kLength, "20"},
                    {"given", "Given is", Quantity::kChoice, "spacing", {"spacing", "total"}},
                    {"skip", "Skip", Quantity::kText, "", {}, true}});
}

Construction correct_repeat_about() {
  return repeating("correct.repeat-about", "Repeat hole {rest} about axis {1}", Need::kAxis, 78, about,
                   {{"holes", "Holes", Quantity::kCount, "4"},
                    {"angle", "Angle", Quantity::kAngle, "360"},
                    {"given", "Given is", Quantity::kChoice, "total", {"total", "spacing"}},
                    {"skip", "Skip", Quantity::kText, "", {}, true}});
}

Construction correct_repeat_mirrored() {
  return repeating("correct.repeat-mirrored", "Mirror hole {rest} at plane {1}", Need::kPlane, 79, mirrored,
                   {});
}

}  // namespace anvil
