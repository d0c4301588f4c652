// Files on which the kernel's readers die: what is whole of them comes in, and what does not is told.
#include <gtest/gtest.h>

#include <csignal>

#include <fstream>

#include "base/file.h"
#include "demo/shapes.h"
#include "exchange/brep_geometry.h"
#include "exchange/tried_apart.h"
#include "exchange/worker_client.h"
#include "support/damage.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

TEST(TriedApart, FindsWhatEndsTheProcessAndNothingElse) {
  const auto attempt = [](int begin, int end) {
    for (int i = begin; i < end; ++i)
      if (i == 3 || i == 77) ::raise(SIGSEGV);
  };
  EXPECT_EQ(fatal_ones(100, 10, attempt), (std::vector<int>{3, 77}));
  EXPECT_TRUE(fatal_ones(0, 10, attempt).empty());
}

TEST(TriedApart, WhatTakesTooLongCountsAsWell) {
  const auto attempt = [](int begin, int end) {
    for (int i = begin; i < end; ++i)
      if (i == 1)
        for (;;) ::pause();
  };
  EXPECT_EQ(fatal_ones(2, 1, attempt), std::vector<int>{1});
}

class DamagedFiles : public testing::Test {
 protected:
  // A block of six faces in a file of this format.
  std::string block_as(const std::string& format) {
    Body body;
    body.name = "block";
    for (TopExp_Explorer ex(demo::block({0, 0, 0}, {60, 40, 20}), TopAbs_SOLID); ex.More(); ex.Next())
      body.shape = ex.Current();
    path_ = folder_.path() / ("block." + format);
    EXPECT_TRUE(write_part_file({body}, {}, *format_by_id(format), {}, path_));
    return *read_file(path_);
  }
  Result<PartPtr> bring_in(const std::string& bytes) {
    std::ofstream(path_, std::ios::binary) << bytes;
    return import_part(path_, {});
  }
  // How many faces came, and that it was told that some may be missing; -1 without.
  int faces_told_of(const std::string& bytes) {
    const auto part = bring_in(bytes);
    EXPECT_TRUE(part) << part.error().sentence;
    if (!part) return -1;
    for (const std::string& note : (*part)->source().warnings)
      if (note.find("lack something they need") != std::string::npos)
        return static_cast<int>((*part)->topology().faces.size());
    return -1;
  }

 private:
  TemporaryFolder folder_;
  fs::path path_;
};

// The first vector is that of an edge in space, which two faces share; the second that of the same edge on
// one of their surfaces.
TEST_F(DamagedFiles, AnEdgeWithoutItsCurveTakesItsTwoFacesAlong) {
  EXPECT_EQ(faces_told_of(test::with_wrong_vector(block_as("step"), 1)), 4);
}

TEST_F(DamagedFiles, ACurveOnASurfaceCanBeSpared) {
  const auto part = bring_in(test::with_wrong_vector(block_as("step"), 2));
  ASSERT_TRUE(part) << part.error().sentence;
  EXPECT_EQ((*part)->topology().faces.size(), 6u);
  EXPECT_EQ((*part)->bodies().front().kind, BodyKind::kSolid);
}

TEST_F(DamagedFiles, NothingLeftIsSaidWithTheFact) {
  std::string text = block_as("step");
  for (size_t at = 0; (at = text.find("VECTOR('',#", at)) != std::string::npos; ++at)
    text.replace(at + 10, text.find(',', at + 10) - at - 10, "#2");
  const auto part = bring_in(text);
  ASSERT_FALSE(part);
  EXPECT_EQ(part.error().code, RefusalCode::kUnreadable) << part.error().sentence;
  EXPECT_NE(part.error().sentence.find("no face is left"), std::string::npos) << part.error().sentence;
}

// The kernel takes the edge of a loop for granted while it reads: "508,4,0,EDGE,…".
TEST_F(DamagedFiles, AnIgesLoopThatNamesNoEdgeTakesItsFaceAlong) {
  std::string text = block_as("iges");
  size_t at = text.find("\n508,");
  ASSERT_NE(at, std::string::npos);
  for (int comma = 0; comma < 3; ++comma) at = text.find(',', at + 1);
  const size_t end = text.find(',', at + 1);
  text.replace(at + 1, end - at - 1, std::string(end - at - 2, ' ') + "0");
  EXPECT_EQ(faces_told_of(text), 5);
}

TEST_F(DamagedFiles, ABrepCurveOfNoKindIsNamed) {
  std::string text = block_as("brep");
  EXPECT_EQ(fault_in_brep_geometry(text), std::nullopt);
  const size_t first = text.find('\n', text.find("\nCurves ") + 1) + 1;
  text[first] = '0';
  const auto part = bring_in(text);
  ASSERT_FALSE(part);
  EXPECT_NE(part.error().sentence.find("curve 1 of 12 is of no kind"), std::string::npos)
      << part.error().sentence;
}

}  // namespace
}  // namespace anvil
