// Holes moved: by numbers, to a place, onto a line, along a direction, into line with each other.
#include <fmt/format.h>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/solve.h"

namespace anvil {
namespace {

// Nothing is to be done yet, but where they are can be taken hold of.
Solution staying(const std::vector<PickedHole>& holes, const char* key) {
  Solution solution = planned({}, {}, key, "it is there already");
  auto& places = std::get<PlannedCorrection>(solution.value).places;
  for (const PickedHole& hole : holes)
    places.push_back(hole.there.at.Location().Transformed(hole.pick.placement));
  return solution;
}

Solutions all_by(const std::vector<PickedHole>& holes, const gp_Vec& by, const char* key, std::string note) {
  if (by.Magnitude() < 1e-9) return std::vector<Solution>{staying(holes, key)};
  std::vector<HoleChange> changes;
  changes.reserve(holes.size());
  for (const PickedHole& hole : holes) changes.push_back(moved_by(hole, by));
  return std::vector<Solution>{planned(plan_of(changes), holes.front().pick.placement, key, std::move(note))};
}

Solutions by_numbers(const Inputs& in) {
  const auto holes = holes_from(in, 1, in.picks.size());
  if (!holes) return refuse(holes);
  const gp_Ax2& frame = *in[0].frame;
  const gp_Vec by = gp_Vec(frame.XDirection()) * in.numbers.at("dx") +
                    gp_Vec(frame.YDirection()) * in.numbers.at("dy") +
                    gp_Vec(frame.Direction()) * in.numbers.at("dz");
  return all_by(*holes, by, "only", fmt::format("by {}", format_length(by.Magnitude(), in.display)));
}

Solutions along(const Inputs& in) {
  const auto holes = holes_from(in, 1, in.picks.size());
  if (!holes) return refuse(holes);
  return all_by(*holes, gp_Vec(*in[0].direction) * in.numbers.at("distance"), "only", {});
}

gp_Pnt placed(const PickedHole& hole, const gp_Pnt& in_part) {
  return in_part.Transformed(hole.pick.placement);
}
gp_Dir placed(const PickedHole& hole, const gp_Dir& in_part) {
  return in_part.Transformed(hole.pick.placement);
}

Solutions to_place(const Inputs& in) {
  const auto holes = holes_from(in, 0, 1);
  if (!holes) return refuse(holes);
  const PickedHole& hole = holes->front();
  const gp_Vec by =
      across(gp_Vec(placed(hole, hole.hole.entry), spot_of(in[1])), placed(hole, hole.hole.axis));
  return all_by(*holes, by, "only", fmt::format("by {}", format_length(by.Magnitude(), in.display)));
}

Solutions onto_line(const Inputs& in) {
  const auto holes = holes_from(in, 0, 1);
  if (!holes) return refuse(holes);
  const PickedHole& hole = holes->front();
  const gp_Dir axis = placed(hole, hole.hole.axis);
  const gp_Pnt at = placed(hole, hole.hole.entry), from = spot_of(in[1]), to = spot_of(in[2]);
  const gp_Vec line = across(gp_Vec(from, to), axis);
  if (line.Magnitude() < in.tolerance.linear_mm)
    return refused("seen along the hole, {2} and {3} are one point: they give no line");
  const gp_Vec along{gp_Dir(line)}, way = across(gp_Vec(at, from), axis);
  const gp_Vec onto = way - along * way.Dot(along), middle = way + line / 2;
  std::vector<Solution> solutions;
  for (const auto& [key, by] : {std::pair("onto", onto), std::pair("middle", middle)}) {
    auto moved = all_by(*holes, by, key,
                        fmt::format("{} by {}", std::string(key) == "onto" ? "onto it" : "to its middle",
                                    format_length(by.Magnitude(), in.display)));
    if (moved) solutions.push_back(std::move(moved->front()));
  }
  return solutions;
}

}  // namespace

Construction correct_move_by() {
  Construction c = correcting("correct.move-by", "Moved", "Move hole {rest} by numbers in {1}",
                              {Need::kFrame, Need::kHole}, 71, by_numbers,
                              {{"dx", "X", Quantity::kLength, "0"},
                               {"dy", "Y", Quantity::kLength, "0"},
                               {"dz", "Z", Quantity::kLength, "0"}});
  c.repeats = true;
  c.reads_frame = true;
  return c;
}

Construction correct_move_along() {
  Construction c =
      correcting("correct.move-along", "Moved", "Move hole {rest} along {1}", {Need::kDirection, Need::kHole},
                 73, along, {{"distance", "By", Quantity::kLength, "1"}});
  c.repeats = true;
  c.ordered = true;
  return c;
}

Construction correct_move_to() {
  Construction c = correcting("correct.move-to", "Moved", "Move hole {1}: its axis through {2}",
                              {Need::kHole, Need::kSpot}, 72, to_place);
  c.ordered = true;
  return c;
}

Construction correct_move_onto() {
  Construction c = correcting("correct.move-onto", "Moved", "Move hole {1} onto the line from {2} to {3}",
                              {Need::kHole, Need::kSpot, Need::kSpot}, 70, onto_line);
  c.ordered = true;
  return c;
}

}  // namespace anvil
