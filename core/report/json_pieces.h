// What the JSON reports share: rounding, units, points and directions. Internal to core/report.
#pragma once

#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>
#include <nlohmann/json.hpp>
#include <optional>

#include "base/units.h"

namespace anvil {

using json = nlohmann::ordered_json;

inline double rounded(double value) {
  const double r = std::round(value * 1e9) / 1e9;
  return r == 0 ? 0.0 : r;  // no negative zero
}

// Numbers and points in one unit.
struct In {
  double mm;
  explicit In(Unit unit) : mm(mm_per(unit)) {}
  [[nodiscard]] json length(double v) const { return rounded(v / mm); }
  [[nodiscard]] json length(const std::optional<double>& v) const { return v ? length(*v) : json(nullptr); }
  [[nodiscard]] json area(double v) const { return rounded(v / (mm * mm)); }
  [[nodiscard]] json volume(double v) const { return rounded(v / (mm * mm * mm)); }
  [[nodiscard]] json point(const gp_Pnt& p) const {
    return {rounded(p.X() / mm), rounded(p.Y() / mm), rounded(p.Z() / mm)};
  }
};

inline json direction(const gp_Dir& d) {
  return {rounded(d.X()), rounded(d.Y()), rounded(d.Z())};
}

inline json angle(double rad) {
  return rounded(degrees(rad));
}

inline std::string text_of(const json& j) {
  return j.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

}  // namespace anvil
