// Forms of holes and slots that are easily taken for others, each against the numbers it was made from.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Elips.hxx>

#include "base/units.h"
#include "demo/shapes.h"
#include "inspect/corners.h"
#include "inspect/holes.h"
#include "part/measure.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;

constexpr double kExact_mm = 1e-6;
const gp_Dir kDown(0, 0, -1), kUp(0, 0, 1);

gp_Ax2 down_from(double x, double y, double z) {
  return gp_Ax2(gp_Pnt(x, y, z), kDown);
}

std::string steps_text(const Hole& hole) {
  std::string text;
  for (const HoleStep& step : hole.steps)
    text += (text.empty() ? "" : " ") + std::string(step_name(step.kind));
  return text;
}

Hole only_hole(const TopoDS_Shape& shape) {
  const HoleReport report = holes_of(*part_of(shape));
  EXPECT_EQ(report.holes.size(), 1u);
  return report.holes.empty() ? Hole{} : report.holes.front();
}

// A straight slot of width 8 between (30, 30) and (60, 30) in the top of a block 90 x 60 x 20.
TopoDS_Shape slot_tool(double depth) {
  const double w = 8;
  ShapeUpgrade_UnifySameDomain unify(
      join(block({30, 30 - w / 2, 20 - depth}, {60, 30 + w / 2, 20}),
           {rod(down_from(30, 30, 20), w, depth), rod(down_from(60, 30, 20), w, depth)}));
  unify.Build();
  return unify.Shape();
}

// Chamfers or rounds, by its maker, the edges whose middles are wanted; those that follow another smoothly
// are taken along.
template <class Maker>
TopoDS_Shape with_edges(const TopoDS_Shape& shape, double size, bool (*wanted)(const gp_Pnt& middle)) {
  Maker maker(shape);
  for (TopExp_Explorer it(shape, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge edge = TopoDS::Edge(it.Current());
    const BRepAdaptor_Curve curve(edge);
    if (wanted(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2)) && maker.Contour(edge) == 0)
      maker.Add(size, edge);
  }
  return maker.Shape();
}

void expect_slot(const HoleReport& report, double depth) {
  EXPECT_TRUE(report.holes.empty()) << "the ends of a slot are no holes";
  ASSERT_EQ(report.slots.size(), 1u);
  const Slot& slot = report.slots.front();
  EXPECT_NEAR(slot.width_mm, 8, kExact_mm);
  EXPECT_NEAR(slot.length_mm, 38, kExact_mm);
  EXPECT_NEAR(slot.depth_mm, depth, kExact_mm);
  EXPECT_NEAR(slot.centre_a.Z(), 20, kExact_mm);
}

TEST(HoleForms, SlotWithAChamferedMouthIsASlotFromTheFaceDown) {
  const TopoDS_Shape plain = cut(block({0, 0, 0}, {90, 60, 20}), {slot_tool(12)});
  const TopoDS_Shape chamfered = with_edges<BRepFilletAPI_MakeChamfer>(plain, 1, [](const gp_Pnt& p) {
    return std::abs(p.Z() - 20) < 1e-6 && p.X() > 20 && p.X() < 70 && p.Y() > 20 && p.Y() < 40;
  });
  expect_slot(holes_of(*part_of(chamfered)), 12);
}

TEST(HoleForms, SlotWithARoundedFloorGoesDownToItsFloor) {
  const TopoDS_Shape plain_slot = cut(block({0, 0, 0}, {90, 60, 20}), {slot_tool(12)});
  const TopoDS_Shape rounded = with_edges<BRepFilletAPI_MakeFillet>(
      plain_slot, 1.5, [](const gp_Pnt& p) { return std::abs(p.Z() - 8) < 1e-6; });
  expect_slot(holes_of(*part_of(rounded)), 12);
}

TEST(HoleForms, SlotThatRunsOutOfThePartHasOneRoundEnd) {
  const TopoDS_Shape open = cut(block({0, 0, 0}, {90, 60, 20}),
                                {block({50, 25, 12}, {90, 35, 20}), rod(down_from(50, 30, 20), 10, 8)});
  const HoleReport report = holes_of(*part_of(open));
  ASSERT_EQ(report.slots.size(), 1u);
  const Slot& slot = report.slots.front();
  EXPECT_TRUE(slot.open_end);
  EXPECT_NEAR(slot.width_mm, 10, kExact_mm);
  EXPECT_NEAR(slot.length_mm, 45, kExact_mm);
  EXPECT_NEAR(slot.depth_mm, 8, kExact_mm);
  EXPECT_LT(slot.centre_a.Distance(gp_Pnt(50, 30, 20)), kExact_mm);
  EXPECT_LT(slot.centre_b.Distance(gp_Pnt(90, 30, 20)), kExact_mm);
  EXPECT_TRUE(report.holes.empty());
}

// Four keyways leave four pieces of less than half a turn: still one bore, and no corners.
TEST(HoleForms, BoreCutByFourKeywaysIsOneHole) {
  for (const double depth : {20.0, 14.0}) {
    std::vector<TopoDS_Shape> tools{rod(down_from(30, 30, 20), 24, depth)};
    tools.push_back(block({15, 26, 20 - depth}, {45, 34, 20}));
    tools.push_back(block({26, 15, 20 - depth}, {34, 45, 20}));
    const TopoDS_Shape part = cut(block({0, 0, 0}, {60, 60, 20}), tools);
    const Hole hole = only_hole(part);
    EXPECT_NEAR(hole.diameter_mm, 24, kExact_mm);
    EXPECT_NEAR(hole.depth_mm, depth, kExact_mm);
    EXPECT_EQ(hole.through, depth > 19);
    EXPECT_FALSE(hole.full_turn);
    EXPECT_LT(hole.entry.Distance(gp_Pnt(30, 30, 20)), kExact_mm);
    for (const Corner& corner : corners_of(*part_of(part), kUp).corners)
      EXPECT_NE(corner.kind, CornerKind::kWallRound);
  }
}

// Pieces of one circle with material between them and its middle are no bore.
TEST(HoleForms, CurvedSlotsOnOneCircleAreNoHole) {
  TopoDS_Shape ring =
      cut(rod(gp_Ax2(gp_Pnt(0, 0, 10), kUp), 80, 20), {rod(gp_Ax2(gp_Pnt(0, 0, 10), kUp), 60, 20)});
  for (int i = 0; i < 3; ++i) {
    gp_Trsf turn;
    turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), kUp), i * 2 * kPi / 3);
    ring = cut(ring, {block({0, -6, 0}, {60, 6, 40}).Moved(TopLoc_Location(turn))});
  }
  const HoleReport report = holes_of(*part_of(cut(block({-60, -60, 0}, {60, 60, 20}), {ring})));
  EXPECT_TRUE(report.holes.empty());
}

TEST(HoleForms, HeadLetInBelowACounterboreIsACountersink) {
  // Ø14 x 2, then 90 degrees to Ø6.6.
  const Hole sunk = only_hole(cut(block({0, 0, 0}, {40, 40, 20}),
                                  {rod(down_from(20, 20, 20), 6.6, 20), rod(down_from(20, 20, 20), 14, 2),
                                   taper(down_from(20, 20, 18), 14, 6.6, 3.7)}));
  EXPECT_EQ(steps_text(sunk), "counterbore countersink bore");
  // What a drill's point leaves between two bores is none.
  const double point = (10 - 5) / 2.0 / std::tan(radians(59));
  const Hole stepped = only_hole(cut(block({0, 0, 0}, {40, 40, 40}),
                                     {rod(down_from(20, 20, 40), 5, 40), rod(down_from(20, 20, 40), 10, 20),
                                      taper(down_from(20, 20, 20), 10, 5, point)}));
  EXPECT_EQ(steps_text(stepped), "counterbore taper bore");
}

TEST(HoleForms, ReliefAtTheBottomIsAGroove) {
  const Hole hole = only_hole(cut(block({0, 0, 0}, {40, 40, 20}),
                                  {rod(down_from(20, 20, 20), 12, 15), rod(down_from(20, 20, 8), 14, 3)}));
  EXPECT_EQ(steps_text(hole), "bore groove flat");
  EXPECT_NEAR(hole.diameter_mm, 12, kExact_mm);
  EXPECT_NEAR(hole.depth_mm, 15, kExact_mm);
  // From the other side of a through hole it is a counterbore.
  const Hole through = only_hole(cut(block({0, 0, 0}, {40, 40, 20}),
                                     {rod(down_from(20, 20, 20), 12, 20), rod(down_from(20, 20, 3), 14, 3)}));
  EXPECT_EQ(steps_text(through), "counterbore bore");
}

TEST(HoleForms, BrokenEdgeOfASmallHoleIsAChamfer) {
  const auto mouth = [](double bore, double leg) {
    return steps_text(only_hole(cut(
        block({0, 0, 0}, {40, 40, 20}),
        {rod(down_from(20, 20, 20), bore, 20), taper(down_from(20, 20, 20), bore + 2 * leg, bore, leg)})));
  };
  EXPECT_EQ(mouth(3, 0.5), "chamfer bore");
  EXPECT_EQ(mouth(10, 1), "chamfer bore");
  EXPECT_EQ(mouth(3.4, 1.45), "countersink bore");
}

TEST(HoleForms, BallBottomIsAStepOfItsOwn) {
  const TopoDS_Shape tool =
      join(rod(down_from(20, 20, 20), 10, 12), {BRepPrimAPI_MakeSphere(gp_Pnt(20, 20, 8), 5).Shape()});
  const Hole hole = only_hole(cut(block({0, 0, 0}, {40, 40, 20}), {tool}));
  EXPECT_EQ(steps_text(hole), "bore ball");
  EXPECT_NEAR(hole.depth_mm, 12, kExact_mm);
  EXPECT_NEAR(hole.steps.back().depth_mm, 5, kExact_mm);
}

TEST(HoleForms, BothOpeningsAndTheirSlopesAreTold) {
  const TopoDS_Shape wedge = cut(block({0, 0, 0}, {40, 40, 40}), {[] {
                                   gp_Trsf lean;
                                   lean.SetRotation(gp_Ax1(gp_Pnt(0, 0, 30), gp_Dir(0, 1, 0)), radians(-20));
                                   return block({-50, -50, 30}, {100, 100, 130}).Moved(TopLoc_Location(lean));
                                 }()});
  const Hole hole = only_hole(cut(wedge, {rod(down_from(20, 20, 60), 6, 60)}));
  ASSERT_TRUE(hole.exit);
  const gp_Pnt slanted(20, 20, 30 + 20 * std::tan(radians(20)));
  EXPECT_LT(std::min(hole.entry.Distance(slanted), hole.exit->Distance(slanted)), kExact_mm);
  EXPECT_NEAR(degrees(std::max(*hole.entry_slope_rad, *hole.exit_slope_rad)), 20, 1e-6);
  EXPECT_NEAR(std::min(*hole.entry_slope_rad, *hole.exit_slope_rad), 0, 1e-9);
}

TEST(HoleForms, ExtrudedEllipseIsNotRoundWhateverItLooksLike) {
  const gp_Dir leaning(0, std::sin(radians(30)), std::cos(radians(30)));
  const gp_Elips ellipse(gp_Ax2(gp_Pnt(30, 30, -10), leaning, gp_Dir(1, 0, 0)), 8, 8 * std::cos(radians(30)));
  for (const bool as_splines : {false, true}) {
    TopoDS_Shape tool = BRepPrimAPI_MakePrism(
        BRepBuilderAPI_MakeFace(BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(ellipse).Edge()).Wire())
            .Face(),
        gp_Vec(leaning) * 60);
    TopoDS_Shape made = cut(block({0, 0, 0}, {60, 60, 20}), {tool});
    if (as_splines) made = BRepBuilderAPI_NurbsConvert(made, true).Shape();
    const Hole hole = only_hole(made);
    EXPECT_FALSE(hole.round);
    EXPECT_TRUE(hole.through);
    EXPECT_NEAR(hole.long_mm, 16, 1e-4);
    EXPECT_NEAR(hole.short_mm, 16 * std::cos(radians(30)), 1e-4);
    // Its mouths are as long as it is wide, seen from above: 16 by cos(30) / cos(30) of 16.
    EXPECT_NEAR(seen_along(hole, kUp).long_mm, 16, 1e-4);
    EXPECT_NEAR(seen_along(hole, kUp).short_mm, 16 * std::cos(radians(30)) * std::cos(radians(30)), 1e-4);
    EXPECT_TRUE(holes_of(*part_of(made)).not_judged.empty());
  }
  Hole round;
  round.axis = leaning;
  round.diameter_mm = round.long_mm = round.short_mm = 10;
  EXPECT_NEAR(seen_along(round, kUp).short_mm, 10 * std::cos(radians(30)), 1e-9);
  EXPECT_NEAR(seen_along(round, leaning).short_mm, 10, 1e-9);
}

}  // namespace
}  // namespace anvil
