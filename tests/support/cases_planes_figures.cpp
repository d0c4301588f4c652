#include "support/construction_cases.h"

namespace anvil::test {

std::vector<Case> plane_cases() {
  const double half_sin = std::sin(radians(15)), half_cos = std::cos(radians(15));
  return {
      {"plane.on-face", {"top"}, {}, {{0, 0, 20, 0, 0, 1}}},
      {"plane.on-face", {"rim"}, {}, {{0, 0, 20, 0, 0, 1}}},
      {"plane.on-face", {"ellipse"}, {}, {{250, 20, 0, 0, 0, 1}}},
      {"plane.offset", {"top"}, {{"distance", "-10*s"}, {"count", "1"}}, {{0, 0, 10, 0, 0, 1}}},
      {"plane.offset",
       {"top"},
       {{"distance", "10*s"}, {"count", "3"}},
       {{0, 0, 30, 0, 0, 1}, {0, 0, 40, 0, 0, 1}, {0, 0, 50, 0, 0, 1}}},
      {"plane.midway", {"top", "bottom"}, {}, {{0, 0, 10, 0, 0, 1}}},
      {"plane.midway", {"top", "front"}, {}, {}, Fact{"angle_rad", kPi / 2}},
      {"plane.bisector",
       {"bottom", "slant"},
       {},
       {{100, 0, 0, half_sin, 0, half_cos}, {100, 0, 0, half_cos, 0, -half_sin}}},
      {"plane.bisector", {"top", "bottom"}, {}, {}, Fact{"distance_mm", 20}},
      {"plane.between-axes", {"bore", "bore2"}, {}, {{35, 20, 0, 1, 0, 0}}},
      {"plane.between-axes", {"bore", "axis 0 20 10 1 0 0"}, {}, {}, Fact{"angle_rad", kPi / 2}},
      {"plane.three-points", {"corner", "corner2", "corner3"}, {}, {{0, 0, 0, 1, 0, 0}}},
      {"plane.three-points", {"corner3", "corner4", "point 20 0 0"}, {}, {}, Fact{"off_line_mm", 0}},
      {"plane.best-fit",
       {"point 0 0 5", "point 9 0 5", "point 9 7 5", "point 0 7 5"},
       {},
       {{0, 0, 5, 0, 0, 1}}},
      {"plane.best-fit", {"top", "corner"}, {}, {{0, 0, 20, 0, 0, 1}}},
      {"plane.best-fit", {"blind2", "point 0 0 20", "blind"}, {}, {{0, 0, 20, 0, 0, 1}}},
      {"plane.two-lines", {"edgeX", "edgeZ"}, {}, {{0, 0, 0, 0, 1, 0}}},
      {"plane.two-lines", {"bore", "bore2"}, {}, {{20, 20, 0, 0, 1, 0}}},
      {"plane.two-lines", {"edgeX", "edgeY"}, {}, {}, Fact{"gap_mm", 20}},
      {"plane.line-point", {"bore", "corner"}, {}, {{20, 20, 0, 1, -1, 0}}},
      {"plane.line-point", {"bore", "centre"}, {}, {}, Fact{"distance_mm", 0}},
      {"plane.parallel-through", {"corner", "slant"}, {}, {{0, 0, 20, kSin, 0, kCos}}},
      {"plane.square-to-line", {"corner", "bore"}, {}, {{0, 0, 20, 0, 0, 1}}},
      {"plane.square-along-edge", {"edgeX"}, {{"ratio", "0.5"}}, {{40, 0, 0, 1, 0, 0}}},
      {"plane.square-to-edge", {"rim", "point 25 20 20"}, {}, {{25, 20, 20, 0, 1, 0}}},
      {"plane.turned",
       {"top", "edgeX"},
       {{"angle", "30"}, {"start", "its parallel through the axis"}},
       {{0, 0, 0, 0, kSin, kCos}, {0, 0, 0, 0, -kSin, kCos}}},
      {"plane.turned",
       {"top", "edgeX2"},
       {{"angle", "30"}, {"start", "the plane itself"}},
       {{0, 40, 20, 0, kSin, kCos}, {0, 40, 20, 0, -kSin, kCos}}},
      {"plane.turned",
       {"top", "bore"},
       {{"angle", "30"}, {"start", "the plane itself"}},
       {},
       Fact{"angle_rad", kPi / 2}},
      {"plane.axis-and-plane", {"bore", "front"}, {}, {{20, 20, 0, 0, 1, 0}, {20, 20, 0, 1, 0, 0}}},
      {"plane.axis-and-plane", {"bore", "slant"}, {}, {{20, 20, 0, 0, 1, 0}}},
      {"plane.axis-and-plane", {"bore", "top"}, {}, {}, Fact{"", 0}},
      {"plane.touching-parallel", {"bore", "front"}, {}, {{20, 15, 0, 0, 1, 0}, {20, 25, 0, 0, 1, 0}}},
      {"plane.touching-parallel", {"bore", "top"}, {}, {}, Fact{"angle_rad", kPi / 2}},
      {"plane.touching-parallel", {"cone", "plane 0 0 0 2 0 1"}, {}, {{130, 20, 20, 2, 0, 1}}},
      {"plane.touching-parallel", {"cone", "top"}, {}, {}, Fact{"angle_rad", kPi / 2}},
      {"plane.touching-square", {"bore", "front"}, {}, {{15, 20, 0, 1, 0, 0}, {25, 20, 0, 1, 0, 0}}},
      {"plane.touching-square", {"bore", "top"}, {}, {}, Fact{"", 0}},
      {"plane.touching-line", {"bore", "axis 25 20 0 0 0 1"}, {}, {{25, 20, 0, 1, 0, 0}}},
      {"plane.touching-line",
       {"bore", "axis 30 20 0 0 0 1"},
       {},
       {{30, 20, 0, kSin, kCos, 0}, {30, 20, 0, kSin, -kCos, 0}}},
      {"plane.touching-line", {"bore", "axis 22 20 0 0 0 1"}, {}, {}, Fact{"depth_mm", 3}},
      {"plane.touching-line", {"bore", "edgeX"}, {}, {}, Fact{"angle_rad", kPi / 2}},
      {"plane.touching-point",
       {"bore", "point 30 20 7"},
       {},
       {{30, 20, 0, kSin, kCos, 0}, {30, 20, 0, kSin, -kCos, 0}}},
      {"plane.touching-where-clicked", {"ball"}, {}, {{178, 20, 10, 1, 0, 0}}},
      {"plane.touching-sphere", {"ball", "top"}, {}, {{170, 20, 18, 0, 0, 1}, {170, 20, 2, 0, 0, 1}}},
      {"plane.touching-sphere-line",
       {"ball", "axis 0 20 26 1 0 0"},
       {},
       {{0, 20, 26, 0, kCos, kSin}, {0, 20, 26, 0, -kCos, kSin}}},
      {"plane.touching-sphere-line", {"ball", "axis 0 20 10 1 0 0"}, {}, {}, Fact{"depth_mm", 8}},
  };
}

// The start and the middle of every edge, one after the other.
std::vector<Case> figure_cases() {
  const std::string zero = "frame 0 0 0";
  const double flat = 10 / kCos;  // to the corner of a hexagon 20 across flats
  const auto figure = [](const char* id, std::vector<std::string> picks, ParameterTexts sizes,
                         std::vector<double> expected) {
    return Case{id, std::move(picks), std::move(sizes), {std::move(expected)}, {}, false};
  };
  std::vector<double> hexagon;
  for (int i = 0; i < 6; ++i) {
    const double at = kPi / 3 * i, between = at + kPi / 6;
    for (const double number : {flat * std::cos(at), flat * std::sin(at), 20.0, 10 * std::cos(between),
                                10 * std::sin(between), 20.0})
      hexagon.push_back(number);
  }
  return {
      figure("figure.point", {"top", "corner2", zero}, {{"x", "5*s"}, {"y", "-6*s"}}, {5, 34, 20}),
      figure("figure.line", {"top", "corner3", zero},
             {{"length", "10*s"}, {"x", "5*s"}, {"y", "6*s"}, {"turn", "90"}}, {5, 6, 20, 5, 11, 20}),
      figure("figure.circle", {"slant", "point 100 0 0", zero}, {{"diameter", "10*s"}},
             {100 + 5 * kCos, 0, -5 * kSin, 100 - 5 * kCos, 0, 5 * kSin}),
      figure("figure.rectangle", {"top", "corner", zero},
             {{"width", "30*s"}, {"height", "20*s"}, {"from", "corner"}},
             {0, 0, 20, 15, 0, 20, 30, 0, 20, 30, 10, 20, 30, 20, 20, 15, 20, 20, 0, 20, 20, 0, 10, 20}),
      figure("figure.rectangle", {"front", "corner3", zero},
             {{"width", "30*s"}, {"height", "20*s"}, {"from", "centre"}},
             {-15, 0, -10, 0, 0, -10, 15, 0, -10, 15, 0, 0, 15, 0, 10, 0, 0, 10, -15, 0, 10, -15, 0, 0}),
      figure("figure.slot", {"top", "corner", zero}, {{"length", "20*s"}, {"width", "8*s"}},
             {-10, -4, 20, 0, -4, 20, 10, -4, 20, 14, 0, 20, 10, 4, 20, 0, 4, 20, -10, 4, 20, -14, 0, 20}),
      figure("figure.ellipse", {"top", "corner", zero}, {{"length", "30*s"}, {"width", "20*s"}},
             {15, 0, 20, -15, 0, 20}),
      figure("figure.ellipse", {"top", "corner", zero}, {{"length", "20*s"}, {"width", "30*s"}},
             {0, 15, 20, 0, -15, 20}),
      figure("figure.polygon", {"top", "corner", zero},
             {{"sides", "4"}, {"across", "20*s"}, {"measured", "across corners"}},
             {10, 0, 20, 5, 5, 20, 0, 10, 20, -5, 5, 20, -10, 0, 20, -5, -5, 20, 0, -10, 20, 5, -5, 20}),
      figure("figure.polygon", {"top", "corner", zero},
             {{"sides", "6"}, {"across", "20*s"}, {"measured", "across flats"}}, hexagon),
      {"figure.line-between", {"top", "corner3", "corner4"}, {}, {{0, 0, 20, 40, 0, 20}}},
      {"figure.line-between", {"top", "corner3", "corner"}, {}, {}, Fact{"distance_mm", 0}},
  };
}

}  // namespace anvil::test
