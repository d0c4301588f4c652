// How points, axes, planes and frames stand to each other: defining properties on random inputs, and the
// inputs that have no answer.
#include <gtest/gtest.h>

#include <gp_Lin.hxx>

#include "base/units.h"
#include "geom/primitives.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::Random;

constexpr unsigned kSeed = 20261125;
constexpr int kRounds = 1000;
constexpr double kRounding = 1e-9;  // of coordinates up to 1000 mm

TEST(Primitives, FeetAreTheNearestPoints) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pnt p = random.point();
    const gp_Pln plane = random.plane();
    const gp_Ax1 axis = random.axis();
    const gp_Pnt on_plane = foot_on(plane, p), on_axis = foot_on(axis, p);
    EXPECT_NEAR(plane.Distance(on_plane), 0, kRounding);
    EXPECT_NEAR(on_plane.Distance(p), plane.Distance(p), kRounding);
    EXPECT_NEAR(std::abs(height_over(plane, p)), plane.Distance(p), kRounding);
    EXPECT_NEAR(gp_Lin(axis).Distance(on_axis), 0, kRounding);
    EXPECT_NEAR(gp_Vec(on_axis, p).Dot(axis.Direction()), 0, kRounding);
    EXPECT_NEAR(distance(axis, p), on_axis.Distance(p), kRounding);
    EXPECT_NEAR(midpoint(p, on_axis).Distance(p), midpoint(p, on_axis).Distance(on_axis), kRounding);
  }
}

TEST(Primitives, HeightIsCountedAlongTheNormal) {
  const gp_Pln plane(gp_Pnt(0, 0, 5), gp_Dir(0, 0, -1));
  EXPECT_DOUBLE_EQ(height_over(plane, gp_Pnt(7, 8, 2)), 3);
  EXPECT_DOUBLE_EQ(height_over(plane, gp_Pnt(7, 8, 9)), -4);
}

TEST(Primitives, BridgeIsSquareToBothLinesAndAsShortAsTheyAreApart) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Ax1 a = random.axis(), b = random.axis();
    const Bridge between = bridge(a, b);
    if (acute_angle(a.Direction(), b.Direction()) < 1e-3) continue;
    ASSERT_FALSE(between.parallel);
    EXPECT_NEAR(between.gap_mm, gp_Lin(a).Distance(gp_Lin(b)), 1e-6);
    EXPECT_NEAR(between.on_a.Distance(between.on_b), between.gap_mm, 1e-6);
    EXPECT_NEAR(distance(a, between.on_a), 0, 1e-6);
    EXPECT_NEAR(distance(b, between.on_b), 0, 1e-6);
    const gp_Vec across(between.on_a, between.on_b);
    EXPECT_NEAR(across.Dot(a.Direction()), 0, 1e-5);
    EXPECT_NEAR(across.Dot(b.Direction()), 0, 1e-5);
  }
}

TEST(Primitives, BridgeOfParallelLinesIsTheirDistanceEverywhere) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Ax1 a = random.axis();
    const gp_Dir across = square_to(a.Direction(), random.direction());
    const double gap = random.between(0, 500), slide = random.between(-500, 500);
    gp_Ax1 b = a.Translated(gp_Vec(across) * gap + gp_Vec(a.Direction()) * slide);
    if (i % 2) b.Reverse();
    const Bridge between = bridge(a, b);
    EXPECT_TRUE(between.parallel);
    EXPECT_NEAR(between.gap_mm, gap, 1e-8);
    EXPECT_NEAR(between.on_a.Distance(a.Location()), 0, 1e-8);
  }
}

TEST(Primitives, PlanesCrossInALineThatLiesInBothNearWhereAsked) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pln a = random.plane(), b = random.plane();
    if (acute_angle(a.Axis().Direction(), b.Axis().Direction()) < 1e-2) continue;
    const gp_Pnt near = random.point();
    const auto line = crossing(a, b, near);
    ASSERT_TRUE(line) << line.error().sentence;
    for (const double along : {-300.0, 0.0, 300.0}) {
      const gp_Pnt p = line->Location().Translated(gp_Vec(line->Direction()) * along);
      EXPECT_NEAR(a.Distance(p), 0, 1e-6);
      EXPECT_NEAR(b.Distance(p), 0, 1e-6);
    }
    EXPECT_NEAR(gp_Vec(line->Location(), near).Dot(line->Direction()), 0, 1e-6);
  }
}

TEST(Primitives, ParallelPlanesDoNotCrossAndTheirDistanceIsTold) {
  const gp_Pln a(gp_Pnt(1, 2, 3), gp_Dir(0, 0, 1)), b(gp_Pnt(9, 9, 15.5), gp_Dir(0, 0, -1));
  const auto line = crossing(a, b, gp_Pnt());
  ASSERT_FALSE(line);
  EXPECT_EQ(line.error().code, RefusalCode::kGeometry);
  EXPECT_NE(line.error().sentence.find("12.500"), std::string::npos) << line.error().sentence;
}

TEST(Primitives, FramesAreOrthonormalAndRightHandedWhateverTheWish) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Dir z = random.direction();
    // Also wishes that say nothing: along Z itself.
    const gp_Dir wish = i % 3 == 0 ? (i % 2 ? z : z.Reversed()) : random.direction();
    const gp_Ax2 frame = make_frame(random.point(), z, wish);
    const gp_Dir x = frame.XDirection(), y = frame.YDirection();
    EXPECT_NEAR(x.Dot(z), 0, 1e-12);
    EXPECT_NEAR(y.Dot(z), 0, 1e-12);
    EXPECT_NEAR(gp_Vec(x).Crossed(gp_Vec(y)).Dot(gp_Vec(z)), 1, 1e-12);
    EXPECT_TRUE(i % 3 == 0 || gp_Vec(x).Dot(gp_Vec(wish)) >= 0);
  }
}

TEST(Primitives, ReadingInAFrameIsTheOppositeOfPlacingIt) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Ax2 frame = make_frame(random.point(), random.direction(), random.direction());
    const gp_Pnt p = random.point();
    const gp_Pnt read = read_in(frame, p);
    const gp_Pnt back = frame.Location()
                            .Translated(gp_Vec(frame.XDirection()) * read.X())
                            .Translated(gp_Vec(frame.YDirection()) * read.Y())
                            .Translated(gp_Vec(frame.Direction()) * read.Z());
    EXPECT_LT(back.Distance(p), 1e-9);
    EXPECT_LT(p.Transformed(into_frame(frame)).Distance(read), 1e-9);
    EXPECT_NEAR(read_in(frame, frame.XDirection()).X(), 1, 1e-12);
  }
}

TEST(Primitives, AnglesBetweenUndirectedLinesAreAcute) {
  EXPECT_NEAR(acute_angle(gp_Dir(1, 0, 0), gp_Dir(-1, 1e-3, 0)), std::atan(1e-3), 1e-12);
  EXPECT_NEAR(acute_angle(gp_Dir(1, 0, 0), gp_Dir(-1, 1, 0)), kPi / 4, 1e-12);
  EXPECT_TRUE(parallel(gp_Dir(0, 1, 0), gp_Dir(0, -1, 0)));
  EXPECT_FALSE(parallel(gp_Dir(0, 1, 0), gp_Dir(1e-5, 1, 0)));
  EXPECT_TRUE(parallel(gp_Dir(0, 1, 0), gp_Dir(1e-5, 1, 0), 1e-4));
  EXPECT_TRUE(square(gp_Dir(0, 1, 0), gp_Dir(1, 1e-7, 0)));
  EXPECT_FALSE(square(gp_Dir(0, 1, 0), gp_Dir(1, 1e-5, 0)));
}

TEST(Primitives, DirectionsAlongAnAxisAreToldByItsName) {
  EXPECT_EQ(direction_text(gp_Dir(1, 0, 0)), "+X");
  EXPECT_EQ(direction_text(gp_Dir(0, -1, 0)), "-Y");
  EXPECT_EQ(direction_text(gp_Dir(0, 0, -1)), "-Z");
  EXPECT_EQ(direction_text(gp_Dir(std::cos(radians(60)), std::sin(radians(60)), 0)),
            "0.5000, 0.8660, 0.0000");
}

}  // namespace
}  // namespace anvil
