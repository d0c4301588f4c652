// What stands around holes, against where the holes were put.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>

#include "base/units.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "inspect/hole_reach.h"
#include "inspect/hole_surroundings.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;

constexpr double kExact_mm = 1e-6;

TopoDS_Shape bore(double x, double y, double diameter, double depth) {
  return rod(gp_Ax2(gp_Pnt(x, y, 20), gp_Dir(0, 0, -1)), diameter, depth);
}

struct Looked {
  PartPtr part;
  HoleReport report;
  std::vector<HoleSurroundings> around;

  // Of the hole whose opening is nearest.
  [[nodiscard]] int at(const gp_Pnt& entry) const {
    int best = 0;
    for (size_t i = 0; i < report.holes.size(); ++i)
      if (report.holes[i].entry.Distance(entry) < report.holes[best].entry.Distance(entry))
        best = static_cast<int>(i);
    return best;
  }
  [[nodiscard]] const HoleSurroundings& of(const gp_Pnt& entry) const { return around.at(at(entry)); }
};

Looked look(const TopoDS_Shape& shape) {
  Looked looked{part_of(shape), {}, {}};
  looked.report = holes_of(*looked.part);
  auto around = look_around(*looked.part, looked.report);
  EXPECT_TRUE(around);
  if (around) looked.around = *around;
  return looked;
}

// 80 x 60 x 20: bores Ø10 through at (15, 30), Ø6 at (29, 30) 12 deep, Ø4 through at (60, 50).
TopoDS_Shape plate_of_three() {
  return cut(block({0, 0, 0}, {80, 60, 20}),
             {bore(15, 30, 10, 20), bore(29, 30, 6, 12), bore(60, 50, 4, 20)});
}

void expect_plate_of_three(const Looked& looked, const gp_Trsf& motion, double within) {
  const auto place = [&](double x, double y, double z) { return gp_Pnt(x, y, z).Transformed(motion); };
  ASSERT_EQ(looked.around.size(), 3u);
  const HoleSurroundings& first = looked.of(place(15, 30, 20));
  ASSERT_TRUE(first.next && first.edge && first.wall);
  EXPECT_EQ(first.next->hole, looked.at(place(29, 30, 20)));
  EXPECT_NEAR(first.next->distance_mm, 14, within);
  EXPECT_NEAR(first.edge->distance_mm, 15, within);
  EXPECT_NEAR(first.wall->thickness_mm, 14 - 5 - 3, within) << "to the bore beside it, not to the side";
  EXPECT_FALSE(first.floor) << "it goes through";
  const HoleSurroundings& second = looked.of(place(29, 30, 20));
  ASSERT_TRUE(second.wall && second.floor);
  EXPECT_NEAR(second.wall->thickness_mm, 6, within);
  EXPECT_NEAR(second.floor->thickness_mm, 8, within);
  EXPECT_LT(second.floor->on_face.Distance(place(29, 30, 0)), 2 * within);
  const HoleSurroundings& third = looked.of(place(60, 50, 20));
  ASSERT_TRUE(third.edge && third.wall);
  EXPECT_NEAR(third.edge->distance_mm, 10, within);
  EXPECT_LT(third.edge->at.Distance(place(60, 60, 20)), 2 * within);
  EXPECT_NEAR(third.wall->thickness_mm, 8, within);
  EXPECT_EQ(third.wall->face, face_at(*looked.part, place(40, 60, 10), SurfaceKind::kPlane));
}

TEST(HoleSurroundings, NextHoleEdgeWallAndFloor) {
  expect_plate_of_three(look(plate_of_three()), gp_Trsf(), kExact_mm);
}

TEST(HoleSurroundings, AreTheSameTurnedAndAsSplines) {
  const gp_Trsf motion = odd_motion();
  const TopoDS_Shape turned = BRepBuilderAPI_Transform(plate_of_three(), motion, true).Shape();
  expect_plate_of_three(look(turned), motion, 1e-5);
  expect_plate_of_three(look(BRepBuilderAPI_NurbsConvert(plate_of_three()).Shape()), gp_Trsf(), 1e-4);
}

// The other half of the face it opens in is no wall, however near.
TEST(HoleSurroundings, TilesOfOneFaceAreNoWall) {
  const TopoDS_Shape left = block({0, 0, 0}, {40, 60, 20}), right = block({40, 0, 0}, {80, 60, 20});
  const Looked looked = look(cut(join(left, {right}), {bore(34, 30, 10, 20)}));
  ASSERT_EQ(looked.around.size(), 1u);
  ASSERT_TRUE(looked.around[0].wall && looked.around[0].edge);
  EXPECT_NEAR(looked.around[0].wall->thickness_mm, 25, kExact_mm);
  EXPECT_NEAR(looked.around[0].edge->distance_mm, 30, kExact_mm);
}

// A flange over a flange with void between: the lower one is no wall of the bore in the upper one.
TEST(HoleSurroundings, WhatLiesAcrossAVoidIsNoWall) {
  const TopoDS_Shape clevis = cut(block({0, 0, 0}, {100, 80, 20}), {block({30, -1, 9}, {101, 81, 11})});
  const Looked looked = look(cut(clevis, {bore(65, 40, 8, 10)}));
  ASSERT_EQ(looked.around.size(), 1u);
  ASSERT_TRUE(looked.around[0].wall);
  EXPECT_NEAR(looked.around[0].wall->thickness_mm, 31, kExact_mm) << "the end at x = 100";
}

// A blind bore into a shaft: what is left is on the far side of the face it opens in.
TEST(HoleSurroundings, FloorUnderARadialBoreAndUnderATip) {
  const TopoDS_Shape shaft = rod(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0)), 40, 100);
  const Looked flat = look(cut(shaft, {rod(gp_Ax2(gp_Pnt(50, 0, 30), gp_Dir(0, 0, -1)), 8, 40)}));
  ASSERT_EQ(flat.around.size(), 1u);
  ASSERT_TRUE(flat.around[0].floor);
  EXPECT_NEAR(flat.around[0].floor->thickness_mm, 10, kExact_mm);
  EXPECT_FALSE(flat.around[0].edge) << "it opens in no flat face";
  // The tip goes down by r / tan 59 degrees below the full diameter.
  const double tip = 4 / std::tan(59 * M_PI / 180);
  const Looked drilled =
      look(cut(block({0, 0, 0}, {80, 60, 20}),
               {bore(40, 30, 8, 10), taper(gp_Ax2(gp_Pnt(40, 30, 10), gp_Dir(0, 0, -1)), 8, 0, tip)}));
  ASSERT_EQ(drilled.around.size(), 1u);
  ASSERT_TRUE(drilled.around[0].floor);
  EXPECT_NEAR(drilled.around[0].floor->thickness_mm, 10 - tip, kExact_mm);
}

TEST(HoleSurroundings, CrossingHolesAndWhere) {
  const TopoDS_Shape crossed =
      cut(block({0, 0, 0}, {80, 60, 20}),
          {bore(40, 30, 8, 20), bore(10, 10, 5, 20), rod(gp_Ax2(gp_Pnt(40, -1, 9), gp_Dir(0, 1, 0)), 5, 62)});
  const Looked looked = look(crossed);
  const HoleSurroundings& main = looked.of({40, 30, 20});
  ASSERT_EQ(main.crossed.size(), 1u);
  EXPECT_LT(main.crossed[0].place.Distance(gp_Pnt(40, 30, 9)), kExact_mm);
  EXPECT_NEAR(looked.report.holes[main.crossed[0].hole].diameter_mm, 5, kExact_mm);
  EXPECT_TRUE(looked.of({10, 10, 20}).crossed.empty());
}

// Bores that stand askew: the shortest distance between their lines.
TEST(HoleSurroundings, DistanceOfHolesThatAreNotParallel) {
  const Looked looked =
      look(cut(block({0, 0, 0}, {80, 60, 40}), {rod(gp_Ax2(gp_Pnt(24, 30, 40), gp_Dir(0, 0, -1)), 6, 40),
                                                rod(gp_Ax2(gp_Pnt(45, -1, 20), gp_Dir(0, 1, 0)), 6, 62)}));
  ASSERT_EQ(looked.around.size(), 2u);
  EXPECT_NEAR(looked.around[0].next->distance_mm, 21, kExact_mm);
  EXPECT_NEAR(looked.around[0].wall->thickness_mm, 21 - 3 - 3, kExact_mm);
}

TEST(HoleReach, FromEitherEndBlockedOrAslant) {
  // An arm over the bore at x = 20; the blind one at x = 60 opens upwards; one runs along Y.
  const TopoDS_Shape arm = join(block({0, 0, 0}, {80, 60, 20}),
                                {block({0, 50, 20}, {30, 60, 40}), block({0, 0, 35}, {30, 60, 40})});
  const Looked looked = look(cut(arm, {bore(20, 25, 8, 20), bore(60, 30, 8, 10),
                                       rod(gp_Ax2(gp_Pnt(70, -1, 5), gp_Dir(0, 1, 0)), 4, 62)}));
  const int under = looked.at({20, 25, 20}), blind = looked.at({60, 30, 20});
  const auto from_above = reach_of_holes(*looked.part, looked.report, gp_Dir(0, 0, 1));
  const auto from_below = reach_of_holes(*looked.part, looked.report, gp_Dir(0, 0, -1));
  EXPECT_EQ(from_above[under], HoleReach::kBlocked);
  EXPECT_TRUE(from_below[under] == HoleReach::kFromEntry || from_below[under] == HoleReach::kFromExit);
  EXPECT_EQ(from_above[blind], HoleReach::kFromEntry);
  EXPECT_EQ(from_below[blind], HoleReach::kBlocked);
  for (size_t i = 0; i < looked.report.holes.size(); ++i)
    if (looked.report.holes[i].axis.IsParallel(gp_Dir(0, 1, 0), 1e-6)) {
      EXPECT_EQ(from_above[i], HoleReach::kAslant);
    }
}

}  // namespace
}  // namespace anvil
