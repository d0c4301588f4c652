// What picks give, and what the tray says they are.
#include <gtest/gtest.h>

#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>

#include "construct/construction.h"
#include "construct/solve.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "pick/given.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::edge_at;
using test::face_at;
using test::part_of;
using test::vertex_at;

class Picks : public testing::Test {
 protected:
  [[nodiscard]] std::string text(TopologyKind kind, int index, Snap snap = Snap::kWhole,
                                 Display display = {}) const {
    return pick_text(*part, kind, index, snap, display);
  }

  PartPtr part = part_of(demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                                   {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 12)}));
  gp_Trsf motion = test::odd_motion();
};

TEST_F(Picks, FlatFaceGivesItsPlaneWithTheOutwardNormal) {
  const Given top = given_by_face(*part, face_at(*part, {60, 20, 20}, SurfaceKind::kPlane), {});
  EXPECT_TRUE(gives(top, Need::kPlane) && gives(top, Need::kDirection) && gives(top, Need::kFlatFace));
  EXPECT_FALSE(gives(top, Need::kPoint) || gives(top, Need::kAxis) || gives(top, Need::kEdge));
  EXPECT_TRUE(top.direction->IsEqual(gp_Dir(0, 0, 1), 1e-12));
  const Given floor = given_by_face(*part, face_at(*part, {20, 20, 8}, SurfaceKind::kPlane), {});
  EXPECT_TRUE(floor.direction->IsEqual(gp_Dir(0, 0, 1), 1e-12));
  const Given bottom = given_by_face(*part, face_at(*part, {60, 20, 0}, SurfaceKind::kPlane), {});
  EXPECT_TRUE(bottom.direction->IsEqual(gp_Dir(0, 0, -1), 1e-12));
}

TEST_F(Picks, EverythingFollowsThePlacement) {
  const int bore = face_at(*part, {25, 20, 15}, SurfaceKind::kCylinder);
  const Given plain = given_by_face(*part, bore, {}), moved = given_by_face(*part, bore, motion);
  EXPECT_LT(distance(*moved.axis, plain.axis->Location().Transformed(motion)), 1e-9);
  EXPECT_TRUE(moved.direction->IsEqual(plain.direction->Transformed(motion), 1e-12));
  const int corner = vertex_at(*part, {80, 0, 20});
  EXPECT_LT(given_by_vertex(*part, corner, motion).point->Distance(gp_Pnt(80, 0, 20).Transformed(motion)),
            1e-9);
  const int edge = edge_at(*part, {40, 0, 20});
  EXPECT_LT(given_by_edge(*part, edge, Snap::kMiddle, motion)
                .point->Distance(gp_Pnt(40, 0, 20).Transformed(motion)),
            1e-9);
}

TEST_F(Picks, CircleGivesItsCentreItsAxisAndItsPlane) {
  const Given rim = given_by_edge(*part, edge_at(*part, {25, 20, 20}), Snap::kWhole, {});
  EXPECT_TRUE(gives(rim, Need::kCircle) && gives(rim, Need::kPoint) && gives(rim, Need::kAxis) &&
              gives(rim, Need::kPlane) && gives(rim, Need::kEdge));
  EXPECT_FALSE(gives(rim, Need::kStraightEdge) || gives(rim, Need::kFlatFace));
  EXPECT_LT(rim.point->Distance(gp_Pnt(20, 20, 20)), 1e-12);
  EXPECT_NEAR(height_over(*rim.plane, gp_Pnt(0, 0, 20)), 0, 1e-12);
  const Given centre = given_by_edge(*part, edge_at(*part, {25, 20, 20}), Snap::kCentre, {});
  EXPECT_TRUE(gives(centre, Need::kPoint));
  EXPECT_FALSE(gives(centre, Need::kAxis));
}

// Along the axes of the placed part, whichever way the circle was drawn and the part was turned.
TEST_F(Picks, QuadrantsOfACircleLieAlongThePlacedAxes) {
  gp_Trsf turn;
  turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), 0.7);
  for (const gp_Trsf& placement : {gp_Trsf(), turn}) {
    const gp_Pnt centre = gp_Pnt(20, 20, 20).Transformed(placement);
    const gp_Vec along[] = {{5, 0, 0}, {0, 5, 0}, {-5, 0, 0}, {0, -5, 0}};
    for (int i = 0; i < 4; ++i) {
      const Given at = given_by_edge(*part, edge_at(*part, {25, 20, 20}), kQuadrants[i], placement);
      ASSERT_TRUE(at.point);
      EXPECT_LT(at.point->Distance(centre.Translated(along[i])), 1e-9) << i;
      EXPECT_TRUE(at.shape.IsNull());
    }
  }
}

TEST_F(Picks, StraightEdgeGivesItsLine) {
  const Given edge = given_by_edge(*part, edge_at(*part, {40, 0, 20}), Snap::kWhole, {});
  EXPECT_TRUE(gives(edge, Need::kStraightEdge) && gives(edge, Need::kAxis) && gives(edge, Need::kDirection));
  EXPECT_FALSE(gives(edge, Need::kPoint) || gives(edge, Need::kPlane) || gives(edge, Need::kCircle));
  EXPECT_NEAR(distance(*edge.axis, gp_Pnt(-7, 0, 20)), 0, 1e-12);
}

TEST_F(Picks, TheTraySaysWhatAPickIs) {
  using enum TopologyKind;
  EXPECT_EQ(text(kFace, face_at(*part, {60, 20, 20}, SurfaceKind::kPlane)), "flat face");
  EXPECT_EQ(text(kFace, face_at(*part, {25, 20, 15}, SurfaceKind::kCylinder)),
            "cylinder, Ø10.000, inside, depth 12.000");
  const int rim = edge_at(*part, {25, 20, 20}), side = edge_at(*part, {40, 0, 20});
  EXPECT_EQ(text(kEdge, rim), "circle Ø10.000");
  EXPECT_EQ(text(kEdge, rim, Snap::kCentre), "centre of circle Ø10.000");
  EXPECT_EQ(text(kEdge, rim, Snap::kQuadrant1), "quadrant of circle Ø10.000");
  EXPECT_EQ(text(kEdge, side), "straight edge, length 80.000");
  EXPECT_EQ(text(kEdge, side, Snap::kMiddle), "middle of straight edge, length 80.000");
  EXPECT_EQ(text(kEdge, side, Snap::kWhole, Display{Unit::kInch}), "straight edge, length 3.1496");
  EXPECT_EQ(text(kVertex, 0), "vertex");
}

TEST(PickText, OtherSurfacesAreNamedWithTheirSizes) {
  const auto first_text = [](const TopoDS_Shape& shape, SurfaceKind kind) {
    const PartPtr part = part_of(shape);
    for (size_t i = 0; i < part->topology().faces.size(); ++i)
      if (part->topology().faces[i].surface.kind == kind)
        return pick_text(*part, TopologyKind::kFace, static_cast<int>(i), Snap::kWhole, {});
    return std::string("none");
  };
  EXPECT_EQ(first_text(BRepPrimAPI_MakeCone(10, 4, 6).Shape(), SurfaceKind::kCone),
            "cone, 90.000° included, outside");
  EXPECT_EQ(first_text(BRepPrimAPI_MakeSphere(6.5).Shape(), SurfaceKind::kSphere),
            "sphere, Ø13.000, outside");
  EXPECT_EQ(first_text(BRepPrimAPI_MakeTorus(20, 3).Shape(), SurfaceKind::kTorus),
            "torus, rounding 3.000, outside");
}

TEST(PickGives, SphereGivesItsCentreAndTorusItsAxis) {
  const PartPtr ball = part_of(BRepPrimAPI_MakeSphere(gp_Pnt(1, 2, 3), 5).Shape());
  EXPECT_LT(given_by_face(*ball, 0, {}).point->Distance(gp_Pnt(1, 2, 3)), 1e-12);
  const PartPtr ring =
      part_of(BRepPrimAPI_MakeTorus(gp_Ax2(gp_Pnt(4, 5, 6), gp_Dir(1, 0, 0)), 20, 3).Shape());
  EXPECT_NEAR(distance(*given_by_face(*ring, 0, {}).axis, gp_Pnt(-9, 5, 6)), 0, 1e-12);
}

TEST(Sentences, NumbersArePutInWhereverTheyBelong) {
  EXPECT_EQ(fill_numbers("Distance {1} to {2}, and {1} again", {2, 5}), "Distance ② to ⑤, and ② again");
  EXPECT_EQ(fill_numbers("Nothing to fill", {1}), "Nothing to fill");
  EXPECT_EQ(circled(1), "①");
  EXPECT_EQ(circled(20), "⑳");
  EXPECT_EQ(circled(21), "(21)");
}

TEST(Parameters, AreReadInTheUnitOnTheScreen) {
  const Parameter length{"distance", "Distance", Quantity::kLength, "10mm"};
  EXPECT_DOUBLE_EQ(*evaluate_parameter(length, "2", Unit::kInch, {}), 50.8);
  EXPECT_DOUBLE_EQ(*evaluate_parameter(length, "2 + top.height", Unit::kMillimetre, {{"top.height", 7.5}}),
                   9.5);
  EXPECT_NEAR(*evaluate_parameter({"angle", "Angle", Quantity::kAngle, "0"}, "180", Unit::kMillimetre, {}),
              kPi, 1e-15);
  const Parameter choice{"about", "About", Quantity::kChoice, "Z", {"X", "Y", "Z"}};
  EXPECT_TRUE(evaluate_parameter(choice, "Y", Unit::kMillimetre, {}));
  const auto none = evaluate_parameter(choice, "W", {}, {});
  ASSERT_FALSE(none);
  EXPECT_EQ(none.error().sentence, "\"W\" is no choice for About");
}

TEST(Solutions, TheChosenOneIsFoundByWhatItMeans) {
  const std::vector<Solution> solutions{{PointDatum{}, "near", ""}, {PointDatum{}, "far", ""}};
  EXPECT_EQ(chosen(solutions, "far"), 1u);
  EXPECT_EQ(chosen(solutions, ""), 0u);
  EXPECT_EQ(chosen(solutions, "gone"), 0u);
}

}  // namespace
}  // namespace anvil
