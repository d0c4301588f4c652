// Every construction of points, axes, planes and measurements on a part of simple numbers: the result worked
// out by hand, and the same wherever the part lies, mirrored, small, and stored as B-splines.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "support/givens.h"
#include "support/pieces.h"

namespace anvil {
namespace {

struct Fact {
  const char* name;
  double value;
};

struct Case {
  const char* id;
  std::vector<std::string> picks;
  ParameterTexts parameters;  // lengths as "10*s": s is the scale
  std::vector<std::vector<double>>
      expected;                      // point: 3 numbers; axis and plane: place and direction; else the value
  std::optional<Fact> refused = {};  // with this fact
  bool mirrors = true;               // frames have no mirror image
  bool as_splines = true;            // holes are not recognised in B-splines
};

const double kSin = 0.5, kCos = std::sqrt(3) / 2;

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
      {"point.hole-end", {"bore"}, {}, {{20, 20, 20}, {20, 20, 0}}, {}, true, false},
      {"point.hole-end", {"blind"}, {}, {{65, 30, 20}, {65, 30, 8}}, {}, true, false},
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
      {"axis.two-points", {"blind", "blind2"}, {}, {{10, 30, 20, 1, 0, 0}}, {}, true, false},
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
      {"axis.best-line", {"blind", "blind2", "point 80 30 20"}, {}, {{10, 30, 20, 1, 0, 0}}, {}, true, false},
      {"axis.of-circle-through", {"point 10 5 5", "point 5 10 5", "point 0 5 5"}, {}, {{5, 5, 5, 0, 0, 1}}},
      {"axis.of-circle-through",
       {"point 0 0 0", "point 1 0 0", "point 3 0 0"},
       {},
       {},
       Fact{"off_line_mm", 0}},
  };
}

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
      {"plane.best-fit", {"blind2", "point 0 0 20", "blind"}, {}, {{0, 0, 20, 0, 0, 1}}, {}, true, false},
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

// Zero, Z and X of each arrangement.
std::vector<Case> frame_cases() {
  const std::string reading = "frame 10 0 0";
  const auto frame = [](const char* id, std::vector<std::string> picks, ParameterTexts texts,
                        std::vector<std::vector<double>> expected) {
    return Case{id, std::move(picks), std::move(texts), std::move(expected), {}, false, false};
  };
  const auto refused = [](const char* id, std::vector<std::string> picks, Fact fact) {
    return Case{id, std::move(picks), {}, {}, fact, false, false};
  };
  // Four, a quarter turn about Z one after the other, X first.
  const auto quarters = [](std::vector<double> zero, gp_Dir z, gp_Dir x) {
    std::vector<std::vector<double>> all;
    for (int i = 0; i < 4; ++i) {
      all.push_back({zero[0], zero[1], zero[2], z.X(), z.Y(), z.Z(), x.X(), x.Y(), x.Z()});
      x = z.Crossed(x);
    }
    return all;
  };
  const gp_Dir px(1, 0, 0), py(0, 1, 0), pz(0, 0, 1);
  std::vector<std::vector<double>> two_lines;
  for (const gp_Dir& z : {pz, pz.Reversed()})
    for (const gp_Dir& x : {px, px.Reversed(), py, py.Reversed()})
      two_lines.push_back({0, 0, 0, z.X(), z.Y(), z.Z(), x.X(), x.Y(), x.Z()});
  return {
      frame("frame.on-face", {"top", reading}, {{"zero", "corner −X −Y"}, {"x", "longest edge"}},
            quarters({0, 0, 20}, pz, px)),
      frame("frame.on-face", {"top", reading}, {{"zero", "box centre"}}, quarters({40, 20, 20}, pz, px)),
      frame("frame.on-face", {"top", reading}, {{"zero", "reading frame's zero"}},
            quarters({10, 0, 20}, pz, px)),
      frame("frame.on-face", {"top", reading}, {{"zero", "box centre"}, {"dz", "-2*s"}, {"rz", "90"}},
            quarters({40, 20, 18}, pz, py)),
      frame("frame.on-face-at", {"top", "corner3", reading}, {{"x", "X of the reading frame"}},
            quarters({0, 0, 20}, pz, px)),
      frame("frame.on-face-along", {"top", "edgeY", reading}, {{"zero", "corner −X −Y"}},
            quarters({80, 0, 20}, pz, py)),
      frame("frame.plane-line-point", {"top", "edgeX", "corner2"}, {}, quarters({0, 40, 20}, pz, px)),
      refused("frame.plane-line-point", {"top", "bore", "corner2"}, Fact{"", 0}),
      frame("frame.three-planes", {"top", "front", "left"}, {}, quarters({0, 0, 20}, pz, py.Reversed())),
      refused("frame.three-planes", {"top", "bottom", "left"}, Fact{"distance_mm", 20}),
      refused("frame.three-planes", {"top", "front", "plane 0 10 30 0 1 1"},
              Fact{"distance_mm", 10 * std::sqrt(2)}),
      frame("frame.of-hole", {"blind", reading}, {}, quarters({65, 30, 20}, pz, px)),
      frame("frame.hole-to-hole", {"blind", "blind2"}, {}, quarters({65, 30, 20}, pz, px.Reversed())),
      refused("frame.hole-to-hole", {"blind", "blind"}, Fact{"distance_mm", 0}),
      frame("frame.along-curve", {"rim", "point 25 20 20", reading}, {},
            quarters({25, 20, 20}, py.Reversed(), px)),
      frame("frame.three-points", {"corner3", "corner4", "corner"}, {},
            {{0, 0, 0, 0, -1, 0, 1, 0, 0}, {0, 0, 0, 0, 1, 0, 1, 0, 0}}),
      refused("frame.three-points", {"corner3", "corner4", "point 20 0 0"}, Fact{"off_line_mm", 0}),
      frame("frame.two-lines", {"axis 0 0 0 1 0 0", "axis 0 9 0 0 1 0"}, {}, two_lines),
      refused("frame.two-lines", {"bore", "bore2"}, Fact{"distance_mm", 30}),
      frame("frame.line-point", {"bore", "corner4"}, {},
            quarters({20, 20, 0}, pz.Reversed(), gp_Dir(60, -20, 0))),
      frame("frame.line-point", {"bore", "corner4"}, {{"zero", "the point"}},
            quarters({80, 0, 0}, pz.Reversed(), gp_Dir(60, -20, 0))),
      refused("frame.line-point", {"bore", "centre"}, Fact{"distance_mm", 0}),
      frame("frame.by-hand", {"corner", reading}, {{"dx", "5*s"}, {"ry", "90"}},
            {{5, 0, 20, 1, 0, 0, 0, 0, -1}}),
      frame("frame.copied", {reading}, {{"dy", "3*s"}, {"rx", "180"}}, {{10, 3, 0, 0, 0, -1, 1, 0, 0}}),
      frame("frame.about-axis", {reading, "axis 0 0 0 0 0 1"}, {{"angle", "90"}},
            {{0, 10, 0, 0, 0, 1, 0, 1, 0}}),
      frame("frame.by-matrix", {reading}, {{"matrix", "0 -1 0 0  1 0 0 0  0 0 1 0"}},
            {{10, 0, 0, 0, 0, 1, 0, 1, 0}}),
      frame(
          "frame.by-vectors", {reading},
          {{"x", "1*s"}, {"y", "2*s"}, {"z", "3*s"}, {"z_direction", "0, 1, 0"}, {"x_direction", "0, 0, 2"}},
          {{11, 2, 3, 0, 1, 0, 0, 0, 1}}),
  };
}

// The value, then the details.
std::vector<Case> measure_cases() {
  const double volume = 64000 - kPi * (25 * 20 + 49 * 20 + 9 * 12 + 16 * 10);
  const double area =
      2 * (80 * 40 + 80 * 20 + 40 * 20) - 2 * kPi * (25 + 49) + kPi * (10 * 20 + 14 * 20 + 6 * 12 + 8 * 10);
  const double x = (64000 * 40 - kPi * (25 * 20 * 20 + 49 * 20 * 50 + 9 * 12 * 65 + 16 * 10 * 10)) / volume,
               y = (64000 * 20 - kPi * (25 * 20 * 20 + 49 * 20 * 20 + 9 * 12 * 30 + 16 * 10 * 30)) / volume,
               z = (64000 * 10 - kPi * (25 * 20 * 10 + 49 * 20 * 10 + 9 * 12 * 14 + 16 * 10 * 15)) / volume;
  return {
      {"measure.distance", {"corner", "corner2"}, {}, {{40}}},
      {"measure.distance", {"top", "bottom"}, {}, {{20}}},
      {"measure.distance", {"bore", "bore2"}, {}, {{30}}},
      {"measure.distance", {"ball", "top"}, {}, {{10}}},
      {"measure.along", {"corner", "point 10 20 30", "top"}, {}, {{10}}},
      {"measure.in-plane", {"corner", "point 10 20 30", "top"}, {}, {{std::sqrt(500)}}},
      {"measure.greatest", {"edgeX", "point 0 40 0"}, {}, {{std::sqrt(8000)}}},
      {"measure.angle", {"top", "slant"}, {}, {{kPi / 6}, {5 * kPi / 6}}},
      {"measure.pitch", {"bore", "bore2", "frame 0 0 0"}, {}, {{30, 30, 0}}, {}, false},
      {"measure.pitch",
       {"bore", "axis 0 0 0 1 0 0", "frame 0 0 0"},
       {},
       {},
       Fact{"angle_rad", kPi / 2},
       false},
      {"measure.place",
       {"corner2", "frame 10 0 0"},
       {},
       {{std::sqrt(100 + 1600 + 400), -10, 40, 20}},
       {},
       false},
      {"measure.face", {"ball"}, {}, {{256 * kPi, 8}}},
      {"measure.face", {"front"}, {}, {{1600}}},
      {"measure.draft", {"slant", "frame 0 0 0"}, {}, {{-kPi / 3}}, {}, false},
      {"measure.draft", {"front", "frame 0 0 0"}, {}, {{0}}, {}, false},
      {"measure.edge", {"rim"}, {}, {{10 * kPi, 5}}},
      {"measure.edge", {"edgeX"}, {}, {{80}}},
      {"measure.body", {"top", "frame 0 0 0"}, {}, {{volume, area, x, y, z, 80, 40, 20}}, {}, false},
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
      figure("figure.polygon", {"top", "corner", zero},
             {{"sides", "4"}, {"across", "20*s"}, {"measured", "across corners"}},
             {10, 0, 20, 5, 5, 20, 0, 10, 20, -5, 5, 20, -10, 0, 20, -5, -5, 20, 0, -10, 20, 5, -5, 20}),
      figure("figure.polygon", {"top", "corner", zero},
             {{"sides", "6"}, {"across", "20*s"}, {"measured", "across flats"}}, hexagon),
      {"figure.line-between", {"top", "corner3", "corner4"}, {}, {{0, 0, 20, 40, 0, 20}}},
      {"figure.line-between", {"top", "corner3", "corner"}, {}, {}, Fact{"distance_mm", 0}},
  };
}

struct Setting {
  const char* name;
  gp_Trsf motion;
  double bound_mm;
  bool mirrored = false;
  bool as_splines = false;
};
std::ostream& operator<<(std::ostream& out, const Setting& s) {
  return out << s.name;
}

gp_Trsf away(double mm) {
  gp_Trsf shift;
  shift.SetTranslation(gp_Vec(gp_Dir(0.6, -0.64, 0.48)) * mm);
  return shift;
}

std::vector<Setting> settings() {
  gp_Trsf turned, mirror, small;
  turned.SetRotation(gp_Ax1(gp_Pnt(3, 4, 5), gp_Dir(1, 2, 3)), 1.234);
  mirror.SetMirror(gp_Ax2(gp_Pnt(3, 4, 5), gp_Dir(3, -1, 2)));
  small.SetScale(gp_Pnt(0, 0, 0), 0.002);  // holes of a hundredth across the radius
  return {{"as drawn", {}, 1e-7},           {"turned in space", turned, 1e-7},
          {"mirrored", mirror, 1e-7, true}, {"ten kilometres away", away(1e7) * turned, 2e-5},
          {"small", turned * small, 1e-7},  {"as B-splines", turned, 1e-4, false, true}};
}

class ConstructionCases : public testing::TestWithParam<Setting> {
 protected:
  void try_all(const std::vector<Case>& cases) {
    const test::Pieces pieces(GetParam().motion, GetParam().as_splines);
    for (const Case& c : cases) {
      if ((!c.mirrors && GetParam().mirrored) || (!c.as_splines && GetParam().as_splines)) continue;
      std::string about = std::string(c.id) + ":";
      for (const std::string& pick : c.picks) about += " " + pick;
      SCOPED_TRACE(about);
      try_one(c, pieces);
    }
  }

 private:
  [[nodiscard]] double scale() const { return std::abs(GetParam().motion.ScaleFactor()); }

  void try_one(const Case& c, const test::Pieces& pieces) {
    std::vector<Given> givens;
    for (const std::string& pick : c.picks) givens.push_back(pieces(pick));
    ParameterTexts texts = c.parameters;
    for (auto& [id, text] : texts)
      if (const size_t at = text.find("*s"); at != std::string::npos)
        text = text.substr(0, at) + fmt::format("*{:.17g}", scale());
    const auto made = test::run(c.id, givens, texts);
    if (c.refused) return expect_refusal(made, *c.refused);
    ASSERT_TRUE(made) << made.error().sentence;
    ASSERT_EQ(made->size(), c.expected.size());
    for (const std::vector<double>& expected : c.expected)
      EXPECT_TRUE(
          std::any_of(made->begin(), made->end(), [&](const Solution& s) { return agrees(s, expected); }))
          << made->front().note << "; " << testing::PrintToString(expected) << " is not among the solutions";
  }

  void expect_refusal(const Solutions& made, const Fact& fact) const {
    ASSERT_FALSE(made);
    EXPECT_EQ(made.error().code, RefusalCode::kGeometry);
    EXPECT_TRUE(made.error().instead.empty() || find_construction(made.error().instead))
        << made.error().instead;
    const std::string name = fact.name;
    if (name.empty()) return;
    const bool is_length = name.size() > 3 && name.substr(name.size() - 3) == "_mm";
    ASSERT_TRUE(made.error().facts.count(name)) << made.error().sentence;
    EXPECT_NEAR(made.error().facts.at(name), fact.value * (is_length ? scale() : 1), GetParam().bound_mm);
  }

  [[nodiscard]] gp_Pnt moved(const std::vector<double>& e) const {
    return gp_Pnt(e[0], e[1], e[2]).Transformed(GetParam().motion);
  }
  [[nodiscard]] gp_Dir turned(const std::vector<double>& e) const {
    return gp_Dir(e[3], e[4], e[5]).Transformed(GetParam().motion);
  }

  [[nodiscard]] bool agrees(const Solution& solution, const std::vector<double>& e) const {
    const double bound = GetParam().bound_mm, angular = std::max(1e-9, bound / 100 / scale());
    if (const auto* p = std::get_if<PointDatum>(&solution.value)) return p->point.Distance(moved(e)) < bound;
    if (const auto* a = std::get_if<AxisDatum>(&solution.value))
      return parallel(a->axis.Direction(), turned(e), angular) && distance(a->axis, moved(e)) < bound;
    if (const auto* p = std::get_if<PlaneDatum>(&solution.value))
      return parallel(p->plane.Axis().Direction(), turned(e), angular) &&
             std::abs(height_over(p->plane, moved(e))) < bound;
    if (const auto* frame = std::get_if<FrameDatum>(&solution.value))
      return frame->frame.Location().Distance(moved(e)) < bound &&
             frame->frame.Direction().Angle(turned(e)) < angular &&
             frame->frame.XDirection().Angle(gp_Dir(e[6], e[7], e[8]).Transformed(GetParam().motion)) <
                 angular;
    if (const auto* figure = std::get_if<FigureDatum>(&solution.value)) return agrees(*figure, e);
    const auto& m = std::get<Measurement>(solution.value);
    bool good = e.size() == 1 + m.details.size() && near(m.kind, m.value, e[0]);
    for (size_t i = 0; i < m.details.size() && good; ++i)
      good = near(m.details[i].kind, m.details[i].value, e[i + 1]);
    return good;
  }

  [[nodiscard]] bool agrees(const FigureDatum& figure, const std::vector<double>& e) const {
    bool good = e.size() == figure.edges.size() * 6;
    for (size_t i = 0; i < figure.edges.size() && good; ++i) {
      const auto from = e.begin() + static_cast<long>(6 * i);
      const gp_Pnt start = *given_by_curve(figure.edges[i], Snap::kStart).point,
                   middle = *given_by_curve(figure.edges[i], Snap::kMiddle).point;
      good = start.Distance(moved({from, from + 3})) < GetParam().bound_mm &&
             middle.Distance(moved({from + 3, from + 6})) < GetParam().bound_mm;
    }
    return good;
  }

  [[nodiscard]] bool near(Measurement::Kind kind, double value, double expected) const {
    const int power = kind == Measurement::Kind::kAngle      ? 0
                      : kind == Measurement::Kind::kDistance ? 1
                      : kind == Measurement::Kind::kArea     ? 2
                                                             : 3;
    // Areas and volumes are integrated by the kernel, to a few digits less.
    const double wanted = expected * std::pow(scale(), power);
    return std::abs(value - wanted) < GetParam().bound_mm + (power > 1 ? 1e-6 * std::abs(wanted) : 0);
  }
};

TEST_P(ConstructionCases, Points) {
  try_all(point_cases());
}
TEST_P(ConstructionCases, Axes) {
  try_all(axis_cases());
}
TEST_P(ConstructionCases, Planes) {
  try_all(plane_cases());
}
TEST_P(ConstructionCases, Figures) {
  try_all(figure_cases());
}
TEST_P(ConstructionCases, Frames) {
  try_all(frame_cases());
}
TEST_P(ConstructionCases, Measurements) {
  try_all(measure_cases());
}

INSTANTIATE_TEST_SUITE_P(Everywhere, ConstructionCases, testing::ValuesIn(settings()));

// No construction is left without a case.
TEST(ConstructionCoverage, EveryConstructionHasItsCase) {
  std::set<std::string> tried{"point.of-box", "plane.as-seen", "frame.of-box", "frame.paired",
                              "frame.as-seen"};  // below
  for (const auto& cases :
       {point_cases(), axis_cases(), plane_cases(), figure_cases(), frame_cases(), measure_cases()})
    for (const Case& c : cases) tried.insert(c.id);
  for (const Construction& c : constructions())
    if (c.makes != Makes::kPlacement) {
      EXPECT_TRUE(tried.count(c.id)) << c.id;
    }
}

TEST(BoxPoints, AreTheTwentySevenOfTheBodyInTheFrame) {
  const test::Pieces pieces;
  const auto made = test::run("point.of-box", {pieces("top"), pieces("frame 5 0 0")});
  ASSERT_TRUE(made);
  ASSERT_EQ(made->size(), 27u);
  const auto at = [&](const char* key) {
    return std::get<PointDatum>((*made)[chosen(*made, key)].value).point;
  };
  EXPECT_LT(at("x-.y-.z-").Distance(gp_Pnt(0, 0, 0)), 1e-6);
  EXPECT_LT(at("x0.y0.z+").Distance(gp_Pnt(40, 20, 20)), 1e-6);
  EXPECT_LT(at("x+.y0.z0").Distance(gp_Pnt(80, 20, 10)), 1e-6);
}

TEST(BoxFrames, StandAtTheTwentySevenWithZOutOfAnySide) {
  const test::Pieces pieces;
  for (const auto& [side, z] :
       {std::pair{"+Z", gp_Dir(0, 0, 1)}, {"-X", gp_Dir(-1, 0, 0)}, {"+Y", gp_Dir(0, 1, 0)}}) {
    const auto made = test::run("frame.of-box", {pieces("top"), pieces("frame 5 0 0")}, {{"z", side}});
    ASSERT_TRUE(made);
    ASSERT_EQ(made->size(), 27u);
    const gp_Ax2 frame = std::get<FrameDatum>((*made)[chosen(*made, "x+.y0.z+")].value).frame;
    EXPECT_LT(frame.Location().Distance(gp_Pnt(80, 20, 20)), 1e-6);
    EXPECT_TRUE(frame.Direction().IsEqual(z, 1e-12));
  }
}

TEST(PairedFrame, ReadsThePointsAsTheyWereMeasured) {
  const test::Pieces pieces;
  const std::vector<Given> corners{pieces("corner"), pieces("corner2"), pieces("corner3"), pieces("corner4")};
  const gp_Ax2 truth = make_frame(gp_Pnt(30, -20, 10), gp_Dir(1, 2, 3), gp_Dir(1, 0, 0));
  std::string measured;
  for (const Given& corner : corners) {
    const gp_Pnt p = read_in(truth, *corner.point);
    measured += fmt::format("{:.12f}, {:.12f} {:.12f};\n", p.X(), p.Y(), p.Z());
  }
  const auto exact = test::run("frame.paired", corners, {{"measured", measured}});
  ASSERT_TRUE(exact) << exact.error().sentence;
  const gp_Ax2 found = std::get<FrameDatum>(exact->front().value).frame;
  EXPECT_LT(found.Location().Distance(truth.Location()), 1e-7);
  EXPECT_LT(found.Direction().Angle(truth.Direction()), 1e-9);
  EXPECT_LT(found.XDirection().Angle(truth.XDirection()), 1e-9);
  // One corner of a rectangle lifted by 0.04: a hundredth is left at each, as a plane through them has it.
  const auto lifted = test::run(
      "frame.paired",
      {pieces("point 0 0 0"), pieces("point 80 0 0"), pieces("point 80 40 0"), pieces("point 0 40 0")},
      {{"measured", "0 0 0; 80 0 0; 80 40 0; 0 40 0.04"}});
  ASSERT_TRUE(lifted);
  EXPECT_EQ(lifted->front().note.rfind("RMS 0.010, largest 0.010", 0), 0u) << lifted->front().note;
  for (const char* bad :
       {"", "1 2 3; 4 5 6; 7 8 9", "1 2; 3 4 5; 6 7 8; 9 9 9", "0 0 0; 0 0 0; 0 0 0; 0 0 0"})
    EXPECT_FALSE(test::run("frame.paired", corners, {{"measured", bad}})) << bad;
}

TEST(PlaneAsSeen, KeepsTheDirectionItWasSeenFrom) {
  const test::Pieces pieces;
  const auto made = test::run("plane.as-seen", {pieces("corner")}, {{"towards", "1, 0, 1"}});
  ASSERT_TRUE(made);
  const gp_Pln plane = std::get<PlaneDatum>(made->front().value).plane;
  EXPECT_TRUE(plane.Axis().Direction().IsEqual(gp_Dir(1, 0, 1), 1e-12));
  EXPECT_NEAR(height_over(plane, gp_Pnt(0, 0, 20)), 0, 1e-12);
  const auto seen =
      test::run("frame.as-seen", {pieces("corner")}, {{"towards", "0, 2, 0"}, {"right", "0, 0, 1"}});
  ASSERT_TRUE(seen);
  const gp_Ax2 frame = std::get<FrameDatum>(seen->front().value).frame;
  EXPECT_TRUE(frame.Direction().IsEqual(gp_Dir(0, 1, 0), 1e-12));
  EXPECT_TRUE(frame.XDirection().IsEqual(gp_Dir(0, 0, 1), 1e-12));
  for (const char* bad : {"", "1, 0", "0, 0, 0", "a, b, c", "1, 2, 3, 4"})
    EXPECT_FALSE(test::run("plane.as-seen", {pieces("corner")}, {{"towards", bad}})) << bad;
}

}  // namespace
}  // namespace anvil
