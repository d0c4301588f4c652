// The demo parts written as other programs would write them: the same findings on all.
#include <gtest/gtest.h>

#include "part/measure.h"
#include "part/soundness.h"
#include "pick/reference.h"
#include "support/dialects.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using namespace anvil::test;

demo::DemoPart moved(demo::DemoPart demo, const gp_Trsf& motion) {
  for (demo::ExpectedHole& hole : demo.holes) {
    hole.entry.Transform(motion);
    hole.axis.Transform(motion);
  }
  // Levels count along the tool axis from the origin of the file.
  const gp_Dir before = demo.tool_axis;
  demo.tool_axis.Transform(motion);
  for (demo::ExpectedCorner& corner : demo.wall_corners) {
    const auto level = [&](double old) {
      const gp_Pnt at = gp_Pnt(before.XYZ() * old);
      return at.Transformed(motion).XYZ().Dot(demo.tool_axis.XYZ());
    };
    corner.top = level(corner.top);
    corner.bottom = level(corner.bottom);
    corner.centre.Transform(motion);
  }
  return demo;
}

class Dialects : public testing::TestWithParam<Dialect> {};

TEST_P(Dialects, SaddlePlateIsTheSame) {
  const PartPtr part = written_and_read(plate().bodies, GetParam());
  ASSERT_TRUE(part);
  const demo::DemoPart expected = moved(plate(), GetParam().motion);
  expect_all_holes(*part, expected, GetParam().within);
  expect_wall_corners(*part, expected, GetParam().within);
  EXPECT_EQ(holes_of(*part).slots.size(), 1u);
  const CornerReport corners = corners_of(*part, expected.tool_axis);
  EXPECT_NEAR(corners.smallest_wall_radius_mm.value_or(0), 1.5, GetParam().within.mm);
  EXPECT_NEAR(corners.smallest_slot_end_mm.value_or(0), 4.0, GetParam().within.mm);
  EXPECT_TRUE(corners.not_judged.empty());
}

TEST_P(Dialects, DeclinationHousingIsTheSame) {
  const PartPtr part = written_and_read(housing().bodies, GetParam());
  ASSERT_TRUE(part);
  const demo::DemoPart expected = moved(housing(), GetParam().motion);
  expect_all_holes(*part, expected, GetParam().within);
  expect_wall_corners(*part, expected, GetParam().within);
}

TEST_P(Dialects, WormYokeIsTheSame) {
  const demo::DemoPart yoke = demo::worm_yoke_a();
  const PartPtr part = written_and_read(yoke.bodies, GetParam());
  ASSERT_TRUE(part);
  expect_all_holes(*part, moved(yoke, GetParam().motion), GetParam().within);
}

// Splines to begin with, in every dialect.
TEST_P(Dialects, FinderRingIsTheSame) {
  const demo::DemoPart ring = demo::finder_ring();
  const PartPtr part = written_and_read(ring.bodies, GetParam());
  ASSERT_TRUE(part);
  constexpr size_t kRadial = 3;
  expect_all_holes(*part, moved(ring, GetParam().motion), {2e-3, 1e-4}, kRadial);
}

TEST_P(Dialects, SolidsAreSoundAndAsLarge) {
  const PartPtr part = written_and_read(plate().bodies, GetParam()),
                as_made = std::make_shared<const Part>(SourceInfo{}, plate().bodies);
  ASSERT_TRUE(part);
  ASSERT_EQ(part->bodies().size(), 1u);
  EXPECT_EQ(part->bodies().front().kind, BodyKind::kSolid);
  EXPECT_EQ(part->bodies().front().name, plate().bodies.front().name);
  for (const Finding& finding : check_soundness(*part, 0)) ADD_FAILURE() << finding.text;
  const double volume = volume_properties(as_made->bodies().front().shape).volume_mm3;
  EXPECT_NEAR(volume_properties(part->bodies().front().shape).volume_mm3, volume, 1e-5 * volume);
}

// A face that was picked on one is found on the other, where it is (pieces of it where the writer split it).
TEST_P(Dialects, PicksAreFoundAgain) {
  const PartPtr part = written_and_read(plate().bodies, GetParam()),
                as_made = std::make_shared<const Part>(SourceInfo{}, plate().bodies);
  ASSERT_TRUE(part);
  const gp_Trsf motion = GetParam().motion;
  for (const demo::ExpectedHole& hole : plate().holes) {
    const gp_Pnt on_wall =
        hole.entry.Translated(gp_Vec(hole.axis) * (-hole.depth + 1e-3))
            .Translated(gp_Vec(gp_Ax2(hole.entry, hole.axis).XDirection()) * (hole.diameter / 2));
    const int face = face_at(*as_made, on_wall, SurfaceKind::kCylinder);
    if (face < 0) continue;
    TopologyReference reference = describe(*as_made, 1, TopologyKind::kFace, face);
    reference.where.Transform(motion);
    reference.axis_at.Transform(motion);
    reference.direction.Transform(motion);
    const auto found = locate(*part, reference);
    ASSERT_TRUE(found) << found.error().sentence;
    const Surface& surface = part->topology().faces[found->index].surface;
    EXPECT_EQ(surface.kind, SurfaceKind::kCylinder);
    EXPECT_LT(gp_Lin(surface.axis()).Distance(hole.entry.Transformed(motion)), 2 * GetParam().within.mm);
    EXPECT_NE(found->how, Located::How::kByIntent);
  }
}

INSTANTIATE_TEST_SUITE_P(All, Dialects, testing::ValuesIn(dialects()), [](const auto& row) {
  std::string name = row.param.name;
  std::replace_if(
      name.begin(), name.end(), [](char c) { return !std::isalnum(static_cast<unsigned char>(c)); }, '_');
  return name;
});

}  // namespace
}  // namespace anvil
