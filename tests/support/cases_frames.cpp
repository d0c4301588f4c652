#include <gp_Dir.hxx>

#include "support/construction_cases.h"

namespace anvil::test {

// Zero, Z and X of each arrangement.
std::vector<Case> frame_cases() {
  const std::string reading = "frame 10 0 0";
  const auto frame = [](const char* id, std::vector<std::string> picks, ParameterTexts texts,
                        std::vector<std::vector<double>> expected) {
    return Case{id, std::move(picks), std::move(texts), std::move(expected), {}, false};
  };
  const auto refused = [](const char* id, std::vector<std::string> picks, Fact fact) {
    return Case{id, std::move(picks), {}, {}, fact, false};
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
      // Zero at X 10 seen in the end face at X 80.
      frame("frame.mirrored", {reading, "right"}, {},
            {{150, 0, 0, 0, 0, 1, -1, 0, 0}, {150, 0, 0, 0, 0, 1, 1, 0, 0}, {150, 0, 0, 0, 0, -1, -1, 0, 0}}),
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

}  // namespace anvil::test
