// Another radius for corners and fillets.
#include <fmt/format.h>

#include <map>
#include <set>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "correct/fillets.h"

namespace anvil {
namespace {

bool can_be_rounding(const Surface& surface) {
  return surface.kind == SurfaceKind::kCylinder || surface.kind == SurfaceKind::kTorus ||
         surface.kind == SurfaceKind::kSphere;
}

Solutions with_radius_of(const Inputs& in) {
  const double radius = in.numbers.at("radius");
  if (radius < 1e-6)
    return refuse(RefusalCode::kBadInput, "a radius above zero is wanted: to have it sharp, close it");
  std::map<int, std::vector<int>> by_body;
  PartPtr part;
  for (size_t role = 0; role < in.picks.size(); ++role) {
    const auto pick = part_of(in, role);
    if (!pick) return refuse(pick);
    part = pick->part;
    const FaceInfo& face = part->topology().faces[pick->index];
    const bool smooth = std::count_if(face.edges.begin(), face.edges.end(), [&](int edge) {
                          return part->topology().edges[edge].convexity == Convexity::kSmooth;
                        }) >= 2;
    if (!can_be_rounding(face.surface) || !smooth)
      return refused(
          fmt::format("{{{}}} is no rounding: it does not run smoothly into the faces beside it", role + 1));
    by_body[face.body].push_back(pick->index);
  }
  Plan plan;
  size_t count = 0;
  for (auto& [body, faces] : by_body) {
    if (in.choices.at("chain") == "all that go on smoothly") faces = rounding_chain(part->topology(), faces);
    count += faces.size();
    plan.steps.push_back({body, RoundAnew{std::move(faces), radius}});
  }
  return std::vector<Solution>{planned(std::move(plan), {}, "only",
                                       fmt::format("{} {}", count, count == 1 ? "rounding" : "roundings"))};
}

}  // namespace

Construction correct_radius() {
  Construction c = correcting("correct.radius", "Radius", "Give rounding {all} another radius", {Need::kFace},
                              72, with_radius_of,
                              {{"radius", "Radius", Quantity::kLength, "3"},
                               {"chain",
                                "Rounds",
                                Quantity::kChoice,
                                "all that go on smoothly",
                                {"all that go on smoothly", "the picked ones"}}});
  c.repeats = true;
  return c;
}

}  // namespace anvil
