// Spheres, cylinders and cones through points of known ones (seeded), and points that determine none.
#include <gtest/gtest.h>

#include "base/units.h"
#include "geom/fits_round.h"
#include "geom/primitives.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::Random;

constexpr unsigned kSeed = 20261125;

class RoundFits : public testing::Test {
 protected:
  RoundFits() { SCOPED_TRACE("seed " + std::to_string(kSeed)); }

  // On a cone, or with half = 0 a cylinder, over part of the turn, Z its axis, moved somewhere.
  std::vector<gp_Pnt> round(double radius, double half, double turn, double height, const gp_Trsf& motion) {
    std::vector<gp_Pnt> points;
    for (int i = 0; i < 200; ++i) {
      const double at = random.between(0, turn), z = random.between(0, height),
                   r = radius + z * std::tan(half);
      points.push_back(gp_Pnt(r * std::cos(at), r * std::sin(at), z).Transformed(motion));
    }
    return points;
  }
  gp_Dir guess_about(const gp_Dir& axis, double off_rad) {
    const gp_Dir square = square_to(axis, random.direction());
    return axis.Rotated(gp_Ax1(gp_Pnt(), square), off_rad);
  }

  Random random{kSeed, 200};
};

TEST_F(RoundFits, FindCylindersAndConesFromPartsOfThem) {
  for (int i = 0; i < 40; ++i) {
    const gp_Trsf motion = random.motion();
    const gp_Dir axis = gp_Dir(0, 0, 1).Transformed(motion);
    const double radius = random.between(2, 60), turn = radians(random.between(40, 360)),
                 height = random.between(0.5, 3) * radius;
    const double half = radians(random.between(8, 60)),
                 bow = radius * (1 - std::cos(std::min(turn, kPi) / 2)),
                 lean = std::min(radians(20), std::atan(0.7 * bow / (height / 2)));
    const auto cylinder = fit_cylinder(round(radius, 0, turn, height, motion), guess_about(axis, lean));
    ASSERT_TRUE(cylinder) << cylinder.error().sentence;
    EXPECT_NEAR(cylinder->shape.Radius(), radius, 1e-6 * radius);
    EXPECT_LT(acute_angle(cylinder->shape.Axis().Direction(), axis), 1e-6);
    EXPECT_LT(distance(cylinder->shape.Axis(), gp_Pnt().Transformed(motion)), 1e-5 * radius);
    const auto cone = fit_cone(round(radius, half, turn, height, motion), guess_about(axis, lean / 2));
    ASSERT_TRUE(cone) << cone.error().sentence;
    EXPECT_NEAR(cone->shape.SemiAngle(), half, 1e-6);
    EXPECT_LT(cone->shape.Apex().Distance(gp_Pnt(0, 0, -radius / std::tan(half)).Transformed(motion)),
              1e-4 * radius);
    EXPECT_LT(cone->quality.largest_mm, 1e-7 * radius);
  }
}

TEST_F(RoundFits, FindSpheresFromCaps) {
  for (int i = 0; i < 40; ++i) {
    const double radius = random.between(1, 100);
    const gp_Pnt centre = random.point();
    const gp_Dir top = random.direction();
    std::vector<gp_Pnt> cap;
    while (cap.size() < 60) {
      const gp_Dir out = random.direction();
      if (out.Angle(top) < radians(35)) cap.push_back(centre.Translated(gp_Vec(out) * radius));
    }
    const auto sphere = fit_sphere(cap);
    ASSERT_TRUE(sphere);
    EXPECT_LT(sphere->shape.Location().Distance(centre), 1e-7 * radius + 1e-10);
    EXPECT_NEAR(sphere->shape.Radius(), radius, 1e-7 * radius + 1e-10);
  }
}

TEST_F(RoundFits, RefusePointsThatDetermineNone) {
  const std::vector<gp_Pnt> three{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
  const gp_Dir up(0, 0, 1);
  EXPECT_EQ(fit_sphere(three).error().facts.at("points"), 3);
  EXPECT_EQ(fit_cylinder(three, up).error().facts.at("points"), 3);
  EXPECT_EQ(fit_cone(three, up).error().facts.at("points"), 3);
  std::vector<gp_Pnt> circle, one(20, gp_Pnt(3, 4, 5));
  for (int i = 0; i < 20; ++i) circle.emplace_back(std::cos(i), std::sin(i), 0);
  EXPECT_FALSE(fit_sphere(circle)) << "many spheres hold one circle";
  EXPECT_FALSE(fit_cone(round(10, 0, 6, 20, {}), up)) << "without taper";
  for (const bool refused : {!fit_sphere(one), !fit_cylinder(one, up), !fit_cone(one, up)})
    EXPECT_TRUE(refused);
}

// One in a hundred may bow by chance; that many would be among 300 sets once in a thousand times.
TEST_F(RoundFits, TakeNoScatterAboutAPlaneForABow) {
  constexpr int kSets = 300, kMostByChance = 10;
  for (const int points : {8, 12, 20, 50, 200}) {
    int spheres = 0, cylinders = 0, cones = 0;
    for (int set = 0; set < kSets; ++set) {
      std::vector<gp_Pnt> flat;
      for (int i = 0; i < points; ++i) {
        const double x = random.between(0, 9), y = random.between(0, 9);
        flat.emplace_back(x, y, random.between(-0.01, 0.01));
      }
      const auto cylinder = fit_cylinder(flat, gp_Dir(1, 0, 0));
      if (cylinder)
        ++cylinders;
      else
        EXPECT_NE(cylinder.error().sentence.find("they determine no cylinder"), std::string::npos);
      spheres += fit_sphere(flat) ? 1 : 0;
      cones += fit_cone(flat, gp_Dir(1, 0, 0)) ? 1 : 0;
    }
    EXPECT_LE(spheres, kMostByChance) << points << " points";
    EXPECT_LE(cylinders, kMostByChance) << points << " points";
    EXPECT_LE(cones, kMostByChance) << points << " points";
  }
}

}  // namespace
}  // namespace anvil
