#include "setup/control_answers.h"

#include <fmt/format.h>

#include <cmath>
#include <gp_Vec.hxx>

#include "base/numbers.h"
#include "base/quoted.h"
#include "base/units.h"
#include "geom/coordinate.h"

namespace anvil {
namespace {

constexpr double kFarthest_mm = 1e5;  // no machine travels a hundred metres

tl::unexpected<Refusal> not_the_answer(std::string_view line, const std::string& asked) {
  return refuse(RefusalCode::kUnreadable,
                fmt::format("the control was asked for {} and said {}", asked, in_quotes(line)));
}

// Cut off from the line with the blank behind it; empty at its end.
std::string_view take_word(std::string_view& line) {
  const size_t end = std::min(line.find(' '), line.size());
  const std::string_view word = line.substr(0, end);
  line.remove_prefix(std::min(end + 1, line.size()));
  return word;
}

bool take(std::string_view& line, std::string_view beginning) {
  if (line.substr(0, beginning.size()) != beginning) return false;
  line.remove_prefix(beginning.size());
  return true;
}

// "X1.5 Y2 Z-3" and nothing else.
std::optional<gp_Pnt> point_in(std::string_view text) {
  gp_XYZ at;
  for (const char letter : {'X', 'Y', 'Z'}) {
    const std::string_view word = take_word(text);
    const auto value = !word.empty() && word.front() == letter ? number_from(word.substr(1)) : std::nullopt;
    if (!value || std::abs(*value) > kFarthest_mm) return std::nullopt;
    set_coordinate(at, letter - 'X', *value);
  }
  return text.empty() ? std::optional<gp_Pnt>(gp_Pnt(at)) : std::nullopt;
}

bool same_angle(double a_rad, double b_rad) {
  const double within_rad = radians(1e-3);
  return std::abs(std::remainder(a_rad - b_rad, 2 * kPi)) <= within_rad;
}

}  // namespace

Result<void> check_program_taken(std::string_view line, size_t lines) {
  if (line == fmt::format("OK {} lines", lines)) return {};
  return not_the_answer(line, fmt::format("a program of {} lines to be taken", lines));
}

Result<gp_Pnt> offset_in_answer(std::string_view line, const WorkOffset& asked) {
  const std::string name = work_offset_text(asked);
  std::string_view rest = line;
  const auto at = take(rest, "OFFSET " + name + " ") ? point_in(rest) : std::nullopt;
  return at ? Result<gp_Pnt>(*at) : not_the_answer(line, "the offset " + name);
}

Result<void> check_position(std::string_view line, const std::optional<WorkOffset>& offset,
                            const std::vector<RotaryPosition>& sent) {
  std::string asked = offset ? work_offset_text(*offset) : "any offset";
  for (const RotaryPosition& p : sent) asked += fmt::format(" {}{:.3f}", p.axis, degrees(p.angle_rad));
  std::string_view rest = line;
  if (!take(rest, "AT ")) return not_the_answer(line, asked);
  if (offset && !take(rest, work_offset_text(*offset) + (sent.empty() ? "" : " ")))
    return not_the_answer(line, asked);
  // The offset's own words stand before the axes.
  while (!offset && !rest.empty() && (rest.front() == 'G' || rest.front() == 'P')) take_word(rest);
  for (const RotaryPosition& p : sent) {
    std::string_view word = take_word(rest);
    const auto angle = take(word, p.axis) ? number_from(word) : std::nullopt;
    if (!angle || !same_angle(radians(*angle), p.angle_rad)) return not_the_answer(line, asked);
  }
  return rest.empty() ? Result<void>() : not_the_answer(line, asked);
}

Result<std::optional<gp_Pnt>> touch_in_answer(std::string_view line, const ProbeMove& asked) {
  if (line == "MISS") return std::optional<gp_Pnt>();
  std::string_view rest = line;
  const auto at = take(rest, "TOUCH ") ? point_in(rest) : std::nullopt;
  if (!at) return not_the_answer(line, "a touch");
  const gp_Vec way(asked.start, *at);
  const double along = way.Dot(gp_Vec(asked.along));
  const double beside = (way - gp_Vec(asked.along) * along).Magnitude();
  if (beside > kProbeStray_mm || along < -kProbeStray_mm || along > asked.reach_mm + kProbeStray_mm)
    return not_the_answer(line, fmt::format("a touch on the line from {:.3f} {:.3f} {:.3f}", asked.start.X(),
                                            asked.start.Y(), asked.start.Z()));
  return at;
}

}  // namespace anvil
