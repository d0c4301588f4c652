// What limits a cutter in a pocket, and what a cutter leaves there, against closed forms.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Elips.hxx>
#include <iostream>

#include "base/units.h"
#include "demo/shapes.h"
#include "inspect/corners.h"
#include "inspect/left_by_cutter.h"
#include "inspect/left_in_pockets.h"
#include "inspect/section_stack.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"
#include "support/random.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;

constexpr double kExact_mm = 1e-6;
constexpr unsigned kSeed = 20261128;
const gp_Dir kUp(0, 0, 1), kDown(0, 0, -1);

TopoDS_Shape with_pocket(const PocketShape& shape) {
  return cut(block({0, 0, 0}, {100, 80, 20}),
             {pocket(gp_Ax2(gp_Pnt(50, 40, 20), kUp, gp_Dir(1, 0, 0)), shape)});
}

LeftByCutter left_on(const TopoDS_Shape& shape, double diameter, const gp_Dir& axis = kUp) {
  const CornerReport report = corners_of(*part_of(shape), axis);
  const auto left = left_by_cutter(*report.sections, diameter);
  EXPECT_TRUE(left);
  return *left;
}

// A cutter of radius R leaves (1 - pi/4)(R^2 - r^2) in each square corner of radius r, and nothing where r is
// as large. Both ways of looking at a pocket agree wherever it stands.
TEST(PocketLimits, WhatACutterLeavesAgreesWithTheCorners) {
  std::cout << "seed " << kSeed << '\n';
  Random random(kSeed);
  for (int round = 0; round < 200; ++round) {
    SCOPED_TRACE(round);
    PocketShape shape{random.between(40, 60), random.between(30, 50), random.between(5, 15), {}, 0};
    for (double& r : shape.r) r = random.whole(0, 4) == 0 ? 0 : random.between(1.5, 9);
    const gp_Trsf motion = random.motion();
    const PartPtr part = part_of(BRepBuilderAPI_Transform(with_pocket(shape), motion, true).Shape());
    const CornerReport report = corners_of(*part, kUp.Transformed(motion));
    const double radius = random.between(2, 12);
    const auto left = left_by_cutter(*report.sections, 2 * radius);
    ASSERT_TRUE(left);
    double area = 0, smallest = 1e9;
    for (const double r : shape.r) {
      area += (1 - kPi / 4) * std::max(0.0, radius * radius - r * r);
      smallest = std::min(smallest, r);
    }
    // The polygons lie within the bound along outlines that are at most so long.
    const double slack = left->bound_mm * 8 * radius * shape.depth;
    EXPECT_NEAR(left->volume_mm3, area * shape.depth, slack + 1e-6);
    EXPECT_EQ(left->layers.empty(), radius <= smallest || area * shape.depth < slack);
    EXPECT_EQ(*report.largest_cutter_mm >= 2 * radius && report.sharp_wall_corners == 0, radius <= smallest);
  }
}

// Each pocket has its own share of what is left, and a round one in which the cutter fits none.
TEST(PocketLimits, WhatIsLeftIsToldPocketByPocket) {
  TopoDS_Shape shape = block({0, 0, 0}, {150, 60, 20});
  shape = cut(shape, {pocket(gp_Ax2(gp_Pnt(30, 30, 20), kUp), {40, 40, 10, {2, 2, 2, 2}}),
                      pocket(gp_Ax2(gp_Pnt(80, 30, 20), kUp), {40, 40, 6, {4, 4, 0, 4}}),
                      rod(gp_Ax2(gp_Pnt(125, 30, 14), kUp), 30, 6)});
  const PartPtr part = part_of(shape);
  const CornerReport report = corners_of(*part, kUp);
  const LeftByCutter left = *left_by_cutter(*report.sections, 12);
  const std::vector<double> volumes = left_in_pockets(*part, report, left);
  const auto corner = [](double r) { return (1 - kPi / 4) * (36 - r * r); };
  ASSERT_EQ(volumes.size(), report.pockets.size());
  ASSERT_EQ(report.pockets.size(), 3u);
  for (size_t p = 0; p < volumes.size(); ++p) {
    const Pocket& own = report.pockets[p];
    const double expected = own.round              ? 0
                            : own.has_sharp_corner ? 6 * (3 * corner(4) + corner(0))
                                                   : 10 * 4 * corner(2);
    EXPECT_NEAR(volumes[p], expected, left.bound_mm * 8 * 6 * own.depth_mm + 1e-6) << own.name;
  }
}

// The gauge that finds room in a sharp corner touches both walls and the cutter: r sqrt(2) + r = R sqrt(2) -
// R.
TEST(PocketLimits, ThicknessIsThatOfTheLargestGaugeThatFindsRoom) {
  const LeftByCutter left = left_on(with_pocket({50, 40, 10, {0, 8, 8, 8}}), 16);
  const double expected = 2 * 8 * (std::sqrt(2.0) - 1) / (std::sqrt(2.0) + 1);
  EXPECT_NEAR(left.largest_thickness_mm, expected, 4 * left.bound_mm);
  EXPECT_LT(std::hypot(left.thickest.X() - 25, left.thickest.Y() - 20), 3);  // in the sharp corner
}

// Between two fins 4 apart a cutter of 5 only dips in at both ends, by the segment of its circle over 4.
TEST(PocketLimits, SlotsBetweenFinsAreFoundThoughNoCornerNamesThem) {
  const TopoDS_Shape fins = join(block({0, 0, 0}, {60, 60, 10}),
                                 {block({20, 0, 10}, {23, 60, 30}), block({27, 0, 10}, {30, 60, 30})});
  const double r = 2.5, half = 2, dip = r - std::sqrt(r * r - half * half);
  const double segment = r * r * std::acos(1 - dip / r) - (r - dip) * half;
  const LeftByCutter left = left_on(fins, 2 * r);
  EXPECT_NEAR(left.volume_mm3, (4 * 60 - 2 * segment) * 20, 4 * left.bound_mm * 60 * 20);
  EXPECT_NEAR(left.largest_thickness_mm, 4, 4 * left.bound_mm);
  EXPECT_TRUE(left_on(fins, 3.99).layers.empty());
  const CornerReport report = corners_of(*part_of(fins), kUp);
  EXPECT_NEAR(report.narrowest_passage->width_mm, 4, kExact_mm);
}

// Exactly as wide as the slot, and as its ends.
TEST(PocketLimits, ACutterThatJustFitsLeavesNothing) {
  for (const double turned : {0.0, 0.3, 1.1}) {
    gp_Trsf turn;
    turn.SetRotation(gp_Ax1(gp_Pnt(50, 40, 0), kUp), turned);
    const TopoDS_Shape slot =
        cut(block({0, 0, 0}, {100, 80, 20}),
            {rod(gp_Ax2(gp_Pnt(40, 40, 20), kDown), 8, 20), block({40, 36, 0}, {60, 44, 20}),
             rod(gp_Ax2(gp_Pnt(60, 40, 20), kDown), 8, 20)});
    EXPECT_TRUE(left_on(BRepBuilderAPI_Transform(slot, turn, true).Shape(), 8).layers.empty());
    EXPECT_FALSE(left_on(BRepBuilderAPI_Transform(slot, turn, true).Shape(), 8.05).layers.empty());
  }
}

TEST(PocketLimits, DrilledHolesAreNotLeft) {
  const TopoDS_Shape plate =
      cut(with_pocket({50, 40, 10, {8, 8, 8, 8}}),
          {rod(gp_Ax2(gp_Pnt(50, 40, 20), kDown), 6, 20), rod(gp_Ax2(gp_Pnt(10, 10, 20), kDown), 5, 12)});
  EXPECT_TRUE(left_on(plate, 15.9).layers.empty());
}

// What stands above is in the way of a cutter that comes down.
TEST(PocketLimits, UnderALipNothingIsCleared) {
  const TopoDS_Shape lipped =
      join(with_pocket({50, 40, 10, {0, 8, 8, 0}}), {block({25, 20, 17}, {30, 60, 20})});
  const CornerReport report = corners_of(*part_of(lipped), kUp);
  const auto left = left_by_cutter(*report.sections, 10);
  ASSERT_TRUE(left);
  // Two corners of 5 between lip and walls remain sharp, over the whole depth.
  EXPECT_NEAR(left->volume_mm3, 2 * (1 - kPi / 4) * 25 * 10, left->bound_mm * 2 * 8 * 10);
}

TEST(PocketLimits, ClearedCornersLimitTheCutter) {
  std::vector<TopoDS_Shape> tools{
      pocket(gp_Ax2(gp_Pnt(50, 40, 20), kUp, gp_Dir(1, 0, 0)), {50, 40, 10, {0, 0, 0, 0}})};
  for (const double x : {26.0, 74.0})
    for (const double y : {21.0, 59.0}) tools.push_back(rod(gp_Ax2(gp_Pnt(x, y, 20), kDown), 6, 10));
  const CornerReport report = corners_of(*part_of(cut(block({0, 0, 0}, {100, 80, 20}), tools)), kUp);
  ASSERT_TRUE(report.largest_cutter_mm);
  EXPECT_NEAR(*report.largest_cutter_mm, 6, kExact_mm);
  EXPECT_EQ(report.sharp_wall_corners, 0);
  ASSERT_EQ(report.pockets.size(), 1u);
}

TEST(PocketLimits, RoundPocketIsOneAndLimitsItsCutter) {
  const CornerReport report = corners_of(
      *part_of(cut(block({0, 0, 0}, {100, 80, 20}), {rod(gp_Ax2(gp_Pnt(50, 40, 20), kDown), 36, 8)})), kUp);
  ASSERT_EQ(report.pockets.size(), 1u);
  EXPECT_TRUE(report.pockets[0].round);
  EXPECT_FALSE(report.pockets[0].open);
  EXPECT_NEAR(report.pockets[0].depth_mm, 8, kExact_mm);
  EXPECT_NEAR(*report.largest_cutter_mm, 36, kExact_mm);
}

// An ellipse turns most tightly at the ends of its long axis: b^2 / a.
TEST(PocketLimits, PocketOfAnExtrudedEllipse) {
  const gp_Elips ellipse(gp_Ax2(gp_Pnt(50, 40, 8), kUp, gp_Dir(1, 0, 0)), 30, 18);
  const TopoDS_Shape tool = BRepPrimAPI_MakePrism(
      BRepBuilderAPI_MakeFace(BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(ellipse).Edge()).Wire()).Face(),
      gp_Vec(0, 0, 20));
  const CornerReport report = corners_of(*part_of(cut(block({0, 0, 0}, {100, 80, 20}), {tool})), kUp);
  const double tightest = 18.0 * 18 / 30;
  ASSERT_TRUE(report.smallest_wall_radius_mm);
  EXPECT_TRUE(report.smallest_is_approximate);
  EXPECT_NEAR(*report.smallest_wall_radius_mm, tightest, 0.005 * tightest);
  EXPECT_NEAR(*report.largest_cutter_mm, 2 * tightest, 0.01 * tightest);
  EXPECT_TRUE(report.not_judged.empty());
}

TEST(PocketLimits, CornerWhoseRadiusChangesLimitsBySmallest) {
  const TopoDS_Shape sharp = with_pocket({50, 40, 10, {0, 8, 8, 8}});
  BRepFilletAPI_MakeFillet maker(sharp);
  for (TopExp_Explorer it(sharp, TopAbs_EDGE); it.More(); it.Next()) {
    const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
    const gp_Pnt p = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
    if (p.Distance(gp_Pnt(25, 20, 15)) < 1e-6) maker.Add(4, 9, TopoDS::Edge(it.Current()));
  }
  const CornerReport report = corners_of(*part_of(maker.Shape()), kUp);
  ASSERT_TRUE(report.smallest_wall_radius_mm);
  EXPECT_NEAR(*report.smallest_wall_radius_mm, 4, 0.1);
  EXPECT_NEAR(*report.largest_cutter_mm, 8, 0.2);
}

// A flat wall and an arc of 120 degrees meet twice.
TEST(PocketLimits, TwoWallsThatMeetTwiceHaveTwoCorners) {
  const TopoDS_Shape segment =
      cut(rod(gp_Ax2(gp_Pnt(50, 40, 20), kDown), 40, 10), {block({0, 0, 0}, {100, 50, 20})});
  const CornerReport report = corners_of(*part_of(cut(block({0, 0, 0}, {100, 80, 20}), {segment})), kUp);
  EXPECT_EQ(report.sharp_wall_corners, 2);
}

TEST(PocketLimits, CornersStandOnTheFloorTheirRoundingLeadsTo) {
  const CornerReport report = corners_of(*part_of(with_pocket({50, 40, 10, {8, 8, 8, 8}, 2})), kUp);
  int round = 0;
  for (const Corner& corner : report.corners) {
    if (corner.kind != CornerKind::kWallRound) continue;
    ++round;
    EXPECT_NEAR(corner.depth_mm, 10, kExact_mm);
    EXPECT_NEAR(corner.bottom_mm, 10, kExact_mm);
    ASSERT_TRUE(corner.floor_radius_mm);
    EXPECT_NEAR(*corner.floor_radius_mm, 2, kExact_mm);
  }
  EXPECT_EQ(round, 4);
}

// Hollow corners of two pockets are near each other through the material: that is no passage.
TEST(PocketLimits, MaterialBetweenTwoPocketsIsNoPassage) {
  const TopoDS_Shape part =
      cut(block({0, 0, 0}, {100, 80, 20}),
          {pocket(gp_Ax2(gp_Pnt(30, 30, 20), kUp, gp_Dir(1, 0, 0)), {36, 30, 10, {4, 4, 4, 4}}),
           rod(gp_Ax2(gp_Pnt(60, 56, 20), kDown), 8, 20), block({60, 52, 0}, {80, 60, 20}),
           rod(gp_Ax2(gp_Pnt(80, 56, 20), kDown), 8, 20)});
  const CornerReport report = corners_of(*part_of(part), kUp);
  ASSERT_EQ(report.pockets.size(), 2u);
  for (const Pocket& pocket : report.pockets) {
    ASSERT_TRUE(pocket.narrowest);
    EXPECT_NEAR(pocket.narrowest->width_mm, pocket.through ? 8 : 30, kExact_mm);
  }
}

// A countersink elsewhere leans, and is known only as well as its mesh: what is left in an upright pocket is
// not.
TEST(PocketLimits, LeaningFacesElsewhereDoNotHideWhatIsLeft) {
  const TopoDS_Shape sunk =
      cut(with_pocket({50, 40, 10, {3, 3, 3, 3}}),
          {taper(gp_Ax2(gp_Pnt(10, 10, 20), kDown), 16, 4, 6), block({80, 0, 14}, {100, 10, 20})});
  // The notch has a sharp corner of its own, 6 deep.
  const double corner = 1 - kPi / 4, r2 = 3.5 * 3.5;
  EXPECT_NEAR(left_on(sunk, 7).volume_mm3, 4 * corner * (r2 - 9) * 10 + corner * r2 * 6, 0.5);
}

TEST(PocketLimits, NothingDependsOnWhereThePartLies) {
  gp_Trsf far;
  far.SetTranslation(gp_Vec(1e7, -2e6, 3e6));
  const TopoDS_Shape here =
      join(with_pocket({60, 50, 10, {6, 6, 6, 0}}), {rod(gp_Ax2(gp_Pnt(40, 40, 10), kUp), 15, 10)});
  const CornerReport near = corners_of(*part_of(here), kUp),
                     away = corners_of(*part_of(BRepBuilderAPI_Transform(here, far, true).Shape()), kUp);
  EXPECT_NEAR(near.narrowest_passage->width_mm, away.narrowest_passage->width_mm, 1e-5);
  EXPECT_NEAR(*near.largest_cutter_mm, *away.largest_cutter_mm, 1e-5);
  EXPECT_NEAR(left_by_cutter(*near.sections, 14)->volume_mm3, left_by_cutter(*away.sections, 14)->volume_mm3,
              0.05);
}

}  // namespace
}  // namespace anvil
