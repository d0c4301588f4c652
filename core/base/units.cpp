#include "base/units.h"

#include <fmt/format.h>

#include <cmath>

namespace anvil {
namespace {

// Rounding can leave "-0.000", which reads as a direction that is not there.
std::string fixed(double value, int decimals) {
  std::string text = fmt::format("{:.{}f}", value, decimals);
  if (text.front() == '-' && text.find_first_not_of("-0.") == std::string::npos) text.erase(0, 1);
  return text;
}

}  // namespace

double mm_per(Unit unit) {
  return unit == Unit::kInch ? 25.4 : 1.0;
}

const char* unit_name(Unit unit) {
  return unit == Unit::kInch ? "inch" : "mm";
}

std::optional<Unit> unit_from_name(std::string_view name) {
  if (name == "mm") return Unit::kMillimetre;
  if (name == "inch" || name == "in") return Unit::kInch;
  return std::nullopt;
}

std::string format_length(double mm, const Display& display) {
  const int extra = display.unit == Unit::kInch ? 1 : 0;
  return fixed(mm / mm_per(display.unit), display.decimals + extra);
}

std::string format_angle(double rad, const Display& display) {
  return fixed(degrees(rad), display.angle_decimals) + "°";
}

std::string tolerance_text(const Tolerance& tolerance, const Display& display) {
  return fmt::format("{:.4g} {}, {:.3g}°", tolerance.linear_mm / mm_per(display.unit),
                     unit_name(display.unit), degrees(tolerance.angular_rad));
}

std::string format_plain(double value) {
  std::string text = fixed(value, 9);
  text.erase(text.find_last_not_of('0') + 1);
  if (text.back() == '.') text.pop_back();
  return text;
}

}  // namespace anvil
