// The tolerances of exact geometry. Imported approximations may widen both per job.
#pragma once

namespace anvil {

struct Tolerance {
  double linear_mm = 1e-4;
  double angular_rad = 1e-6;
};

inline constexpr Tolerance kExact{};

// The widest that still tells features of a part apart.
inline constexpr Tolerance kWidest{0.1, 1e-2};

// Kept between kExact and kWidest; what is no number becomes kExact.
inline Tolerance sensible(const Tolerance& t) {
  const auto within = [](double value, double low, double high) {
    return value > low ? (value < high ? value : high) : low;
  };
  return {within(t.linear_mm, kExact.linear_mm, kWidest.linear_mm),
          within(t.angular_rad, kExact.angular_rad, kWidest.angular_rad)};
}

// Two face normals closer than this (radians) along a shared edge make the edge smooth. Exporters write
// tangent fillets with a few hundredths of a degree of error, so this is wider than kExact.
inline constexpr double kSmoothEdge_rad = 2e-3;

// A face is a wall when its normal is square to the tool axis within this (0.05 degrees).
inline constexpr double kWall_rad = 0.05 * 3.14159265358979323846 / 180.0;

}  // namespace anvil
