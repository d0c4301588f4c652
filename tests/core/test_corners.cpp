#include <gtest/gtest.h>

#include "demo/shapes.h"
#include "inspect/corners.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;

constexpr double kExact_mm = 1e-6;

std::vector<Corner> of_kind(const CornerReport& report, CornerKind kind) {
  std::vector<Corner> found;
  for (const Corner& corner : report.corners)
    if (corner.kind == kind && !corner.undercut) found.push_back(corner);
  return found;
}

TEST(Corners, SaddlePlateHasExactlyWhatItWasConstructedWith) {
  expect_wall_corners(*part_of(plate()), plate());
}

TEST(Corners, DeclinationHousingHasExactlyWhatItWasConstructedWith) {
  expect_wall_corners(*part_of(housing()), housing());
}

TEST(Corners, FloorRadiusIsOneRunAroundThePocket) {
  const auto floors = of_kind(corners_of(*part_of(plate()), plate().tool_axis), CornerKind::kFloorRound);
  ASSERT_EQ(floors.size(), 1u);
  EXPECT_NEAR(floors.front().radius_mm, 1.0, kExact_mm);
  EXPECT_NEAR(floors.front().depth_mm, 8.0, kExact_mm);
  EXPECT_EQ(floors.front().faces.size(), 8u);  // four along the walls, four around the corners
}

TEST(Corners, FloorsOfOpenPocketsAreNotUndercut) {
  for (const Corner& corner : corners_of(*part_of(plate()), plate().tool_axis).corners)
    EXPECT_FALSE(corner.undercut) << corner.name << " " << corner_name(corner.kind);
}

TEST(Corners, SmallestRadiusAndLargestCutter) {
  const CornerReport report = corners_of(*part_of(plate()), plate().tool_axis);
  EXPECT_NEAR(*report.smallest_wall_radius_mm, 1.5, kExact_mm);
  EXPECT_NEAR(*report.largest_cutter_mm, 3.0, kExact_mm);
  EXPECT_EQ(report.sharp_wall_corners, 1);
  EXPECT_NEAR(*report.smallest_slot_end_mm, 4.0, kExact_mm);
  EXPECT_NEAR(*report.narrowest_passage_mm, 8.0, kExact_mm);  // the slot
}

TEST(Corners, PocketsOfTheSaddlePlate) {
  const CornerReport report = corners_of(*part_of(plate()), plate().tool_axis);
  std::map<long, const Pocket*> by_depth;
  for (const Pocket& pocket : report.pockets) by_depth[std::lround(pocket.depth_mm * 1000)] = &pocket;
  ASSERT_EQ(report.pockets.size(), 5u);  // four pockets and the slot
  EXPECT_NEAR(*by_depth.at(12000)->smallest_corner_mm, 6, kExact_mm);
  EXPECT_NEAR(*by_depth.at(8000)->floor_radius_mm, 1, kExact_mm);
  EXPECT_TRUE(by_depth.at(6000)->has_sharp_corner);
  EXPECT_NEAR(*by_depth.at(6000)->narrowest_mm, 16, kExact_mm);
  EXPECT_TRUE(by_depth.at(22000)->through);
  for (const Pocket& pocket : report.pockets) EXPECT_FALSE(pocket.open);
}

TEST(Corners, FromBelowOnlyTheSlotIsLeft) {
  const CornerReport report = corners_of(*part_of(plate()), plate().tool_axis.Reversed());
  for (const Corner& corner : report.corners) EXPECT_TRUE(corner.undercut) << corner.name;
  EXPECT_FALSE(report.smallest_wall_radius_mm);
}

TEST(Corners, ReachCountsWhatStandsBesideTheHolder) {
  // A pocket 10 deep with a tower 25 high beside it: depth 10, reach 35.
  const TopoDS_Shape base = join(block({0, 0, 0}, {100, 60, 30}), {block({60, 0, 30}, {100, 60, 55})});
  const TopoDS_Shape part =
      cut(base,
          {pocket(gp_Ax2(gp_Pnt(40, 30, 30), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), {30, 30, 10, {4, 4, 4, 4}})});
  const auto corners = of_kind(corners_of(*part_of(part), gp_Dir(0, 0, 1)), CornerKind::kWallRound);
  ASSERT_EQ(corners.size(), 4u);
  for (const Corner& corner : corners) {
    EXPECT_NEAR(corner.depth_mm, 10, kExact_mm);
    EXPECT_NEAR(corner.reach_mm, corner.position.X() > 40 ? 35 : 10,
                1e-3);  // the mesh carries single precision
  }
}

TEST(Corners, CornerUnderARoofIsUndercut) {
  // A side pocket seen from above: its upright corners have a roof.
  const gp_Ax2 side(gp_Pnt(0, 30, 20), gp_Dir(-1, 0, 0), gp_Dir(0, 1, 0));
  const TopoDS_Shape part = cut(block({0, 0, 0}, {60, 60, 40}), {pocket(side, {30, 20, 15, {0, 0, 0, 0}})});
  const CornerReport report = corners_of(*part_of(part), gp_Dir(0, 0, 1));
  ASSERT_FALSE(report.corners.empty());
  for (const Corner& corner : report.corners) EXPECT_TRUE(corner.undercut) << corner_name(corner.kind);
  EXPECT_FALSE(report.largest_cutter_mm);  // what cannot be cut limits nothing
  EXPECT_FALSE(report.narrowest_passage_mm);
}

}  // namespace
}  // namespace anvil
