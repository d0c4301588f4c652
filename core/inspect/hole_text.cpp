#include "inspect/hole_text.h"

#include <algorithm>
#include <cmath>

namespace anvil {
namespace {

constexpr double kSame_mm = 1e-4;

std::string rounded(double value) {
  return format_plain(std::round(value * 1e4) / 1e4);
}

std::string angle_text(double rad) {
  return rounded(degrees(rad)) + "°";
}

}  // namespace

std::string form_text(const Hole& hole, Unit unit) {
  const auto length = [unit](double mm) { return rounded(mm / mm_per(unit)); };
  const auto across = [&](double mm) { return "Ø" + length(mm); };
  const std::string size = hole.round ? across(hole.diameter_mm)
                                      : "not round " + length(hole.long_mm) + " × " + length(hole.short_mm);
  std::string text = size + (hole.through ? " through" : " × " + length(hole.depth_mm) + " deep");
  for (const HoleStep& step : hole.steps) {
    switch (step.kind) {
      case StepKind::kCounterbore:
        text += ", counterbore " + across(step.diameter_mm) + " × " + length(step.depth_mm);
        break;
      case StepKind::kCountersink:
        text += ", countersink " + across(std::max(step.diameter_mm, step.end_diameter_mm)) + " × " +
                angle_text(step.angle_rad);
        break;
      case StepKind::kTip:
        text += ", tip " + angle_text(step.angle_rad);
        break;
      case StepKind::kBall:
        text += ", ball";
        break;
      case StepKind::kFlat:
        text += ", flat";
        break;
      case StepKind::kTaper:
        text += ", taper " + angle_text(step.angle_rad);
        break;
      case StepKind::kGroove:
        text += ", groove " + across(step.diameter_mm);
        break;
      case StepKind::kChamfer:
        text += ", chamfer " + across(std::max(step.diameter_mm, step.end_diameter_mm));
        break;
      case StepKind::kBore:
        if (std::abs(step.diameter_mm - hole.diameter_mm) > kSame_mm)
          text += ", bore " + across(step.diameter_mm);
        break;
    }
  }
  return hole.full_turn ? text : text + ", open side";
}

std::string form_text(const HoleReport& report, const HoleGroup& group, Unit unit) {
  return form_text(report.holes[static_cast<size_t>(group.holes.front())], unit);
}

std::string form_text(const HoleReport& report, int group, Unit unit) {
  return form_text(report, report.groups[static_cast<size_t>(group)], unit);
}

}  // namespace anvil
