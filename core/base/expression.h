// Numeric fields take expressions: "1/4in + 2", "25.4*3", "P1.distance*2".
//
//   evaluate_length("1/4in + 2", Unit::kMillimetre, {})   -> 8.35 (mm)
//   evaluate_length("1/4in + 2", Unit::kInch, {})         -> 57.15 (mm): a bare number is in the given unit
//   evaluate_angle("90/4", {})                            -> 0.39269908 (radians): a bare number is in
//   degrees
//
// A unit written after a fraction of whole numbers belongs to the whole fraction, as the trade writes it
// (1/4in is a quarter inch). Refuses (kBadInput) what cannot be read, is not finite, or names something
// unknown.
#pragma once

#include <map>
#include <string>

#include "base/refusal.h"
#include "base/units.h"

namespace anvil {

// Plain dotted words and their values; lengths in mm.
using Names = std::map<std::string, double>;

Result<double> evaluate_length(const std::string& text, Unit bare_unit, const Names& names);  // mm
Result<double> evaluate_angle(const std::string& text, const Names& names);                   // radians
Result<double> evaluate_number(const std::string& text, const Names& names);                  // no unit

}  // namespace anvil
