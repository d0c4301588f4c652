#include "job/evaluate.h"

#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "job/result_cache.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

const PlaneDatum& plane_of(const Evaluation& evaluation, int id) {
  return std::get<PlaneDatum>(*evaluation.entries.at(id).value);
}

TEST(Evaluate, DatumsFollowThePlacement) {
  JobFixture f;
  const int plane = f.midway();
  EXPECT_NEAR(plane_of(evaluate(f.job), plane).plane.Location().Y(), 20, 1e-12);
  f.face_down();  // the top face goes to Z 0: half a turn about X
  const Evaluation turned = evaluate(f.job);
  EXPECT_NEAR(height_over(plane_of(turned, plane).plane, gp_Pnt(40, 20, 10).Transformed(turned.placement)), 0,
              1e-9);
  EXPECT_NEAR(gp_Pnt(40, 20, 20).Transformed(turned.placement).Z(), 0, 1e-9);
}

TEST(Evaluate, ChangeRecomputesExactlyWhatDependsOnIt) {
  JobFixture f;
  const int a = f.midway(),
            b = f.keep(JobFixture::recipe("plane.midway", {f.face({0, 20, 10}), f.face({80, 20, 10})}));
  const int on_a = f.offset_from(a), on_on_a = f.offset_from(on_a);
  f.offset_from(b);
  const Evaluation first = evaluate(f.job);
  EXPECT_EQ(first.computed, 5);
  EXPECT_EQ(evaluate(f.job, &first).computed, 0);
  const Job edited = with_recipe(
      f.job, on_a, JobFixture::recipe("plane.offset", {{EntryReference{a}, {}}}, {{"distance", "7"}}));
  const Evaluation second = evaluate(edited, &first);
  EXPECT_EQ(second.computed, 2);
  EXPECT_NEAR(plane_of(second, on_on_a).plane.Location().Distance(plane_of(first, on_on_a).plane.Location()),
              2, 1e-9);
  EXPECT_EQ(evaluate(with_name(edited, a, "Middle"), &second).computed, 0);
}

TEST(Evaluate, ChangeOfThePlacementOrThePartRecomputesWhatStandsOnThePart) {
  JobFixture f;
  const int plane = f.midway();
  f.offset_from(plane);
  f.keep(JobFixture::recipe("point.typed", {{EntryReference{kReadPlaced}, {}}}, {{"x", "5"}}));
  const Evaluation first = evaluate(f.job);
  EXPECT_EQ(first.computed, 3);
  f.face_down();
  const Evaluation placed = evaluate(f.job, &first);
  EXPECT_EQ(placed.computed, 3);  // the placement, the plane and what is offset from it; not the typed point
  // Read once more it is the same; with another hole the sides it stands on are; wider they are not.
  const auto exchanged_for = [&](double diameter, double width) {
    const PartPtr other =
        test::part_of(demo::cut(demo::block({0, 0, 0}, {80, width, 20}),
                                {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), diameter, 20)}));
    return with_checked_part(f.job, f.part, other);
  };
  EXPECT_EQ(evaluate(exchanged_for(10, 40), &placed).computed, 0);
  EXPECT_EQ(evaluate(exchanged_for(12, 40), &placed).computed, 0);
  EXPECT_EQ(evaluate(exchanged_for(10, 44), &placed).computed, 2);
}

TEST(Evaluate, WhatStandsOnAHoleOrOnTheWholeBodyIsComputedAnewWithIt) {
  JobFixture f;
  const Reference bore = f.face({20, 25, 10}, SurfaceKind::kCylinder), side = f.face({40, 0, 10});
  const Reference placed{EntryReference{kReadPlaced}, {}};
  const int volume = f.keep(JobFixture::recipe("measure.body", {side, placed}));
  const int opening = f.keep(JobFixture::recipe("point.hole-end", {bore}));
  const Evaluation first = evaluate(f.job);
  // A recess over the hole: its wall is as it was but for where it ends, and the opening is lower.
  const PartPtr other = test::part_of(demo::cut(
      demo::block({0, 0, 0}, {80, 40, 20}), {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20),
                                             demo::block({0, 0, 15}, {40, 40, 20})}));
  const Evaluation lower = evaluate(with_checked_part(f.job, f.part, other), &first);
  const auto value = [&](const Evaluation& e) {
    return std::get<Measurement>(*e.entries.at(volume).value).value;
  };
  EXPECT_NEAR(value(first) - value(lower), 40 * 40 * 5 - kPi * 25 * 5, 1e-6);
  EXPECT_NEAR(std::get<PointDatum>(*first.entries.at(opening).value).point.Z(), 20, 1e-9);
  EXPECT_NEAR(std::get<PointDatum>(*lower.entries.at(opening).value).point.Z(), 15, 1e-9);
}

TEST(Evaluate, UndoingComputesNothingAndACancelledOneLosesNothing) {
  JobFixture f;
  const int a = f.midway(), on_a = f.offset_from(a);
  f.offset_from(on_a);
  const auto cache = std::make_shared<ResultCache>();
  int told = 0;
  const Progress after_two{[&](const std::string&, double) { ++told; }, [&] { return told >= 3; }};
  const Evaluation cut_short = evaluate(f.job, nullptr, {after_two, {}, false, cache});
  EXPECT_EQ(cut_short.computed, 2);
  const Evaluation whole = evaluate(f.job, nullptr, {{}, {}, false, cache});
  EXPECT_EQ(whole.computed, 1);
  const Job edited = with_recipe(
      f.job, on_a, JobFixture::recipe("plane.offset", {{EntryReference{a}, {}}}, {{"distance", "7"}}));
  const Evaluation changed = evaluate(edited, &whole);
  EXPECT_EQ(changed.computed, 2);
  const Evaluation undone = evaluate(f.job, &changed);
  EXPECT_EQ(undone.computed, 0);
  EXPECT_NEAR(plane_of(undone, on_a).plane.Location().Distance(plane_of(whole, on_a).plane.Location()), 0, 0);
}

TEST(Evaluate, WhatCannotBeBuiltKeepsItsLastGoodValueAndSaysWhy) {
  JobFixture f;
  const int plane = f.midway(), above = f.offset_from(plane);
  const Evaluation good = evaluate(f.job);
  const Job broken = with_recipe(
      f.job, plane, JobFixture::recipe("plane.midway", {f.face({40, 0, 10}), f.face({80, 20, 10})}));
  const Evaluation after = evaluate(broken, &good);
  EXPECT_EQ(after.entries.at(plane).state, EntryState::kRefused);
  EXPECT_NE(after.entries.at(plane).reason.find("90.000°"), std::string::npos);
  EXPECT_NEAR(plane_of(after, plane).plane.Location().Y(), 20, 1e-12);
  EXPECT_EQ(after.entries.at(above).state, EntryState::kRefused);
  EXPECT_NE(after.entries.at(above).reason.find("Plane 1"), std::string::npos);
}

TEST(Evaluate, FlippedPlaneFacesTheOtherWay) {
  JobFixture f;
  Recipe recipe = JobFixture::recipe("plane.on-face", {f.face({60, 20, 20})});
  recipe.flipped = true;
  const int id = f.keep(recipe);
  EXPECT_TRUE(plane_of(evaluate(f.job), id).plane.Axis().Direction().IsEqual(gp_Dir(0, 0, -1), 1e-12));
}

TEST(Evaluate, ReadingFrameTellsCoordinatesFromItsZero) {
  JobFixture f;
  f.setup_on_top();
  const Evaluation evaluation = evaluate(f.job);
  EXPECT_LT(read_in(reading_frame(f.job, evaluation), gp_Pnt(20, 20, 20)).Distance(gp_Pnt(20, 20, 0)), 1e-9);
  EXPECT_EQ(reading_frame_name(f.job, f.job.reading_frame), "OP10 · G54");
}

TEST(Evaluate, AsDeliveredStaysWhereTheFileHasIt) {
  JobFixture f;
  f.face_down();
  f.job = with_reading_frame(f.job, kReadDelivered);
  const Evaluation evaluation = evaluate(f.job);
  const gp_Pnt moved = gp_Pnt(20, 20, 20).Transformed(evaluation.placement);
  EXPECT_GT(moved.Distance(gp_Pnt(20, 20, 20)), 1);
  EXPECT_LT(read_in(reading_frame(f.job, evaluation), moved).Distance(gp_Pnt(20, 20, 20)), 1e-9);
}

}  // namespace
}  // namespace anvil
