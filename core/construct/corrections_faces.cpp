// Faces moved: along their normal, along a direction, or so that a distance becomes what it is to be.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "part/measure.h"

namespace anvil {
namespace {

// Faces that mirror each other do so within this.
constexpr double kSame_mm = 1e-4;
constexpr const char* kAlone = "this alone";
constexpr const char* kWhole = "all that it is part of";
constexpr const char* kStanding = "what stands in it too";
constexpr const char* kRounded = "the roundings beside it too";
constexpr const char* kWithWalls = "this alone, with walls beside it";

std::vector<int> with_what_travels(const TopologyIndex& topology, const std::set<int>& faces,
                                   const std::string& with) {
  std::vector<int> alone(faces.begin(), faces.end());
  if (with == kStanding) {
    const std::vector<int> more = standing_in(topology, alone);
    alone.insert(alone.end(), more.begin(), more.end());
  }
  if (with == kRounded) return with_roundings(topology, alone);
  const auto feature = with == kWhole ? feature_around(topology, alone) : std::nullopt;
  return feature ? feature->faces : alone;
}

bool has_walls(const Inputs& in) {
  return in.choices.at("with") == kWithWalls;
}

// A step for each body that anything moves on.
Plan moved_bodies(std::map<int, MoveFaces>&& by_body, const Inputs& in) {
  Plan plan;
  for (auto& [body, step] : by_body) {
    step.with_walls = has_walls(in);
    plan.steps.push_back({body, std::move(step)});
  }
  return plan;
}

Solutions moved_by_vector(const Inputs& in, size_t first, const gp_Vec& placed) {
  const auto picked = faces_from(in, first, in.picks.size());
  if (!picked) return refuse(picked);
  Plan plan;
  size_t count = 0;
  for (const auto& [body, faces] : picked->by_body) {
    MoveFaces step{{{with_what_travels(picked->pick.part->topology(), faces, in.choices.at("with")),
                     in_part(picked->pick, placed)}},
                   has_walls(in)};
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
        {with_what_travels(topology, {patch.begin(), patch.end()}, in.choices.at("with")),
         in_part(*picked, towards * way)});
  }
  const std::string note = fmt::format("{} now", format_length(std::abs(now), in.display));
  return std::vector<Solution>{planned(moved_bodies(std::move(by_body), in), {}, "only", note)};
}

// The flat face on the other side of a plane that is the mirror image of one on this side; -1 for none.
int partner_of(const Part& part, int face, const gp_Trsf& mirror) {
  const TopologyIndex& topology = part.topology();
  const FaceInfo& own = topology.faces[face];
  const auto is = area_properties(own.face);
  const gp_Pnt there = is.centroid.Transformed(mirror);
  const gp_Dir normal = own.surface.position.Direction().Transformed(mirror);
  for (size_t other = 0; other < topology.faces.size(); ++other) {
    const FaceInfo& info = topology.faces[other];
    const bool may_be = info.body == own.body && info.surface.kind == SurfaceKind::kPlane &&
                        info.surface.position.Direction().IsEqual(normal, 1e-6) &&
                        std::abs(height_over(info.surface.plane(), there)) < kSame_mm;
    if (!may_be) continue;
    const auto at = area_properties(info.face);
    const bool same = at.centroid.Distance(there) < kSame_mm &&
                      std::abs(at.area_mm2 - is.area_mm2) < kSame_mm * std::max(1.0, is.area_mm2);
    if (same) return static_cast<int>(other);
  }
  return -1;
}

// Every face along its own normal, and what mirrors it as much.
Solutions with_partner(const Inputs& in) {
  std::map<int, MoveFaces> by_body;
  size_t count = 0;
  for (size_t role = 1; role < in.picks.size(); ++role) {
    const auto pick = part_of(in, role);
    if (!pick) return refuse(pick);
    gp_Trsf mirror;
    mirror.SetMirror(
        gp_Ax2(in_part(*pick, in[0].plane->Location()), in_part(*pick, in[0].plane->Axis().Direction())));
    const TopologyIndex& topology = pick->part->topology();
    const FaceInfo& face = topology.faces[pick->index];
    if (face.surface.kind != SurfaceKind::kPlane)
      return refused(fmt::format("{{{}}} is not flat, so it has no one normal", role + 1));
    const int partner = partner_of(*pick->part, pick->index, mirror);
    if (partner < 0)
      return refused(fmt::format("nothing on the other side of {{1}} mirrors {{{}}}", role + 1));
    if (partner == pick->index) return refused(fmt::format("{{{}}} is its own mirror image", role + 1));
    const gp_Vec by = gp_Vec(face.surface.position.Direction()) * in.numbers.at("distance");
    if (by.Magnitude() < 1e-9) continue;
    for (const auto& [one, way] : {std::pair(pick->index, by), std::pair(partner, by.Transformed(mirror))}) {
      const auto faces = with_what_travels(topology, {one}, in.choices.at("with"));
      count += faces.size();
      by_body[face.body].sets.push_back({faces, way});
    }
  }
  return std::vector<Solution>{
      planned(moved_bodies(std::move(by_body), in), {}, "only", fmt::format("{} faces", count))};
}

Parameter travels() {
  return {"with", "Moves", Quantity::kChoice, kAlone, {kAlone, kRounded, kWhole, kStanding, kWithWalls}};
}

}  // namespace

Construction correct_push() {
  Construction c =
      correcting("correct.face-push", "Pushed", "Move {all} along the normal of {1}", {Need::kFace}, 72,
                 along_normal, {{"distance", "By", Quantity::kLength, "1"}, travels()});
  c.repeats = true;
  return c;
}

Construction correct_push_mirrored() {
  Construction c =
      correcting("correct.face-push-mirrored", "Pushed",
                 "Move {rest} along its normal, and its mirror image at {1}", {Need::kPlane, Need::kFlatFace},
                 76, with_partner, {{"distance", "By", Quantity::kLength, "1mm"}, travels()});
  c.repeats = true;
  c.ordered = true;
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
