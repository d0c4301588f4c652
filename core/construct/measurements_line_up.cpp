// How well chosen holes stand in a row, on a circle or on a grid, and which of them is farthest off.
#include <fmt/format.h>

#include "construct/families.h"
#include "construct/helpers.h"
#include "construct/solve.h"
#include "inspect/holes.h"

namespace anvil {
namespace {

HoleReport holes_of(const Inputs& in) {
  HoleReport report;
  for (size_t i = 0; i < in.picks.size(); ++i) {
    const HoleEnds& ends = *in[i].hole;
    Hole hole;
    hole.name = circled(static_cast<int>(i) + 1);
    hole.entry = ends.opening;
    // Whichever end a through hole is entered at: all are lined up seen from one side.
    hole.axis = ends.out.Dot(in[0].hole->out) < 0 ? ends.out.Reversed() : ends.out;
    report.holes.push_back(std::move(hole));
  }
  return report;
}

size_t farthest_off(const HolePattern& pattern) {
  size_t worst = 0;
  for (size_t k = 1; k < pattern.deviations.size(); ++k)
    if (pattern.deviations[k].mend.Magnitude() > pattern.deviations[worst].mend.Magnitude()) worst = k;
  return worst;
}

// Of every hole in the order it was picked, after the worst: "across2 0.350".
void tell_each(const HolePattern& pattern, Measurement& m) {
  std::vector<const HoleDeviation*> in_order(pattern.holes.size());
  for (size_t k = 0; k < pattern.holes.size(); ++k) in_order[pattern.holes[k]] = &pattern.deviations[k];
  for (size_t hole = 0; hole < in_order.size(); ++hole) {
    const std::string number = fmt::format("{}", hole + 1);
    m.details.push_back({"along" + number, m.kind, std::abs(in_order[hole]->along_mm)});
    m.details.push_back({"across" + number, m.kind, std::abs(in_order[hole]->across_mm)});
  }
}

Solution told(const HolePattern& pattern, const HoleReport& report, const Inputs& in) {
  const size_t worst = farthest_off(pattern);
  const HoleDeviation& off = pattern.deviations[worst];
  const int hole = pattern.holes[worst];
  const auto mm = [&](double v) { return format_length(v, in.display); };
  Solution solution;
  const gp_Pnt from = report.holes[hole].entry;
  using Kind = Measurement::Kind;
  solution.value = Measurement{Kind::kDistance,
                               off.mend.Magnitude(),
                               from,
                               from.Translated(off.mend),
                               {{"along", Kind::kDistance, std::abs(off.along_mm)},
                                {"across", Kind::kDistance, std::abs(off.across_mm)},
                                {"pitch", Kind::kDistance, pattern.pitch_mm}}};
  tell_each(pattern, std::get<Measurement>(solution.value));
  solution.key = pattern_name(pattern.kind);
  const char* pitch = pattern.kind == HolePattern::Kind::kCircle ? "Ø" : "pitch";
  solution.note =
      fmt::format("{}, {} {}: {} is {} along, {} across", solution.key, pitch, mm(pattern.pitch_mm),
                  report.holes[hole].name, mm(std::abs(off.along_mm)), mm(std::abs(off.across_mm)));
  solution.worst_role = hole;
  return solution;
}

// Rows, circles and grids that the holes make, the best fit first; a circle through three is none.
Solutions line_up_of(const Inputs& in) {
  const HoleReport report = holes_of(in);
  std::vector<int> all;
  for (size_t i = 0; i < report.holes.size(); ++i) all.push_back(static_cast<int>(i));
  std::vector<Solution> solutions;
  std::optional<Refusal> why;
  for (const auto kind : {HolePattern::Kind::kRow, HolePattern::Kind::kCircle, HolePattern::Kind::kGrid}) {
    const auto pattern = line_up(report, all, kind);
    if (!pattern)
      why = why.value_or(pattern.error());
    else if (kind != HolePattern::Kind::kCircle || all.size() > 3)
      solutions.push_back(told(*pattern, report, in));
  }
  if (solutions.empty())
    return refuse(why.value_or(Refusal{RefusalCode::kGeometry, "no pattern", {}, {}, {}}));
  std::stable_sort(solutions.begin(), solutions.end(), [](const Solution& a, const Solution& b) {
    return std::get<Measurement>(a.value).value < std::get<Measurement>(b.value).value;
  });
  return solutions;
}

}  // namespace

Construction measure_line_up() {
  Construction c =
      measuring("measure.line-up", "Line-up of {all}: how far each is off, and the move that mends it",
                {Need::kHole, Need::kHole, Need::kHole}, 8, line_up_of);
  c.repeats = true;
  // Likely where they nearly make a pattern.
  c.rank_for = [](const Inputs& in) {
    constexpr double kNearly_mm = 1;
    const auto solutions = line_up_of(in);
    return solutions && std::get<Measurement>(solutions->front().value).value < kNearly_mm ? 8 : 42;
  };
  return c;
}

}  // namespace anvil
