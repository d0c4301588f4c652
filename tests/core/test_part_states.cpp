// A part as a chain of states: picks are found on the state they were made on and followed through what each
// step says it did.
#include <gtest/gtest.h>
#include <BRepAlgoAPI_Cut.hxx>

#include "base/file.h"
#include "demo/demo_part.h"
#include "geom/primitives.h"
#include "job/healing.h"
#include "pick/follow.h"
#include "store/job_file.h"
#include "support/fixtures.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using namespace anvil::demo;

constexpr int kBroughtIn = 1, kCut = 2;

std::vector<PartState> cut_in_a_step(const TopoDS_Shape& shape, const TopoDS_Shape& tool) {
  const PartPtr before = test::part_of(shape);
  BRepAlgoAPI_Cut cutting(before->bodies()[0].shape, tool);
  const PartPtr after = test::part_of(cutting.Shape());
  const BodyMap map = body_map(before->bodies()[0].shape, after->bodies()[0].shape, *cutting.History());
  return {{before, kBroughtIn}, {after, kCut, ShapeMap(*before, *after, {map})}};
}

TopologyReference picked(const std::vector<PartState>& states, TopologyKind kind, int index) {
  TopologyReference pick = describe(*states.front().part, kBroughtIn, kind, index);
  pick.made_on = kBroughtIn;
  return pick;
}

// A slot of 10 over the top of a block, at X 35 to 45: it parts the top and the long edges there.
class Slotted : public testing::Test {
 protected:
  const std::vector<PartState> states =
      cut_in_a_step(block({0, 0, 0}, {80, 40, 20}), block({35, -1, 12}, {45, 41, 21}));
  const Part& before = *states.front().part;
  const Part& after = *states.back().part;
};

TEST_F(Slotted, PiecesOfOneSurfaceAreAsGoodAsEachOtherAndAreTold) {
  const auto now = follow(
      states, picked(states, TopologyKind::kFace, test::face_at(before, {40, 20, 20}, SurfaceKind::kPlane)));
  ASSERT_TRUE(now) << now.error().sentence;
  EXPECT_EQ(now->candidates.size(), 2u);
  EXPECT_NEAR(after.topology().faces[now->index].surface.position.Location().Z(), 20, 1e-9);
  EXPECT_LT(now->how, Located::How::kOfPieces);
}

TEST_F(Slotted, PiecesOfAnEdgeAreAskedForUnlessTheClickTells) {
  const auto pick = picked(states, TopologyKind::kEdge, test::edge_at(before, {40, 0, 20}));
  const auto asked = follow(states, pick);
  ASSERT_FALSE(asked);
  EXPECT_EQ(asked.error().code, RefusalCode::kAmbiguous);
  EXPECT_EQ(asked.error().sentence, "the edge that was picked is 2 pieces now: pick the one that is meant");
  for (const double x : {3.0, 71.0}) {
    const auto nearest = follow(states, pick, gp_Pnt(x, 0, 20));
    ASSERT_TRUE(nearest);
    EXPECT_EQ(nearest->how, Located::How::kOfPieces);
    EXPECT_EQ(nearest->index, test::edge_at(after, {x, 0, 20}));
    EXPECT_EQ(nearest->candidates.size(), 2u);
  }
}

TEST_F(Slotted, WhatTheStepDidNotTouchKeepsItsShapeAndIsCertain) {
  const int end = test::face_at(before, {0, 20, 10}, SurfaceKind::kPlane);
  const auto now = follow(states, picked(states, TopologyKind::kFace, end));
  ASSERT_TRUE(now);
  EXPECT_EQ(now->how, Located::How::kAsDescribed);
  EXPECT_TRUE(now->candidates.empty());
  EXPECT_TRUE(after.topology().faces[now->index].face.IsSame(before.topology().faces[end].face));
}

TEST(PartStates, WhatAStepTookAwayIsGoneWithIt) {
  // All above Z 12 goes: top, and with it its edges.
  const auto states = cut_in_a_step(block({0, 0, 0}, {80, 40, 20}), block({-1, -1, 12}, {81, 41, 21}));
  const auto top = test::face_at(*states.front().part, {40, 20, 20}, SurfaceKind::kPlane);
  const auto gone = follow(states, picked(states, TopologyKind::kFace, top));
  ASSERT_FALSE(gone);
  EXPECT_EQ(gone.error().facts.at("gone_with"), kCut);
  // Looked for by what it is alone, the face that was made at Z 12 might have been taken for it.
  TopologyReference unsaid = picked(states, TopologyKind::kFace, top);
  unsaid.made_on = 0;
  const auto by_intent = follow(states, unsaid);
  EXPECT_TRUE(!by_intent || by_intent->how == Located::How::kByIntent);
}

// Moved by less than its own width: by looks alone each bore would be taken for its neighbour.
TEST(PartStates, AMapTellsApartWhatLooksAlike) {
  const auto bored = [](double shift) {
    std::vector<TopoDS_Shape> rods;
    for (const int i : {0, 1, 2, 3})
      rods.push_back(rod(gp_Ax2(gp_Pnt(15 + 12 * i + shift, 20, 20), gp_Dir(0, 0, -1)), 6, 20));
    return test::part_of(cut(block({0, 0, 0}, {80, 40, 20}), rods));
  };
  const PartPtr before = bored(0), after = bored(12);
  const auto& shape = before->bodies()[0].shape;
  BodyMap map = body_map(shape, shape, BRepTools_History());  // the same construction: the same places
  const std::vector<PartState> states{{before, kBroughtIn}, {after, kCut, ShapeMap(*before, *after, {map})}};
  for (int i = 0; i < 4; ++i) {
    const int bore = test::face_at(*before, {15.0 + 12 * i + 3, 20, 10}, SurfaceKind::kCylinder);
    const auto now = follow(states, picked(states, TopologyKind::kFace, bore));
    ASSERT_TRUE(now);
    EXPECT_NEAR(after->topology().faces[now->index].surface.position.Location().X(), 15 + 12 * (i + 1), 1e-9);
  }
}

class HealedJob : public testing::Test {
 protected:
  HealedJob() {
    healed = with_healing(job, {});
    options.cache = std::make_shared<ResultCache>();
  }
  static SourceInfo source() {
    SourceInfo info;
    info.file_name = "bracket.step";
    info.sha256 = sha256_hex("source");
    return info;
  }
  PartPtr part = std::make_shared<const Part>(source(), torn_bracket().bodies);
  Job job = with_part({}, part, std::make_shared<const std::string>("source"), "bracket"), healed;
  Evaluating options;
};

TEST_F(HealedJob, IsEvaluatedFromItsRecipeOnceAndAnewWhenItsPartChanges) {
  const Evaluation first = evaluate(healed, nullptr, options);
  const Evaluated& entry = first.entries.at(healed.healing()->id);
  ASSERT_TRUE(entry.healed) << entry.reason;
  EXPECT_EQ(first.computed, 1);
  EXPECT_EQ(first.states.size(), 2u);
  EXPECT_LT(entry.healed->open_edges_after, entry.healed->open_edges_before);
  EXPECT_EQ(evaluate(healed, &first).part, first.part);
  // Named anew it is the same part; taken out and put back it is known.
  BodySetting named;
  named.name = "mended";
  const Evaluation renamed = evaluate(with_body(healed, 0, named), &first);
  EXPECT_EQ(renamed.computed, 0);
  EXPECT_EQ(renamed.part->bodies()[0].name, "mended");
  EXPECT_EQ(renamed.part->geometry(), first.part->geometry());
  EXPECT_EQ(evaluate(job, &first).part, part);
  EXPECT_EQ(evaluate(healed, &renamed).computed, 0);
  // Of another part it is made anew.
  const Evaluation other = evaluate(with_checked_part(healed, part, test::part_of(test::plate())), &first);
  EXPECT_EQ(other.computed, 1);
}

TEST_F(HealedJob, ThatRefusesLeavesThePartAsItCameAndSaysWhy) {
  HealOptions strict;
  strict.limit_mm = 1e-9;
  const Job refusing = with_healing(job, strict);
  const Evaluation evaluation = evaluate(refusing, nullptr, options);
  const Evaluated& entry = evaluation.entries.at(refusing.healing()->id);
  EXPECT_EQ(entry.state, EntryState::kRefused);
  EXPECT_NE(entry.reason.find("more than the limit"), std::string::npos) << entry.reason;
  EXPECT_EQ(evaluation.part, part);
  EXPECT_EQ(evaluate(refusing, &evaluation).computed, 0);
}

TEST_F(HealedJob, FacesPickedBeforeAreFollowedAndThoseItTookAreNamed) {
  const Evaluation plain = evaluate(job, nullptr, options);
  const auto& faces = part->topology().faces;
  Job picked = healed;
  std::vector<int> planes;
  for (int i = 0; i < static_cast<int>(faces.size()); ++i) {
    if (faces[i].surface.kind != SurfaceKind::kPlane) continue;
    Recipe offset;
    offset.construction = "plane.offset";
    offset.inputs = {{describe_now(plain, job.first_part()->id, TopologyKind::kFace, i), {}}};
    offset.parameters = {{"distance", "0"}};
    int id = 0;
    picked = with_datum(picked, offset, &id);
    planes.push_back(id);
  }
  const Evaluation before = evaluate(with_suppressed(picked, planes.front(), false), nullptr, options);
  int current = 0, gone = 0;
  for (const int id : planes) {
    const Evaluated& evaluated = before.entries.at(id);
    const auto& pick = std::get<TopologyReference>(picked.find(id)->datum()->recipe.inputs[0].target);
    current += evaluated.state == EntryState::kCurrent;
    gone += evaluated.reason == "the face that was picked is gone with Healing";
    if (!evaluated.fresh) continue;
    EXPECT_LT(std::abs(height_over(std::get<PlaneDatum>(*evaluated.value).plane, pick.where)), 0.03);
  }
  EXPECT_EQ(current + gone, static_cast<int>(planes.size()));
  EXPECT_LE(gone, before.entries.at(healed.healing()->id).healed->slivers_dropped);
  EXPECT_GT(current, 4);
}

TEST_F(HealedJob, IsStoredWithTheJobAndOpensWithoutBeingHealedAgain) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "bracket.anvil";
  Job named = with_name(healed, healed.healing()->id, "Mended");
  const Evaluation first = evaluate(named, nullptr, options);
  SaveOptions saving;
  saving.cache = options.cache;
  ASSERT_TRUE(save_job(named, path, saving));
  const auto cache = std::make_shared<ResultCache>();
  const auto loaded = load_job(path, {}, cache);
  ASSERT_TRUE(loaded) << loaded.error().sentence;
  Evaluating known_only;
  known_only.cache = cache;
  known_only.only_known = true;
  const Evaluation again = evaluate(loaded->job, nullptr, known_only);
  ASSERT_EQ(again.states.size(), 2u);
  EXPECT_EQ(again.part->geometry()->id(), first.part->geometry()->id());
  EXPECT_EQ(again.entries.at(healed.healing()->id).healed->lines,
            first.entries.at(healed.healing()->id).healed->lines);
  // Without what is stored it is healed again, to the same.
  const auto bare = load_job(path, {});
  ASSERT_TRUE(bare);
  EXPECT_EQ(evaluate(bare->job).part->geometry()->id(), first.part->geometry()->id());
}

}  // namespace
}  // namespace anvil
