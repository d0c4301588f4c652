#include "support/construction_cases.h"
#include "support/scans.h"

namespace anvil::test {

// The value, then the details.
std::vector<Case> measure_cases() {
  const double volume = 64000 - kPi * (25 * 20 + 49 * 20 + 9 * 12 + 16 * 10);
  const double area =
      2 * (80 * 40 + 80 * 20 + 40 * 20) - 2 * kPi * (25 + 49) + kPi * (10 * 20 + 14 * 20 + 6 * 12 + 8 * 10);
  const double x = (64000 * 40 - kPi * (25 * 20 * 20 + 49 * 20 * 50 + 9 * 12 * 65 + 16 * 10 * 10)) / volume,
               y = (64000 * 20 - kPi * (25 * 20 * 20 + 49 * 20 * 20 + 9 * 12 * 30 + 16 * 10 * 30)) / volume,
               z = (64000 * 10 - kPi * (25 * 20 * 10 + 49 * 20 * 10 + 9 * 12 * 14 + 16 * 10 * 15)) / volume;
  // The best line through the bores at (20, 20), (50, 20) and (65, 30): sums of squares about their mean.
  const double turn = std::atan2(2 * 200.0, 1050.0 - 200 / 3.0) / 2;
  const auto across = [&](double dx, double dy) {
    return std::abs(dy * std::cos(turn) - dx * std::sin(turn));
  };
  const double worst = across(5, -10 / 3.0), row = (45 * std::cos(turn) + 10 * std::sin(turn)) / 2;
  return {
      {"measure.line-up",
       {"bore", "bore2", "blind"},
       {},
       {{worst, 0, worst, row, 0, across(-25, -10 / 3.0), 0, worst, 0, across(20, 20 / 3.0)}}},
      {"measure.distance", {"corner", "corner2"}, {}, {{40}}},
      {"measure.distance", {"top", "bottom"}, {}, {{20}}},
      {"measure.distance", {"bore", "bore2"}, {}, {{30}}},
      {"measure.distance", {"ball", "top"}, {}, {{10}}},
      // From the axis, 20 from the front; its wall comes 5 nearer.
      {"measure.distance", {"bore", "front"}, {}, {{20}}},
      {"measure.distance", {"front", "bore"}, {}, {{20}}},
      {"measure.distance", {"bore", "edgeX"}, {}, {{20}}},
      {"measure.nearest", {"bore", "front"}, {}, {{15}}},
      {"measure.nearest", {"bore", "bore2"}, {}, {{30 - 5 - 7}}},
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

// On a turned scan: what was fitted serves as a face does, and its points give what only they can.
std::vector<Case> scan_cases() {
  const double side = std::sin(kPi / kSegments);  // half of a side of the turned polygon, for radius one
  const double ring = kSegments * side * std::cos(kPi / kSegments);
  return {
      {"point.of-region", {"scan bottom"}, {}, {{0, 0, 0}}},
      {"point.of-region", {"scan outer"}, {}, {{0, 0, 10}}},
      {"point.of-region", {"scan cone"}, {}, {{0, 0, 27.5}}},
      {"point.of-region", {"scan sliver"}, {}, {}, Fact{"points", 3}},
      {"point.region-circle", {"scan outer"}, {}, {{0, 0, 10}}},
      {"point.region-circle", {"scan cone"}, {}, {{0, 0, 27.5}}},
      {"point.region-circle", {"scan sliver"}, {}, {}, Fact{"points", 3}},
      // Rings of radius 4 to 30, a millimetre apart, about the circle of radius 17.
      {"point.region-circle", {"scan bottom"}, {}, {}, Fact{"rms_mm", std::sqrt((27 * 27 - 1) / 12.0)}},
      {"point.centre", {"scan dome"}, {}, {{0, 0, 35}}},
      {"point.centre", {"scan cone"}, {}, {{0, 0, 65}}},
      {"point.face-middle", {"scan bottom"}, {}, {{0, 0, 0}, {0, 0, 0}}},
      {"point.on-face", {"point 60 0 10", "scan outer"}, {}, {{30, 0, 10}}},
      {"axis.of", {"scan outer"}, {}, {{0, 0, 0, 0, 0, 1}}},
      {"axis.of", {"scan bore"}, {}, {{0, 0, 0, 0, 0, 1}}},
      {"axis.of", {"scan cone"}, {}, {{0, 0, 0, 0, 0, 1}}},
      {"axis.square-where-clicked", {"scan outer"}, {}, {{30, 0, 10, 1, 0, 0}}},
      {"plane.on-face", {"scan bottom"}, {}, {{0, 0, 0, 0, 0, 1}}},
      {"plane.midway", {"scan bottom", "top"}, {}, {{0, 0, 10, 0, 0, 1}}},
      {"plane.touching-parallel", {"scan outer", "front"}, {}, {{0, 30, 0, 0, 1, 0}, {0, -30, 0, 0, 1, 0}}},
      {"measure.distance", {"scan dome", "point 0 0 95"}, {}, {{60}}},
      {"measure.face", {"scan bottom"}, {}, {{ring * (900 - 16)}}},
      {"measure.face", {"scan outer"}, {}, {{2 * kSegments * side * 30 * 20, 30}}},
  };
}

std::vector<Case> all_cases() {
  std::vector<Case> all;
  for (const auto& cases : {point_cases(), axis_cases(), plane_cases(), figure_cases(), frame_cases(),
                            measure_cases(), scan_cases()})
    all.insert(all.end(), cases.begin(), cases.end());
  return all;
}

}  // namespace anvil::test
