#include <gtest/gtest.h>

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include "base/units.h"

#include "demo/shapes.h"
#include "inspect/corners.h"
#include "part/mesh.h"
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
  EXPECT_NEAR(report.narrowest_passage->width_mm, 8.0, kExact_mm);  // the slot
}

TEST(Corners, PocketsOfTheSaddlePlate) {
  const CornerReport report = corners_of(*part_of(plate()), plate().tool_axis);
  std::map<long, const Pocket*> by_depth;
  for (const Pocket& pocket : report.pockets) by_depth[std::lround(pocket.depth_mm * 1000)] = &pocket;
  ASSERT_EQ(report.pockets.size(), 5u);  // four pockets and the slot
  EXPECT_NEAR(*by_depth.at(12000)->smallest_corner_mm, 6, kExact_mm);
  EXPECT_NEAR(*by_depth.at(8000)->floor_radius_mm, 1, kExact_mm);
  EXPECT_TRUE(by_depth.at(6000)->has_sharp_corner);
  EXPECT_NEAR(by_depth.at(6000)->narrowest->width_mm, 16, kExact_mm);
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
  EXPECT_FALSE(report.narrowest_passage);
}

// A level is no height: nothing depends on where the part lies along the tool.
TEST(Corners, DepthsDoNotDependOnWhereThePartLies) {
  for (const double down : {0.0, -100.0, 250.0}) {
    const TopoDS_Shape part = cut(block({0, 0, down - 30}, {60, 60, down}),
                                  {pocket(gp_Ax2(gp_Pnt(30, 30, down), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)),
                                          {30, 30, 10, {4, 4, 4, 4}, 2})});
    const CornerReport report = corners_of(*part_of(part), gp_Dir(0, 0, 1));
    const auto floors = of_kind(report, CornerKind::kFloorRound),
               walls = of_kind(report, CornerKind::kWallRound);
    ASSERT_EQ(floors.size(), 1u);
    EXPECT_NEAR(floors.front().depth_mm, 10, kExact_mm);
    EXPECT_NEAR(floors.front().reach_mm, 10, kExact_mm);
    ASSERT_EQ(walls.size(), 4u);
    for (const Corner& wall : walls) EXPECT_NEAR(wall.reach_mm, wall.depth_mm, kExact_mm);
  }
}

// However thin it is: a peg of 2 that stands 5.7 from a corner, 50 high.
TEST(Corners, ReachCountsAThinPeg) {
  const gp_Pnt corner(45, 45, 30);  // where the axis of a corner of radius 4 comes out
  const TopoDS_Shape plate =
      cut(block({0, 0, 0}, {80, 80, 30}),
          {pocket(gp_Ax2(gp_Pnt(34, 34, 30), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), {30, 30, 20, {4, 4, 4, 4}})});
  const gp_Pnt peg = corner.Translated(gp_Vec(gp_Dir(1, 0.4, 0)) * 5.7);
  const TopoDS_Shape part = join(plate, {rod(gp_Ax2(peg, gp_Dir(0, 0, 1)), 2, 50)});
  const auto corners = of_kind(corners_of(*part_of(part), gp_Dir(0, 0, 1)), CornerKind::kWallRound);
  ASSERT_EQ(corners.size(), 4u);
  const auto nearest =
      std::min_element(corners.begin(), corners.end(), [&](const Corner& a, const Corner& b) {
        return a.position.Distance(corner) < b.position.Distance(corner);
      });
  EXPECT_NEAR(nearest->depth_mm, 20, kExact_mm);
  EXPECT_NEAR(nearest->reach_mm, 70, kExact_mm);
  EXPECT_FALSE(nearest->reach_is_from_mesh);  // its top is flat
}

// A lip that covers no more than a strip of what the corner's cutter needs: straight up from the middle of
// the corner the way is free.
TEST(Corners, UndercutIsWhatTheWholeCutterMeets) {
  const TopoDS_Shape plate =
      cut(block({0, 0, 0}, {60, 60, 30}),
          {pocket(gp_Ax2(gp_Pnt(30, 30, 30), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), {30, 30, 20, {6, 6, 6, 6}})});
  const TopoDS_Shape part = join(plate, {block({14, 27, 26}, {17, 33, 30})});  // hangs into the pocket's side
  const TopoDS_Shape hooked =
      join(plate, {block({39, 41.5, 26}, {40.5, 45, 30})});  // into the way of one corner
  for (const Corner& corner : corners_of(*part_of(part), gp_Dir(0, 0, 1)).corners)
    EXPECT_FALSE(corner.kind == CornerKind::kWallRound && corner.undercut) << corner.position.X();
  int undercut = 0;
  for (const Corner& corner : corners_of(*part_of(hooked), gp_Dir(0, 0, 1)).corners)
    if (corner.kind == CornerKind::kWallRound && corner.undercut) {
      ++undercut;
      EXPECT_NEAR(corner.position.X(), 39, 1e-6);
      EXPECT_NEAR(corner.position.Y(), 39, 1e-6);
    }
  EXPECT_EQ(undercut, 1);
}

// Between a round boss and a flat wall it runs into: acos(6/10) for a radius of 10 whose middle stands 6 off
// the wall.
TEST(Corners, SharpCornersOfCurvedWallsHaveTheirAngle) {
  const TopoDS_Shape base = block({-40, -40, 0}, {40, 40, 10});
  const TopoDS_Shape part = join(
      base, {block({-40, -40, 10}, {40, 0, 30}), rod(gp_Ax2(gp_Pnt(0, 6, 10), gp_Dir(0, 0, 1)), 20, 20)});
  const auto sharp = of_kind(corners_of(*part_of(part), gp_Dir(0, 0, 1)), CornerKind::kWallSharp);
  ASSERT_EQ(sharp.size(), 2u);
  for (const Corner& corner : sharp) EXPECT_NEAR(corner.angle_rad, std::acos(0.6), 1e-6);
}

TopoDS_Shape pocketed_block() {
  return cut(
      block({0, 0, 0}, {100, 80, 30}),
      {pocket(gp_Ax2(gp_Pnt(50, 40, 30), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), {80, 60, 10, {8, 8, 8, 8}})});
}

void expect_passage(const TopoDS_Shape& islands, double width) {
  const CornerReport report = corners_of(*part_of(islands), gp_Dir(0, 0, 1));
  ASSERT_TRUE(report.narrowest_passage);
  EXPECT_NEAR(report.narrowest_passage->width_mm, width, kExact_mm);
  EXPECT_NEAR(report.narrowest_passage->on_a.Distance(report.narrowest_passage->on_b), width, kExact_mm);
  EXPECT_FALSE(report.narrowest_passage->approximate);
  EXPECT_NEAR(*report.largest_cutter_mm, width, kExact_mm);
  ASSERT_EQ(report.pockets.size(), 1u);
  EXPECT_FALSE(report.pockets.front().open);  // islands do not open a pocket
}

const gp_Dir kUp(0, 0, 1);

TEST(Passages, BetweenRoundIslands) {
  expect_passage(join(pocketed_block(), {rod(gp_Ax2(gp_Pnt(40, 40, 20), kUp), 15, 10),
                                         rod(gp_Ax2(gp_Pnt(60, 40, 20), kUp), 15, 10)}),
                 5);
}

TEST(Passages, BetweenFlatIslandsThatFaceOverAPieceOfTheirSides) {
  expect_passage(
      join(pocketed_block(), {block({30, 25, 20}, {45, 44, 30}), block({48, 40, 20}, {60, 60, 30})}), 3);
}

TEST(Passages, BetweenABossAndAWall) {
  // The wall stands at x = 10; the boss of 20 with its middle at 24 leaves 4.
  expect_passage(join(pocketed_block(), {rod(gp_Ax2(gp_Pnt(24, 40, 20), kUp), 20, 10)}), 4);
}

// A pocketed block, and beside it the same as triangles only: these have no corners and stand in nobody's
// way.
TEST(Corners, BesideTrianglesWithoutASurface) {
  const TopoDS_Shape solid = pocketed_block();
  mesh_shape(solid);
  std::vector<Handle(Poly_Triangulation)> meshes;
  for (TopExp_Explorer it(solid, TopAbs_FACE); it.More(); it.Next()) {
    TopLoc_Location at;
    meshes.push_back(BRep_Tool::Triangulation(TopoDS::Face(it.Current()), at));
  }
  gp_Trsf aside;
  aside.SetTranslation(gp_Vec(500, 0, 0));
  Body exact, triangles;
  exact.shape = solid;
  triangles.kind = BodyKind::kMesh;
  triangles.shape = moved_mesh(mesh_body(meshes), aside);
  const Part both(SourceInfo{}, {exact, triangles});
  const CornerReport alone = corners_of(*part_of(solid), kUp), beside = corners_of(both, kUp);
  EXPECT_EQ(beside.corners.size(), alone.corners.size());
  EXPECT_NEAR(*beside.largest_cutter_mm, *alone.largest_cutter_mm, kExact_mm);
  for (const Corner& corner : beside.corners) EXPECT_FALSE(corner.undercut);
}

TEST(Passages, BetweenIslandsCornerToCorner) {
  expect_passage(
      join(pocketed_block(), {block({30, 25, 20}, {45, 40, 30}), block({48, 44, 20}, {60, 60, 30})}), 5);
}

// Two walls that lean to each other by 4 degrees end 6 apart: the mouth is from the end of one square to the
// other.
TEST(Passages, AtAMouthBetweenWallsThatAreNotParallel) {
  const double lean = std::tan(radians(4));
  BRepBuilderAPI_MakePolygon outline;
  for (const gp_Pnt& p :
       {gp_Pnt(40, 46, 20), gp_Pnt(70, 46 + 30 * lean, 20), gp_Pnt(70, 60, 20), gp_Pnt(40, 60, 20)})
    outline.Add(p);
  outline.Close();
  const TopoDS_Shape leaning =
      BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(outline.Wire()).Face(), gp_Vec(0, 0, 10)).Shape();
  expect_passage(join(pocketed_block(), {leaning, block({38, 25, 20}, {72, 40, 30})}), 6);
}

TEST(Passages, AreNotTooNarrowWhereThereIsNone) {
  const CornerReport report = corners_of(*part_of(pocketed_block()), kUp);
  EXPECT_NEAR(report.narrowest_passage->width_mm, 60, kExact_mm);  // from wall to wall
  EXPECT_NEAR(*report.largest_cutter_mm, 16, kExact_mm);
  EXPECT_EQ(reservations_text(report, 20), "");
}

}  // namespace
}  // namespace anvil
