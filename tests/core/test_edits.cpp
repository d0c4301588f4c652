#include "job/edits.h"

#include <gtest/gtest.h>

#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::JobFixture;

TEST(Edits, NamesAreFreeAndSectionsStayInOrder) {
  JobFixture f;
  f.midway();
  f.midway();
  f.face_down();
  ASSERT_EQ(f.job.entries.size(), 4u);
  EXPECT_NE(f.job.entries[0].part(), nullptr);
  EXPECT_NE(f.job.entries[1].placement(), nullptr);
  EXPECT_EQ(f.job.entries[2].name, "Plane 1");
  EXPECT_EQ(f.job.entries[3].name, "Plane 2");
}

TEST(Edits, DeletingTakesDependentsAlongAndNothingElse) {
  JobFixture f;
  const int plane = f.midway(), other = f.midway();
  const int offset = f.offset_from(plane), again = f.offset_from(offset);
  EXPECT_EQ(dependents(f.job, plane), (std::vector<int>{offset, again}));
  const Job left = without(f.job, plane);
  EXPECT_EQ(left.find(offset), nullptr);
  EXPECT_EQ(left.find(again), nullptr);
  EXPECT_NE(left.find(other), nullptr);
  EXPECT_EQ(f.job.entries.size(), 5u);  // the job that was edited is as it was
}

TEST(Edits, ReadingFrameFallsBackWhenItsEntryGoes) {
  JobFixture f;
  const int frame = f.frame_on_top();
  f.job = with_reading_frame(f.job, frame);
  EXPECT_EQ(f.job.reading_frame, frame);
  EXPECT_EQ(with_reading_frame(f.job, f.midway()).reading_frame, frame);  // a plane is no frame
  EXPECT_EQ(without(f.job, frame).reading_frame, kReadPlaced);
}

TEST(Edits, LastPlacementStepTakesTheEntryWithIt) {
  JobFixture f;
  f.face_down();
  f.job = with_placement_steps(f.job, {});
  EXPECT_EQ(f.job.placement(), nullptr);
}

// A name that is taken would take over what others were typed with.
TEST(Edits, NamesThatAreTakenAreNotTakenOver) {
  JobFixture f;
  const int first = f.offset_from(f.midway(), "5"), second = f.midway();
  f.job = with_name(f.job, first, "Shelf");
  const int user = f.offset_from(first, "Shelf.distance*2");
  const auto distance = [&](const Job& job) { return evaluate(job).numbers.at(user)->at("distance").value; };
  ASSERT_NEAR(distance(f.job), 10, 1e-12);
  for (const char* taken : {"Shelf", "She lf"}) {  // both are the word Shelf in expressions
    const Job renamed = with_name(f.job, second, taken);
    EXPECT_EQ(renamed.find(second)->name, std::string(taken) + " (2)");
    EXPECT_NEAR(distance(renamed), 10, 1e-12);
  }
  EXPECT_EQ(with_name(f.job, first, "Shelf").find(first)->name, "Shelf");  // its own
}

// What was typed keeps its unit, whatever is shown.
TEST(Edits, TypedNumbersMeanTheSameInEveryUnit) {
  JobFixture f;
  const int five_mm = f.offset_from(f.midway(), "5");
  Recipe inches = f.recipe("plane.offset", {{EntryReference{five_mm}, {}}}, {{"distance", "1/4 + 2"}});
  inches.unit = Unit::kInch;
  const int two_and_a_quarter = f.keep(inches);
  for (const Unit unit : {Unit::kMillimetre, Unit::kInch}) {
    const Evaluation evaluation = evaluate(with_display(f.job, {unit}));
    EXPECT_NEAR(evaluation.numbers.at(five_mm)->at("distance").value, 5, 1e-12);
    EXPECT_NEAR(evaluation.numbers.at(two_and_a_quarter)->at("distance").value, 57.15, 1e-12);
  }
}

// In an inch job a count stays a count.
TEST(Edits, NamedCountsAreNoLengths) {
  JobFixture f;
  f.job = with_display(f.job, {Unit::kInch});
  Recipe row = f.recipe("plane.offset", {{EntryReference{f.midway()}, {}}}, {{"distance", "1"}});
  row.unit = Unit::kInch;
  const int shelf = f.keep(row);
  f.job = with_name(f.job, shelf, "Row");
  Recipe three = f.recipe("plane.offset", {{EntryReference{shelf}, {}}}, {{"distance", "Row.distance*3"}});
  three.unit = Unit::kInch;
  EXPECT_NEAR(evaluate(f.job).numbers.at(shelf)->at("distance").value, 25.4, 1e-12);
  const int last = f.keep(three);
  EXPECT_NEAR(evaluate(f.job).numbers.at(last)->at("distance").value, 76.2, 1e-12);
}

}  // namespace
}  // namespace anvil
