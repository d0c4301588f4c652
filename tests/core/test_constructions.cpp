// Constructions against their defining properties, on random inputs (seeded; the seed is printed on failure)
// and on the inputs that must be refused.
#include <gtest/gtest.h>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>

#include <set>

#include "demo/shapes.h"
#include "geom/primitives.h"
#include "support/fixtures.h"
#include "support/givens.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::axis_given;
using test::part_of;
using test::plane_given;
using test::point_given;
using test::Random;
using test::run;

constexpr unsigned kSeed = 20261124;
constexpr int kRounds = 500;

template <class Value>
Value only(const Solutions& solutions) {
  EXPECT_TRUE(solutions) << (solutions ? "" : solutions.error().sentence);
  return std::get<Value>(solutions->front().value);
}

// A free-form face that a rectangle took: a shape, and no place on it.
TEST(Constructions, AFrameOnAPickWithoutAPlaceIsRefused) {
  Given nowhere, frame;
  nowhere.shape = demo::block({0, 0, 0}, {1, 1, 1});
  frame.frame = gp_Ax2();
  const Solutions placed = run("frame.by-hand", {nowhere, frame});
  ASSERT_FALSE(placed);
  EXPECT_NE(placed.error().sentence.find("no place"), std::string::npos) << placed.error().sentence;
}

TEST(Constructions, EveryOneIsWellDescribed) {
  for (const Construction& c : constructions()) {
    EXPECT_EQ(find_construction(c.id), &c);
    EXPECT_TRUE(c.solve) << c.id;
    // Of a frame that is read without being picked the sentence need not speak.
    const size_t told = c.roles.size() - (c.reads_frame && c.makes == Makes::kFrame ? 1 : 0);
    for (size_t role = 0; role < told && !c.repeats; ++role)
      EXPECT_NE(c.sentence.find("{" + std::to_string(role + 1) + "}"), std::string::npos) << c.id;
    const bool tells_all =
        c.sentence.find("{all}") != std::string::npos || c.sentence.find("{rest}") != std::string::npos;
    EXPECT_EQ(c.repeats, tells_all) << c.id;
    EXPECT_TRUE(!c.reads_frame || (c.repeats ? c.roles.front() : c.roles.back()) == Need::kFrame) << c.id;
    for (const Parameter& p : c.parameters) {
      const bool good =
          (p.may_be_empty && p.initial.empty()) || evaluate_parameter(p, p.initial, Unit::kMillimetre, {});
      EXPECT_TRUE(good) << c.id << " " << p.id;
    }
  }
}

TEST(Constructions, MidwayPlaneIsEquallyFarFromBoth) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    SCOPED_TRACE("seed " + std::to_string(kSeed) + " round " + std::to_string(i));
    const gp_Dir normal = random.direction();
    const Given a = plane_given(random.point(), normal),
                b = plane_given(random.point(), i % 2 ? normal : normal.Reversed());
    const auto plane = only<PlaneDatum>(run("plane.midway", {a, b})).plane;
    EXPECT_NEAR(std::abs(height_over(*a.plane, plane.Location())),
                std::abs(height_over(*b.plane, plane.Location())), 1e-9);
    EXPECT_TRUE(parallel(plane.Axis().Direction(), normal, 1e-12));
    EXPECT_LT(height_over(*a.plane, plane.Location()) * height_over(*b.plane, plane.Location()) *
                  normal.Dot(b.plane->Axis().Direction()),
              0);
  }
}

TEST(Constructions, MidwayOfPlanesThatAreNotParallelSaysTheAngle) {
  const auto refused =
      run("plane.midway", {plane_given({0, 0, 0}, gp_Dir(0, 0, 1)), plane_given({0, 0, 5}, gp_Dir(0, 1, 1))});
  ASSERT_FALSE(refused);
  EXPECT_NEAR(refused.error().facts.at("angle_rad"), M_PI / 4, 1e-12);
  EXPECT_NE(refused.error().sentence.find("45.000°"), std::string::npos);
  EXPECT_NE(find_construction(refused.error().instead), nullptr);
}

TEST(Constructions, PlaneThroughThreePointsHoldsThem) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pnt a = random.point(), b = random.point(), c = random.point();
    const auto plane =
        only<PlaneDatum>(run("plane.three-points", {point_given(a), point_given(b), point_given(c)})).plane;
    for (const gp_Pnt& p : {a, b, c})
      EXPECT_NEAR(height_over(plane, p), 0, 1e-8) << "seed " << kSeed << " round " << i;
  }
}

TEST(Constructions, CollinearPointsAreRefusedWithHowFarOffTheyAre) {
  const auto refused = run("plane.three-points",
                           {point_given({0, 0, 0}), point_given({50, 0, 0}), point_given({20, 5e-5, 0})});
  ASSERT_FALSE(refused);
  EXPECT_NEAR(refused.error().facts.at("off_line_mm"), 5e-5, 1e-9);
  EXPECT_TRUE(run("plane.three-points",
                  {point_given({0, 0, 0}), point_given({50, 0, 0}), point_given({20, 2e-4, 0})}));
}

TEST(Constructions, AxisOfTwoPlanesLiesInBoth) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const Given a = plane_given(random.point(), random.direction()),
                b = plane_given(random.point(), random.direction());
    if (acute_angle(*a.direction, *b.direction) < 0.05) continue;
    const gp_Ax1 axis = only<AxisDatum>(run("axis.of-two-planes", {a, b})).axis;
    for (const double along : {0.0, 100.0})
      for (const Given* g : {&a, &b})
        EXPECT_NEAR(height_over(*g->plane, axis.Location().Translated(gp_Vec(axis.Direction()) * along)), 0,
                    1e-7)
            << "seed " << kSeed << " round " << i;
  }
  const auto refused = run("axis.of-two-planes", {plane_given({0, 0, 0}, gp_Dir(0, 0, 1)),
                                                  plane_given({7, 3, 24}, gp_Dir(0, 0, -1))});
  ASSERT_FALSE(refused);
  EXPECT_NEAR(refused.error().facts.at("distance_mm"), 24, 1e-12);
}

TEST(Constructions, OffsetTakesUnitsAndBothSigns) {
  const Given face = plane_given({1, 2, 3}, gp_Dir(0, 0, 1));
  EXPECT_NEAR(only<PlaneDatum>(run("plane.offset", {face}, {{"distance", "1/4in + 2"}})).plane.Location().Z(),
              11.35, 1e-12);
  EXPECT_NEAR(only<PlaneDatum>(run("plane.offset", {face}, {{"distance", "-4"}})).plane.Location().Z(), -1,
              1e-12);
  EXPECT_FALSE(run("plane.offset", {face}, {{"distance", "four"}}));
}

TEST(Constructions, TwoLinesGiveEightDifferentRightHandedFrames) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const Given a = axis_given(random.point(), random.direction()),
                b = axis_given(random.point(), random.direction());
    if (acute_angle(*a.direction, *b.direction) < 0.05) continue;
    const auto solutions = run("frame.two-lines", {a, b});
    ASSERT_TRUE(solutions);
    ASSERT_EQ(solutions->size(), 8u);
    std::set<std::string> keys;
    for (const Solution& s : *solutions) {
      const gp_Ax2 frame = std::get<FrameDatum>(s.value).frame;
      keys.insert(s.key);
      EXPECT_NEAR(frame.XDirection().Crossed(frame.YDirection()).Dot(frame.Direction()), 1, 1e-12);
      EXPECT_TRUE(square(frame.Direction(), *a.direction, 1e-9) &&
                  square(frame.Direction(), *b.direction, 1e-9));
      const Given& lead = s.key[1] == '1' ? a : b;
      EXPECT_TRUE(parallel(frame.XDirection(), *lead.direction, 1e-9));
      EXPECT_NEAR(distance(*lead.axis, frame.Location()), 0, 1e-6) << "seed " << kSeed << " round " << i;
    }
    EXPECT_EQ(keys.size(), 8u);
  }
  const auto refused = run("frame.two-lines",
                           {axis_given({0, 0, 0}, gp_Dir(1, 0, 0)), axis_given({5, 3, 4}, gp_Dir(-1, 0, 0))});
  ASSERT_FALSE(refused);
  EXPECT_NEAR(refused.error().facts.at("distance_mm"), 5, 1e-12);
}

TEST(Constructions, ThreePointFrameHasZeroXAndSide) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pnt zero = random.point(), towards = random.point(), side = random.point();
    const gp_Ax2 frame = only<FrameDatum>(run("frame.three-points",
                                              {point_given(zero), point_given(towards), point_given(side)}))
                             .frame;
    EXPECT_LT(frame.Location().Distance(zero), 1e-12);
    EXPECT_NEAR(read_in(frame, towards).Y(), 0, 1e-7);
    EXPECT_NEAR(read_in(frame, side).Z(), 0, 1e-6) << "seed " << kSeed << " round " << i;
    EXPECT_GT(read_in(frame, side).Y(), 0);
  }
}

TEST(Constructions, FaceFrameStandsWhereItIsAsked) {
  const PartPtr part = part_of(demo::block({10, 20, 0}, {90, 60, 15}));
  const Given top = given_by_face(*part, test::face_at(*part, {50, 40, 15}, SurfaceKind::kPlane), {});
  const std::pair<const char*, gp_Pnt> zeros[] = {{"box centre", {50, 40, 15}},
                                                  {"area centroid", {50, 40, 15}},
                                                  {"corner −X −Y", {10, 20, 15}},
                                                  {"corner +X +Y", {90, 60, 15}}};
  const Given read = test::frame_given(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)));
  EXPECT_EQ(run("frame.on-face", {top}).error().code, RefusalCode::kBadInput);  // no frame to read in
  for (const auto& [where, expected] : zeros) {
    const gp_Ax2 frame =
        only<FrameDatum>(run("frame.on-face", {top, read}, {{"zero", where}, {"x", "longest edge"}})).frame;
    EXPECT_LT(frame.Location().Distance(expected), 1e-9) << where;
    EXPECT_TRUE(frame.Direction().IsEqual(gp_Dir(0, 0, 1), 1e-12));
    EXPECT_TRUE(frame.XDirection().IsEqual(gp_Dir(1, 0, 0), 1e-12));
  }
}

TEST(Constructions, DistanceIsTheShortest) {
  EXPECT_NEAR(
      only<Measurement>(run("measure.distance", {point_given({0, 0, 0}), point_given({3, 4, 12})})).value, 13,
      1e-12);
  EXPECT_NEAR(only<Measurement>(run("measure.distance", {axis_given({0, 0, 0}, gp_Dir(0, 0, 1)),
                                                         axis_given({3, 4, 7}, gp_Dir(0, 0, -1))}))
                  .value,
              5, 1e-12);
  EXPECT_NEAR(only<Measurement>(run("measure.distance", {plane_given({0, 0, 0}, gp_Dir(0, 0, 1)),
                                                         plane_given({9, 9, 80}, gp_Dir(0, 0, -1))}))
                  .value,
              80, 1e-12);
  EXPECT_NEAR(only<Measurement>(
                  run("measure.distance", {point_given({5, 5, 9}), plane_given({0, 0, 2}, gp_Dir(0, 0, 1))}))
                  .value,
              7, 1e-12);
  // Two faces of a block: adjacent ones touch, opposite ones are the thickness apart.
  const PartPtr part = part_of(demo::block({0, 0, 0}, {30, 20, 12}));
  const Given top = given_by_face(*part, test::face_at(*part, {15, 10, 12}, SurfaceKind::kPlane), {}),
              side = given_by_face(*part, test::face_at(*part, {0, 10, 6}, SurfaceKind::kPlane), {});
  EXPECT_NEAR(only<Measurement>(run("measure.distance", {top, side})).value, 0, 1e-9);
}

TEST(Constructions, AngleBetweenALineAndAPlaneCountsFromThePlane) {
  const auto angle = [](const Solutions& s) { return only<Measurement>(s).value; };
  EXPECT_NEAR(
      angle(run("measure.angle", {plane_given({}, gp_Dir(0, 0, 1)), axis_given({}, gp_Dir(1, 0, 1))})),
      M_PI / 4, 1e-12);
  EXPECT_NEAR(
      angle(run("measure.angle", {plane_given({}, gp_Dir(0, 0, 1)), axis_given({}, gp_Dir(0, 0, 1))})),
      M_PI / 2, 1e-12);
  const auto planes =
      run("measure.angle", {plane_given({}, gp_Dir(0, 0, 1)), plane_given({}, gp_Dir(0, 1, std::sqrt(3.0)))});
  EXPECT_NEAR(angle(planes), M_PI / 6, 1e-12);
  EXPECT_NEAR(std::get<Measurement>((*planes)[1].value).value, 5 * M_PI / 6, 1e-12);
}

TEST(Constructions, OrientingIsExact) {
  Random random(kSeed);
  for (int i = 0; i < kRounds; ++i) {
    SCOPED_TRACE("seed " + std::to_string(kSeed) + " round " + std::to_string(i));
    const gp_Pnt at = random.point();
    const gp_Dir d = i == 0 ? gp_Dir(0, 0, 1) : i == 1 ? gp_Dir(0, 0, -1) : random.direction();
    Given face = plane_given(at, d);
    face.surface = Surface{SurfaceKind::kPlane, gp_Ax3(at, d)};
    const gp_Trsf down = only<PlacementStep>(run("place.face-down", {face})).motion;
    EXPECT_LT(d.Transformed(down).Angle(gp_Dir(0, 0, -1)), 1e-9);
    EXPECT_NEAR(at.Transformed(down).Z(), 0, 1e-9);
    const gp_Trsf up = only<PlacementStep>(run("place.axis-up", {axis_given(at, d)})).motion;
    EXPECT_LT(d.Transformed(up).Angle(gp_Dir(0, 0, 1)), 1e-9);
    EXPECT_LT(at.Transformed(only<PlacementStep>(run("place.point-to-zero", {point_given(at)})).motion)
                  .Distance(gp_Pnt()),
              1e-9);
    const gp_Trsf turn =
        only<PlacementStep>(run("place.turn-about", {axis_given(at, d)}, {{"angle", "360/8"}})).motion;
    EXPECT_LT(at.Transformed(turn).Distance(at), 1e-9);
    const gp_Dir across = square_to(d, gp_Dir(0.3, 0.4, 0.5));
    EXPECT_NEAR(across.AngleWithRef(across.Transformed(turn), d), M_PI / 4, 1e-9);
  }
}

TEST(Constructions, PointAlongAnEdgeGoesByLength) {
  const PartPtr part = part_of(demo::rod(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)), 20, 5));
  for (size_t i = 0; i < part->topology().edges.size(); ++i) {
    if (part->topology().edges[i].kind != CurveKind::kCircle) continue;
    const gp_Pnt quarter =
        only<PointDatum>(run("point.on-edge", {given_by_edge(*part, static_cast<int>(i), Snap::kWhole, {})},
                             {{"ratio", "1/4"}}))
            .point;
    EXPECT_NEAR(quarter.X(), 0, 1e-6);
    EXPECT_NEAR(std::abs(quarter.Y()), 10, 1e-6);
  }
}

TEST(Constructions, NameTheirEntriesThemselves) {
  const std::pair<const char*, const char*> kNames[] = {{"plane.midway", "Plane"},
                                                        {"axis.of", "Axis"},
                                                        {"point.at", "Point"},
                                                        {"frame.on-face", "Frame"},
                                                        {"measure.distance", "Distance"},
                                                        {"measure.greatest", "Distance"},
                                                        {"measure.nearest", "Distance"},
                                                        {"measure.line-up", "Line-up"},
                                                        {"measure.place", "Place"},
                                                        {"measure.body", "Volume"},
                                                        {"measure.face", "Area"},
                                                        {"figure.polygon", "Polygon"},
                                                        {"figure.line-between", "Line"}};
  for (const auto& [id, name] : kNames) EXPECT_EQ(find_construction(id)->kept_as, name) << id;
}

}  // namespace
}  // namespace anvil
