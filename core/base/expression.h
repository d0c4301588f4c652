// Numeric fields take expressions: "1/4in + 2", "25.4*3", "P1.distance*2", "10*sin(30)".
//
//   evaluate_length("1/4in + 2", Unit::kMillimetre, {})   -> 8.35 (mm)
//   evaluate_length("1/4in + 2", Unit::kInch, {})         -> 57.15 (mm): a bare number is in the given unit
//   evaluate_angle("90/4", {})                            -> 0.39269908 (radians): a bare number is in
//   degrees
//
// A unit written after a fraction belongs to the whole fraction, as the trade writes it: 1/4in is a quarter
// inch, 1 1/4in and 1-1/4in are one and a quarter. Units: mm, cm, in, inch; of angles deg, °, rad. Functions:
// sin, cos, tan take degrees, asin, acos, atan give them; sqrt, abs, min, max; pi. A comma is a decimal comma
// where it cannot be anything else ("1,5"), and separates what a function is given (as a semicolon does).
// Refuses (kBadInput) what cannot be read, can be read in two ways ("1,500"), is not finite, is longer than
// kLongestExpression, or names something unknown.
#pragma once

#include <map>
#include <string>

#include "base/refusal.h"
#include "base/units.h"

namespace anvil {

inline constexpr std::size_t kLongestExpression = 500;

// What stands behind a name: only lengths, areas and volumes depend on a unit.
struct Named {
  enum class Kind { kLength, kAngle, kNumber, kArea, kVolume };
  double value = 0;  // mm, mm², mm³; angles in degrees, as they are typed
  Kind kind = Kind::kLength;

  Named() = default;
  Named(double mm) : value(mm) {}  // NOLINT: a name without a kind is a length
  Named(double number, Kind is) : value(number), kind(is) {}
  bool operator==(const Named&) const = default;
};

// Plain dotted words and what they stand for.
using Names = std::map<std::string, Named>;

Result<double> evaluate_length(const std::string& text, Unit bare_unit, const Names& names);  // mm
Result<double> evaluate_angle(const std::string& text, const Names& names);                   // radians
Result<double> evaluate_number(const std::string& text, const Names& names);                  // no unit

}  // namespace anvil
