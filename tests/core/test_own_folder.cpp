#include "base/own_folder.h"

#include <gtest/gtest.h>
#include <sys/stat.h>

#include <fstream>

#include "base/file.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

struct OwnFolders : testing::Test {
  static void put(const fs::path& file) {
    fs::create_directories(file.parent_path());
    std::ofstream(file) << "work of years";
  }
  TemporaryFolder place;
};

TEST_F(OwnFolders, AreRemovedWithAllTheyHoldButNothingThatALinkLeadsTo) {
  const fs::path theirs = place.path() / "photos";
  put(theirs / "one.jpg");
  const auto ours = make_own_folder(place.path(), "ours-");
  ASSERT_TRUE(ours);
  EXPECT_EQ(fs::status(*ours).permissions(), fs::perms(0700));
  put(*ours / "deep" / "down" / "file");
  fs::create_directory_symlink(theirs, *ours / "deep" / "link");
  EXPECT_TRUE(is_own_folder(*ours));
  EXPECT_TRUE(remove_own_folder(*ours));
  EXPECT_FALSE(fs::exists(*ours));
  EXPECT_TRUE(fs::exists(theirs / "one.jpg"));
}

TEST_F(OwnFolders, ALinkToOneIsNone) {
  const auto ours = make_own_folder(place.path(), "ours-");
  ASSERT_TRUE(ours);
  fs::create_directory_symlink(*ours, place.path() / "link");
  EXPECT_FALSE(is_own_folder(place.path() / "link"));
  EXPECT_FALSE(remove_own_folder(place.path() / "link"));
  EXPECT_TRUE(is_own_folder(*ours));
}

TEST_F(OwnFolders, WhatBearsNoMarkOrThatOfAnotherIsLeftAlone) {
  put(place.path() / "thesis" / "chapter");
  EXPECT_FALSE(remove_own_folder(place.path() / "thesis"));
  const auto ours = make_own_folder(place.path(), "ours-");
  ASSERT_TRUE(ours);
  fs::copy_file(*ours / kOwnFolderMark, place.path() / "thesis" / kOwnFolderMark);  // unpacked, say
  EXPECT_FALSE(remove_own_folder(place.path() / "thesis"));
  EXPECT_TRUE(fs::exists(place.path() / "thesis" / "chapter"));
}

TEST_F(OwnFolders, OnlyPlainFilesOfKnownNamesMakeAFolderOneThatCanBeAdopted) {
  const fs::path old = place.path() / "old";
  put(old / "job.json");
  put(old / "sources" / "abc" / "plate.step");
  EXPECT_FALSE(adopt_folder(old, {"job.json"})) << "it holds something else";
  EXPECT_FALSE(remove_own_folder(old));
  fs::create_symlink("/etc/passwd", old / "sources" / "abc" / "link");
  EXPECT_FALSE(adopt_folder(old, {"job.json", "sources"})) << "it holds a link";
  fs::remove(old / "sources" / "abc" / "link");
  EXPECT_TRUE(adopt_folder(old, {"job.json", "sources"}));
  EXPECT_TRUE(remove_own_folder(old));
}

}  // namespace
}  // namespace anvil
