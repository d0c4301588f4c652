// What limits a cutter where no round corner does: necks, mouths, round floors. The numbers are those that
// the parts were made with.
#include <gtest/gtest.h>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepPrimAPI_MakePrism.hxx>

#include "demo/shapes.h"
#include "geom/primitives.h"
#include "inspect/corner_summary.h"
#include "inspect/holes.h"
#include "support/fixtures.h"

namespace anvil::test {
namespace {

using namespace anvil::demo;  // NOLINT: the shapes that cases are built from

constexpr double kExact_mm = 1e-4;

TopoDS_Shape block_100() {
  return block({0, 0, 0}, {100, 60, 40});
}
// A prism along X of the outline in Y and Z.
TopoDS_Shape bar(const std::vector<std::pair<double, double>>& outline, double from_x, double to_x) {
  BRepBuilderAPI_MakePolygon polygon;
  for (const auto& [y, z] : outline) polygon.Add(gp_Pnt(from_x, y, z));
  polygon.Close();
  return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(polygon.Wire()), gp_Vec(to_x - from_x, 0, 0));
}

CornerReport from_above(const TopoDS_Shape& shape) {
  CornerOptions options;
  options.axis = gp_Dir(0, 0, 1);
  return *find_corners(*part_of(shape), options);
}

TEST(CutterLimits, TheNeckOverATSlot) {
  const CornerReport report =
      from_above(cut(block_100(), {block({-1, 25, 20}, {101, 35, 41}), block({-1, 20, 10}, {101, 40, 20})}));
  EXPECT_NEAR(report.largest_cutter_mm.value_or(0), 10, kExact_mm) << report.largest_cutter_why;
}

TEST(CutterLimits, TheMouthOfADovetail) {
  const CornerReport report =
      from_above(cut(block_100(), {bar({{25, 40}, {35, 40}, {42, 25}, {18, 25}}, -1, 101)}));
  EXPECT_NEAR(report.largest_cutter_mm.value_or(0), 10, kExact_mm) << report.largest_cutter_why;
}

TEST(CutterLimits, AChannelWithAFullRoundFloor) {
  const TopoDS_Shape round = rod(gp_Ax2(gp_Pnt(-1, 30, 24), gp_Dir(1, 0, 0)), 8, 102);
  const CornerReport report =
      from_above(cut(block_100(), {join(block({-1, 26, 24}, {101, 34, 41}), {round})}));
  EXPECT_NEAR(report.largest_cutter_mm.value_or(0), 8, kExact_mm) << report.largest_cutter_why;
  ASSERT_EQ(report.pockets.size(), 1U);
  EXPECT_NEAR(report.pockets[0].floor_radius_mm.value_or(0), 4, kExact_mm);
}

TEST(CutterLimits, AChannelThatIsNarrowestWhereItIsOpen) {
  BRepBuilderAPI_MakePolygon wedge;
  for (const gp_Pnt& p : {gp_Pnt(0, 25, 20), gp_Pnt(0, 35, 20), gp_Pnt(70, 45, 20), gp_Pnt(70, 15, 20)})
    wedge.Add(p);
  wedge.Close();
  const TopoDS_Shape channel = BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wedge.Wire()), gp_Vec(0, 0, 30));
  const CornerReport report = from_above(cut(block_100(), {channel, block({-5, 25, 20}, {0, 35, 50})}));
  EXPECT_NEAR(report.narrowest_passage ? report.narrowest_passage->width_mm : 0, 10, kExact_mm);
  const CornerReport narrow_beyond = from_above(
      cut(block_100(), {channel, block({-5, 25, 20}, {0, 35, 50}), block({70, 15, 20}, {105, 45, 50})}));
  EXPECT_NEAR(narrow_beyond.largest_cutter_mm.value_or(0), 10, kExact_mm) << narrow_beyond.largest_cutter_why;
}

TEST(CutterLimits, NoAnswerWithoutAReason) {
  for (const TopoDS_Shape& shape : {block_100(), cut(block_100(), {block({40, -1, 20}, {60, 61, 50})})}) {
    const CornerReport report = from_above(shape);
    EXPECT_FALSE(report.largest_cutter_why.empty());
    for (const Pocket& pocket : report.pockets) EXPECT_FALSE(pocket.largest_cutter_why.empty());
  }
}

}  // namespace
}  // namespace anvil::test
