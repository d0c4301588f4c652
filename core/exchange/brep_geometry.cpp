#include "exchange/brep_geometry.h"

#include <fmt/format.h>

#include <charconv>

namespace anvil {
namespace {

// Takes words from a text; every step says whether it was there.
class Walk {
 public:
  explicit Walk(std::string_view text) : rest_(text) {}

  [[nodiscard]] bool curve_2d() {
    constexpr int kPlane = 2;
    switch (whole()) {
      case 1:
        return numbers(4);
      case 2:
      case 4:
        return numbers(7);
      case 3:
      case 5:
        return numbers(8);
      case 6:
        return bezier_curve(kPlane);
      case 7:
        return spline_curve(kPlane);
      case 8:
        return numbers(2) && curve_2d();
      case 9:
        return numbers(1) && curve_2d();
      default:
        return false;
    }
  }

  [[nodiscard]] bool curve() {
    constexpr int kSpace = 3;
    switch (whole()) {
      case 1:
        return numbers(6);
      case 2:
      case 4:
        return numbers(13);
      case 3:
      case 5:
        return numbers(14);
      case 6:
        return bezier_curve(kSpace);
      case 7:
        return spline_curve(kSpace);
      case 8:
        return numbers(2) && curve();
      case 9:
        return numbers(4) && curve();
      default:
        return false;
    }
  }

  [[nodiscard]] bool surface() {
    switch (whole()) {
      case 1:
        return numbers(12);
      case 2:
      case 4:
        return numbers(13);
      case 3:
      case 5:
        return numbers(14);
      case 6:
        return numbers(3) && curve();
      case 7:
        return numbers(6) && curve();
      case 8:
        return bezier_surface();
      case 9:
        return spline_surface();
      case 10:
        return numbers(4) && surface();
      case 11:
        return numbers(1) && surface();
      default:
        return false;
    }
  }

  // A whole number that counts or names something, or -1.
  [[nodiscard]] long whole() {
    const std::string_view next = word();
    long value = -1;
    const auto [end, error] = std::from_chars(next.data(), next.data() + next.size(), value);
    constexpr long kMost = 100'000'000;
    return error == std::errc() && end == next.data() + next.size() && value <= kMost ? value : -1;
  }

 private:
  std::string_view word() {
    const size_t begin = rest_.find_first_not_of(" \t\r\n");
    if (begin == std::string_view::npos) return {};
    const size_t end = std::min(rest_.find_first_of(" \t\r\n", begin), rest_.size());
    const std::string_view found = rest_.substr(begin, end - begin);
    rest_.remove_prefix(end);
    return found;
  }

  [[nodiscard]] bool numbers(long count) {
    for (long i = 0; i < count; ++i) {
      const std::string_view next = word();
      if (next.empty() || next.find_first_not_of("0123456789.eE+-") != std::string_view::npos) return false;
    }
    return true;
  }

  [[nodiscard]] bool bezier_curve(long coordinates) {
    const long rational = whole(), degree = whole();
    return rational >= 0 && degree > 0 && numbers((degree + 1) * (coordinates + (rational ? 1 : 0)));
  }

  [[nodiscard]] bool spline_curve(long coordinates) {
    const long rational = whole(), periodic = whole(), degree = whole(), poles = whole(), knots = whole();
    return rational >= 0 && periodic >= 0 && degree > 0 && poles > 1 && knots > 1 &&
           numbers(poles * (coordinates + (rational ? 1 : 0)) + 2 * knots);
  }

  [[nodiscard]] bool bezier_surface() {
    const long u_rational = whole(), v_rational = whole(), u_degree = whole(), v_degree = whole();
    const long each = u_rational > 0 || v_rational > 0 ? 4 : 3;
    return u_rational >= 0 && v_rational >= 0 && u_degree > 0 && v_degree > 0 &&
           numbers((u_degree + 1) * (v_degree + 1) * each);
  }

  [[nodiscard]] bool spline_surface() {
    const long u_rational = whole(), v_rational = whole(), u_periodic = whole(), v_periodic = whole();
    const long u_degree = whole(), v_degree = whole(), u_poles = whole(), v_poles = whole();
    const long u_knots = whole(), v_knots = whole();
    const long each = u_rational > 0 || v_rational > 0 ? 4 : 3;
    return u_rational >= 0 && v_rational >= 0 && u_periodic >= 0 && v_periodic >= 0 && u_degree > 0 &&
           v_degree > 0 && u_poles > 1 && v_poles > 1 && u_knots > 1 && v_knots > 1 &&
           numbers(u_poles * v_poles * each + 2 * (u_knots + v_knots));
  }

  std::string_view rest_;
};

}  // namespace

std::optional<std::string> fault_in_brep_geometry(std::string_view text) {
  struct Section {
    std::string_view heading, name;
    bool (Walk::*one)();
  };
  static constexpr Section kSections[] = {{"\nCurve2ds ", "curve on a surface", &Walk::curve_2d},
                                          {"\nCurves ", "curve", &Walk::curve},
                                          {"\nSurfaces ", "surface", &Walk::surface}};
  for (const Section& section : kSections) {
    const size_t begin = text.find(section.heading);
    if (begin == std::string_view::npos) continue;
    Walk walk(text.substr(begin + section.heading.size()));
    const long count = walk.whole();
    if (count < 0) return fmt::format("it does not say how many {}s it holds", section.name);
    for (long i = 1; i <= count; ++i)
      if (!(walk.*section.one)())
        return fmt::format("{} {} of {} is of no kind that is known, or cut short", section.name, i, count);
  }
  return std::nullopt;
}

}  // namespace anvil
