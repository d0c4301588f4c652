// Holes and corners of random parts, placed anywhere, against the numbers they were made from.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_Transform.hxx>
#include <set>

#include "base/units.h"
#include "demo/shapes.h"
#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "inspect/corners.h"
#include "inspect/holes.h"
#include "support/fixtures.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::part_of;
using test::Random;

constexpr unsigned kSeed = 20261125;
constexpr double kExact_mm = 1e-6;
constexpr double kCell_mm = 30, kThickness_mm = 25;
constexpr int kColumns = 5, kRows = 3;

struct Made {
  gp_Pnt entry;
  double diameter = 0, depth = 0, counterbore = 0, counterbore_depth = 0, tip_deg = 0, countersink = 0;
  bool through = false;
};

Made random_hole(Random& random, int column, int row) {
  Made m;
  m.entry = gp_Pnt((column + 0.5) * kCell_mm + random.between(-4, 4),
                   (row + 0.5) * kCell_mm + random.between(-4, 4), kThickness_mm);
  m.diameter = random.between(2, 10);
  m.through = random.whole(0, 1) == 1;
  const int form = random.whole(0, 3);
  if (form == 1) {
    m.counterbore = m.diameter + random.between(2, 8);
    m.counterbore_depth = random.between(2, 4.5);  // the bore below it stays the longest step
  }
  if (form == 2) m.countersink = m.diameter * random.between(1.4, 2);  // narrower ones are chamfers
  m.depth = m.through ? kThickness_mm : random.between(10, 17);
  if (!m.through && form == 3) m.tip_deg = 118;
  return m;
}

std::vector<TopoDS_Shape> tools_of(const Made& m) {
  const gp_Ax2 down(m.entry, gp_Dir(0, 0, -1));
  std::vector<TopoDS_Shape> tools{demo::rod(down, m.diameter, m.depth)};
  if (m.counterbore > 0) tools.push_back(demo::rod(down, m.counterbore, m.counterbore_depth));
  if (m.countersink > 0)  // 90 degrees: as deep as the radii differ
    tools.push_back(demo::taper(down, m.countersink, m.diameter, (m.countersink - m.diameter) / 2));
  if (m.tip_deg > 0) {
    const double height = m.diameter / 2 / std::tan(radians(m.tip_deg / 2));
    tools.push_back(demo::taper(gp_Ax2(m.entry.Translated(gp_Vec(0, 0, -m.depth)), gp_Dir(0, 0, -1)),
                                m.diameter, 0, height));
  }
  return tools;
}

std::vector<std::string> expected_steps(const Made& m) {
  std::vector<std::string> steps;
  if (m.counterbore > 0) steps.push_back("counterbore");
  if (m.countersink > 0) steps.push_back("countersink");
  steps.push_back("bore");
  if (!m.through) steps.push_back(m.tip_deg > 0 ? "tip" : "flat");
  return steps;
}

std::vector<std::string> steps_of(const Hole& hole) {
  std::vector<std::string> steps;
  for (const HoleStep& step : hole.steps) steps.push_back(step_name(step.kind));
  return steps;
}

void expect_found(const HoleReport& report, const Made& m, const gp_Trsf& motion) {
  const gp_Pnt entry = m.entry.Transformed(motion);
  const gp_Pnt exit = m.entry.Translated(gp_Vec(0, 0, -kThickness_mm)).Transformed(motion);
  const bool plain = m.counterbore == 0 && m.countersink == 0;
  const auto hole = std::find_if(report.holes.begin(), report.holes.end(), [&](const Hole& h) {
    return h.entry.Distance(entry) < kExact_mm || (plain && m.through && h.entry.Distance(exit) < kExact_mm);
  });
  ASSERT_NE(hole, report.holes.end()) << "Ø" << m.diameter;
  EXPECT_NEAR(hole->diameter_mm, m.diameter, kExact_mm);
  EXPECT_NEAR(hole->depth_mm, m.depth, kExact_mm);
  EXPECT_EQ(hole->through, m.through);
  EXPECT_EQ(steps_of(*hole), expected_steps(m));
  EXPECT_TRUE(parallel(hole->axis, gp_Dir(0, 0, 1).Transformed(motion)));
  if (m.counterbore > 0) {
    EXPECT_NEAR(hole->steps.front().diameter_mm, m.counterbore, kExact_mm);
    EXPECT_NEAR(hole->steps.front().depth_mm, m.counterbore_depth, kExact_mm);
  }
  if (m.countersink > 0) {
    EXPECT_NEAR(hole->steps.front().diameter_mm, m.countersink, kExact_mm);
    EXPECT_NEAR(degrees(hole->steps.front().angle_rad), 90, 1e-6);
  }
}

TEST(RandomParts, EveryHoleIsFoundWithItsNumbersWhereverThePartStands) {
  std::cout << "seed " << kSeed << '\n';
  Random random(kSeed);
  for (int round = 0; round < 12; ++round) {
    SCOPED_TRACE(round);
    std::vector<Made> made;
    std::vector<TopoDS_Shape> tools;
    for (int column = 0; column < kColumns; ++column)
      for (int row = 0; row < kRows; ++row) {
        made.push_back(random_hole(random, column, row));
        for (const TopoDS_Shape& tool : tools_of(made.back())) tools.push_back(tool);
      }
    const TopoDS_Shape plate =
        demo::cut(demo::block({0, 0, 0}, {kColumns * kCell_mm, kRows * kCell_mm, kThickness_mm}), tools);
    const gp_Trsf motion = random.motion();
    const auto report = find_holes(*part_of(BRepBuilderAPI_Transform(plate, motion, true).Shape()));
    ASSERT_TRUE(report);
    EXPECT_EQ(report->holes.size(), made.size());
    for (const Made& m : made) expect_found(*report, m, motion);
  }
}

TEST(RandomParts, RowsAndCirclesOfHolesAreSeenAsSuch) {
  Random random(kSeed);
  for (int round = 0; round < 8; ++round) {
    SCOPED_TRACE(round);
    const int in_row = random.whole(3, 6), in_circle = random.whole(5, 9);
    const double pitch = random.between(14, 22), circle = random.between(60, 90);
    std::vector<TopoDS_Shape> tools;
    tools.reserve(static_cast<size_t>(in_row) + static_cast<size_t>(in_circle));
    for (int i = 0; i < in_row; ++i)
      tools.push_back(demo::rod(gp_Ax2(gp_Pnt(-60 + i * pitch, -75, 10), gp_Dir(0, 0, -1)), 5, 10));
    for (int i = 0; i < in_circle; ++i) {
      const double angle = 0.3 + 2 * kPi * i / in_circle;
      tools.push_back(demo::rod(
          gp_Ax2(gp_Pnt(circle / 2 * std::cos(angle), circle / 2 * std::sin(angle), 10), gp_Dir(0, 0, -1)), 8,
          10));
    }
    const auto report = find_holes(*part_of(demo::cut(demo::block({-90, -90, 0}, {90, 90, 10}), tools)));
    ASSERT_TRUE(report);
    ASSERT_EQ(report->groups.size(), 2u);
    ASSERT_EQ(report->patterns.size(), 2u);
    for (const HolePattern& pattern : report->patterns) {
      EXPECT_TRUE(pattern.even);
      EXPECT_LT(pattern.largest_deviation_mm, 1e-6);
      const bool is_row = pattern.kind == HolePattern::Kind::kRow;
      EXPECT_EQ(static_cast<int>(pattern.holes.size()), is_row ? in_row : in_circle);
      EXPECT_NEAR(pattern.pitch_mm, is_row ? pitch : circle, 1e-6);
      EXPECT_TRUE(is_row || std::hypot(pattern.centre.X(), pattern.centre.Y()) < 1e-6);
    }
  }
}

TEST(RandomParts, PocketsHaveTheCornersTheyWereCutWith) {
  Random random(kSeed);
  for (int round = 0; round < 10; ++round) {
    SCOPED_TRACE(round);
    demo::PocketShape shape{random.between(40, 60), random.between(30, 50), random.between(5, 15), {}, 0};
    for (double& r : shape.r) r = random.whole(0, 4) == 0 ? 0 : random.between(1.5, 9);
    const TopoDS_Shape pocket =
        demo::pocket(gp_Ax2(gp_Pnt(50, 40, 20), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), shape);
    const gp_Trsf motion = random.motion();
    const PartPtr part = part_of(
        BRepBuilderAPI_Transform(demo::cut(demo::block({0, 0, 0}, {100, 80, 20}), {pocket}), motion, true)
            .Shape());
    CornerOptions options;
    options.axis = gp_Dir(0, 0, 1).Transformed(motion);
    const auto report = find_corners(*part, options);
    ASSERT_TRUE(report);
    std::vector<double> radii, expected;
    int sharp = 0;
    for (const Corner& corner : report->corners) {
      if (corner.kind == CornerKind::kWallRound) radii.push_back(corner.radius_mm);
      if (!corner.is_wall()) continue;
      EXPECT_NEAR(corner.depth_mm, shape.depth, kExact_mm);
      EXPECT_NEAR(degrees(corner.angle_rad), 90, 1e-6);
      EXPECT_FALSE(corner.undercut);
    }
    for (const double r : shape.r) r > 0 ? expected.push_back(r) : void(++sharp);
    std::sort(radii.begin(), radii.end());
    std::sort(expected.begin(), expected.end());
    ASSERT_EQ(radii.size(), expected.size());
    for (size_t i = 0; i < radii.size(); ++i) EXPECT_NEAR(radii[i], expected[i], kExact_mm);
    EXPECT_EQ(report->sharp_wall_corners, sharp);
    ASSERT_EQ(report->pockets.size(), 1u);
    EXPECT_NEAR(report->pockets.front().depth_mm, shape.depth, kExact_mm);
    ASSERT_EQ(report->smallest_wall_radius_mm.has_value(), !expected.empty());
    EXPECT_NEAR(report->smallest_wall_radius_mm.value_or(0), expected.empty() ? 0 : expected.front(),
                kExact_mm);
    ASSERT_TRUE(report->pockets.front().narrowest);
    EXPECT_NEAR(report->pockets.front().narrowest->width_mm, std::min(shape.width, shape.height), kExact_mm);
  }
}

TEST(RandomParts, SlotsAreFoundWithTheirWidthLengthAndDepth) {
  Random random(kSeed);
  for (int round = 0; round < 10; ++round) {
    SCOPED_TRACE(round);
    const double width = random.between(4, 12), apart = random.between(10, 40), turned = random.between(0, 6),
                 depth = round % 2 ? 20 : random.between(4, 15);
    const gp_Pnt middle(random.between(40, 60), random.between(40, 60), 20);
    const gp_Dir along(std::cos(turned), std::sin(turned), 0);
    const auto end = [&](double sense) { return middle.Translated(gp_Vec(along) * (sense * apart / 2)); };
    const demo::PocketShape bar{apart, width, depth, {}, 0};
    const gp_Dir down(0, 0, -1);
    const TopoDS_Shape made = demo::cut(
        demo::block({0, 0, 0}, {100, 100, 20}),
        {demo::pocket(gp_Ax2(middle, gp_Dir(0, 0, 1), along), bar),
         demo::rod(gp_Ax2(end(-1), down), width, depth), demo::rod(gp_Ax2(end(1), down), width, depth)});
    const gp_Trsf motion = random.motion();
    const auto report = find_holes(*part_of(BRepBuilderAPI_Transform(made, motion, true).Shape()));
    ASSERT_TRUE(report);
    EXPECT_TRUE(report->holes.empty()) << "the ends of a slot are no holes";
    ASSERT_EQ(report->slots.size(), 1u);
    const Slot& slot = report->slots.front();
    EXPECT_NEAR(slot.width_mm, width, kExact_mm);
    EXPECT_NEAR(slot.length_mm, apart + width, kExact_mm);
    EXPECT_NEAR(slot.depth_mm, depth, kExact_mm);
    EXPECT_EQ(slot.through, round % 2 == 1);
    EXPECT_TRUE(parallel(slot.axis, gp_Dir(0, 0, 1).Transformed(motion)));
    EXPECT_TRUE(parallel(slot.direction, along.Transformed(motion)));
    EXPECT_NEAR(slot.centre_a.Distance(slot.centre_b), apart, kExact_mm);
  }
}

// Bores from all sides, many on common lines, that cross one another, some blind with a tip: no wall of a
// bore that goes all round is lost, whatever interrupts it.
TEST(RandomParts, NoBoreIsLostWhereBoresCross) {
  std::cout << "seed " << kSeed << '\n';
  Random random(kSeed);
  constexpr double kSide_mm = 100;
  const gp_Dir inward[] = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {-1, 0, 0}, {0, -1, 0}, {0, 0, -1}};
  for (int round = 0; round < 25; ++round) {
    SCOPED_TRACE(round);
    std::vector<TopoDS_Shape> tools;
    for (int bore = random.whole(3, 7); bore > 0; --bore) {
      const gp_Dir along = inward[random.whole(0, 5)];
      gp_Pnt at(30 + 20 * random.whole(0, 2), 30 + 20 * random.whole(0, 2), 30 + 20 * random.whole(0, 2));
      for (int axis = 0; axis < 3; ++axis)
        if (std::abs(coordinate(along, axis)) > 0.5)
          set_coordinate(at, axis, coordinate(along, axis) > 0 ? 0 : kSide_mm);
      const double diameter = random.between(4, 14),
                   depth = random.whole(0, 2) == 0 ? kSide_mm : random.between(20, 90);
      tools.push_back(demo::rod(gp_Ax2(at, along), diameter, depth));
      if (depth < kSide_mm && random.whole(0, 1) == 0)
        tools.push_back(
            demo::taper(gp_Ax2(at.Translated(gp_Vec(along) * depth), along), diameter, 0, diameter * 0.3));
    }
    const PartPtr part = part_of(demo::cut(demo::block({0, 0, 0}, {kSide_mm, kSide_mm, kSide_mm}), tools));
    const auto report = find_holes(*part);
    ASSERT_TRUE(report);
    std::set<int> found;
    for (const Hole& hole : report->holes) found.insert(hole.faces.begin(), hole.faces.end());
    const TopologyIndex& topology = part->topology();
    for (const Patch& patch : topology.patches) {
      if (patch.surface.kind != SurfaceKind::kCylinder || !patch.surface.inside) continue;
      if (angular_coverage(topology, patch) < 2 * kPi - 1e-6) continue;
      EXPECT_TRUE(found.count(patch.faces.front())) << "Ø" << 2 * patch.surface.radius_mm << " was lost";
    }
  }
}

}  // namespace
}  // namespace anvil
