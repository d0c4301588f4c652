// Bodies that entries make, jobs of several bodies, and faces that are split.
#include "support/mending.h"

namespace anvil::test {
namespace {

Reference now_at(const Evaluation& evaluation, const Job& job, const gp_Pnt& at, SurfaceKind kind) {
  const int face = face_at(*evaluation.part, at, kind);
  EXPECT_GE(face, 0) << "nothing there, or several";
  return {describe_now(evaluation, job.first_part()->id, TopologyKind::kFace, std::max(face, 0)), {}};
}

// Of the block a part, and beside it a pin from Z -5 to 30 through its corner at zero.
struct WithPin {
  Mending m{plain()};
  int pin = m.keep("correct.own-cylinder", {Mending::reading()}, {{"diameter", "10"}, {"height", "30"}});
};

TEST(OwnBodies, ABodyOfItsOwnIsCalledSeenAndKeptAsItsEntry) {
  WithPin job;
  const Evaluation now = evaluate(job.m.job);
  ASSERT_EQ(now.part->bodies().size(), 2U);
  const Body& pin = now.part->bodies()[1];
  EXPECT_EQ(pin.name, job.m.job.find(job.pin)->name);
  EXPECT_EQ(maker_of(pin.delivered), job.pin);
  EXPECT_TRUE(job.m.job.body(pin.delivered).visible);
  EXPECT_FALSE(with_visible(job.m.job, job.pin, false).body(pin.delivered).visible);

  const Job renamed = with_name(job.m.job, job.pin, "Dowel");
  const Evaluation then = evaluate(renamed, &now);
  EXPECT_EQ(then.part->bodies()[1].name, "Dowel");
  EXPECT_EQ(then.part->geometry()->id(), now.part->geometry()->id());
  EXPECT_EQ(evaluate(with_suppressed(renamed, job.pin, true), &then).part->bodies().size(), 1U);
}

// Copies share all but their place, so that a hundred cost little more than one; and patterns of patterns
// have a limit that is told.
TEST(OwnBodies, RepeatedOnesShareTheirShapeAndHaveALimit) {
  Mending m(plain());
  const int block = m.keep("correct.own-block", {Mending::reading()}, {{"x", "5"}});
  const int row = m.keep("correct.again-along", {m.edge({40, 0, 20}), {EntryReference{block}, {}}},
                         {{"length", "30"}, {"places", "200"}});
  const int rows = m.keep("correct.again-along", {m.edge({0, 20, 20}), {EntryReference{row}, {}}},
                          {{"length", "30"}, {"places", "200"}});
  const Evaluation now = evaluate(m.job);
  current(now, row);
  ASSERT_EQ(now.part->bodies().size(), 1U + 200U);
  for (size_t i = 2; i < now.part->bodies().size(); ++i)
    EXPECT_TRUE(now.part->bodies()[i].shape.TShape() == now.part->bodies()[1].shape.TShape());
  const gp_Pnt last = volume_properties(now.part->bodies()[200].shape).centroid,
               first = volume_properties(now.part->bodies()[1].shape).centroid;
  EXPECT_NEAR(first.Distance(last), 199 * 30, 1e-6);
  EXPECT_EQ(now.part->topology().faces.size(), 6U * 201U);
  EXPECT_EQ(now.entries.at(rows).state, EntryState::kRefused);
  EXPECT_NE(now.entries.at(rows).reason.find("39601 bodies"), std::string::npos)
      << now.entries.at(rows).reason;
}

// A state that nobody looks at is not indexed; picks on one find it all the same.
TEST(OwnBodies, OfManyStatesThoseAreIndexedThatAreLookedAt) {
  Mending m(plain());
  for (int i = 0; i < 20; ++i) {
    const int frame = m.keep("frame.copied", {Mending::reading()}, {{"dx", std::to_string(100 + 30 * i)}});
    m.keep("correct.own-block", {{EntryReference{frame}, {}}});
  }
  const Evaluation now = evaluate(m.job);
  ASSERT_EQ(now.states.size(), 21U);
  EXPECT_TRUE(now.part->geometry()->is_indexed());
  int indexed = 0;
  for (const PartState& state : now.states) indexed += state.part->geometry()->is_indexed() ? 1 : 0;
  EXPECT_LE(indexed, 2);
  const int axis = m.keep("plane.on-face", {now_at(now, m.job, {100 + 30 * 3, 0, 10}, SurfaceKind::kPlane)});
  current(evaluate(m.job, &now), axis);
}

TEST(OwnBodies, ADatumStandsOnOneAndFollowsIt) {
  WithPin job;
  const Evaluation now = evaluate(job.m.job);
  const int axis = job.m.keep("axis.of", {now_at(now, job.m.job, {5, 0, 25}, SurfaceKind::kCylinder)});
  const Evaluation then = evaluate(job.m.job, &now);
  EXPECT_NEAR(std::get<AxisDatum>(*current(then, axis).value).axis.Location().X(), 0, 1e-9);
}

TEST(OwnBodies, APlacedPartHasItWhereItWasPutNotWhereThePartWas) {
  Mending m(plain());
  Recipe shift;
  shift.construction = "place.move-by";
  shift.parameters = initial_parameters(*find_construction(shift.construction));
  shift.parameters["dx"] = "100";
  m.job = with_placement_step(m.job, shift);
  m.keep("correct.own-block", {Mending::reading()}, {{"zero", "its corner"}});
  const Evaluation now = evaluate(m.job);
  ASSERT_EQ(now.part->bodies().size(), 2U);
  EXPECT_NEAR(now.placement.TranslationPart().X(), 100, 1e-9);
  const gp_Pnt middle = volume_properties(now.part->bodies()[1].shape).centroid.Transformed(now.placement);
  EXPECT_LT(middle.Distance({10, 10, 5}), 1e-9);
}

TEST(OwnBodies, OneBodyIsCutByAnother) {
  WithPin job;
  const Evaluation now = evaluate(job.m.job);
  const int cut_by =
      job.m.keep("correct.cut-by-body", {now_at(now, job.m.job, {40, 20, 20}, SurfaceKind::kPlane),
                                         now_at(now, job.m.job, {5, 0, 25}, SurfaceKind::kCylinder)});
  const Evaluation then = evaluate(job.m.job, &now);
  current(then, cut_by);
  // A quarter of the pin stood in the block.
  EXPECT_NEAR(volume_properties(then.part->bodies()[0].shape).volume_mm3, 64000 - kPi * 25 * 20 / 4, 1e-6);
  EXPECT_NEAR(volume_properties(then.part->bodies()[1].shape).volume_mm3, kPi * 25 * 30, 1e-6);
}

TEST(OwnBodies, AHoleGoesThroughEveryBodyWhereAsked) {
  Mending m(plain());
  m.keep("correct.own-block", {Mending::reading()},
         {{"x", "60"}, {"y", "30"}, {"z", "5"}, {"zero", "its corner"}});
  // Right under the block: what touches is drilled as what lies apart.
  Job& job = m.job;
  const int frame = m.keep("frame.copied", {Mending::reading()}, {{"dz", "-5"}});
  m.keep("correct.own-block", {{EntryReference{frame}, {}}},
         {{"x", "60"}, {"y", "30"}, {"z", "5"}, {"zero", "its corner"}});
  const int hole = m.keep("correct.add-clicked", {m.clicked(m.face({40, 20, 20}), {30, 15, 20})},
                          {{"diameter", "6"}, {"end", "through every body"}});
  const Evaluation now = evaluate(job);
  current(now, hole);
  ASSERT_EQ(now.part->bodies().size(), 3U);
  const auto volume = [&](size_t body) {
    return volume_properties(now.part->bodies()[body].shape).volume_mm3;
  };
  EXPECT_NEAR(volume(0), 64000 - kPi * 9 * 20, 1e-6);
  EXPECT_NEAR(volume(1), 9000 - kPi * 9 * 5, 1e-6);
  EXPECT_NEAR(volume(2), 9000 - kPi * 9 * 5, 1e-6);
}

TEST(SplitFaces, HalfOfASplitFaceIsPushedAlone) {
  Mending m(plain());
  const int split = m.keep("correct.face-split", {{EntryReference{m.middle}, {}}, m.face({60, 20, 20})});
  const Evaluation now = evaluate(m.job);
  EXPECT_EQ(current(now, split).corrected->added_mm3, 0);
  ASSERT_EQ(now.part->topology().faces.size(), 7U);
  const int pushed = m.keep("correct.face-push", {now_at(now, m.job, {60, 20, 20}, SurfaceKind::kPlane)},
                            {{"distance", "4"}});
  const Evaluation then = evaluate(m.job, &now);
  current(then, pushed);
  expect_same_part(then.part, join(plain(), {block({40, 0, 20}, {80, 40, 24})}));
}

}  // namespace
}  // namespace anvil::test
