// Regions grown on meshes of known shape: the kind, the surface, where they end, and how noise and missing
// triangles spread.
#include <gtest/gtest.h>

#include "demo/demo_part.h"
#include "geom/primitives.h"
#include "support/random.h"
#include "support/scans.h"

namespace anvil {
namespace {

using test::scan_places;
using test::ScanPlace;
using test::TestMesh;
using test::wish_at;

Region grown(const TestMesh& mesh, const RegionWish& wish) {
  const auto region = region_at(*mesh.part(), 0, wish);
  EXPECT_TRUE(region) << (region ? "" : region.error().sentence);
  return region ? **region : Region{};
}

// As drawn: radius of the surface, its axis and what lies on it.
void expect_counterweight(const ScanPlace& place, const Region& region, const gp_Trsf& motion,
                          double bound_mm, double bound_rad) {
  SCOPED_TRACE(place.name);
  const Surface& s = region.surface;
  ASSERT_EQ(s.kind, place.kind);
  const gp_Ax1 axis = gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)).Transformed(motion);
  const std::string name = place.name;
  EXPECT_EQ(s.inside, name == "bore");
  if (place.kind == SurfaceKind::kSphere) {
    EXPECT_LT(s.position.Location().Distance(gp_Pnt(0, 0, 35).Transformed(motion)), bound_mm);
    EXPECT_NEAR(s.radius_mm, 20, bound_mm);
    return;
  }
  EXPECT_LT(acute_angle(s.position.Direction(), axis.Direction()), bound_rad);
  if (place.kind == SurfaceKind::kPlane) {
    EXPECT_LT(std::abs(height_over(s.plane(), axis.Location())), bound_mm);
    EXPECT_LT(s.position.Direction().Dot(axis.Direction()), 0);  // out of the material
    return;
  }
  EXPECT_LT(distance(s.axis(), gp_Pnt(0, 0, 10).Transformed(motion)), bound_mm);
  if (place.kind == SurfaceKind::kCylinder) {
    EXPECT_NEAR(s.radius_mm, name == "bore" ? 4 : 30, bound_mm);
    return;
  }
  EXPECT_NEAR(s.semi_angle_rad, std::atan2(10, 15), bound_rad);
  const gp_Pnt tip = s.position.Location().Translated(gp_Vec(s.position.Direction()) *
                                                      (-s.radius_mm / std::tan(s.semi_angle_rad)));
  // An error of the angle moves the tip by the radius over the square of its sine.
  EXPECT_LT(tip.Distance(gp_Pnt(0, 0, 65).Transformed(motion)), 3 * bound_mm + 81 * bound_rad);
}

// Triangles of each face of the counterweight, from how its profile was divided.
size_t triangles_of(const std::string& name) {
  const double cone = std::hypot(10, 15), arc = 20 * std::acos(0.2);
  const double rings = name == "bottom"  ? 26
                       : name == "outer" ? 20
                       : name == "cone"  ? cone
                       : name == "dome"  ? arc
                                         : 55;
  return static_cast<size_t>(std::lround(rings)) * 2 * test::kSegments;
}

TEST(ScanRegions, AreTheWholeFaceAndNothingElse) {
  const TestMesh mesh = test::counterweight();
  for (const ScanPlace& place : scan_places()) {
    const Region region = grown(mesh, wish_at(place.name));
    expect_counterweight(place, region, {}, 1e-7, 1e-8);
    EXPECT_LT(region.quality.largest_mm, 1e-7) << place.name;
    EXPECT_EQ(region.triangles.size(), triangles_of(place.name)) << place.name;
  }
}

TEST(ScanRegions, AreTheSameWhereverTheScanLies) {
  test::Random random(20261125);
  for (int i = 0; i < 4; ++i) {
    gp_Trsf motion = random.motion(), far;
    far.SetTranslation(gp_Vec(random.direction()) * 1e6);
    if (i % 2) motion = far * motion;
    TestMesh mesh = test::counterweight();
    mesh.move(motion);
    for (const ScanPlace& place : scan_places())
      expect_counterweight(place, grown(mesh, wish_at(place.name, motion)), motion, i % 2 ? 1e-5 : 1e-7,
                           1e-6);
  }
}

// An axis through n points that scatter by sigma over a length L leans by about sigma sqrt(12 / n) / L, a
// centre is off by sigma sqrt(k / n) with k up to some 20 for caps and short cones.
TEST(ScanRegions, NoiseMovesThemByNoMoreThanItMust) {
  constexpr double kSigma = 0.03;
  for (unsigned seed = 1; seed <= 6; ++seed) {
    SCOPED_TRACE("seed " + std::to_string(seed));
    TestMesh mesh = test::counterweight();
    mesh.scatter(kSigma, seed);
    mesh.remove_some(0.05, seed);
    for (const ScanPlace& place : scan_places()) {
      const Region region = grown(mesh, wish_at(place.name));
      const double root = std::sqrt(static_cast<double>(region.points.size()));
      expect_counterweight(place, region, {}, 5 * kSigma * std::sqrt(20) / root,
                           5 * kSigma * std::sqrt(12) / root / 4);
      EXPECT_NEAR(region.quality.rms_mm, kSigma, 0.15 * kSigma) << place.name;
      EXPECT_GT(region.triangles.size(), triangles_of(place.name) * 0.8) << place.name;
    }
  }
}

TEST(ScanRegions, APlaneEndsWhereItsFilletBegins) {
  // A flat top of radius 20, rounded with radius 6 into a cylinder of radius 26.
  std::vector<gp_XY> profile;
  for (int z = 0; z <= 20; ++z) profile.emplace_back(26, z);
  for (int i = 1; i <= 12; ++i)
    profile.emplace_back(20 + 6 * std::cos(kPi / 24 * i), 20 + 6 * std::sin(kPi / 24 * i));
  for (int r = 19; r >= 1; --r) profile.emplace_back(r, 26);
  const TestMesh mesh = test::turned(profile, false, 72);
  const Region top = grown(mesh, {{10, 0, 26}, {0, 0, 1}});
  EXPECT_EQ(top.surface.kind, SurfaceKind::kPlane);
  for (const gp_Pnt& p : top.points) EXPECT_LT(std::hypot(p.X(), p.Y()), 20 + 1e-9);
  EXPECT_EQ(top.triangles.size(), 19u * 2 * 72);
  const Region side = grown(mesh, {{26, 0, 10}, {1, 0, 0}});
  EXPECT_EQ(side.surface.kind, SurfaceKind::kCylinder);
  EXPECT_NEAR(side.surface.radius_mm, 26, 1e-7);
  for (const gp_Pnt& p : side.points) EXPECT_LT(p.Z(), 20 + 1e-9);
}

TEST(ScanRegions, AreReadFromFewLargeTriangles) {
  // As programs write exact shapes: a prism of 24 sides for a cylinder, with two triangles a side.
  const TestMesh mesh = test::turned({{0.001, 0}, {10, 0}, {10, 40}, {0.001, 40}}, true, 24);
  const Region side = grown(mesh, {{10, 0, 20}, {1, 0, 0}});
  EXPECT_EQ(side.surface.kind, SurfaceKind::kCylinder);
  EXPECT_NEAR(side.surface.radius_mm, 10, 1e-7);
  EXPECT_EQ(side.triangles.size(), 48u);
  TestMesh cube;
  cube.nodes = {{0, 0, 0}, {9, 0, 0}, {9, 9, 0}, {0, 9, 0}, {0, 0, 9}, {9, 0, 9}, {9, 9, 9}, {0, 9, 9}};
  cube.triangles = {{0, 2, 1}, {0, 3, 2}, {4, 5, 6}, {4, 6, 7}, {0, 1, 5}, {0, 5, 4},
                    {1, 2, 6}, {1, 6, 5}, {2, 3, 7}, {2, 7, 6}, {3, 0, 4}, {3, 4, 7}};
  const Region top = grown(cube, {{6, 3, 9}, {0, 0, 1}});
  EXPECT_EQ(top.surface.kind, SurfaceKind::kPlane);
  EXPECT_EQ(top.triangles.size(), 2u);
  EXPECT_NEAR(top.area_mm2, 81, 1e-9);
}

TEST(ScanRegions, GrowAsFarAsTheyMayScatterAndAsWhatIsWished) {
  TestMesh mesh = test::counterweight();
  mesh.scatter(0.03, 7);
  RegionWish tight = wish_at("outer"), wide = tight;
  tight.within_mm = 0.045;
  wide.within_mm = 0.15;
  EXPECT_LT(grown(mesh, tight).triangles.size() * 1.2, grown(mesh, wide).triangles.size());
  RegionWish as_cone = wish_at("outer");
  as_cone.as = SurfaceKind::kPlane;
  const Region strip = grown(mesh, as_cone);
  EXPECT_EQ(strip.surface.kind, SurfaceKind::kPlane);
  EXPECT_LT(strip.triangles.size() * 4, triangles_of("outer"));
  RegionWish no_sphere = wish_at("bottom");
  no_sphere.as = SurfaceKind::kSphere;
  const auto refused = region_at(*mesh.part(), 0, no_sphere);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().sentence.find("no sphere fits there within"), std::string::npos);
}

TEST(ScanRegions, OfAThinWallTheSideThatIsSeenIsMeant) {
  // Two discs 0.1 apart that face away from each other.
  const TestMesh mesh = test::turned({{1, 0}, {20, 0}, {20, 0.1}, {1, 0.1}}, true, 48);
  EXPECT_GT(grown(mesh, {{10, 0, 0.02}, {0, 0, 1}}).surface.position.Direction().Z(), 0.99);
  EXPECT_LT(grown(mesh, {{10, 0, 0.08}, {0, 0, -1}}).surface.position.Direction().Z(), -0.99);
}

TEST(ScanRegions, OfAMeshInsideOutTheFaceUnderThePointerIsMeant) {
  TestMesh mesh = test::counterweight();
  for (auto& triangle : mesh.triangles) std::swap(triangle[1], triangle[2]);
  const Region outer = grown(mesh, wish_at("outer"));
  EXPECT_NEAR(outer.surface.radius_mm, 30, 1e-7);
  EXPECT_TRUE(outer.surface.inside);  // as its triangles say
}

TEST(ScanRegions, RefuseWhatIsNotThereAndStopWhenAsked) {
  const TestMesh mesh = test::counterweight();
  const PartPtr part = mesh.part();
  EXPECT_EQ(region_at(*part, 1, wish_at("outer")).error().code, RefusalCode::kUnknownName);
  const auto away = region_at(*part, 0, {{200, 0, 0}, {1, 0, 0}});
  ASSERT_FALSE(away);
  EXPECT_NE(away.error().sentence.find("170.000 mm away"), std::string::npos) << away.error().sentence;
  Progress stopped;
  stopped.cancelled = [] { return true; };
  EXPECT_EQ(region_at(*part, 0, wish_at("outer"), stopped).error().code, RefusalCode::kCancelled);
  EXPECT_FALSE(is_region_known(*part, 0, wish_at("outer")));
  EXPECT_TRUE(region_at(*part, 0, wish_at("outer")));
  EXPECT_TRUE(is_region_known(*part, 0, wish_at("outer")));
}

TEST(ScanRegions, BrokenMeshesGiveARegionOrAReason) {
  TestMesh mesh = test::counterweight();
  mesh.triangles.push_back({0, 0, 1});                          // no area
  mesh.triangles.push_back(mesh.triangles[40]);                 // twice
  std::swap(mesh.triangles[4000][0], mesh.triangles[4000][1]);  // inside out
  mesh.remove_some(0.4, 3);
  for (const ScanPlace& place : scan_places()) {
    const auto region = region_at(*mesh.part(), 0, wish_at(place.name));
    ASSERT_TRUE(region || !region.error().sentence.empty());
    EXPECT_TRUE(!region || !(*region)->points.empty());
  }
  TestMesh single;
  single.nodes = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
  single.triangles = {{0, 1, 2}};
  const Region alone = grown(single, {{0.2, 0.2, 0}, {0, 0, 1}});
  EXPECT_EQ(alone.points.size(), 3u);
  EXPECT_EQ(alone.surface.kind, SurfaceKind::kPlane);
}

// The demo's casting, with fillets everywhere: what its drawing says, within its noise.
TEST(ScanRegions, OfTheCastingAreWhatItsDrawingSays) {
  const demo::DemoScan scan = demo::counterweight_scan();
  const Part part(SourceInfo{}, scan.bodies);
  const auto at = [&](const gp_Pnt& place, const gp_Dir& seen_from) {
    const auto region =
        region_at(part, 0, {place.Transformed(scan.placement), seen_from.Transformed(scan.placement)});
    EXPECT_TRUE(region);
    Region drawn = moved_region(**region, scan.placement.Inverted());
    EXPECT_NEAR(
        drawn.quality.rms_mm, demo::DemoScan::kNoise_mm,
        0.002 + 3.5 * demo::DemoScan::kNoise_mm / std::sqrt(2.0 * static_cast<double>(drawn.points.size())))
        << region_text(drawn, {}) << ", " << drawn.points.size() << " points within " << drawn.within_mm;
    return drawn;
  };
  constexpr double kBound_mm = 0.02, kBound_rad = 0.0015;
  const gp_Dir up(0, 0, 1);
  const auto expect_plane = [&](const Region& region, const gp_Pln& plane) {
    ASSERT_EQ(region.surface.kind, SurfaceKind::kPlane);
    EXPECT_TRUE(region.surface.position.Direction().IsEqual(plane.Axis().Direction(), kBound_rad));
    EXPECT_NEAR(height_over(plane, region.average), 0, kBound_mm);
  };
  expect_plane(at({-28, 0, 0}, {0, 0, -1}), gp_Pln(gp_Pnt(0, 0, 0), up.Reversed()));
  expect_plane(at({54, 0, 20}, {1, 0, 0}), gp_Pln(gp_Pnt(54, 0, 0), gp_Dir(1, 0, 0)));
  for (const auto& [region, radius] :
       {std::pair{at({-45, 0, 20}, {-1, 0, 0}), 45.0}, {at({12, 0, 20}, {-1, 0, 0}), 12.0}}) {
    ASSERT_EQ(region.surface.kind, SurfaceKind::kCylinder);
    EXPECT_NEAR(region.surface.radius_mm, radius, kBound_mm);
    EXPECT_LT(acute_angle(region.surface.position.Direction(), up), kBound_rad);
    EXPECT_LT(distance(region.surface.axis(), gp_Pnt(0, 0, 20)), kBound_mm);
  }
  // The pad's upper side is a strip of some 40 by 8 between two fillets: three times what its noise allows.
  const Region strip = at({50, 0, 32}, up);
  ASSERT_EQ(strip.surface.kind, SurfaceKind::kPlane);
  EXPECT_LT(strip.surface.position.Direction().Angle(up),
            3 * demo::DemoScan::kNoise_mm * std::sqrt(12.0 / static_cast<double>(strip.points.size())) / 8);
  for (const double y : {-17, -12, 0, 12})
    for (const double x : {49, 51, 53})
      EXPECT_LT(at({x, y, 32}, up).surface.position.Direction().Angle(strip.surface.position.Direction()),
                0.001)
          << "clicked at " << x << ", " << y;
  const Region cone = at({-38, 0, 47}, {-1, 0, 1});
  ASSERT_EQ(cone.surface.kind, SurfaceKind::kCone);
  EXPECT_NEAR(cone.surface.semi_angle_rad, kPi / 4, kBound_rad);
  EXPECT_LT(acute_angle(cone.surface.position.Direction(), up), kBound_rad);
  const Region ball = at({-18, 0, 50 + std::sqrt(26 * 26 - 18 * 18)}, {-1, 0, 1});
  ASSERT_EQ(ball.surface.kind, SurfaceKind::kSphere);
  EXPECT_LT(ball.surface.position.Location().Distance(gp_Pnt(0, 0, 50)), 2 * kBound_mm);
}

}  // namespace
}  // namespace anvil
