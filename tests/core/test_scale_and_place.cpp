// Constructions at the sizes and places parts come in: 10 km from the origin, hundredths of a millimetre
// small, turned anyhow, mirrored. What they make must have its defining property there too, within what
// doubles allow.
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "support/givens.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::Random;
using test::run;

constexpr unsigned kSeed = 20261125;
constexpr int kRounds = 100;

struct Setting {
  const char* name;
  double size_mm;    // the picks lie this far apart
  double offset_mm;  // from the origin
  double bound_mm;   // doubles hold 16 digits: 1e-16 of the offset, a thousandfold for the arithmetic
};
std::ostream& operator<<(std::ostream& out, const Setting& s) {
  return out << s.name;
}

class Places : public testing::TestWithParam<Setting> {
 protected:
  gp_Pnt point() {
    return gp_Pnt(away * GetParam().offset_mm +
                  random.direction().XYZ() * random.between(0.3, 1) * GetParam().size_mm);
  }
  Given point_given() { return test::point_given(point()); }
  Given plane_given() { return test::plane_given(point(), random.direction()); }
  Given parallel_to(const Given& plane, double distance) {
    return test::plane_given(plane.plane->Translated(gp_Vec(*plane.direction) * distance));
  }
  Given line_given() { return test::axis_given(point(), random.direction()); }
  [[nodiscard]] double bound() const { return GetParam().bound_mm; }

  Random random{kSeed};
  gp_XYZ away = gp_Dir(0.6, -0.64, 0.48).XYZ();
};

TEST_P(Places, MidwayPlaneIsHalfwayWhereverItIs) {
  for (int i = 0; i < kRounds; ++i) {
    const Given a = plane_given(), b = parallel_to(a, GetParam().size_mm * random.between(0.5, 2));
    const auto made = run("plane.midway", {a, b});
    ASSERT_TRUE(made) << made.error().sentence;
    const gp_Pln plane = std::get<PlaneDatum>(made->front().value).plane;
    EXPECT_NEAR(std::abs(height_over(*a.plane, plane.Location())),
                std::abs(height_over(*b.plane, plane.Location())), bound());
  }
}

TEST_P(Places, PlaneThroughThreePointsHoldsThem) {
  for (int i = 0; i < kRounds; ++i) {
    const std::vector<Given> picks{point_given(), point_given(), point_given()};
    const auto made = run("plane.three-points", picks);
    if (!made) {  // nearly in line: then it must say so
      EXPECT_NE(made.error().sentence.find("line"), std::string::npos);
      continue;
    }
    for (const Given& pick : picks)
      EXPECT_NEAR(height_over(std::get<PlaneDatum>(made->front().value).plane, *pick.point), 0, bound());
  }
}

TEST_P(Places, AxisOfTwoPlanesLiesInBothNearThePicks) {
  for (int i = 0; i < kRounds; ++i) {
    const Given a = plane_given(), b = plane_given();
    if (acute_angle(*a.direction, *b.direction) < 0.2) continue;
    const auto made = run("axis.of-two-planes", {a, b});
    ASSERT_TRUE(made);
    const gp_Ax1 axis = std::get<AxisDatum>(made->front().value).axis;
    EXPECT_NEAR(height_over(*a.plane, axis.Location()), 0, 10 * bound());
    EXPECT_NEAR(height_over(*b.plane, axis.Location()), 0, 10 * bound());
    // The planes cross within a few sizes of where they were picked, not somewhere along an endless line.
    EXPECT_LT(axis.Location().Distance(a.plane->Location()), 20 * GetParam().size_mm);
  }
}

TEST_P(Places, FrameOfThreePointsIsOrthonormalWithItsZeroOnTheFirst) {
  for (int i = 0; i < kRounds; ++i) {
    const std::vector<Given> picks{point_given(), point_given(), point_given()};
    const auto made = run("frame.three-points", picks);
    if (!made) continue;
    for (const Solution& solution : *made) {
      const gp_Ax2 frame = std::get<FrameDatum>(solution.value).frame;
      EXPECT_LT(frame.Location().Distance(*picks[0].point), bound());
      EXPECT_NEAR(frame.XDirection().Dot(frame.Direction()), 0, 1e-12);
      EXPECT_NEAR(
          gp_Vec(frame.XDirection()).Crossed(gp_Vec(frame.YDirection())).Dot(gp_Vec(frame.Direction())), 1,
          1e-12);
      EXPECT_GT(gp_Vec(*picks[0].point, *picks[1].point).Dot(gp_Vec(frame.XDirection())), 0);
    }
  }
}

TEST_P(Places, FramesOfTwoLinesHaveTheirXAlongALine) {
  for (int i = 0; i < kRounds; ++i) {
    const Given a = line_given(), b = line_given();
    if (acute_angle(*a.direction, *b.direction) < 0.2) continue;
    const auto made = run("frame.two-lines", {a, b});
    ASSERT_TRUE(made) << made.error().sentence;
    EXPECT_EQ(made->size(), 8u);
    for (const Solution& solution : *made) {
      const gp_Ax2 frame = std::get<FrameDatum>(solution.value).frame;
      EXPECT_TRUE(parallel(frame.XDirection(), *a.direction, 1e-9) ||
                  parallel(frame.XDirection(), *b.direction, 1e-9));
      EXPECT_NEAR(gp_Vec(frame.Direction()).Dot(gp_Vec(*a.direction)), 0, 1e-9);
      EXPECT_NEAR(gp_Vec(frame.Direction()).Dot(gp_Vec(*b.direction)), 0, 1e-9);
    }
  }
}

TEST_P(Places, DistancesOfPointsLinesAndPlanesAreTheClosedForms) {
  for (int i = 0; i < kRounds; ++i) {
    const Given p = point_given(), q = point_given(), plane = plane_given();
    const auto measured = [&](const Given& a, const Given& b) {
      const auto made = run("measure.distance", {a, b});
      EXPECT_TRUE(made);
      return std::get<Measurement>(made->front().value).value;
    };
    EXPECT_NEAR(measured(p, q), p.point->Distance(*q.point), bound());
    EXPECT_NEAR(measured(p, plane), std::abs(height_over(*plane.plane, *p.point)), bound());
    const double gap = GetParam().size_mm * random.between(0.5, 2);
    EXPECT_NEAR(measured(plane, parallel_to(plane, gap)), gap, 10 * bound());
  }
}

TEST_P(Places, PlacementsBringPicksWhereTheySay) {
  for (int i = 0; i < kRounds; ++i) {
    const Given p = point_given();
    const auto made = run("place.point-to-zero", {p});
    ASSERT_TRUE(made);
    const gp_Trsf motion = std::get<PlacementStep>(made->front().value).motion;
    EXPECT_LT(p.point->Transformed(motion).Distance(gp_Pnt()), bound());
    const Given line = line_given();
    const auto up = run("place.axis-up", {line});
    ASSERT_TRUE(up);
    const gp_Trsf turn = std::get<PlacementStep>(up->front().value).motion;
    EXPECT_TRUE(parallel(line.direction->Transformed(turn), gp_Dir(0, 0, 1), 1e-9));
    EXPECT_NEAR(turn.VectorialPart().Determinant(), 1, 1e-12);
  }
}

INSTANTIATE_TEST_SUITE_P(Everywhere, Places,
                         testing::Values(Setting{"as drawn", 100, 0, 1e-10},
                                         Setting{"far away", 100, 1e7, 1e-6}, Setting{"tiny", 0.01, 0, 1e-12},
                                         Setting{"tiny and away", 0.5, 1e4, 1e-9},
                                         Setting{"huge", 1e5, 0, 1e-7}));

// A mirrored pick is another pick: results are mirrored too, and frames stay right-handed.
TEST(Mirrored, ResultsAreMirrorImagesAndFramesStayRightHanded) {
  Random random(kSeed);
  gp_Trsf mirror;
  mirror.SetMirror(gp_Ax2(gp_Pnt(3, 4, 5), random.direction()));
  for (int i = 0; i < kRounds; ++i) {
    std::vector<Given> picks, mirrored;
    for (int k = 0; k < 3; ++k) {
      picks.push_back(test::point_given(random.point()));
      mirrored.push_back(test::point_given(picks.back().point->Transformed(mirror)));
    }
    const gp_Pln plane = std::get<PlaneDatum>(run("plane.three-points", picks)->front().value).plane;
    const gp_Pln other = std::get<PlaneDatum>(run("plane.three-points", mirrored)->front().value).plane;
    EXPECT_TRUE(parallel(plane.Axis().Direction().Transformed(mirror), other.Axis().Direction(), 1e-9));
    const gp_Ax2 frame = std::get<FrameDatum>(run("frame.three-points", mirrored)->front().value).frame;
    EXPECT_NEAR(gp_Vec(frame.XDirection()).Crossed(gp_Vec(frame.YDirection())).Dot(gp_Vec(frame.Direction())),
                1, 1e-12);
  }
}

}  // namespace
}  // namespace anvil
