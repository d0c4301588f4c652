// Parts whose making is known, in every disguise.
#include <gtest/gtest.h>

#include <cstdlib>
#include <iostream>

#include "base/units.h"
#include "geom/primitives.h"
#include "inspect/corners.h"
#include "inspect/holes.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"
#include "support/known_parts.h"

namespace anvil::test {
namespace {

constexpr unsigned kSeed = 20261129;

// KNOWN_PARTS=10000 KNOWN_SEED=7 for more of them, by hand.
int asked(const char* name, int otherwise) {
  const char* text = std::getenv(name);
  return text ? std::atoi(text) : otherwise;
}

std::string steps_of(const Hole& hole) {
  std::string text;
  for (const HoleStep& step : hole.steps)
    text += (text.empty() ? "" : " ") + std::string(step_name(step.kind));
  return text;
}

void expect_hole(const HoleReport& report, const KnownHole& known, const Disguise& disguise) {
  const double scale = std::abs(disguise.motion.ScaleFactor()), within = disguise.within_mm;
  const gp_Pnt entry = known.entry.Transformed(disguise.motion);
  const gp_Vec down = gp_Vec(known.axis.Reversed()) * known.depth;
  const gp_Pnt exit = known.entry.Translated(down).Transformed(disguise.motion);
  const auto at = std::find_if(report.holes.begin(), report.holes.end(), [&](const Hole& h) {
    return h.entry.Distance(entry) < 10 * within || (known.through && h.entry.Distance(exit) < 10 * within);
  });
  if (at == report.holes.end()) {
    ADD_FAILURE() << known.form << " Ø" << known.diameter << " is not found, of " << report.holes.size();
    return;
  }
  EXPECT_NEAR(at->diameter_mm, known.diameter * scale, within) << known.form;
  EXPECT_NEAR(at->depth_mm, known.depth * scale, within) << known.form << " " << steps_of(*at);
  EXPECT_EQ(at->through, known.through) << known.form;
  EXPECT_EQ(steps_of(*at), known.steps) << known.form << " Ø" << known.diameter;
  EXPECT_EQ(at->full_turn, known.full_turn) << known.form;
}

TEST(KnownParts, EveryHoleInEveryDisguise) {
  const unsigned seed = static_cast<unsigned>(asked("KNOWN_SEED", kSeed));
  std::cout << "seed " << seed << '\n';
  Random random(seed);
  for (int round = asked("KNOWN_PARTS", 75) / 7; round >= 0; --round) {
    const KnownPlate plate = random_plate(random);
    for (const Disguise& disguise : disguises(random)) {
      SCOPED_TRACE(testing::Message() << "round " << round << ", " << disguise.name);
      const HoleReport report = holes_of(*part_of(disguise.made(plate.shape, disguise.motion)));
      EXPECT_EQ(report.holes.size(), plate.holes.size());
      for (const KnownHole& hole : plate.holes) expect_hole(report, hole, disguise);
      if (testing::Test::HasFailure()) return;
    }
  }
}

TEST(KnownParts, EveryCornerInEveryDisguise) {
  const unsigned seed = static_cast<unsigned>(asked("KNOWN_SEED", kSeed));
  Random random(seed);
  for (int round = asked("KNOWN_PARTS", 225) / 7; round >= 0; --round) {
    const KnownPocket pocket = random_pocket(random);
    for (const Disguise& disguise : disguises(random)) {
      SCOPED_TRACE(testing::Message() << "round " << round << ", " << disguise.name);
      const double scale = std::abs(disguise.motion.ScaleFactor()), within = disguise.within_mm;
      gp_Dir axis = pocket.axis;
      axis.Transform(disguise.motion);
      const CornerReport report = corners_of(*part_of(disguise.made(pocket.shape, disguise.motion)), axis);
      int round_corners = 0;
      for (const Corner& corner : report.corners) {
        if (!corner.is_wall()) continue;
        EXPECT_NEAR(corner.depth_mm, pocket.depth * scale, within) << corner_name(corner.kind);
        EXPECT_FALSE(corner.undercut);
        if (corner.kind == CornerKind::kWallRound) ++round_corners;
      }
      EXPECT_EQ(round_corners, pocket.round_corners);
      EXPECT_EQ(report.sharp_wall_corners, pocket.sharp_corners);
      ASSERT_EQ(report.pockets.size(), 1u);
      EXPECT_FALSE(report.pockets.front().open);
      if (pocket.passage > 0 && !report.has_passages_not_looked_at) {
        ASSERT_TRUE(report.narrowest_passage);
        EXPECT_NEAR(report.narrowest_passage->width_mm, pocket.passage * scale, within);
      }
      const double smallest = pocket.round_corners > 0 ? pocket.smallest_radius * scale : 0;
      EXPECT_NEAR(report.smallest_wall_radius_mm.value_or(0), smallest, within);
      if (testing::Test::HasFailure()) return;
    }
  }
}

}  // namespace
}  // namespace anvil::test
