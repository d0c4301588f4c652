// The gate every edit goes through: what can be made can be saved and opened again.
#include "job/gate.h"

#include <gtest/gtest.h>

#include <iostream>
#include <random>

#include "support/job_fixture.h"
#include "support/job_opening.h"

namespace anvil {
namespace {

using test::JobFixture;

size_t place_of(const Job& job, int id) {
  for (size_t i = 0; i < job.entries.size(); ++i)
    if (job.entries[i].id == id) return i;
  return job.entries.size();
}

Recipe on(int entry, const char* distance = "5") {
  return JobFixture::recipe("plane.offset", {{EntryReference{entry}, {}}}, {{"distance", distance}});
}

TEST(Gate, AnEditedDatumThatLeansOnALaterOneStandsAfterIt) {
  JobFixture f;
  const int first = f.midway(), follower = f.offset_from(first), last = f.midway();
  const auto passed = through_gate(with_recipe(f.job, first, on(last)));
  ASSERT_TRUE(passed) << passed.error().sentence;
  EXPECT_LT(place_of(*passed, last), place_of(*passed, first));
  EXPECT_LT(place_of(*passed, first), place_of(*passed, follower));
  EXPECT_EQ(evaluate(*passed).entries.at(follower).state, EntryState::kCurrent);
}

TEST(Gate, AnEditedExpressionThatNamesALaterOneStandsAfterIt) {
  JobFixture f;
  const int first = f.offset_from(f.midway()), last = f.offset_from(f.midway());
  const std::string name = f.job.find(last)->name;
  std::string word;
  for (const char c : name)
    if (c != ' ') word += c;
  Recipe edited = f.job.find(first)->datum()->recipe;
  edited.parameters["distance"] = word + ".distance*2";
  const auto passed = through_gate(with_recipe(f.job, first, edited));
  ASSERT_TRUE(passed);
  EXPECT_LT(place_of(*passed, last), place_of(*passed, first));
  EXPECT_EQ(evaluate(*passed).entries.at(first).state, EntryState::kCurrent);
}

TEST(Gate, NothingIsMadeFromItself) {
  JobFixture f;
  const int a = f.midway(), b = f.offset_from(a);
  const auto itself = through_gate(with_recipe(f.job, a, on(a)));
  ASSERT_FALSE(itself);
  EXPECT_NE(itself.error().sentence.find("Plane 1 would be made from itself"), std::string::npos);
  const auto round = through_gate(with_recipe(f.job, a, on(b)));
  ASSERT_FALSE(round);
  EXPECT_EQ(round.error().code, RefusalCode::kBadInput);
}

TEST(Gate, NoStepOfThePlacementLeansOnADatum) {
  JobFixture f;
  const int plane = f.midway();
  Recipe step = JobFixture::recipe("place.face-down", {{EntryReference{plane}, {}}});
  const auto passed = through_gate(with_placement_step(f.job, step));
  ASSERT_FALSE(passed);
  EXPECT_NE(passed.error().sentence.find("Plane 1"), std::string::npos);
}

TEST(Gate, RebasingTakesAlongTheStockOfASetup) {
  JobFixture f;
  const int first = f.setup_on_top();
  anvil::Setup with_stock = *f.job.find(first)->setup();
  with_stock.stock.kind = Stock::Kind::kAllowance;
  f.job = with_setup_changed(f.job, first, with_stock);
  int copy = 0, follower = 0;
  f.job = with_copied_setup(f.job, first, &copy);
  f.job = with_flipped_setup(f.job, first, 'X', &follower);
  ASSERT_EQ(f.job.find(follower)->setup()->stock.setup, first);
  const auto rebased = with_rebased(f.job, first, copy);
  ASSERT_TRUE(rebased) << rebased.error().sentence;
  EXPECT_EQ(rebased->find(follower)->setup()->stock.setup, copy);
  EXPECT_TRUE(through_gate(without(*rebased, first)));
}

TEST(Gate, WhatIsBetweenTwoThatChangePlacesStaysBehindWhatItNames) {
  JobFixture f;
  const int a = f.offset_from(f.midway());
  f.setup_on_top();
  const int setup = f.job.next_id - 1;
  anvil::Setup named = *f.job.find(setup)->setup();
  named.place["x"] = "Plane2.distance";
  f.job = with_setup_changed(f.job, setup, named);
  const int b = f.midway();
  f.job = *through_gate(f.job);
  Job moved = f.job;
  for (int i = 0; i < 3; ++i)
    if (const auto up = with_moved(moved, b, -1)) moved = *up;
  EXPECT_TRUE(out_of_order(moved).empty()) << out_of_order(moved);
  EXPECT_LT(place_of(moved, a), place_of(moved, setup));
}

TEST(Gate, ANameAsLongAsABookIsCutBetweenTwoLetters) {
  JobFixture f;
  const int a = f.midway();
  std::string name;
  for (int i = 0; i < 5000; ++i) name += "Ü";
  const auto passed = through_gate(with_name(f.job, a, name));
  ASSERT_TRUE(passed);
  EXPECT_EQ(passed->find(a)->name.size(), kLongestName_bytes);
}

TEST(Gate, ANameIsOneLine) {
  JobFixture f;
  const int a = f.midway();
  f.job = with_group(f.job, a, "one\ntwo");
  const auto passed = through_gate(with_name(f.job, a, "Fence)\nG10 L2 P1 X0\r"));
  ASSERT_TRUE(passed);
  EXPECT_EQ(passed->find(a)->name, "Fence) G10 L2 P1 X0 ");
  EXPECT_EQ(passed->find(a)->group, "one two");
}

TEST(Gate, WhatIsReadInExists) {
  JobFixture f;
  f.setup_on_top();
  Job job = f.job;
  job.entries.erase(job.entries.begin() + static_cast<long>(place_of(job, job.reading_frame)));
  const auto passed = through_gate(job);
  ASSERT_TRUE(passed);
  EXPECT_EQ(passed->reading_frame, kReadPlaced);
}

TEST(Gate, AnActThatChangesNothingIsNone) {
  JobFixture f;
  const int a = f.midway();
  f.setup_on_top();
  f.face_down();
  EXPECT_TRUE(same_job(f.job, f.job));
  EXPECT_TRUE(same_job(f.job, with_visible(f.job, a, true)));
  EXPECT_TRUE(same_job(f.job, with_visible(f.job, 999, false)));
  EXPECT_FALSE(same_job(f.job, with_visible(f.job, a, false)));
  EXPECT_FALSE(same_job(f.job, with_name(f.job, a, "Fence")));
  EXPECT_FALSE(same_job(f.job, with_recipe(f.job, a, on(1))));
  EXPECT_FALSE(same_job(f.job, with_placement_steps(f.job, {})));
  EXPECT_FALSE(same_job(f.job, without(f.job, a)));
}

// A pick described anew is a change, also where it is still the same pick: its face was tilted, say.
TEST(Gate, APickDescribedAnewIsAChange) {
  JobFixture f;
  const int a = f.midway();
  Recipe anew = f.job.find(a)->datum()->recipe;
  auto& pick = std::get<TopologyReference>(anew.inputs[0].target);
  pick.direction = gp_Dir(0.001, -1, 0);
  ASSERT_TRUE(anew.inputs[0] == f.job.find(a)->datum()->recipe.inputs[0]);
  EXPECT_FALSE(same_job(f.job, with_recipe(f.job, a, anew)));
  anew = f.job.find(a)->datum()->recipe;
  anew.inputs[0].clicked = gp_Pnt(1, 2, 3);
  EXPECT_FALSE(same_job(f.job, with_recipe(f.job, a, anew)));
}

// One random edit, as a user might make in odd order; also with entries that are not there.
Job edited(const JobFixture& f, const Job& job, std::mt19937& random) {
  const auto any = [&] { return 1 + static_cast<int>(random() % static_cast<unsigned>(job.next_id + 1)); };
  switch (random() % 11) {
    case 0:
      return with_datum(job, JobFixture::recipe("plane.midway", {f.face({40, 0, 10}), f.face({40, 40, 10})}));
    case 1:
      return with_datum(job, on(any()));
    case 2:
      return with_recipe(job, any(), on(any(), random() % 2 ? "Plane2.distance + 1" : "3"));
    case 3:
      return without(job, any());
    case 4:
      return with_moved(job, any(), random() % 2 ? 1 : -1).value_or(job);
    case 5:
      return with_rebased(job, any(), any()).value_or(job);
    case 6:
      return with_duplicate(job, any());
    case 7:
      return with_setup(
          with_datum(job, f.recipe("frame.on-face", {f.face({60, 20, 20}), {EntryReference{kReadPlaced}, {}}},
                                   {{"zero", "corner −X −Y"}, {"x", "longest edge"}})),
          job.next_id);
    case 8:
      return with_flipped_setup(job, any(), 'X');
    case 9:
      return with_tool_plane(job, any(), any());
    default:
      return with_name(job, any(), "Plane 2");
  }
}

TEST(Gate, WhateverPassesIsSavedAndOpenedAsItIs) {
  const unsigned seed = 20261129;
  std::cout << "seed " << seed << '\n';
  std::mt19937 random(seed);
  int passes = 0, refusals = 0;
  for (int round = 0; round < 40; ++round) {
    const JobFixture f;
    Job job = f.job;
    for (int i = 0; i < 25; ++i) {
      auto next = through_gate(edited(f, job, random));
      if (!next) {
        ++refusals;
        EXPECT_FALSE(next.error().sentence.empty());
        continue;
      }
      ++passes;
      job = std::move(*next);
      const std::string text = job_to_json(job);
      const auto opened = test::opened(text, {f.part, std::make_shared<const std::string>()});
      ASSERT_TRUE(opened) << opened.error().sentence;
      ASSERT_EQ(job_to_json(*opened), text);
    }
  }
  EXPECT_GT(passes, 500);
  EXPECT_GT(refusals, 10);
}

}  // namespace
}  // namespace anvil
