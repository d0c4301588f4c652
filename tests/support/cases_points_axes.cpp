#include "support/construction_cases.h"

namespace anvil::test {

std::vector<Case> point_cases() {
  const double areas[] = {3200, -25 * kPi, -49 * kPi, -9 * kPi, -16 * kPi};
  const double xs[] = {40, 20, 50, 65, 10}, ys[] = {20, 20, 20, 30, 30};
  double area = 0, x = 0, y = 0;
  for (int i = 0; i < 5; ++i) {
    area += areas[i];
    x += areas[i] * xs[i];
    y += areas[i] * ys[i];
  }
  const double to_ball = std::sqrt(170 * 170 + 20 * 20 + 10 * 10), share = 1 - 8 / to_ball;
  return {
      {"point.at", {"corner"}, {}, {{0, 0, 20}}},
      {"point.at", {"rim"}, {}, {{20, 20, 20}}},
      {"point.at", {"ball"}, {}, {{170, 20, 10}}},
      {"point.at", {"middle"}, {}, {{0, 20, 20}}},
      {"point.on-edge", {"edgeX"}, {{"ratio", "0.5"}}, {{40, 0, 0}}},
      {"point.on-edge-length", {"edgeX"}, {{"length", "10*s"}}, {{10, 0, 0}, {70, 0, 0}}},
      {"point.centre", {"cone"}, {}, {{130, 20, 20}}},
      {"point.centre", {"ring"}, {}, {{210, 20, 0}}},
      {"point.centre", {"ball"}, {}, {{170, 20, 10}}},
      {"point.face-middle", {"top"}, {}, {{x / area, y / area, 20}, {40, 20, 20}}},
      {"point.hole-end", {"bore"}, {}, {{20, 20, 20}, {20, 20, 0}}},
      {"point.hole-end", {"blind"}, {}, {{65, 30, 20}, {65, 30, 8}}},
      {"point.axis-plane", {"bore", "slant"}, {}, {{20, 20, 80 * kSin / kCos}}},
      {"point.axis-plane", {"bore", "front"}, {}, {}, Fact{"distance_mm", 20}},
      {"point.axis-face", {"axis 0 20 10 1 0 0", "ball"}, {}, {{162, 20, 10}, {178, 20, 10}}},
      {"point.axis-face", {"axis 0 20 10 1 0 0", "bore"}, {}, {{15, 20, 10}, {25, 20, 10}}},
      {"point.axis-face", {"axis 0 20 30 1 0 0", "ball"}, {}, {}, Fact{"distance_mm", 12}},
      {"point.two-axes", {"bore", "axis 0 20 10 1 0 0"}, {}, {{20, 20, 10}}},
      {"point.two-axes", {"bore", "axis 0 24 10 1 0 0"}, {}, {{20, 22, 10}}},
      {"point.two-axes", {"bore", "bore2"}, {}, {}, Fact{"distance_mm", 30}},
      {"point.three-planes", {"top", "front", "left"}, {}, {{0, 0, 20}}},
      {"point.three-planes", {"top", "front", "bottom"}, {}, {}, Fact{"distance_mm", 20}},
      {"point.three-planes",
       {"top", "front", "plane 0 10 30 0 1 1"},
       {},
       {},
       Fact{"distance_mm", 10 * std::sqrt(2)}},
      {"point.curve-plane", {"rim", "plane 20 20 20 1 0 0"}, {}, {{20, 15, 20}, {20, 25, 20}}},
      {"point.curve-plane", {"rim", "left"}, {}, {}, Fact{"distance_mm", 15}},
      {"point.on-plane", {"corner3", "top"}, {}, {{0, 0, 20}}},
      {"point.on-axis", {"corner3", "bore"}, {}, {{20, 20, 0}}},
      {"point.on-face", {"corner3", "ball"}, {}, {{170 * share, 20 * share, 10 * share}}},
      {"point.average", {"corner", "corner2", "corner3"}, {}, {{0, 40.0 / 3, 40.0 / 3}}},
      {"point.typed", {"frame 10 0 0"}, {{"x", "1*s"}, {"y", "2*s"}, {"z", "3*s"}}, {{11, 2, 3}}, {}, false},
      {"point.stepped",
       {"corner", "frame 10 0 0"},
       {{"x", "1*s"}, {"y", "2*s"}, {"z", "-3*s"}},
       {{1, 2, 17}},
       {},
       false},
      {"point.polar",
       {"corner", "frame 10 0 0"},
       {{"radius", "10*s"}, {"angle", "30"}, {"height", "1*s"}},
       {{10 * kCos, 5, 21}},
       {},
       false},
      {"point.along", {"corner", "top"}, {{"distance", "5*s"}}, {{0, 0, 25}}},
      {"point.along-two",
       {"corner", "edgeX", "slant"},
       {{"first", "10*s"}, {"second", "4*s"}, {"square", "0*s"}},
       {{10 - 4 * kSin, 0, 20 - 4 * kCos}}},
      {"point.along-two", {"corner", "top", "bore"}, {}, {}, Fact{"", 0}},
  };
}

std::vector<Case> axis_cases() {
  return {
      {"axis.of", {"bore"}, {}, {{20, 20, 0, 0, 0, 1}}},
      {"axis.of", {"cone"}, {}, {{130, 20, 0, 0, 0, 1}}},
      {"axis.of", {"ring"}, {}, {{210, 20, 0, 0, 0, 1}}},
      {"axis.of", {"rim"}, {}, {{20, 20, 0, 0, 0, 1}}},
      {"axis.along-edge", {"edgeX"}, {}, {{0, 0, 0, 1, 0, 0}}},
      {"axis.of-two-planes", {"top", "front"}, {}, {{0, 0, 20, 1, 0, 0}}},
      {"axis.of-two-planes", {"top", "bottom"}, {}, {}, Fact{"distance_mm", 20}},
      {"axis.two-points", {"corner", "corner2"}, {}, {{0, 0, 20, 0, 1, 0}}},
      {"axis.two-points", {"blind", "blind2"}, {}, {{10, 30, 20, 1, 0, 0}}},
      {"axis.two-points", {"corner", "corner"}, {}, {}, Fact{"distance_mm", 0}},
      {"axis.typed",
       {"frame 10 0 0"},
       {{"x2", "3*s"}, {"y2", "4*s"}, {"z2", "0"}},
       {{10, 0, 0, 3, 4, 0}},
       {},
       false},
      {"axis.square-to-plane", {"corner", "slant"}, {}, {{0, 0, 20, kSin, 0, kCos}}},
      {"axis.square-to-face", {"point 170 20 30", "ball"}, {}, {{170, 20, 10, 0, 0, 1}}},
      {"axis.square-where-clicked", {"ball"}, {}, {{170, 20, 10, 1, 0, 0}}},
      {"axis.square-where-clicked", {"bore"}, {}, {{20, 20, 10, 1, 0, 0}}},
      {"axis.parallel", {"corner", "bore"}, {}, {{0, 0, 0, 0, 0, 1}}},
      {"axis.projected", {"edgeX", "slant"}, {}, {{25, 0, 50 * kCos, kCos, 0, -kSin}}},
      {"axis.projected", {"bore", "top"}, {}, {}, Fact{"", 0}},
      {"axis.tangent", {"rim", "point 25 20 20"}, {}, {{25, 20, 20, 0, 1, 0}}},
      {"axis.midway", {"bore", "bore2"}, {}, {{35, 20, 0, 0, 0, 1}}},
      {"axis.midway", {"bore", "axis 0 20 10 1 0 0"}, {}, {{20, 20, 10, 1, 0, 1}, {20, 20, 10, 1, 0, -1}}},
      {"axis.midway", {"bore", "axis 0 24 10 1 0 0"}, {}, {{20, 22, 10, 1, 0, 1}, {20, 22, 10, 1, 0, -1}}},
      {"axis.common-perpendicular", {"bore", "axis 0 24 10 1 0 0"}, {}, {{20, 20, 10, 0, 1, 0}}},
      {"axis.common-perpendicular", {"bore", "bore2"}, {}, {}, Fact{"distance_mm", 30}},
      {"axis.average", {"bore", "bore2", "blind"}, {}, {{45, 70.0 / 3, 0, 0, 0, 1}}},
      {"axis.best-line", {"corner3", "corner4", "point 40 0 0"}, {}, {{0, 0, 0, 1, 0, 0}}},
      {"axis.best-line", {"blind", "blind2", "point 80 30 20"}, {}, {{10, 30, 20, 1, 0, 0}}},
      {"axis.of-circle-through", {"point 10 5 5", "point 5 10 5", "point 0 5 5"}, {}, {{5, 5, 5, 0, 0, 1}}},
      {"axis.of-circle-through",
       {"point 0 0 0", "point 1 0 0", "point 3 0 0"},
       {},
       {},
       Fact{"off_line_mm", 0}},
  };
}

}  // namespace anvil::test
