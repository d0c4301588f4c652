#include "base/file.h"

#include <gtest/gtest.h>

#include <fstream>

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

TEST(File, ChecksumIsTheStandardOne) {
  EXPECT_EQ(sha256_hex("abc"),
            "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");  // FIPS 180-2, B.1
}

TEST(File, ReadingAFolderSaysSo) {
  EXPECT_NE(read_file("/tmp").error().sentence.find("folder"), std::string::npos);
}

}  // namespace
}  // namespace anvil
