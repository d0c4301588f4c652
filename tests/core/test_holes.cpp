#include <gtest/gtest.h>
#include <BRepBuilderAPI_Transform.hxx>

#include "base/units.h"
#include "demo/shapes.h"
#include "inspect/holes.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;

constexpr double kExact_mm = 1e-6;

void expect_all(const DemoPart& demo) {
  expect_all_holes(*part_of(demo), demo);
}

TEST(Holes, SaddlePlateHasExactlyWhatItWasConstructedWith) {
  expect_all(plate());
}

TEST(Holes, DeclinationHousingHasExactlyWhatItWasConstructedWith) {
  expect_all(housing());
}

TEST(Holes, BothRevisionsOfTheYokeHaveExactlyWhatTheyWereConstructedWith) {
  expect_all(demo::worm_yoke_a());
  expect_all(demo::worm_yoke_b());
}

// Stored as B-splines, its surfaces are read as what they are, without being healed, and say how closely.
TEST(Holes, FinderRingHasItsHolesAlthoughItsSurfacesAreSplines) {
  const DemoPart ring = demo::finder_ring();
  const PartPtr part = part_of(ring);
  constexpr size_t kRadial = 3;
  expect_all_holes(*part, ring, {1e-5, 1e-6}, kRadial);
  for (const FaceInfo& face : part->topology().faces) {
    EXPECT_TRUE(face.surface.recognised);
    EXPECT_LE(face.surface.deviation_mm, kRecognised_mm);
  }
}

TEST(Holes, SlotOfTheSaddlePlate) {
  const HoleReport report = holes_of(*part_of(plate()));
  ASSERT_EQ(report.slots.size(), 1u);
  const Slot& slot = report.slots.front();
  const ExpectedSlot& expected = plate().slots.front();
  EXPECT_NEAR(slot.width_mm, expected.width, kExact_mm);
  EXPECT_NEAR(slot.depth_mm, expected.depth, kExact_mm);
  EXPECT_NEAR(slot.length_mm, expected.centre_a.Distance(expected.centre_b) + expected.width, kExact_mm);
  EXPECT_TRUE(slot.through);
  const gp_Lin first(expected.centre_a, plate().tool_axis), second(expected.centre_b, plate().tool_axis);
  EXPECT_LT(std::min(first.Distance(slot.centre_a), second.Distance(slot.centre_a)), kExact_mm);
  EXPECT_LT(std::min(first.Distance(slot.centre_b), second.Distance(slot.centre_b)), kExact_mm);
}

TEST(Holes, SameHolesAreGroupedAndTheOddOneMissesItsRow) {
  const HoleReport report = holes_of(*part_of(plate()));
  EXPECT_EQ(report.groups.size(), 4u);  // tapped size, countersunk, counterbored, dowels
  const auto row = std::find_if(report.patterns.begin(), report.patterns.end(), [&](const HolePattern& p) {
    return std::abs(report.holes[p.holes.front()].diameter_mm - 6.6) < 1e-6;
  });
  ASSERT_NE(row, report.patterns.end());
  EXPECT_EQ(row->kind, HolePattern::Kind::kRow);
  EXPECT_NEAR(row->pitch_mm, 48, 1e-3);
  // Best line through (0,0) (48,0) (96,0.35) (144,0): slope 0.35*24/(2*(24^2+72^2)), mean 0.0875; the third
  // hole stays 0.35 - 0.0875 - slope*24 off it (measured across; the slope is small).
  const double slope = 0.35 * 24 / (2 * (24.0 * 24 + 72.0 * 72));
  EXPECT_NEAR(row->largest_deviation_mm, 0.35 - 0.0875 - slope * 24, 1e-5);
}

TEST(Holes, BoltCircleOfTheHousing) {
  const HoleReport report = holes_of(*part_of(housing()));
  const auto circle = std::find_if(report.patterns.begin(), report.patterns.end(),
                                   [](const HolePattern& p) { return p.kind == HolePattern::Kind::kCircle; });
  ASSERT_NE(circle, report.patterns.end());
  EXPECT_EQ(circle->holes.size(), 6u);
  EXPECT_NEAR(circle->pitch_mm, 84, kExact_mm);
  EXPECT_TRUE(circle->even);
  EXPECT_LT(circle->centre.Distance(gp_Pnt(0, 80, 0)), kExact_mm);
}

TEST(Holes, FindingsMoveWithThePart) {
  const DemoPart& demo = housing();
  const gp_Trsf motion = odd_motion();
  const HoleReport here = holes_of(*part_of(demo));
  const HoleReport there = holes_of(*part_of(demo.bodies.front().shape.Moved(TopLoc_Location(motion))));
  ASSERT_EQ(here.holes.size(), there.holes.size());
  for (const Hole& hole : moved(here, motion).holes) {
    const ExpectedHole expected{hole.entry, hole.axis, hole.diameter_mm, hole.depth_mm, hole.through,
                                {},         true};
    EXPECT_NE(find_expected(there, expected), nullptr) << hole.name;
  }
}

TEST(Holes, MoreThanHalfATurnIsAnOpenHoleAndLessIsNone) {
  // A hole whose centre lies 2 inside the edge of the plate is open along its side; 2 outside leaves a corner
  // only.
  for (const double y : {2.0, -2.0}) {
    const TopoDS_Shape plate =
        cut(block({0, 0, 0}, {40, 40, 10}), {rod(gp_Ax2(gp_Pnt(20, y, 10), gp_Dir(0, 0, -1)), 12, 10)});
    const HoleReport report = holes_of(*part_of(plate));
    ASSERT_EQ(report.holes.size(), y > 0 ? 1u : 0u);
    if (y < 0) continue;
    EXPECT_FALSE(report.holes.front().full_turn);
    EXPECT_TRUE(report.holes.front().through);
    EXPECT_NEAR(report.holes.front().depth_mm, 10, kExact_mm);
  }
}

TEST(Holes, TwoHolesOnOneLineWithMaterialBetweenStayTwo) {
  const gp_Ax2 top(gp_Pnt(10, 10, 40), gp_Dir(0, 0, -1)), bottom(gp_Pnt(10, 10, 0), gp_Dir(0, 0, 1));
  const HoleReport report =
      holes_of(*part_of(cut(block({0, 0, 0}, {20, 20, 40}), {rod(top, 6, 15), rod(bottom, 6, 12)})));
  ASSERT_EQ(report.holes.size(), 2u);
  for (const Hole& hole : report.holes) EXPECT_FALSE(hole.through);
}

TEST(Holes, BlindHoleWithACrossHoleNearItsBottomStaysBlind) {
  const gp_Ax2 down(gp_Pnt(20, 20, 30), gp_Dir(0, 0, -1)), across(gp_Pnt(0, 20, 12), gp_Dir(1, 0, 0));
  const HoleReport report =
      holes_of(*part_of(cut(block({0, 0, 0}, {40, 40, 30}), {rod(down, 10, 20), rod(across, 3, 40)})));
  const auto blind =
      std::find_if(report.holes.begin(), report.holes.end(), [](const Hole& h) { return h.diameter_mm > 9; });
  ASSERT_NE(blind, report.holes.end());
  EXPECT_FALSE(blind->through);
  EXPECT_NEAR(blind->depth_mm, 20, kExact_mm);
}

TEST(Holes, SlantedMouthOpensWhereTheAxisMeetsTheFace) {
  // The top is cut at a slope of 1:2 through (0,*,20); the axis stands at x = 20, so it leaves the part at z
  // = 30.
  const gp_Dir normal(-1, 0, 2);
  const gp_Ax2 over(gp_Pnt(20, 20, 30), normal, gp_Dir(2, 0, 1));
  const TopoDS_Shape lid = BRepBuilderAPI_Transform(block({-200, -200, 0}, {200, 200, 100}),
                                                    [&] {
                                                      gp_Trsf t;
                                                      t.SetTransformation(gp_Ax3(over), gp_Ax3());
                                                      return t;
                                                    }())
                               .Shape();
  const TopoDS_Shape wedge = cut(block({0, 0, 0}, {40, 40, 60}), {lid});
  const HoleReport report =
      holes_of(*part_of(cut(wedge, {rod(gp_Ax2(gp_Pnt(20, 20, 60), gp_Dir(0, 0, -1)), 8, 60)})));
  ASSERT_EQ(report.holes.size(), 1u);
  EXPECT_NEAR(report.holes.front().depth_mm, 30, kExact_mm);
  EXPECT_TRUE(report.holes.front().through);
}

TEST(Holes, ThroughHolesAreToldFromTheSideTheOthersOpenTo) {
  for (const Hole& hole : holes_of(*part_of(plate())).holes)
    EXPECT_TRUE(hole.axis.IsEqual(plate().tool_axis, 1e-9)) << hole.name;
}

// 3/16 in is 4.7625 mm, which rounds to either side when its last digits differ.
TEST(Holes, EqualHolesAreOneGroupWhateverTheirLastDigitsAre) {
  std::vector<TopoDS_Shape> tools;
  for (const int row : {0, 1, 2})
    for (const int column : {0, 1, 2, 3})
      tools.push_back(rod(gp_Ax2(gp_Pnt(10 + 12 * column, 10 + 12 * row, 20), gp_Dir(0, 0, -1)),
                          4.7625 + (column % 2 ? 1e-9 : -1e-9), 20));
  const HoleReport report = holes_of(*part_of(cut(block({0, 0, 0}, {60, 50, 20}), tools)));
  ASSERT_EQ(report.holes.size(), 12u);
  EXPECT_EQ(report.groups.size(), 1u);
}

// What the drill makes is the narrowest step that the rest opens into, however short it is.
TEST(Holes, MainBoreIsTheNarrowestTheRestOpensInto) {
  const gp_Ax2 top(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1));
  const TopoDS_Shape deep = cut(block({0, 0, 0}, {40, 40, 20}), {rod(top, 3, 20), rod(top, 5.5, 17)});
  const HoleReport through = holes_of(*part_of(deep));
  ASSERT_EQ(through.holes.size(), 1u);
  EXPECT_NEAR(through.holes[0].diameter_mm, 3, kExact_mm);
  EXPECT_EQ(through.groups[0].form, "Ø3 through, counterbore Ø5.5 × 17");
  // A short pilot at the end of a wide blind bore is a step of its own.
  const TopoDS_Shape pilot = cut(block({0, 0, 0}, {40, 40, 20}), {rod(top, 12, 14), rod(top, 4, 16)});
  const HoleReport blind = holes_of(*part_of(pilot));
  ASSERT_EQ(blind.holes.size(), 1u);
  EXPECT_NEAR(blind.holes[0].diameter_mm, 12, kExact_mm);
  // But a deep one is what was drilled, and the wide one its counterbore.
  const TopoDS_Shape bored = cut(block({0, 0, 0}, {40, 40, 20}), {rod(top, 11, 6), rod(top, 6, 18)});
  EXPECT_NEAR(holes_of(*part_of(bored)).holes.at(0).diameter_mm, 6, kExact_mm);
}

// Two blind bores with tips on one axis, from both sides, that a crossing bore opens into each other: neither
// is lost.
TEST(Holes, BlindBoresThatMeetInACrossingOneAreTwo) {
  const double tip = 3.5 / std::tan(radians(60));
  const gp_Ax2 left(gp_Pnt(0, 20, 20), gp_Dir(1, 0, 0)), right(gp_Pnt(120, 20, 20), gp_Dir(-1, 0, 0));
  const TopoDS_Shape part = cut(block({0, 0, 0}, {120, 40, 40}),
                                {rod(gp_Ax2(gp_Pnt(60, 20, 40), gp_Dir(0, 0, -1)), 20, 40),
                                 // Each begins at the crossing bore and ends blind before the outside.
                                 rod(gp_Ax2(gp_Pnt(60, 20, 20), gp_Dir(1, 0, 0)), 7, 33),
                                 taper(gp_Ax2(gp_Pnt(93, 20, 20), gp_Dir(1, 0, 0)), 7, 0, tip),
                                 rod(gp_Ax2(gp_Pnt(60, 20, 20), gp_Dir(-1, 0, 0)), 7, 33),
                                 taper(gp_Ax2(gp_Pnt(27, 20, 20), gp_Dir(-1, 0, 0)), 7, 0, tip)});
  const HoleReport report = holes_of(*part_of(part));
  ASSERT_EQ(report.holes.size(), 3u);
  int with_tip = 0;
  for (const Hole& hole : report.holes) {
    if (std::abs(hole.diameter_mm - 7) > kExact_mm) continue;
    ++with_tip;
    EXPECT_FALSE(hole.through);
    EXPECT_NEAR(degrees(hole.steps.back().angle_rad), 120, 1e-9);
  }
  EXPECT_EQ(with_tip, 2);
}

}  // namespace
}  // namespace anvil
