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

}  // namespace
}  // namespace anvil
