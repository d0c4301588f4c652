// Faces moved: along their normal, along a direction, or so that a distance becomes what it is to be.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"

namespace anvil {
namespace {

constexpr const char* kAlone = "this alone";
constexpr const char* kWhole = "all that it is part of";

struct PickedFaces {
  PartPick pick;
  std::map<int, std::set<int>> by_body;
};

Result<PickedFaces> faces_from(const Inputs& in, size_t first) {
  PickedFaces picked;
  for (size_t role = first; role < in.picks.size(); ++role) {
    const auto pick = part_of(in, role);
    if (!pick) return refuse(pick);
    picked.pick = *pick;
    // A face that an exporter split moves as one.
    const TopologyIndex& topology = pick->part->topology();
    const int patch = topology.faces[pick->index].patch;
    auto& own = picked.by_body[topology.faces[pick->index].body];
    own.insert(pick->index);
    if (patch >= 0) own.insert(topology.patches[patch].faces.begin(), topology.patches[patch].faces.end());
  }
  return picked;
}

std::vector<int> with_what_travels(const TopologyIndex& topology, const std::set<int>& faces, bool whole) {
  const std::vector<int> alone(faces.begin(), faces.end());
  const auto feature = whole ? feature_around(topology, alone) : std::nullopt;
  return feature ? feature->faces : alone;
}

Solutions moved_by_vector(const Inputs& in, size_t first, const gp_Vec& placed) {
  const auto picked = faces_from(in, first);
  if (!picked) return refuse(picked);
  const bool whole = in.choices.at("with") == kWhole;
  Plan plan;
  size_t count = 0;
  for (const auto& [body, faces] : picked->by_body) {
    MoveFaces step{
        {{with_what_travels(picked->pick.part->topology(), faces, whole), in_part(picked->pick, placed)}}};
    count += step.sets.front().faces.size();
    if (placed.Magnitude() > 1e-9) plan.steps.push_back({body, std::move(step)});
  }
  Solution solution =
      planned(std::move(plan), {}, "only", fmt::format("{} {}", count, count == 1 ? "face" : "faces"));
  auto& places = std::get<PlannedCorrection>(solution.value).places;
  const gp_Pnt at =
      in[first].clicked.value_or(in[first].extent.empty() ? gp_Pnt() : in[first].extent.front());
  places.push_back(at.Translated(placed));
  return std::vector<Solution>{std::move(solution)};
}

Solutions along_normal(const Inputs& in) {
  if (!in[0].surface || in[0].surface->kind != SurfaceKind::kPlane)
    return refused("{1} is not flat, so it has no one normal: pick a direction too");
  return moved_by_vector(in, 0, gp_Vec(in[0].plane->Axis().Direction()) * in.numbers.at("distance"));
}

Solutions along_direction(const Inputs& in) {
  return moved_by_vector(in, 1, gp_Vec(*in[0].direction) * in.numbers.at("distance"));
}

// Both flat and parallel: how far the second lies from the first, along the first's normal.
Solutions to_distance(const Inputs& in) {
  const gp_Dir a = in[0].plane->Axis().Direction(), b = in[1].plane->Axis().Direction();
  if (!a.IsParallel(b, 1e-4))
    return refused(fmt::format("{{1}} and {{2}} are not parallel but {} apart: they have no one distance",
                               format_angle(std::min(a.Angle(b), kPi - a.Angle(b)), in.display)));
  const double now = -height_over(*in[0].plane, in[1].plane->Location());
  const gp_Vec towards = gp_Vec(a) * (now < 0 ? 1.0 : -1.0);
  const double more = in.numbers.at("distance") - std::abs(now);
  const std::string who = in.choices.at("moves");
  const double second = who == "the second" ? more : who == "the first" ? 0 : more / 2, first = more - second;
  Plan plan;
  std::map<int, MoveFaces> by_body;
  for (size_t role = 0; role < 2; ++role) {
    const auto picked = part_of(in, role);
    if (!picked) return refuse(picked);
    const double way = role == 0 ? -first : second;
    if (std::abs(way) < 1e-9) continue;
    const TopologyIndex& topology = picked->part->topology();
    const FaceInfo& face = topology.faces[picked->index];
    const std::vector<int>& patch = topology.patches[face.patch].faces;
    by_body[face.body].sets.push_back(
        {with_what_travels(topology, {patch.begin(), patch.end()}, in.choices.at("with") == kWhole),
         in_part(*picked, towards * way)});
  }
  for (auto& [body, step] : by_body) plan.steps.push_back({body, std::move(step)});
  const std::string note = fmt::format("{} now", format_length(std::abs(now), in.display));
  return std::vector<Solution>{planned(std::move(plan), {}, "only", note)};
}

Parameter travels() {
  return {"with", "Moves", Quantity::kChoice, kAlone, {kAlone, kWhole}};
}

}  // namespace

Construction correct_push() {
  Construction c =
      correcting("correct.face-push", "Pushed", "Move {all} along the normal of {1}", {Need::kFace}, 72,
                 along_normal, {{"distance", "By", Quantity::kLength, "1"}, travels()});
  c.repeats = true;
  return c;
}

Construction correct_face_along() {
  Construction c =
      correcting("correct.face-along", "Moved", "Move {rest} along {1}", {Need::kDirection, Need::kFace}, 77,
                 along_direction, {{"distance", "By", Quantity::kLength, "1"}, travels()});
  c.repeats = true;
  return c;
}

Construction correct_face_distance() {
  Construction c = correcting(
      "correct.face-distance", "Set to", "Set the distance from {1} to {2}",
      {Need::kFlatFace, Need::kFlatFace}, 60, to_distance,
      {{"distance", "Distance", Quantity::kLength, "10"},
       {"moves", "Who moves", Quantity::kChoice, "the second", {"the second", "the first", "both by half"}},
       travels()});
  return c;
}

}  // namespace anvil
