#include <fmt/format.h>

#include "construct/construction.h"

namespace anvil {
namespace {

std::string number_text(Measurement::Kind kind, double value, const Display& display) {
  const double mm = mm_per(display.unit);
  switch (kind) {
    case Measurement::Kind::kDistance:
      return format_length(value, display);
    case Measurement::Kind::kAngle:
      return format_angle(value, display);
    case Measurement::Kind::kArea:
      return fmt::format("{:.{}f} {}²", value / (mm * mm), display.decimals, unit_name(display.unit));
    case Measurement::Kind::kVolume:
      return fmt::format("{:.{}f} {}³", value / (mm * mm * mm), display.decimals, unit_name(display.unit));
  }
  return {};
}

}  // namespace

std::string measurement_text(const Measurement& m, const Display& display) {
  std::string text = number_text(m.kind, m.value, display);
  for (const Measurement::Detail& detail : m.details)
    text += fmt::format(", {} {}", detail.name, number_text(detail.kind, detail.value, display));
  return text;
}

}  // namespace anvil
