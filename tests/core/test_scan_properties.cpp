// What defines a fit and an average, on scattered scans that lie anyhow (seeded).
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "support/givens.h"
#include "support/random.h"
#include "support/scans.h"

namespace anvil {
namespace {

using test::run;
using test::wish_at;

constexpr unsigned kSeed = 20261125;
constexpr int kRounds = 8;
constexpr double kSigma_mm = 0.02;

class ScanProperties : public testing::TestWithParam<int> {
 protected:
  ScanProperties() : motion_(random_.motion()) {
    mesh_ = test::counterweight();
    mesh_.scatter(kSigma_mm, kSeed + GetParam());
    mesh_.move(motion_);
    part_ = mesh_.part();
  }
  Given pick(const char* place) {
    const auto region = region_at(*part_, 0, wish_at(place, motion_));
    EXPECT_TRUE(region);
    return given_by_region(*part_, 0, *region, {});
  }

  test::Random random_{kSeed + static_cast<unsigned>(GetParam()), 100};
  gp_Trsf motion_;
  test::TestMesh mesh_;
  PartPtr part_;
};

template <class Distance>
double squares(const std::vector<gp_Pnt>& points, Distance distance) {
  double sum = 0;
  for (const gp_Pnt& p : points) sum += distance(p) * distance(p);
  return sum;
}

// Of points on a cylinder, for the radius that suits the axis best.
double squares_about(const gp_Ax1& axis, const std::vector<gp_Pnt>& points) {
  double mean = 0;
  for (const gp_Pnt& p : points) mean += distance(axis, p) / static_cast<double>(points.size());
  return squares(points, [&](const gp_Pnt& p) { return distance(axis, p) - mean; });
}

TEST_P(ScanProperties, NoAxisNearTheFittedOneLeavesLess) {
  for (const char* place : {"outer", "bore"}) {
    const Given round = pick(place);
    const auto made = run("axis.of", {round});
    ASSERT_TRUE(made);
    EXPECT_EQ(made->front().note.rfind("RMS 0.0", 0), 0u) << made->front().note;
    const gp_Ax1 axis = std::get<AxisDatum>(made->front().value).axis;
    const std::vector<gp_Pnt>& points = round.region->points;
    const double least = squares_about(axis, points);
    EXPECT_NEAR(round.region->quality.rms_mm, std::sqrt(least / static_cast<double>(points.size())), 1e-9);
    for (int i = 0; i < 40; ++i) {
      gp_Ax1 other = axis;
      other.Translate(gp_Vec(random_.direction()) * random_.between(1e-5, 1e-2));
      other.Rotate(gp_Ax1(round.region->average, random_.direction()), random_.between(-1e-4, 1e-4));
      EXPECT_GE(squares_about(other, points), least * (1 - 1e-12));
    }
  }
}

TEST_P(ScanProperties, NoTipAndAngleNearTheFittedConeLeaveLess) {
  const Given cone = pick("cone");
  const auto tip = run("point.centre", {cone});
  ASSERT_TRUE(tip);
  const gp_Pnt at = std::get<PointDatum>(tip->front().value).point;
  const gp_Dir along = cone.axis->Direction();
  const auto off = [&](const gp_Pnt& apex, const gp_Dir& axis, double half) {
    return squares(cone.region->points, [&](const gp_Pnt& p) {
      const gp_Vec v(apex, p);
      return v.Magnitude() * std::sin(v.Angle(gp_Vec(axis)) - half);
    });
  };
  const double half = cone.surface->semi_angle_rad, least = off(at, along, half);
  for (int i = 0; i < 40; ++i) {
    const gp_Dir other = along.Rotated(gp_Ax1(at, random_.direction()), random_.between(-1e-3, 1e-3));
    EXPECT_GE(off(at.Translated(gp_Vec(random_.direction()) * random_.between(0, 0.02)), other,
                  half + random_.between(-1e-3, 1e-3)),
              least * (1 - 1e-12));
  }
}

TEST_P(ScanProperties, NoCentreNearTheFittedOneLeavesLess) {
  const Given dome = pick("dome");
  const auto made = run("point.centre", {dome});
  ASSERT_TRUE(made);
  const gp_Pnt centre = std::get<PointDatum>(made->front().value).point;
  const auto off = [&](const gp_Pnt& about) {
    double mean = 0;
    for (const gp_Pnt& p : dome.region->points)
      mean += p.Distance(about) / static_cast<double>(dome.region->points.size());
    return squares(dome.region->points, [&](const gp_Pnt& p) { return p.Distance(about) - mean; });
  };
  const double least = off(centre);
  for (int i = 0; i < 40; ++i)
    EXPECT_GE(off(centre.Translated(gp_Vec(random_.direction()) * random_.between(1e-5, 1e-2))),
              least * (1 - 1e-12));
}

TEST_P(ScanProperties, AveragesLieEvenlyAmongTheirPoints) {
  for (const char* place : {"bottom", "outer", "cone", "dome", "bore"}) {
    const Given region = pick(place);
    const auto made = run("point.of-region", {region});
    ASSERT_TRUE(made);
    gp_XYZ sum;
    for (const gp_Pnt& p : region.region->points)
      sum += p.XYZ() - std::get<PointDatum>(made->front().value).point.XYZ();
    EXPECT_LT(sum.Modulus(), 1e-8 * static_cast<double>(region.region->points.size())) << place;
  }
}

TEST_P(ScanProperties, CirclesOfRoundRegionsStandOnTheAxisAmidTheirPoints) {
  for (const char* place : {"outer", "cone", "bore"}) {
    const Given region = pick(place);
    const auto made = run("point.region-circle", {region});
    ASSERT_TRUE(made);
    const gp_Pnt centre = std::get<PointDatum>(made->front().value).point;
    EXPECT_LT(distance(*region.axis, centre), 1e-9) << place;
    double along = 0;
    for (const gp_Pnt& p : region.region->points)
      along += gp_Vec(centre, p).Dot(gp_Vec(region.axis->Direction()));
    EXPECT_NEAR(along / static_cast<double>(region.region->points.size()), 0, 1e-8) << place;
  }
}

INSTANTIATE_TEST_SUITE_P(Seeds, ScanProperties, testing::Range(0, kRounds));

}  // namespace
}  // namespace anvil
