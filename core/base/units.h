// Lengths are millimetres and angles radians inside; units appear only where people or files meet numbers.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "base/tolerance.h"

namespace anvil {

inline constexpr double kPi = 3.14159265358979323846;
inline constexpr double degrees(double rad) {
  return rad * 180.0 / kPi;
}
inline constexpr double radians(double deg) {
  return deg * kPi / 180.0;
}

enum class Unit { kMillimetre, kInch };

double mm_per(Unit unit);
const char* unit_name(Unit unit);  // "mm", "inch"
std::optional<Unit> unit_from_name(std::string_view name);

// How lengths and angles are told on the screen.
struct Display {
  Unit unit = Unit::kMillimetre;
  int decimals = 3;        // for mm; inches get one more
  int angle_decimals = 3;  // degrees
  bool operator==(const Display&) const = default;
};

// "12.000", "-40.000"; never "-0.000". The unit is not appended.
std::string format_length(double mm, const Display& display);
std::string format_angle(double rad, const Display& display);  // "30.000°"
// "0.0001 mm, 5.73e-05°"
std::string tolerance_text(const Tolerance& tolerance, const Display& display);
// The number in the display unit with up to nine decimals and no trailing zeros, for files and text fields.
std::string format_plain(double value);

}  // namespace anvil
