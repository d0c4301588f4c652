#include "support/expected_holes.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "base/units.h"

namespace anvil::test {

HoleReport holes_of(const Part& part) {
  auto report = find_holes(part);
  EXPECT_TRUE(report) << (report ? "" : report.error().sentence);
  return report ? *report : HoleReport{};
}

CornerReport corners_of(const Part& part, const gp_Dir& axis) {
  CornerOptions options;
  options.axis = axis;
  auto report = find_corners(part, options);
  EXPECT_TRUE(report) << (report ? "" : report.error().sentence);
  return report ? *report : CornerReport{};
}

const Hole* find_expected(const HoleReport& report, const demo::ExpectedHole& expected,
                          const Within& within) {
  for (const Hole& hole : report.holes) {
    if (hole.entry.Distance(expected.entry) < within.mm && hole.axis.IsEqual(expected.axis, within.rad))
      return &hole;
    const gp_Pnt exit = expected.entry.Translated(gp_Vec(expected.axis) * -expected.depth);
    if (expected.either_end && hole.entry.Distance(exit) < within.mm &&
        hole.axis.IsOpposite(expected.axis, within.rad))
      return &hole;
  }
  return nullptr;
}

void expect_same(const Hole& hole, const demo::ExpectedHole& expected, const Within& within) {
  EXPECT_NEAR(hole.diameter_mm, expected.diameter, within.mm);
  EXPECT_NEAR(hole.depth_mm, expected.depth, within.mm);
  EXPECT_EQ(hole.through, expected.through);
  EXPECT_TRUE(hole.full_turn);
  ASSERT_EQ(hole.steps.size(), expected.steps.size());
  for (size_t i = 0; i < hole.steps.size(); ++i) {
    EXPECT_STREQ(step_name(hole.steps[i].kind), expected.steps[i].kind.c_str());
    EXPECT_NEAR(hole.steps[i].diameter_mm, expected.steps[i].diameter, within.mm);
    EXPECT_NEAR(hole.steps[i].end_diameter_mm, expected.steps[i].end_diameter, within.mm);
    EXPECT_NEAR(hole.steps[i].depth_mm, expected.steps[i].depth, within.mm);
    EXPECT_NEAR(hole.steps[i].angle_rad, radians(expected.steps[i].angle_deg), within.rad);
  }
}

void expect_all_holes(const Part& part, const demo::DemoPart& demo, const Within& within, size_t further) {
  const HoleReport report = holes_of(part);
  EXPECT_EQ(report.holes.size(), demo.holes.size() + further);
  for (const demo::ExpectedHole& expected : demo.holes) {
    const Hole* hole = find_expected(report, expected, within);
    ASSERT_NE(hole, nullptr) << "nothing at " << expected.entry.X() << " " << expected.entry.Y() << " "
                             << expected.entry.Z() << ", Ø" << expected.diameter;
    SCOPED_TRACE(hole->name);
    expect_same(*hole, expected, within);
  }
}

void expect_wall_corners(const Part& part, const demo::DemoPart& demo, const Within& within) {
  const CornerReport report = corners_of(part, demo.tool_axis);
  size_t walls = 0;
  for (const Corner& corner : report.corners) walls += corner.is_wall() && !corner.undercut;
  EXPECT_EQ(walls, demo.wall_corners.size());
  for (const demo::ExpectedCorner& expected : demo.wall_corners) {
    const gp_Lin line(expected.centre, demo.tool_axis);
    const auto at = std::find_if(report.corners.begin(), report.corners.end(), [&](const Corner& c) {
      return c.is_wall() && line.Distance(c.position) < within.mm;
    });
    ASSERT_NE(at, report.corners.end()) << expected.kind << " R" << expected.radius;
    EXPECT_STREQ(corner_name(at->kind), expected.kind.c_str());
    EXPECT_NEAR(at->radius_mm, expected.radius, within.mm);
    EXPECT_NEAR(at->top_mm, expected.top, within.mm);
    EXPECT_NEAR(at->bottom_mm, expected.bottom, within.mm);
    EXPECT_NEAR(at->angle_rad, M_PI / 2, std::max(1e-7, within.rad));
  }
}

}  // namespace anvil::test
