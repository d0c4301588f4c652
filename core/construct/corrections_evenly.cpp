// Holes brought to even pitch in their row, onto a circle, onto a grid.
#include <fmt/format.h>

#include <algorithm>
#include <numeric>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/hole_numbers.h"

namespace anvil {
namespace {

std::vector<gp_Vec> ways(const std::vector<gp_Pnt>& from, const std::vector<gp_Pnt>& to) {
  std::vector<gp_Vec> all;
  for (size_t i = 0; i < from.size(); ++i) all.emplace_back(from[i], to[i]);
  return all;
}

// The two that lie farthest apart, in the order they were picked.
std::pair<size_t, size_t> ends_of(const std::vector<gp_Pnt>& at) {
  std::pair<size_t, size_t> ends{0, 0};
  for (size_t i = 0; i < at.size(); ++i)
    for (size_t j = i + 1; j < at.size(); ++j)
      if (at[i].Distance(at[j]) > at[ends.first].Distance(at[ends.second]) + kExact.linear_mm) ends = {i, j};
  return ends;
}

// Their places in the order of a number of each.
std::vector<size_t> in_order(const std::vector<double>& of_each) {
  std::vector<size_t> order(of_each.size());
  std::iota(order.begin(), order.end(), size_t{0});
  std::stable_sort(order.begin(), order.end(), [&](size_t a, size_t b) { return of_each[a] < of_each[b]; });
  return order;
}

Solutions in_row(const Inputs& in) {
  const auto holes = holes_from(in, 0, in.picks.size());
  if (!holes) return refuse(holes);
  if (holes->size() < 3) return refused("an even row takes three holes or more");
  const auto at = places_across(*holes);
  if (!at) return refuse(at);
  const auto [first, last] = ends_of(*at);
  if ((*at)[first].Distance((*at)[last]) < kExact.linear_mm) return refused("the holes stand on one point");
  const gp_Vec along(gp_Dir(gp_Vec((*at)[first], (*at)[last])));
  std::vector<double> how_far;
  how_far.reserve(at->size());
  for (const gp_Pnt& point : *at) how_far.push_back(gp_Vec((*at)[first], point).Dot(along));
  const auto count = static_cast<double>(at->size() - 1);
  const double pitch = number_if_any(in, "pitch").value_or((*at)[first].Distance((*at)[last]) / count);
  std::vector<gp_Pnt> to(at->size());
  const std::vector<size_t> order = in_order(how_far);
  for (size_t place = 0; place < order.size(); ++place)
    to[order[place]] = (*at)[first].Translated(along * (pitch * static_cast<double>(place)));
  return std::vector<Solution>{each_moved(*holes, ways(*at, to), "only", in.display)};
}

// Around {1}: the first hole keeps its direction from there.
Solutions on_circle(const Inputs& in) {
  const auto holes = holes_from(in, 1, in.picks.size());
  if (!holes) return refuse(holes);
  const auto at = places_across(*holes);
  if (!at) return refuse(at);
  const gp_Dir axis = holes->front().hole.axis.Transformed(holes->front().pick.placement);
  if (!axis.IsParallel(in[0].axis->Direction(), 1e-3))
    return refused("the holes do not run along the axis of {1}: they stand on no circle around it");
  const gp_Pnt centre = at->front().Translated(across(gp_Vec(at->front(), in[0].axis->Location()), axis));
  const gp_Vec from(centre, at->front());
  if (from.Magnitude() < kExact.linear_mm) return refused("{2} stands on the axis of {1} itself");
  const gp_Ax2 frame(centre, axis, gp_Dir(from));
  std::vector<double> angles;
  angles.reserve(at->size());
  double radius = 0;
  for (const gp_Pnt& point : *at) {
    const gp_Vec out(centre, point);
    const double angle = std::atan2(out.Dot(gp_Vec(frame.YDirection())), out.Dot(gp_Vec(frame.XDirection())));
    angles.push_back(angle < -1e-9 ? angle + 2 * kPi : angle);
    radius += out.Magnitude() / static_cast<double>(at->size());
  }
  if (const auto diameter = number_if_any(in, "diameter")) radius = *diameter / 2;
  if (radius < kExact.linear_mm) return refuse(RefusalCode::kBadInput, "a diameter above zero is wanted");
  if (in.choices.at("spacing") == "even") {
    const std::vector<size_t> order = in_order(angles);
    for (size_t place = 0; place < order.size(); ++place)
      angles[order[place]] = 2 * kPi * static_cast<double>(place) / static_cast<double>(order.size());
  }
  std::vector<gp_Pnt> to;
  to.reserve(angles.size());
  for (const double angle : angles)
    to.push_back(centre.Translated(gp_Vec(frame.XDirection()) * (radius * std::cos(angle)) +
                                   gp_Vec(frame.YDirection()) * (radius * std::sin(angle))));
  return std::vector<Solution>{each_moved(*holes, ways(*at, to), "only", in.display, 1)};
}

// The first hole is its corner, the second lies along its rows; every other goes to the place nearest to it.
Solutions on_grid(const Inputs& in) {
  const auto holes = holes_from(in, 0, in.picks.size());
  if (!holes) return refuse(holes);
  if (holes->size() < 3) return refused("a grid takes three holes or more");
  const auto at = places_across(*holes);
  if (!at) return refuse(at);
  const gp_Dir axis = holes->front().hole.axis.Transformed(holes->front().pick.placement);
  const gp_Vec row((*at)[0], (*at)[1]);
  if (row.Magnitude() < kExact.linear_mm) return refused("{1} and {2} stand on one point: they give no row");
  const gp_Ax2 frame((*at)[0], axis, gp_Dir(row));
  const double along = in.numbers.at("along"), beside = in.numbers.at("across");
  if (along < kExact.linear_mm || beside < kExact.linear_mm)
    return refuse(RefusalCode::kBadInput, "a pitch above zero is wanted");
  std::vector<gp_Pnt> to;
  to.reserve(at->size());
  for (const gp_Pnt& point : *at) {
    const gp_Vec out((*at)[0], point);
    const gp_Vec x(frame.XDirection()), y(frame.YDirection());
    to.push_back((*at)[0].Translated(x * (along * std::round(out.Dot(x) / along)) +
                                     y * (beside * std::round(out.Dot(y) / beside))));
    for (size_t other = 0; other + 1 < to.size(); ++other)
      if (to[other].Distance(to.back()) < kExact.linear_mm)
        return refused(
            fmt::format("{{{}}} and {{{}}} would come to lie on one place of the grid: a smaller "
                        "pitch is wanted",
                        other + 1, to.size()));
  }
  return std::vector<Solution>{each_moved(*holes, ways(*at, to), "only", in.display)};
}

Construction evenly(const char* id, const char* sentence, std::vector<Need> roles, int rank,
                    std::function<Solutions(const Inputs&)> solve, std::vector<Parameter> parameters) {
  Construction c =
      correcting(id, "Lined up", sentence, std::move(roles), rank, std::move(solve), std::move(parameters));
  c.repeats = true;
  return c;
}

}  // namespace

Construction correct_even_row() {
  return evenly("correct.even-row", "Space holes {all} evenly in their row",
                {Need::kHole, Need::kHole, Need::kHole}, 73, in_row,
                {{"pitch", "Pitch", Quantity::kLength, "", {}, false, true}});
}

Construction correct_on_circle() {
  Construction c = evenly("correct.on-circle", "Bring holes {rest} onto a circle around {1}",
                          {Need::kAxis, Need::kHole, Need::kHole}, 74, on_circle,
                          {{"diameter", "Diameter", Quantity::kLength, "", {}, false, true},
                           {"spacing", "Spacing", Quantity::kChoice, "as it is", {"as it is", "even"}}});
  c.ordered = true;
  return c;
}

Construction correct_on_grid() {
  return evenly("correct.on-grid", "Bring holes {all} onto a grid from {1} along {2}",
                {Need::kHole, Need::kHole, Need::kHole}, 75, on_grid,
                {{"along", "Pitch along", Quantity::kLength, "20mm"},
                 {"across", "Pitch across", Quantity::kLength, "20mm"}});
}

}  // namespace anvil
