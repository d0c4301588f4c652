#include "base/file.h"

#include <gtest/gtest.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <atomic>
#include <chrono>
#include <cstdlib>
#include <fstream>
#include <thread>

namespace anvil {
namespace {

TEST(File, WritingReplacesInOneStepAndLeavesNothingBehind) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "job";
  ASSERT_TRUE(write_file_atomically(path, "one"));
  ASSERT_TRUE(write_file_atomically(path, "two"));
  EXPECT_EQ(*read_file(path), "two");
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1);
}

TEST(File, WritingWhereNobodyMayIsRefusedAndTheOldFileStays) {
  const TemporaryFolder folder;
  const auto written = write_file_atomically(folder.path() / "no" / "such" / "folder", "x");
  ASSERT_FALSE(written);
  EXPECT_EQ(written.error().code, RefusalCode::kCannotWrite);
  // A folder in the way of the name: renaming over it fails after the bytes were written.
  std::filesystem::create_directories(folder.path() / "taken" / "inside");
  EXPECT_FALSE(write_file_atomically(folder.path() / "taken", "x"));
  EXPECT_TRUE(std::filesystem::exists(folder.path() / "taken" / "inside"));
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1);
}

TEST(File, WritingThroughALinkReplacesWhatItLeadsToAndKeepsPermissions) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "job", link = folder.path() / "link",
             dangling = folder.path() / "to-come";
  ASSERT_TRUE(write_file_atomically(path, "one"));
  std::filesystem::permissions(path, std::filesystem::perms(0600));
  std::filesystem::create_symlink("job", link);
  std::filesystem::create_symlink(folder.path() / "new", dangling);
  ASSERT_TRUE(write_file_atomically(link, "two"));
  ASSERT_TRUE(write_file_atomically(dangling, "three"));
  EXPECT_TRUE(std::filesystem::is_symlink(link) && std::filesystem::is_symlink(dangling));
  EXPECT_EQ(*read_file(path), "two");
  EXPECT_EQ(*read_file(folder.path() / "new"), "three");
  EXPECT_EQ(std::filesystem::status(path).permissions(), std::filesystem::perms(0600));
}

TEST(File, TwoWhoWriteAtOnceAreBothDone) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "job";
  std::atomic<int> done = 0;
  const auto write = [&](char c) {
    for (int i = 0; i < 30; ++i)
      if (write_file_atomically(path, std::string(100000, c))) ++done;
  };
  std::thread other(write, 'a');
  write('b');
  other.join();
  EXPECT_EQ(done, 60);
  const std::string last = *read_file(path);
  EXPECT_EQ(last, std::string(100000, last.front()));
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1);
}

TEST(File, APipeOrADeviceIsRefusedAtOnce) {
  const TemporaryFolder folder;
  const auto pipe = folder.path() / "pipe";
  ASSERT_EQ(::mkfifo(pipe.c_str(), 0600), 0);
  for (const std::filesystem::path& path : {pipe, std::filesystem::path("/dev/zero")}) {
    const auto read = read_file(path);
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().sentence.find("pipe or a device"), std::string::npos) << read.error().sentence;
  }
  ASSERT_TRUE(write_file_atomically(folder.path() / "long", std::string(2 << 20, 'x')));
  EXPECT_EQ(read_file(folder.path() / "long", 1 << 20).error().code, RefusalCode::kLimit);
}

// The temporary folder of a process that ended without removing it.
std::filesystem::path of_a_killed_process() {
  int ends[2];
  EXPECT_EQ(::pipe(ends), 0);
  const pid_t child = ::fork();
  if (child == 0) {
    const auto* folder = new TemporaryFolder;  // never destroyed, as by a kill
    const std::string name = folder->path().parent_path().string();
    const bool told = ::write(ends[1], name.data(), name.size()) == static_cast<ssize_t>(name.size());
    ::_exit(told ? 0 : 1);
  }
  ::waitpid(child, nullptr, 0);
  char name[4096];
  const ssize_t n = ::read(ends[0], name, sizeof name);
  ::close(ends[0]);
  ::close(ends[1]);
  return std::string(name, static_cast<size_t>(std::max<ssize_t>(n, 0)));
}

TEST(File, TemporaryFoldersOfTheKilledAreRemovedAndThoseOfTheLivingStay) {
  const TemporaryFolder place;
  ::setenv("TMPDIR", place.path().c_str(), 1);
  {
    const TemporaryFolder living;
    const auto unmarked = place.path() / "true-anvil-scratch-abcdef",
               young = place.path() / "true-anvil-scratch-ghijkl",
               users = place.path() / "true-anvil-scratch-of-mine";
    std::filesystem::create_directories(unmarked / "inside");
    const auto killed = of_a_killed_process();
    std::filesystem::create_directories(young);
    std::filesystem::create_directories(users / "my work");
    const auto long_ago = std::filesystem::file_time_type::clock::now() - std::chrono::hours(2);
    std::filesystem::last_write_time(killed, long_ago);
    std::filesystem::last_write_time(unmarked, long_ago);
    std::filesystem::last_write_time(users, long_ago);
    std::filesystem::last_write_time(living.path().parent_path(), long_ago);
    remove_abandoned_folders();
    EXPECT_FALSE(std::filesystem::exists(killed));
    EXPECT_TRUE(std::filesystem::exists(unmarked / "inside")) << "called as ours are, and not ours";
    EXPECT_TRUE(std::filesystem::exists(young));
    EXPECT_TRUE(std::filesystem::exists(users / "my work"));
    EXPECT_TRUE(std::filesystem::exists(living.path()));
  }
  ::setenv("TMPDIR", (place.path() / "missing").c_str(), 1);
  {
    const TemporaryFolder elsewhere;
    EXPECT_TRUE(std::filesystem::is_directory(elsewhere.path()));
  }
  ::unsetenv("TMPDIR");
}

TEST(File, ChecksumIsTheStandardOne) {
  EXPECT_EQ(sha256_hex("abc"),
            "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");  // FIPS 180-2, B.1
}

TEST(File, ReadingAFolderSaysSo) {
  EXPECT_NE(read_file("/tmp").error().sentence.find("folder"), std::string::npos);
}

}  // namespace
}  // namespace anvil
