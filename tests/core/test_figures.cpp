// Figures in a job: their edges and points as picks; and what else a datum is made with: the job's
// tolerances, and whether anybody waited for it.
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "job/names.h"
#include "report/json_reports.h"
#include "store/job_json.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

Reference element(int entry, int number, Snap snap = Snap::kWhole) {
  return {EntryReference{entry, number, snap}, {}};
}

class Figures : public testing::Test {
 protected:
  int draw(const char* id, ParameterTexts texts) {
    const int corner = f.keep(JobFixture::recipe("point.typed", {element(kReadPlaced, 0)}));
    return f.keep(JobFixture::recipe(id, {f.face({60, 20, 20}), element(corner, 0), element(kReadPlaced, 0)},
                                     std::move(texts)));
  }
  JobFixture f;
};

TEST_F(Figures, EdgesAndPointsOfARectangleArePicksThatFollowIt) {
  const int rectangle =
      draw("figure.rectangle", {{"width", "30"}, {"height", "20"}, {"from", "corner"}, {"x", "5"}});
  const int axis = f.keep(JobFixture::recipe("axis.along-edge", {element(rectangle, 2)}));
  const int middle = f.keep(JobFixture::recipe("point.at", {element(rectangle, 3, Snap::kMiddle)}));
  const auto at = [&](const Evaluation& e) {
    return std::get<PointDatum>(*e.entries.at(middle).value).point;
  };
  const Evaluation first = evaluate(f.job);
  const gp_Ax1 along = std::get<AxisDatum>(*first.entries.at(axis).value).axis;
  EXPECT_TRUE(parallel(along.Direction(), gp_Dir(0, 1, 0)));
  EXPECT_NEAR(distance(along, gp_Pnt(35, 0, 20)), 0, 1e-9);
  EXPECT_LT(at(first).Distance(gp_Pnt(20, 20, 20)), 1e-9);
  Recipe wider = f.job.find(rectangle)->datum()->recipe;
  wider.parameters["width"] = "50";
  const Evaluation second = evaluate(with_recipe(f.job, rectangle, wider), &first);
  EXPECT_LT(at(second).Distance(gp_Pnt(30, 20, 20)), 1e-9);
  EXPECT_EQ(second.computed, 3);
}

TEST_F(Figures, EdgeThatIsNoLongerThereIsTold) {
  const int polygon = draw("figure.polygon", {{"sides", "6"}});
  const int axis = f.keep(JobFixture::recipe("axis.along-edge", {element(polygon, 5)}));
  EXPECT_EQ(evaluate(f.job).entries.at(axis).state, EntryState::kCurrent);
  Recipe fewer = f.job.find(polygon)->datum()->recipe;
  fewer.parameters["sides"] = "4";
  const Evaluated gone = evaluate(with_recipe(f.job, polygon, fewer)).entries.at(axis);
  EXPECT_EQ(gone.state, EntryState::kRefused);
  EXPECT_EQ(gone.reason, "Polygon 1 has 4 edges: there is no edge 5");
}

TEST_F(Figures, AreNamedByWhatTheyAreColouredInTurnAndNamedPicks) {
  const int circle = draw("figure.circle", {}), slot = draw("figure.slot", {});
  EXPECT_EQ(f.job.find(circle)->name, "Circle 1");
  EXPECT_EQ(f.job.find(slot)->name, "Slot 1");
  ASSERT_TRUE(f.job.find(circle)->colour && f.job.find(slot)->colour);
  EXPECT_FALSE(*f.job.find(circle)->colour == *f.job.find(slot)->colour);
  EXPECT_EQ(pick_name(f.job, {circle, 1, Snap::kCentre}), "Circle 1 · centre of edge 1");
  // Itself, and of two lines whole, start, middle, end, of two arcs the centre besides.
  EXPECT_EQ(pickable(evaluate(f.job), slot).size(), 1u + 2 * 4 + 2 * 5);
}

TEST_F(Figures, ElementsOutliveTheJobFile) {
  const int circle = draw("figure.circle", {{"diameter", "12"}});
  const int centre = f.keep(JobFixture::recipe("point.at", {element(circle, 1, Snap::kCentre)}));
  f.job = with_tolerance(f.job, {0.01, 1e-3});
  const SourceFile source = f.job.first_part()->part()->sources.front();
  const auto again = job_from_json(
      job_to_json(f.job), {[&](const std::string&, double) -> Result<SourceFile> { return source; }});
  ASSERT_TRUE(again) << again.error().sentence;
  EXPECT_TRUE(again->find(centre)->datum()->recipe.inputs.front() == element(circle, 1, Snap::kCentre));
  EXPECT_EQ(again->tolerance.linear_mm, 0.01);
  EXPECT_EQ(again->tolerance.angular_rad, 1e-3);
}

TEST(Tolerances, WidenedForTheJobTheyLetNearMissesMeetAndEveryDatumSaysWhichItUsed) {
  JobFixture f;
  const auto axis = [&](const char* y, const char* toward) {
    return f.keep(JobFixture::recipe("axis.typed", {element(kReadPlaced, 0)},
                                     {{"y1", y}, {"y2", y}, {"x2", toward}, {"z2", "10"}}));
  };
  const int a = axis("0", "0"), b = axis("0.02", "10");  // they miss each other by 0.02 mm
  const int plane = f.keep(JobFixture::recipe("plane.two-lines", {element(a, 0), element(b, 0)}));
  const Evaluation exact = evaluate(f.job);
  EXPECT_EQ(exact.entries.at(plane).state, EntryState::kRefused);
  EXPECT_EQ(exact.entries.at(a).tolerance.linear_mm, kExact.linear_mm);
  const Evaluation wide = evaluate(with_tolerance(f.job, {0.05, 1e-6}), &exact);
  EXPECT_EQ(wide.entries.at(plane).state, EntryState::kCurrent) << wide.entries.at(plane).reason;
  EXPECT_EQ(wide.entries.at(plane).tolerance.linear_mm, 0.05);
  EXPECT_EQ(with_tolerance(f.job, {7, 7}).tolerance.linear_mm, kWidest.linear_mm);
  EXPECT_EQ(with_tolerance(f.job, {-1, std::nan("")}).tolerance.angular_rad, kExact.angular_rad);
}

TEST(LeftOut, WhatNobodyWaitedForIsMarkedAndTheRestStands) {
  JobFixture f;
  const int plane = f.midway();
  const Evaluation first = evaluate(f.job);
  const int above = f.offset_from(plane), on_above = f.offset_from(above);
  Evaluating known;
  known.only_known = true;
  const Evaluation stopped = evaluate(f.job, &first, known);
  EXPECT_EQ(stopped.entries.at(plane).state, EntryState::kCurrent);
  EXPECT_TRUE(stopped.entries.at(above).stopped);
  Evaluating without;
  without.left_out = {above};
  const Evaluation rest = evaluate(f.job, &stopped, without);
  EXPECT_EQ(rest.entries.at(above).state, EntryState::kAttention);
  EXPECT_EQ(rest.entries.at(on_above).reason, "it stands on Plane 2, which was not computed");
  const Evaluation all = evaluate(f.job, &rest);
  EXPECT_EQ(all.entries.at(on_above).state, EntryState::kCurrent);
}

}  // namespace
}  // namespace anvil
