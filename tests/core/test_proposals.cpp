// Tool axes that are proposed: on the demo housing the angles it was constructed with; the fewest, against
// trying all; and that visibility is computed.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include "base/units.h"
#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "setup/fewest.h"
#include "setup/kinematics.h"
#include "setup/proposals.h"
#include "setup/shipped_machines.h"
#include "support/fixtures.h"
#include "support/random.h"

namespace anvil {
namespace {

Proposals proposals_for(const Part& part, const ProposalOptions& options = {}) {
  const auto holes = find_holes(part);
  const auto found = propose_axes(part, *holes, options);
  EXPECT_TRUE(found);
  return *found;
}

bool proposes(const Proposals& proposals, const gp_Dir& direction) {
  return std::any_of(proposals.axes.begin(), proposals.axes.end(),
                     [&](const ProposedAxis& axis) { return axis.towards_tool.Angle(direction) < 1e-6; });
}

gp_Dir compound(double tilt_deg, double azimuth_deg, const gp_Trsf& placement) {
  const double t = radians(tilt_deg), a = radians(azimuth_deg);
  return gp_Dir(std::sin(t) * std::cos(a), std::sin(t) * std::sin(a), std::cos(t)).Transformed(placement);
}

TEST(Proposals, OfTheHousingAreTheAnglesItWasDrawnWith) {
  const demo::DemoPart housing = demo::declination_housing();
  const Part part(SourceInfo{}, housing.bodies);
  const Proposals found = proposals_for(part);
  const auto drawn = [&](double x, double y, double z) {
    return gp_Dir(x, y, z).Transformed(housing.placement);
  };
  EXPECT_TRUE(proposes(found, drawn(0, 0, 1)));                        // bore and bolt circle
  EXPECT_TRUE(proposes(found, compound(30, -25, housing.placement)));  // boss A
  EXPECT_TRUE(proposes(found, compound(45, 150, housing.placement)));  // boss B
  EXPECT_TRUE(proposes(found, drawn(0, -1, 0)));                       // the hole into the bore
  EXPECT_TRUE(proposes(found, drawn(-1, 0, 0)));  // the side pocket, and the cross hole from that end too
  EXPECT_EQ(found.axes.size(), 5u);
  EXPECT_TRUE(found.unreached.empty());
  for (const ProposedAxis& axis : found.axes) EXPECT_TRUE(axis.hole_face >= 0 || axis.flat_face >= 0);
}

// The cradle tips to one side only as far as 30°, and turns: with the bore upright it sees all but the
// directions lower than level.
TEST(Proposals, LeaveOutWhatTheMachineCannotPointAtAndSaySo) {
  const demo::DemoPart housing = demo::declination_housing();
  const Part part(SourceInfo{}, housing.bodies);
  const Machine* bench = nullptr;
  for (const Machine& machine : shipped_machines())
    if (machine.id == "bench-3axis") bench = &machine;
  const gp_Trsf upright = housing.placement.Inverted();
  ProposalOptions options;
  options.machine_reaches = [&](const gp_Dir& d) {
    return poses_for(*bench, d.Transformed(upright)).has_value();
  };
  const Proposals found = proposals_for(part, options);
  ASSERT_EQ(found.axes.size(), 1u);
  // Two boss holes, the cross hole along X, the one into the bore; and the corners of the side pocket.
  std::vector<std::string> holes;
  for (size_t i = 0; i < found.unreached.size(); ++i) {
    EXPECT_EQ(found.why[i], "the machine cannot point its tool there");
    if (found.features[found.unreached[i]].kind == ToolFeature::Kind::kHole)
      holes.push_back(found.features[found.unreached[i]].name);
  }
  EXPECT_EQ(holes.size(), 4u);
}

// Two blind holes that look at each other across a gap, under a roof: nothing reaches them.
TEST(Proposals, VisibilityIsComputedNotAssumed) {
  const TopoDS_Shape shape = demo::cut(demo::block({0, 0, 0}, {60, 40, 40}),
                                       {demo::block({20, -1, 10}, {40, 41, 30}),
                                        demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(-1, 0, 0)), 6, 10),
                                        demo::rod(gp_Ax2(gp_Pnt(10, 20, 40), gp_Dir(0, 0, -1)), 5, 8)});
  const auto part = test::part_of(shape);
  const Proposals found = proposals_for(*part);
  ASSERT_EQ(found.unreached.size(), 1u);
  EXPECT_EQ(found.features[found.unreached.front()].kind, ToolFeature::Kind::kHole);
  EXPECT_EQ(found.why.front(), "something lies in the way of its axis");
  EXPECT_TRUE(proposes(found, gp_Dir(0, 0, 1)));
}

TEST(Fewest, AreAsFewAsTryingAllFinds) {
  constexpr unsigned kSeed = 20261201;
  SCOPED_TRACE("seed " + std::to_string(kSeed));
  test::Random random(kSeed);
  for (int round = 0; round < 400; ++round) {
    const auto sets = static_cast<size_t>(random.whole(1, 9));
    std::vector<std::vector<size_t>> things(static_cast<size_t>(random.whole(1, 14)));
    for (auto& thing : things)
      for (size_t set = 0; set < sets; ++set)
        if (random.whole(0, 3) == 0) thing.push_back(set);
    const auto covers = [&](size_t chosen) {
      return std::all_of(things.begin(), things.end(), [&](const auto& thing) {
        return thing.empty() ||
               std::any_of(thing.begin(), thing.end(), [&](size_t set) { return chosen >> set & 1; });
      });
    };
    int least = 99;
    for (size_t chosen = 0; chosen < size_t{1} << sets; ++chosen)
      if (covers(chosen)) least = std::min(least, __builtin_popcountll(chosen));
    const auto found = fewest_covering(things, sets);
    size_t mask = 0;
    for (const size_t set : found) mask |= size_t{1} << set;
    EXPECT_TRUE(covers(mask)) << round;
    EXPECT_EQ(static_cast<int>(found.size()), least) << round;
  }
}

}  // namespace
}  // namespace anvil
