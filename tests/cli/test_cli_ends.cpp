// How commands end when nobody listens, and when there is no memory.
#include <gtest/gtest.h>

#include <chrono>
#include <fstream>

#include "base/file.h"
#include "base/sanitizers.h"
#include "demo/shapes.h"
#include "exchange/format.h"
#include "support/process.h"

namespace anvil::test {
namespace {

struct Ends : testing::Test {
  Ends() {
    TopoDS_Shape plate = demo::block({0, 0, 0}, {200, 200, 20});
    std::vector<TopoDS_Shape> rods;
    constexpr int kRows = 10, kAll = kRows * kRows;
    rods.reserve(kAll);
    for (int i = 0; i < kAll; ++i) {
      const int row = i / kRows, column = i % kRows;
      rods.push_back(demo::rod(gp_Ax2(gp_Pnt(10 + 19 * column, 10 + 19 * row, 20), gp_Dir(0, 0, -1)), 6, 20));
    }
    Body body;
    body.name = "plate\x1b[31m";
    body.shape = demo::cut(plate, rods);
    EXPECT_TRUE(write_part_file({body}, {}, *format_by_id("step"), {}, file));
  }
  Outcome shell(const std::string& command) const { return run({"/bin/bash", "-c", command}); }
  std::string cli() const { return program("true-anvil-cli"); }

  TemporaryFolder folder;
  std::filesystem::path file = folder.path() / "plate.step";
};

TEST_F(Ends, AClosedPipeEndsACommandAtOnceAndQuietly) {
  // As a tool that does nothing but write would end: by the signal, without a word.
  const auto cut_off =
      shell(cli() + " holes " + file.string() + " --json | head -c 20; echo ${PIPESTATUS[0]}");
  EXPECT_EQ(cut_off.out.substr(20), "141\n") << cut_off.out;
  EXPECT_EQ(cut_off.err, "");
  // Closed before there is an answer: nobody waits for one, let alone for three readings.
  const auto begin = std::chrono::steady_clock::now();
  const auto whole = run({cli(), "holes", file.string(), "--json"});
  const auto needed = std::chrono::steady_clock::now() - begin;
  ASSERT_EQ(whole.status, 0) << whole.err;
  const auto again = std::chrono::steady_clock::now();
  const auto closed = shell(cli() + " holes " + file.string() + " --json | true; echo ${PIPESTATUS[0]}");
  EXPECT_EQ(closed.out, "141\n");
  EXPECT_EQ(closed.err, "");
  EXPECT_LT(std::chrono::steady_clock::now() - again, 2 * needed);
}

TEST_F(Ends, AFileIsWrittenToItsEndWhoeverListens) {
  const auto out = folder.path() / "out.brep";
  shell(cli() + " convert " + file.string() + " --json --out " + out.string() + " | true");
  EXPECT_TRUE(std::filesystem::exists(out));
}

TEST_F(Ends, WithoutMemoryThatIsWhatIsSaid) {
  if (kHasSanitizer) GTEST_SKIP() << "sanitizers want terabytes of addresses";
  int refused = 0;
  for (const int mb : {200, 250, 300, 350, 400, 600, 1000}) {
    const auto told =
        shell("ulimit -v " + std::to_string(mb * 1024) + "; " + cli() + " info " + file.string());
    if (told.status == 0) continue;
    ++refused;
    EXPECT_EQ(told.status, 3) << mb << ": " << told.err;
    EXPECT_NE(told.err.find("not enough memory"), std::string::npos) << mb << ": " << told.err;
    EXPECT_EQ(told.out, "") << mb;
  }
  EXPECT_GT(refused, 0);
}

TEST_F(Ends, NoOrderToATerminalComesOutOfANameInAFile) {
  for (const char* command : {"info", "holes"}) {
    const auto told = run({cli(), command, file.string()});
    ASSERT_EQ(told.status, 0) << told.err;
    EXPECT_EQ(told.out.find('\x1b'), std::string::npos) << told.out.substr(0, 200);
  }
}

}  // namespace
}  // namespace anvil::test
