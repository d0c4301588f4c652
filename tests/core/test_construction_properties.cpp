// The defining property of each construction on random picks (seeded): equal distances, touching, square,
// contained; of best fits, that no line, plane or circle near them fits better.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include "geom/fits.h"
#include "geom/primitives.h"
#include "support/givens.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::axis_given;
using test::frame_given;
using test::plane_given;
using test::point_given;
using test::Random;
using test::run;

constexpr unsigned kSeed = 20261126;
constexpr int kRounds = 300;
constexpr double kBound_mm =
    1e-7;  // picks within 100 mm: doubles leave 1e-13, crossings at small angles cost the rest
constexpr double kAngle_rad = 0.2;  // nearer to parallel than this is left to the cases

class Properties : public testing::Test {
 protected:
  Properties() { SCOPED_TRACE("seed " + std::to_string(kSeed)); }

  Given round_given(SurfaceKind kind, const gp_Ax1& axis, double radius_mm) {
    Given g;
    Surface s;
    s.kind = kind;
    s.position = gp_Ax3(axis.Location(), axis.Direction());
    s.radius_mm = radius_mm;
    g.surface = s;
    g.extent = {axis.Location()};
    if (kind == SurfaceKind::kSphere) {
      g.point = axis.Location();
    } else {
      g.axis = axis;
      g.direction = axis.Direction();
    }
    return g;
  }
  gp_Dir direction_off(const gp_Dir& from) {
    gp_Dir d = random.direction();
    while (acute_angle(d, from) < kAngle_rad) d = random.direction();
    return d;
  }
  gp_Pnt somewhere_in(const gp_Pln& plane) { return foot_on(plane, random.point()); }
  gp_Pnt somewhere_on(const gp_Ax1& axis) { return foot_on(axis, random.point()); }

  Random random{kSeed, 100};
};

std::vector<gp_Pln> planes(const Solutions& made) {
  std::vector<gp_Pln> all;
  EXPECT_TRUE(made) << (made ? "" : made.error().sentence);
  for (const Solution& s : *made) all.push_back(std::get<PlaneDatum>(s.value).plane);
  return all;
}
std::vector<gp_Ax1> axes(const Solutions& made) {
  std::vector<gp_Ax1> all;
  EXPECT_TRUE(made) << (made ? "" : made.error().sentence);
  for (const Solution& s : *made) all.push_back(std::get<AxisDatum>(s.value).axis);
  return all;
}
gp_Pnt point(const Solutions& made) {
  EXPECT_TRUE(made) << (made ? "" : made.error().sentence);
  return std::get<PointDatum>(made->front().value).point;
}

TEST_F(Properties, BisectorsAreEquallyFarFromBothPlanes) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pln a = random.plane(), b(random.point(), direction_off(a.Axis().Direction()));
    const auto made = planes(run("plane.bisector", {plane_given(a), plane_given(b)}));
    ASSERT_EQ(made.size(), 2u);
    for (const gp_Pln& plane : made) {
      const gp_Pnt p = somewhere_in(plane);
      EXPECT_NEAR(std::abs(height_over(a, p)), std::abs(height_over(b, p)), kBound_mm);
    }
    EXPECT_TRUE(square(made[0].Axis().Direction(), made[1].Axis().Direction(), 1e-9));
  }
}

TEST_F(Properties, MidwayAxesStandEquallyToBothAndHalfwayAcrossTheGap) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Ax1 a = random.axis(), b(random.point(), direction_off(a.Direction()));
    for (const gp_Ax1& axis : axes(run("axis.midway", {axis_given(a), axis_given(b)}))) {
      EXPECT_NEAR(acute_angle(axis.Direction(), a.Direction()), acute_angle(axis.Direction(), b.Direction()),
                  1e-7);
      EXPECT_NEAR(bridge(axis, a).gap_mm, bridge(axis, b).gap_mm, kBound_mm);
    }
    const gp_Ax1 beside(random.point(), i % 2 ? a.Direction() : a.Direction().Reversed());
    const gp_Ax1 between = axes(run("axis.midway", {axis_given(a), axis_given(beside)})).front();
    const gp_Pnt p = somewhere_on(between);
    EXPECT_NEAR(distance(a, p), distance(beside, p), kBound_mm);
  }
}

TEST_F(Properties, CommonPerpendicularMeetsBothSquarely) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Ax1 a = random.axis(), b(random.point(), direction_off(a.Direction()));
    const gp_Ax1 made = axes(run("axis.common-perpendicular", {axis_given(a), axis_given(b)})).front();
    for (const gp_Ax1& other : {a, b}) {
      EXPECT_TRUE(square(made.Direction(), other.Direction(), 1e-9));
      EXPECT_NEAR(bridge(made, other).gap_mm, 0, kBound_mm);
    }
  }
}

TEST_F(Properties, ProjectedAxisLiesInThePlaneUnderTheAxis) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pln plane = random.plane();
    const gp_Ax1 axis(random.point(), direction_off(plane.Axis().Direction()));
    const gp_Ax1 made = axes(run("axis.projected", {axis_given(axis), plane_given(plane)})).front();
    EXPECT_NEAR(distance(made, foot_on(plane, somewhere_on(axis))), 0, kBound_mm);
    EXPECT_NEAR(height_over(plane, somewhere_on(made)), 0, kBound_mm);
  }
}

TEST_F(Properties, CrossingsLieOnEverythingThatCrosses) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pln a = random.plane(), b(random.point(), direction_off(a.Axis().Direction()));
    const gp_Dir along = a.Axis().Direction().Crossed(b.Axis().Direction());
    const gp_Pln c(random.point(),
                   gp_Dir(gp_Vec(along) + gp_Vec(a.Axis().Direction()) * random.between(-1, 1)));
    const gp_Pnt corner = point(run("point.three-planes", {plane_given(a), plane_given(b), plane_given(c)}));
    for (const gp_Pln& plane : {a, b, c}) EXPECT_NEAR(height_over(plane, corner), 0, 100 * kBound_mm);
    const gp_Ax1 axis(random.point(),
                      gp_Dir(gp_Vec(a.Axis().Direction()) + gp_Vec(along) * random.between(-1, 1)));
    const gp_Pnt hit = point(run("point.axis-plane", {axis_given(axis), plane_given(a)}));
    EXPECT_NEAR(height_over(a, hit), 0, kBound_mm);
    EXPECT_NEAR(distance(axis, hit), 0, kBound_mm);
    const gp_Ax1 other(random.point(), direction_off(axis.Direction()));
    const gp_Pnt middle = point(run("point.two-axes", {axis_given(axis), axis_given(other)}));
    EXPECT_NEAR(distance(axis, middle), distance(other, middle), kBound_mm);
    EXPECT_NEAR(distance(axis, middle), bridge(axis, other).gap_mm / 2, kBound_mm);
  }
}

TEST_F(Properties, TouchingPlanesTouchAndHoldWhatTheyGoThrough) {
  for (int i = 0; i < kRounds; ++i) {
    const double r = random.between(1, 20);
    const gp_Ax1 axis = random.axis();
    const Given cylinder = round_given(SurfaceKind::kCylinder, axis, r);
    const auto touches = [&](const gp_Pln& plane) {
      EXPECT_TRUE(square(plane.Axis().Direction(), axis.Direction(), 1e-9));
      EXPECT_NEAR(std::abs(height_over(plane, axis.Location())), r, kBound_mm);
    };
    const gp_Dir side = square_to(axis.Direction(), direction_off(axis.Direction()));
    const gp_Pnt outside = somewhere_on(axis).Translated(gp_Vec(side) * r * random.between(1.01, 5));
    for (const gp_Pln& plane : planes(run("plane.touching-point", {cylinder, point_given(outside)}))) {
      touches(plane);
      EXPECT_NEAR(height_over(plane, outside), 0, kBound_mm);
    }
    for (const gp_Pln& plane :
         planes(run("plane.touching-line", {cylinder, axis_given(outside, axis.Direction())}))) {
      touches(plane);
      EXPECT_NEAR(height_over(plane, outside), 0, kBound_mm);
    }
    const gp_Pln parallel_plane(random.point(), side), any(random.point(), direction_off(axis.Direction()));
    for (const gp_Pln& plane :
         planes(run("plane.touching-parallel", {cylinder, plane_given(parallel_plane)})))
      touches(plane);
    for (const gp_Pln& plane : planes(run("plane.touching-square", {cylinder, plane_given(any)}))) {
      touches(plane);
      EXPECT_TRUE(square(plane.Axis().Direction(), any.Axis().Direction(), 1e-9));
    }
  }
}

TEST_F(Properties, PlanesTouchingABallAreItsRadiusAway) {
  for (int i = 0; i < kRounds; ++i) {
    const double r = random.between(1, 20);
    const gp_Pnt centre = random.point();
    const Given ball = round_given(SurfaceKind::kSphere, gp_Ax1(centre, random.direction()), r);
    const gp_Pln any = random.plane();
    for (const gp_Pln& plane : planes(run("plane.touching-sphere", {ball, plane_given(any)})))
      EXPECT_NEAR(std::abs(height_over(plane, centre)), r, kBound_mm);
    const gp_Dir out = random.direction();
    const gp_Ax1 line(centre.Translated(gp_Vec(out) * r * random.between(1.01, 5)),
                      square_to(out, direction_off(out)));
    for (const gp_Pln& plane : planes(run("plane.touching-sphere-line", {ball, axis_given(line)}))) {
      EXPECT_NEAR(std::abs(height_over(plane, centre)), r, kBound_mm);
      EXPECT_NEAR(height_over(plane, somewhere_on(line)), 0, kBound_mm);
    }
  }
}

TEST_F(Properties, TurnedPlaneHoldsTheAxisAtTheAngle) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pln plane = random.plane();
    const gp_Dir normal = plane.Axis().Direction();
    const gp_Ax1 axis(random.point(), square_to(normal, direction_off(normal)));
    const double angle = random.between(1, 89);
    for (const gp_Pln& made : planes(run("plane.turned", {plane_given(plane), axis_given(axis)},
                                         {{"angle", std::to_string(angle)}}))) {
      EXPECT_NEAR(acute_angle(made.Axis().Direction(), normal), radians(angle), 1e-7);
      EXPECT_NEAR(height_over(made, somewhere_on(axis)), 0, kBound_mm);
    }
  }
}

TEST_F(Properties, PlanesThroughAnAxisHoldIt) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Ax1 axis = random.axis();
    const gp_Pln plane(random.point(), direction_off(axis.Direction()));
    for (const gp_Pln& made : planes(run("plane.axis-and-plane", {axis_given(axis), plane_given(plane)}))) {
      EXPECT_NEAR(height_over(made, somewhere_on(axis)), 0, kBound_mm);
      EXPECT_TRUE(square(made.Axis().Direction(), plane.Axis().Direction(), 1e-9));
    }
    const gp_Pnt p = random.point();
    const gp_Pln with_point = planes(run("plane.line-point", {axis_given(axis), point_given(p)})).front();
    EXPECT_NEAR(height_over(with_point, p), 0, kBound_mm);
    EXPECT_NEAR(height_over(with_point, somewhere_on(axis)), 0, kBound_mm);
    const gp_Pln across = planes(run("plane.square-to-line", {point_given(p), axis_given(axis)})).front();
    EXPECT_NEAR(height_over(across, p), 0, kBound_mm);
    EXPECT_TRUE(parallel(across.Axis().Direction(), axis.Direction(), 1e-9));
  }
}

TEST_F(Properties, PartsOfADistanceAddUpToIt) {
  const auto measured = [](const Solutions& made) {
    return std::get<Measurement>(made->front().value).value;
  };
  for (int i = 0; i < kRounds; ++i) {
    const Given a = point_given(random.point()), b = point_given(random.point()),
                n = plane_given(random.plane());
    const double whole = measured(run("measure.distance", {a, b})),
                 along = measured(run("measure.along", {a, b, n})),
                 across = measured(run("measure.in-plane", {a, b, n}));
    EXPECT_NEAR(std::hypot(along, across), whole, kBound_mm);
    EXPECT_NEAR(along, std::abs(height_over(*n.plane, *a.point) - height_over(*n.plane, *b.point)),
                kBound_mm);
  }
}

// Sums of squares of what fits, and of what lies a little beside it.
TEST_F(Properties, NothingNearFitsBetter) {
  for (int i = 0; i < 60; ++i) {
    std::vector<Given> picks;
    std::vector<gp_Pnt> points;
    const gp_Ax2 frame(random.point(), random.direction());
    const int count = random.whole(4, 9);
    for (int k = 0; k < count; ++k) {
      const double turn = 2 * kPi * k / count;
      points.push_back(frame.Location().Translated(
          gp_Vec(frame.XDirection()) * (40 * std::cos(turn) + random.between(-1, 1)) +
          gp_Vec(frame.YDirection()) * (40 * std::sin(turn) + random.between(-1, 1)) +
          gp_Vec(frame.Direction()) * random.between(-1, 1)));
      picks.push_back(point_given(points.back()));
    }
    const auto squares = [&](const auto& off) {
      double sum = 0;
      for (const gp_Pnt& p : points) sum += off(p) * off(p);
      return sum;
    };
    const auto beside = [&](const gp_Ax1& axis) {
      return gp_Ax1(axis.Location().Translated(gp_Vec(random.direction()) * 0.05),
                    gp_Dir(gp_Vec(axis.Direction()) + gp_Vec(random.direction()) * 1e-3));
    };
    const gp_Pln plane = planes(run("plane.best-fit", picks)).front();
    const gp_Ax1 line = axes(run("axis.best-line", picks)).front();
    const double best_plane = squares([&](const gp_Pnt&p) { return height_over(plane, p); }),
                 best_line = squares([&](const gp_Pnt&p) { return distance(line, p); });
    for (int k = 0; k < 20; ++k) {
      const gp_Ax1 tried_normal = beside(plane.Axis()), tried_line = beside(line);
      const gp_Pln tried(tried_normal.Location(), tried_normal.Direction());
      EXPECT_GE(squares([&](const gp_Pnt& p) { return height_over(tried, p); }), best_plane * (1 - 1e-12));
      EXPECT_GE(squares([&](const gp_Pnt& p) { return distance(tried_line, p); }), best_line * (1 - 1e-12));
    }
    const auto circle = fit_circle(points);
    ASSERT_TRUE(circle);
    const auto in_plane_off = [&](const gp_Pnt& centre, double radius) {
      return squares([&](const gp_Pnt& p) { return foot_on(plane, p).Distance(centre) - radius; });
    };
    const gp_Pnt centre = circle->shape.Location();
    const double best = in_plane_off(centre, circle->shape.Radius());
    for (int k = 0; k < 20; ++k) {
      const gp_Pnt tried = foot_on(plane, centre.Translated(gp_Vec(random.direction()) * 0.05));
      EXPECT_GE(in_plane_off(tried, circle->shape.Radius() + random.between(-0.05, 0.05)), best * (1 - 1e-9));
    }
  }
}

// The pick that is named as the worst is it, and leaving it out never fits worse.
TEST_F(Properties, LeavingOutTheWorstFitsBetter) {
  for (int i = 0; i < 60; ++i) {
    std::vector<Given> picks;
    picks.reserve(6);
    const gp_Ax1 line = random.axis();
    for (int k = 0; k < 6; ++k)
      picks.push_back(point_given(line.Location().Translated(gp_Vec(line.Direction()) * (20 * k) +
                                                             gp_Vec(random.direction()) * 0.1)));
    const int odd = random.whole(0, 5);
    picks[static_cast<size_t>(odd)].point->Translate(
        gp_Vec(square_to(line.Direction(), direction_off(line.Direction()))) * 8);
    const auto made = run("axis.best-line", picks);
    ASSERT_TRUE(made);
    std::vector<gp_Pnt> points;
    points.reserve(picks.size());
    for (const Given& pick : picks) points.push_back(*pick.point);
    const auto fit = fit_line(points);
    ASSERT_TRUE(fit);
    EXPECT_EQ(made->front().worst_role, static_cast<int>(fit->quality.worst));
    points.erase(points.begin() + made->front().worst_role);
    EXPECT_LT(fit_line(points)->quality.rms_mm, fit->quality.rms_mm);
  }
}

TEST_F(Properties, FiguresLieInTheirPlaneAtTheirSizesAndClose) {
  for (int i = 0; i < kRounds; ++i) {
    const gp_Pln plane = random.plane();
    const gp_Pnt from = random.point();
    const Given frame = frame_given(make_frame(random.point(), random.direction(), random.direction()));
    const double a = random.between(1, 80), b = random.between(1, 80);
    const auto draw = [&](const char* id, ParameterTexts texts) {
      texts["turn"] = std::to_string(random.between(-180, 180));
      const auto made = run(id, {plane_given(plane), point_given(from), frame}, texts);
      EXPECT_TRUE(made) << id;
      auto edges = std::get<FigureDatum>(made->front().value).edges;
      gp_Pnt last = *given_by_curve(edges.back(), Snap::kEnd).point;
      for (const TopoDS_Edge& edge : edges) {
        EXPECT_LT(last.Distance(*given_by_curve(edge, Snap::kStart).point), kBound_mm) << id;
        last = *given_by_curve(edge, Snap::kEnd).point;
        for (const Snap snap : {Snap::kStart, Snap::kMiddle, Snap::kEnd})
          EXPECT_NEAR(height_over(plane, *given_by_curve(edge, snap).point), 0, kBound_mm) << id;
      }
      return edges;
    };
    const std::string first = fmt::format("{:.17g}", a), second = fmt::format("{:.17g}", b);
    const auto rectangle = draw("figure.rectangle", {{"width", first}, {"height", second}});
    EXPECT_NEAR(length_of(rectangle[0]), a, kBound_mm);
    EXPECT_NEAR(length_of(rectangle[1]), b, kBound_mm);
    EXPECT_TRUE(square(*given_by_curve(rectangle[0], Snap::kWhole).direction,
                       *given_by_curve(rectangle[1], Snap::kWhole).direction, 1e-9));
    const auto slot = draw("figure.slot", {{"length", first}, {"width", second}});
    EXPECT_NEAR(length_of(slot[1]), kPi * b / 2, kBound_mm);
    const int sides = 3 + i % 9;
    const auto polygon = draw("figure.polygon", {{"sides", std::to_string(sides)}, {"across", first}});
    ASSERT_EQ(polygon.size(), static_cast<size_t>(sides));
    for (const TopoDS_Edge& edge : polygon)
      EXPECT_NEAR(foot_on(plane, from).Distance(*given_by_curve(edge, Snap::kMiddle).point), a / 2,
                  kBound_mm);
  }
}

}  // namespace
}  // namespace anvil
