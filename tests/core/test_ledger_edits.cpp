// What the ledger does to entries, and names in expressions.
#include <gtest/gtest.h>

#include "construct/limits.h"
#include "geom/primitives.h"
#include "job/names.h"
#include "store/job_json.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

std::vector<std::string> names_of(const Job& job) {
  std::vector<std::string> names;
  for (const Entry& entry : job.entries)
    if (entry.datum()) names.push_back(entry.name);
  return names;
}

double y_of(const Evaluation& evaluation, int id) {
  return std::get<PlaneDatum>(*evaluation.entries.at(id).value).plane.Location().Y();
}

TEST(LedgerEdits, DuplicateStandsBehindItsModelUnderAFreeName) {
  JobFixture f;
  const int a = f.midway();
  f.offset_from(a);
  int copy = 0;
  const Job job = with_duplicate(f.job, a, &copy);
  EXPECT_EQ(names_of(job), (std::vector<std::string>{"Plane 1", "Plane 3", "Plane 2"}));
  const Evaluation evaluation = evaluate(job);
  EXPECT_DOUBLE_EQ(y_of(evaluation, copy), y_of(evaluation, a));
}

TEST(LedgerEdits, OrderChangesOnlyWhereNothingIsPutBeforeWhatItIsMadeFrom) {
  JobFixture f;
  const int a = f.midway(), on_a = f.offset_from(a), b = f.midway();
  const auto refused = with_moved(f.job, on_a, -1);
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().sentence, "Plane 2 is made from Plane 1 and must stay after it");
  const auto moved = with_moved(f.job, b, -1);
  ASSERT_TRUE(moved);
  EXPECT_EQ(names_of(*moved), (std::vector<std::string>{"Plane 1", "Plane 3", "Plane 2"}));
  EXPECT_EQ(evaluate(*moved, nullptr).entries.at(on_a).state, EntryState::kCurrent);
  const auto at_the_end = with_moved(f.job, b, +1);
  ASSERT_TRUE(at_the_end);
  EXPECT_EQ(names_of(*at_the_end), names_of(f.job));
}

TEST(LedgerEdits, SuppressedEntriesAreNotBuiltAndTheirFollowersSaySo) {
  JobFixture f;
  const int a = f.midway(), on_a = f.offset_from(a);
  const Job job = with_suppressed(f.job, a, true);
  const Evaluation off = evaluate(job);
  EXPECT_EQ(off.entries.at(a).state, EntryState::kSuppressed);
  EXPECT_FALSE(off.entries.at(a).value);
  EXPECT_EQ(off.entries.at(on_a).state, EntryState::kRefused);
  EXPECT_NE(off.entries.at(on_a).reason.find("Plane 1, which is suppressed"), std::string::npos);
  const Evaluation on = evaluate(with_suppressed(job, a, false), &off);
  EXPECT_EQ(on.entries.at(on_a).state, EntryState::kCurrent);
}

TEST(LedgerEdits, FollowersOfADeletedEntryAreMadeFromAnother) {
  JobFixture f;
  const int a = f.midway(), b = f.midway(), on_a = f.offset_from(a);
  const auto rebased = with_rebased(f.job, a, b);
  ASSERT_TRUE(rebased);
  const Job left = without(*rebased, a);
  EXPECT_EQ(names_of(left), (std::vector<std::string>{"Plane 2", "Plane 3"}));
  EXPECT_NEAR(y_of(evaluate(left), on_a), 15, 1e-12);
  const int later = f.midway();
  const auto refused = with_rebased(f.job, a, later);
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().sentence, "Plane 3 comes before Plane 4 and cannot be made from it");
}

TEST(LedgerEdits, WhatAnEntryIsMadeFromAndWhatIsMadeFromItMirrorEachOther) {
  JobFixture f;
  const int a = f.midway(), on_a = f.offset_from(a), on_on_a = f.offset_from(on_a);
  f.midway();
  EXPECT_EQ(dependents(f.job, a), (std::vector<int>{on_a, on_on_a}));
  EXPECT_EQ(sources_of(f.job, on_on_a), (std::vector<int>{f.job.first_part()->id, a, on_a}));
}

TEST(LedgerEdits, CountKeepsEvenlySpacedEntriesEachOfItsOwn) {
  JobFixture f;
  const Job job = with_copies(f.job, JobFixture::recipe("plane.offset", {f.face({40, 0, 10})},
                                                        {{"distance", "2 + 3"}, {"count", "3"}}));
  EXPECT_EQ(names_of(job), (std::vector<std::string>{"Plane 1", "Plane 2", "Plane 3"}));
  const Evaluation evaluation = evaluate(job);
  double expected = 0;
  for (const Entry& entry : job.entries)
    if (entry.datum()) {
      EXPECT_NEAR(y_of(evaluation, entry.id), expected -= 5, 1e-12);  // out of the front face
    }
}

// The area of a face is worked out once for a part, however that is placed later.
TEST(LedgerEdits, MiddleOfAFaceGoesWithItsPart) {
  JobFixture f;
  const Recipe middle = JobFixture::recipe("point.face-middle", {f.face({60, 20, 20})});
  constexpr double kHole = 25 * kPi, kFace = 80 * 40 - kHole;
  const gp_Pnt centroid((80 * 40 * 40 - kHole * 20) / kFace, 20, 20);
  const auto place_of = [&](int id) {
    const Evaluation now = evaluate(f.job);
    return std::pair(std::get<PointDatum>(*now.entries.at(id).value).point, now.placement);
  };
  const int id = f.keep(middle);
  EXPECT_LT(place_of(id).first.Distance(centroid), 1e-7);
  f.face_down();
  const auto [placed, placement] = place_of(id);
  EXPECT_GT(placed.Distance(centroid), 1);
  EXPECT_LT(placed.Distance(centroid.Transformed(placement)), 1e-7);
}

TEST(LedgerEdits, SkippedPlacesOfFramesStayEmpty) {
  JobFixture f;
  const ParameterTexts three{{"dx", "10"}, {"count", "3"}, {"skip", "3"}};
  Recipe recipe = JobFixture::recipe("frame.copied", {{EntryReference{kReadPlaced}, {}}}, three);
  const Job job = with_copies(f.job, recipe);
  const Evaluation evaluation = evaluate(job);
  std::vector<double> x;
  for (const Entry& entry : job.entries)
    if (entry.datum())
      x.push_back(std::get<FrameDatum>(*evaluation.entries.at(entry.id).value).frame.Location().X());
  ASSERT_EQ(x.size(), 2u);
  EXPECT_NEAR(x[0], 10, 1e-12);
  EXPECT_NEAR(x[1], 30, 1e-12);
  // Nothing left, or no places at all, is refused.
  for (const char* skip : {"2, 3, 4", "1", "2.5", "some"}) {
    recipe.parameters["skip"] = skip;
    int id = 0;
    const Evaluation refused = evaluate(with_datum(f.job, recipe, &id));
    EXPECT_EQ(refused.entries.at(id).state, EntryState::kRefused) << skip;
  }
}

TEST(LedgerEdits, ColourAndSuppressionAreInTheFile) {
  JobFixture f;
  const int a = f.midway();
  const Job job = with_colour(with_suppressed(f.job, a, true), a, Colour{0.25, 0.5, 0.75});
  EXPECT_NE(job_to_json(job).find("\"suppressed\""), std::string::npos);
  EXPECT_NE(job_to_json(with_group(job, a, "Clamping")).find("\"Clamping\""), std::string::npos);
  EXPECT_EQ(job.find(a)->colour, (Colour{0.25, 0.5, 0.75}));
  EXPECT_NE(job_to_json(job), job_to_json(f.job));
}

TEST(Names, ExpressionFollowsTheEntryItNames) {
  JobFixture f;
  const int a = f.keep(JobFixture::recipe("plane.offset", {f.face({40, 0, 10})}, {{"distance", "4"}}));
  const int b = f.keep(
      JobFixture::recipe("plane.offset", {f.face({40, 0, 10})}, {{"distance", "Plane1.distance*2 + 1"}}));
  const Evaluation first = evaluate(f.job);
  EXPECT_NEAR(y_of(first, b), -9, 1e-12);
  EXPECT_EQ(dependents(f.job, a), std::vector<int>{b});
  const Job edited = with_recipe(
      f.job, a, JobFixture::recipe("plane.offset", {f.face({40, 0, 10})}, {{"distance", "1/4in"}}));
  const Evaluation second = evaluate(edited, &first);
  EXPECT_EQ(second.computed, 2);
  EXPECT_NEAR(y_of(second, b), -13.7, 1e-12);
  const Job renamed = with_name(edited, a, "Clamp height");
  EXPECT_EQ(renamed.find(b)->datum()->recipe.parameters.at("distance"), "Clampheight.distance*2 + 1");
  EXPECT_NEAR(y_of(evaluate(renamed, &second), b), -13.7, 1e-12);
}

TEST(Names, CoordinatesMeasurementsAndAnglesCanBeNamed) {
  JobFixture f;
  f.keep(JobFixture::recipe("measure.distance", {f.face({40, 0, 10}), f.face({40, 40, 10})}));
  f.keep(JobFixture::recipe("measure.angle", {f.face({40, 0, 10}), f.face({60, 20, 20})}));
  const Evaluation evaluation = evaluate(f.job);
  const auto value = [&](const std::string& text) {
    const Names names = names_for(f.job, evaluation, {{"", text}}, 0);
    const auto number = evaluate_length(text, Unit::kInch, names);
    return number ? *number : -1e9;
  };
  EXPECT_NEAR(value("Distance1.distance/2"), 20, 1e-12);
  EXPECT_NEAR(*evaluate_angle("Angle1.angle/3", names_for(f.job, evaluation, {{"", "Angle1.angle"}}, 0)),
              kPi / 6, 1e-12);
  EXPECT_EQ(value("Nothing1.distance"), -1e9);
}

TEST(Names, EntriesThatComeLaterCannotBeNamed) {
  JobFixture f;
  const int a =
      f.keep(JobFixture::recipe("plane.offset", {f.face({40, 0, 10})}, {{"distance", "Plane2.distance"}}));
  f.keep(JobFixture::recipe("plane.offset", {f.face({40, 0, 10})}, {{"distance", "4"}}));
  EXPECT_EQ(evaluate(f.job).entries.at(a).state, EntryState::kRefused);
}

TEST(ReadingFrame, TypedPointFollowsTheFrameItWasReadIn) {
  JobFixture f;
  const int frame = f.frame_on_top();
  const int point = f.keep(
      JobFixture::recipe("point.typed", {{EntryReference{frame}, {}}}, {{"x", "1"}, {"y", "2"}, {"z", "3"}}));
  const int delivered = f.keep(JobFixture::recipe("point.typed", {{EntryReference{kReadDelivered}, {}}},
                                                  {{"x", "1"}, {"y", "2"}, {"z", "3"}}));
  f.face_down();
  const Evaluation evaluation = evaluate(f.job);
  const auto at = [&](int id) { return std::get<PointDatum>(*evaluation.entries.at(id).value).point; };
  EXPECT_LT(read_in(reading_frame(with_reading_frame(f.job, frame), evaluation), at(point))
                .Distance(gp_Pnt(1, 2, 3)),
            1e-9);
  EXPECT_LT(at(delivered).Distance(gp_Pnt(1, 2, 3).Transformed(evaluation.placement)), 1e-9);
}

TEST(Choice, SolutionThatIsGoneAsksInsteadOfGuessing) {
  JobFixture f;
  Recipe touching = JobFixture::recipe("plane.touching-parallel",
                                       {f.face({25, 20, 10}, SurfaceKind::kCylinder), f.face({40, 0, 10})});
  touching.choice = "minus";
  const int id = f.keep(touching);
  EXPECT_EQ(evaluate(f.job).entries.at(id).state, EntryState::kCurrent);
  touching.choice = "elsewhere";
  EXPECT_EQ(evaluate(with_recipe(f.job, id, touching)).entries.at(id).state, EntryState::kAttention);
}

TEST(Limits, EveryWayOfWritingThem) {
  const auto range = [](const char* text, Measurement::Kind kind = Measurement::Kind::kDistance) {
    const auto limits = limits_from(text, kind, Unit::kMillimetre, {});
    EXPECT_TRUE(limits) << text;
    return std::pair{limits->least.value_or(-1e9), limits->most.value_or(1e9)};
  };
  const auto expect = [&](const char* text, double least, double most) {
    const auto [low, high] = range(text);
    EXPECT_NEAR(low, least, 1e-9) << text;
    EXPECT_NEAR(high, most, 1e-9) << text;
  };
  expect("12.0 ±0.05", 11.95, 12.05);
  expect("12 +/-0.1", 11.9, 12.1);
  expect("12 +0.1 -0.05", 11.95, 12.1);
  expect("12 -0.05 +0.1", 11.95, 12.1);
  expect("12 +0.1", 12, 12.1);
  expect("11.95..12.05", 11.95, 12.05);
  expect("1/2in ±0.1", 12.6, 12.8);
  expect("<= 6", -1e9, 6);
  expect("≥ 5", 5, 1e9);
  expect("", -1e9, 1e9);
  EXPECT_NEAR(range("90 ±0.5", Measurement::Kind::kAngle).second, radians(90.5), 1e-12);
  for (const char* bad : {"twelve", "12", "12 ±", "5..4", "±", "12 ±x"})
    EXPECT_FALSE(limits_from(bad, Measurement::Kind::kDistance, Unit::kMillimetre, {})) << bad;
}

TEST(Limits, MeasurementOutsideAsksAndSaysByHowMuch) {
  JobFixture f;
  const auto state = [&](const char* limit) {
    const int id = f.keep(JobFixture::recipe("measure.distance", {f.face({40, 0, 10}), f.face({40, 40, 10})},
                                             {{"limit", limit}}));
    return evaluate(f.job).entries.at(id);
  };
  EXPECT_EQ(state("40 ±0.01").state, EntryState::kCurrent);
  EXPECT_EQ(state("39.9 ±0.05").state, EntryState::kAttention);
  EXPECT_EQ(state("39.9 ±0.05").reason, "40.000 is 0.050 over 39.950");
  EXPECT_EQ(state(">= 40.5").reason, "40.000 is 0.500 under 40.500");
  EXPECT_NE(state("about 40").reason.find("Limit: "), std::string::npos);
}

}  // namespace
}  // namespace anvil
