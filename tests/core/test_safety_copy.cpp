#include "store/safety_copy.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <fstream>
#include <random>
#include <thread>

#include "base/file.h"
#include "job/edits.h"
#include "store/job_json.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;
using test::JobFixture;

struct Copies : testing::Test {
  // A run of the program that writes copies and ends without a word.
  void run_that_dies(const fs::path& job_path, const Job& job) const {
    const pid_t child = ::fork();
    if (child == 0) {
      auto* copy = new SafetyCopy(job_path, state.path());  // never destroyed, as by a kill
      ::_exit(copy->write(job) ? 0 : 1);
    }
    int status = -1;
    ::waitpid(child, &status, 0);
    ASSERT_EQ(status, 0);
  }

  JobFixture f;
  TemporaryFolder state, jobs;
  fs::path path = jobs.path() / "saddle.anvil";
};

TEST_F(Copies, OfARunThatIsGoneIsFoundAndThatOfALivingOneLeftAlone) {
  const auto living = std::make_unique<SafetyCopy>(path, state.path());
  ASSERT_TRUE(living->write(f.job));
  EXPECT_TRUE(SafetyCopy::left_behind(state.path()).empty());
  run_that_dies(path, f.job);
  run_that_dies("", f.job);
  run_that_dies(jobs.path() / "other.anvil", f.job);
  EXPECT_EQ(SafetyCopy::left_behind(state.path()).size(), 3u);
  const auto of_it = SafetyCopy::left_behind(state.path(), path);
  ASSERT_EQ(of_it.size(), 1u);
  EXPECT_EQ(of_it.front().job_path, fs::canonical(jobs.path()) / "saddle.anvil");
  EXPECT_EQ(*read_file(of_it.front().folder / "job.json"), job_to_json(f.job));
}

// As a link put beside a job would have it: every folder of the home without a job.json "an abandoned copy".
TEST_F(Copies, NothingThatALinkLeadsToIsRemovedWhenAJobIsOpened) {
  const TemporaryFolder home;
  for (const char* name : {"thesis", "photos"}) {
    fs::create_directories(home.path() / name);
    std::ofstream(home.path() / name / "kept") << "work of years";
  }
  fs::create_directory_symlink(home.path(), jobs.path() / ".true-anvil-safety");
  fs::create_directory_symlink(home.path(), state.path() / "safety");
  EXPECT_TRUE(SafetyCopy::left_behind(state.path(), path).empty());
  EXPECT_TRUE(fs::exists(home.path() / "thesis" / "kept"));
  EXPECT_TRUE(fs::exists(home.path() / "photos" / "kept"));
  // Nor is anything written there.
  SafetyCopy copy(path, state.path());
  EXPECT_FALSE(copy.write(f.job));
  EXPECT_EQ(std::distance(fs::directory_iterator(home.path()), {}), 2);
}

TEST_F(Copies, WhatIsNotOursIsLeftAloneInOurFoldersToo) {
  for (const fs::path& ours : {jobs.path() / ".true-anvil-safety", state.path() / "safety"}) {
    fs::create_directories(ours / "thesis");
    std::ofstream(ours / "thesis" / "kept") << "work of years";
  }
  EXPECT_TRUE(SafetyCopy::left_behind(state.path(), path).empty());
  EXPECT_TRUE(fs::exists(jobs.path() / ".true-anvil-safety" / "thesis" / "kept"));
  EXPECT_TRUE(fs::exists(state.path() / "safety" / "thesis" / "kept"));
}

// Of an older version, or brought back from a backup: it has no mark of its own.
TEST_F(Copies, OneWithoutOurMarkIsOfferedAndTakenOverButNeverRemovedUnasked) {
  run_that_dies(path, f.job);
  const fs::path marked = SafetyCopy::left_behind(state.path(), path).at(0).folder;
  const fs::path copied = state.path() / "safety" / "copied";
  fs::copy(marked, copied, fs::copy_options::recursive);
  fs::remove_all(marked);
  ASSERT_TRUE(save_job(f.job, path));  // it holds no more than the job now
  EXPECT_TRUE(SafetyCopy::left_behind(state.path(), path).empty());
  EXPECT_TRUE(fs::exists(copied / "job.json"));
  fs::remove(path);
  const LeftBehind left = SafetyCopy::left_behind(state.path(), path).at(0);
  // What leads out of it would be written to.
  const TemporaryFolder home;
  std::ofstream(home.path() / "profile") << "mine";
  fs::remove(copied / "about.json");
  fs::create_symlink(home.path() / "profile", copied / "about.json");
  EXPECT_EQ(SafetyCopy::taken_over(left, state.path()), nullptr);
  EXPECT_EQ(*read_file(home.path() / "profile"), "mine");
  fs::remove(copied / "about.json");
  auto ours = SafetyCopy::taken_over(left, state.path());
  ASSERT_NE(ours, nullptr);
  ASSERT_TRUE(ours->write(f.job));
  ours->close();
  ours.reset();
  EXPECT_FALSE(fs::exists(copied));
}

TEST_F(Copies, TakenOverIsNobodyElsesAndGoesOnlyWhenItIsSaved) {
  run_that_dies(path, f.job);
  const LeftBehind left = SafetyCopy::left_behind(state.path(), path).at(0);
  auto ours = SafetyCopy::taken_over(left, state.path());
  ASSERT_NE(ours, nullptr);
  EXPECT_EQ(SafetyCopy::taken_over(left, state.path()), nullptr);
  SafetyCopy::remove(left);  // by another window that still offers it
  EXPECT_TRUE(fs::exists(left.folder / "job.json"));
  f.midway();
  ASSERT_TRUE(ours->write(f.job));
  EXPECT_EQ(*read_file(left.folder / "job.json"), job_to_json(f.job));
  ours->close();
  ours.reset();
  EXPECT_FALSE(fs::exists(left.folder));
}

// A write that began before the discard ends after it.
TEST_F(Copies, DiscardedDoesNotComeBackFromAWriteUnderWay) {
  for (int i = 0; i < 40; ++i) {
    SafetyCopy copy(path, state.path());
    ASSERT_TRUE(copy.write(f.job));
    std::thread writer([&] { static_cast<void>(copy.write(f.job)); });
    std::this_thread::sleep_for(std::chrono::microseconds(50 * i));
    copy.discard();
    const bool was_there = fs::exists(copy.folder() / "job.json");
    writer.join();
    // The write may have begun after the discard: then it is a copy of what was changed since.
    if (!was_there && fs::exists(copy.folder() / "job.json")) {
      copy.discard();
      EXPECT_FALSE(fs::exists(copy.folder() / "job.json"));
    }
    copy.close();
  }
}

TEST_F(Copies, SourcesAreWrittenOnceHoweverOftenTheCopyIs) {
  SafetyCopy copy(path, state.path());
  ASSERT_TRUE(copy.write(f.job));
  const fs::path source = copy.folder() / source_path(f.job.first_part()->part()->sources.front());
  EXPECT_EQ(*read_file(source), "source");
  const auto before = state_of(source);
  f.midway();
  ASSERT_TRUE(copy.write(f.job));
  copy.discard();
  ASSERT_TRUE(copy.write(f.job));
  EXPECT_EQ(state_of(source), before);
  EXPECT_EQ(*read_file(copy.folder() / "job.json"), job_to_json(f.job));
}

TEST_F(Copies, WhereTheStateFolderCannotBeWrittenItLiesBesideTheJob) {
  std::ofstream(state.path() / "file") << "in the way";
  SafetyCopy copy(path, state.path() / "file" / "state");
  ASSERT_TRUE(copy.write(f.job));
  EXPECT_EQ(copy.folder().parent_path().parent_path(), fs::canonical(jobs.path()));
  SafetyCopy nowhere("", state.path() / "file" / "state");
  const auto refused = nowhere.write(f.job);
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().code, RefusalCode::kCannotWrite);
}

// Killed between the save and the removal of the copy.
TEST_F(Copies, WhatHoldsNoMoreThanTheJobIsRemovedInsteadOfOffered) {
  run_that_dies(path, f.job);
  ASSERT_TRUE(save_job(f.job, path, {.with_shapes = false}));
  EXPECT_TRUE(SafetyCopy::left_behind(state.path(), path).empty());
  EXPECT_TRUE(fs::is_empty(state.path() / "safety"));
}

// A run that recovers is killed as well: the copy is still there, whole, for the next one.
TEST_F(Copies, KilledAtAnyMomentOfRecoveringLeavesTheCopy) {
  run_that_dies(path, f.job);
  const std::string text = job_to_json(f.job);
  std::mt19937 random(20261130);
  for (int i = 0; i < 25; ++i) {
    const pid_t child = ::fork();
    if (child == 0) {
      for (;;) {
        const auto left = SafetyCopy::left_behind(state.path(), path);
        auto copy = left.empty() ? nullptr : SafetyCopy::taken_over(left.front(), state.path());
        if (!copy || !copy->write(f.job)) ::_exit(1);
      }
    }
    std::this_thread::sleep_for(std::chrono::milliseconds(1 + random() % 15));
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    ASSERT_TRUE(WIFSIGNALED(status));
    const auto left = SafetyCopy::left_behind(state.path(), path);
    ASSERT_EQ(left.size(), 1u) << i;
    ASSERT_EQ(*read_file(left.front().folder / "job.json"), text);
    ASSERT_EQ(*read_file(left.front().folder / source_path(f.job.first_part()->part()->sources.front())),
              "source");
  }
}

TEST_F(Copies, ThatDoNotSayWhatTheyAreOfAreStillOffered) {
  run_that_dies(path, f.job);
  const LeftBehind left = SafetyCopy::left_behind(state.path(), path).at(0);
  std::ofstream(left.folder / "about.json") << "{\"job\": 7, \"based_on\": [1, \"x\", null, 4]}";
  ASSERT_EQ(SafetyCopy::left_behind(state.path()).size(), 1u);
  EXPECT_TRUE(SafetyCopy::left_behind(state.path()).front().job_path.empty());
  std::ofstream(left.folder / "about.json") << "no json";
  EXPECT_EQ(SafetyCopy::left_behind(state.path()).size(), 1u);
}

// What is saved over a job that somebody else has saved since the copy was made keeps theirs.
TEST_F(Copies, SayWhichFileTheyAreBasedOn) {
  const auto saved = save_job(f.job, path, {.with_shapes = false});
  ASSERT_TRUE(saved);
  f.midway();
  {
    SafetyCopy copy(path, state.path());
    copy.set_based_on(saved->state);
    ASSERT_TRUE(copy.write(f.job));
  }
  EXPECT_EQ(SafetyCopy::left_behind(state.path(), path).at(0).based_on, saved->state);
}

}  // namespace
}  // namespace anvil
