// The command line as a process over files of the demo parts.
#pragma once

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "exchange/step_format.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {

namespace fs = std::filesystem;
using nlohmann::json;

class Cli : public testing::Test {
 protected:
  static void SetUpTestSuite() {
    files = new TemporaryFolder;
    ASSERT_TRUE(write_step(test::plate().bodies, {}, plate()));
    ASSERT_TRUE(write_step(test::housing().bodies, {}, files->path() / "housing.step"));
  }
  static void TearDownTestSuite() { delete files; }

  static fs::path plate() { return files->path() / "plate.step"; }
  static test::Outcome cli(std::vector<std::string> arguments) {
    arguments.insert(arguments.begin(), test::program("true-anvil-cli"));
    return test::run(arguments);
  }
  static json ask(const std::vector<std::string>& arguments) {
    const test::Outcome outcome = cli(arguments);
    EXPECT_EQ(outcome.status, 0) << outcome.err;
    EXPECT_TRUE(outcome.err.empty()) << outcome.err;
    return json::parse(outcome.out, nullptr, false);
  }
  static gp_Pnt point(const json& j) { return gp_Pnt(j.at(0), j.at(1), j.at(2)); }
  static std::string numbers(const gp_XYZ& p) {
    return fmt::format("{:.17g},{:.17g},{:.17g}", p.X(), p.Y(), p.Z());
  }

  // The frame of the drawing as a --frame argument.
  static std::string drawing_frame() {
    const gp_Trsf& t = test::plate().placement;
    return "origin=" + numbers(gp_Pnt(0, 0, 0).Transformed(t).XYZ()) +
           ";z=" + numbers(gp_Dir(0, 0, 1).Transformed(t).XYZ()) +
           ";x=" + numbers(gp_Dir(1, 0, 0).Transformed(t).XYZ());
  }
  static void expect_error(const std::vector<std::string>& arguments, int status, const std::string& words) {
    const test::Outcome outcome = cli(arguments);
    EXPECT_EQ(outcome.status, status) << outcome.err;
    EXPECT_EQ(outcome.err.rfind("true-anvil-cli: ", 0), 0u) << outcome.err;
    EXPECT_EQ(std::count(outcome.err.begin(), outcome.err.end(), '\n'), 1) << outcome.err;
    EXPECT_NE(outcome.err.find(words), std::string::npos) << outcome.err;
    EXPECT_TRUE(outcome.out.empty());
  }

  inline static TemporaryFolder* files = nullptr;
};

}  // namespace anvil
