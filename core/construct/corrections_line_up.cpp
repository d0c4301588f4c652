// Holes brought onto one line: those that stay tell it, the others move square to it. Every choice of who
// stays is a solution; first the one that moves fewest, and those least.
#include <fmt/format.h>

#include <algorithm>

#include "construct/corrections.h"
#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/solve.h"
#include "geom/fits.h"

namespace anvil {
namespace {

constexpr double kStays_mm = 1e-6;

struct Choice {
  std::string key;
  std::vector<gp_Vec> moves;  // of each hole, placed
  int moved = 0;
  double farthest_mm = 0;
};

// Nothing when those that stay lie on one point.
std::optional<Choice> onto_line_of(const std::vector<size_t>& stay, const std::vector<gp_Pnt>& at,
                                   const gp_Dir& axis) {
  std::vector<gp_Pnt> points;
  points.reserve(stay.size());
  for (const size_t i : stay) points.push_back(at[i]);
  const auto line = fit_line(points);
  if (!line) return std::nullopt;
  Choice choice;
  for (const size_t i : stay) choice.key += fmt::format("{}{}", choice.key.empty() ? "stay-" : "-", i + 1);
  const gp_Vec along(line->shape.Direction());
  for (const gp_Pnt& point : at) {
    const gp_Vec way = across(gp_Vec(point, line->shape.Location()), axis);
    gp_Vec move = way - along * way.Dot(along);
    if (move.Magnitude() < kStays_mm) move = gp_Vec();
    choice.moved += move.Magnitude() > 0;
    choice.farthest_mm = std::max(choice.farthest_mm, move.Magnitude());
    choice.moves.push_back(move);
  }
  return choice;
}

std::vector<Choice> choices_for(const std::vector<gp_Pnt>& at, const gp_Dir& axis) {
  std::vector<std::vector<size_t>> stays;
  for (size_t out = 0; out < at.size(); ++out) {
    std::vector<size_t> stay;
    for (size_t i = 0; i < at.size(); ++i)
      if (i != out) stay.push_back(i);
    stays.push_back(std::move(stay));
  }
  for (size_t i = 0; i < at.size(); ++i)
    for (size_t j = i + 1; at.size() > 3 && j < at.size(); ++j) stays.push_back({i, j});
  std::vector<Choice> choices;
  for (const auto& stay : stays)
    if (auto choice = onto_line_of(stay, at, axis)) choices.push_back(std::move(*choice));
  std::stable_sort(choices.begin(), choices.end(), [](const Choice& a, const Choice& b) {
    return a.moved != b.moved ? a.moved < b.moved : a.farthest_mm < b.farthest_mm - kStays_mm;
  });
  return choices;
}

Solutions lined_up(const Inputs& in) {
  const auto holes = holes_from(in, 0, in.picks.size());
  if (!holes) return refuse(holes);
  if (holes->size() < 3)
    return refused(fmt::format("a line-up takes three holes or more: {} are picked", holes->size()));
  const auto at = places_across(*holes);
  if (!at) return refuse(at);
  const gp_Dir axis = holes->front().hole.axis.Transformed(holes->front().pick.placement);
  std::vector<Solution> solutions;
  for (const Choice& choice : choices_for(*at, axis)) {
    solutions.push_back(each_moved(*holes, choice.moves, choice.key, in.display));
    if (choice.moved == 0) return std::vector<Solution>{std::move(solutions.back())};
  }
  if (solutions.empty()) return refused("the holes stand on one point: they give no line");
  return solutions;
}

}  // namespace

Construction correct_line_up() {
  Construction c = correcting("correct.line-up", "Lined up", "Line up holes {all}",
                              {Need::kHole, Need::kHole, Need::kHole}, 45, lined_up);
  c.repeats = true;
  return c;
}

}  // namespace anvil
