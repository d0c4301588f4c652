// The command line as a process: its JSON against the construction numbers, its exit statuses, its one-line
// errors.
#include <gtest/gtest.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "demo/demo_job.h"
#include "exchange/step_format.h"
#include "job/job_file.h"
#include "part/measure.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {
namespace {

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

  static TemporaryFolder* files;
};
TemporaryFolder* Cli::files = nullptr;

TEST_F(Cli, InfoTellsWhatCameIn) {
  const json info = ask({"info", plate(), "--json"});
  EXPECT_EQ(info["format"], "STEP");
  EXPECT_EQ(info["schema"], "AP214");
  EXPECT_EQ(info["source_unit"], "mm");
  ASSERT_EQ(info["bodies"].size(), 1u);
  const json& body = info["bodies"][0];
  EXPECT_EQ(body["name"], "Saddle plate");
  EXPECT_EQ(body["kind"], "solid");
  EXPECT_EQ(body["sound"], true);
  EXPECT_TRUE(body["findings"].empty());
  for (const char* key : {"faces", "edges", "vertices", "volume", "area", "box", "centroid"})
    EXPECT_TRUE(body.contains(key)) << key;
  // Volume has the unit cubed.
  const json inch = ask({"info", plate(), "--json", "--unit", "inch"});
  EXPECT_NEAR(inch["bodies"][0]["volume"].get<double>() * 16387.064, body["volume"].get<double>(), 1e-3);
}

TEST_F(Cli, HolesAreTheOnesConstructed) {
  const json report = ask({"holes", plate(), "--json", "--frame", drawing_frame()});
  EXPECT_EQ(report["unit"], "mm");
  ASSERT_EQ(report["holes"].size(), test::plate().holes.size());
  for (const demo::ExpectedHole& expected : test::plate().holes) {
    const gp_Pnt drawn = expected.entry.Transformed(test::plate().placement.Inverted());
    const auto at = std::find_if(report["holes"].begin(), report["holes"].end(),
                                 [&](const json& h) { return point(h["entry"]).Distance(drawn) < 1e-6; });
    ASSERT_NE(at, report["holes"].end());
    EXPECT_LT(point((*at)["axis"]).Distance(gp_Pnt(0, 0, 1)), 1e-8);
    EXPECT_NEAR((*at)["diameter"], expected.diameter, 1e-6);
    EXPECT_NEAR((*at)["depth"], expected.depth, 1e-6);
    EXPECT_EQ((*at)["through"], expected.through);
    ASSERT_EQ((*at)["steps"].size(), expected.steps.size());
    for (size_t i = 0; i < expected.steps.size(); ++i) {
      EXPECT_EQ((*at)["steps"][i]["kind"], expected.steps[i].kind);
      EXPECT_NEAR((*at)["steps"][i]["angle"], expected.steps[i].angle_deg, 1e-6);
    }
  }
  ASSERT_EQ(report["slots"].size(), 1u);
  EXPECT_NEAR(report["slots"][0]["length"], 28, 1e-6);
  for (const char* key : {"groups", "patterns", "comparison"}) EXPECT_TRUE(report[key].is_array());
}

TEST_F(Cli, CornersAreTheOnesConstructed) {
  const json report = ask({"corners", plate(), "--axis", numbers(test::plate().tool_axis.XYZ()), "--json"});
  size_t walls = 0;
  for (const json& corner : report["corners"])
    walls += corner["kind"] == "wall-round" || corner["kind"] == "wall-sharp";
  EXPECT_EQ(walls, test::plate().wall_corners.size());
  EXPECT_NEAR(report["smallest_wall_radius"], 1.5, 1e-6);
  EXPECT_NEAR(report["largest_cutter"], 3.0, 1e-6);
  EXPECT_NEAR(report["narrowest_passage"], 8.0, 1e-6);
  const json tight = ask(
      {"corners", plate(), "--axis", numbers(test::plate().tool_axis.XYZ()), "--json", "--margin", "0.9"});
  EXPECT_NEAR(tight["largest_cutter"], 2.7, 1e-6);
  EXPECT_EQ(ask({"corners", plate(), "--axis", "+Z", "--json"})["smallest_wall_radius"], nullptr);
}

TEST_F(Cli, ComparisonFailsWithStatusOneAndNamesTheHole) {
  std::string list = "name,x,y,z,diameter,depth,tolerance\n";
  for (const double x : {18.0, 66.0, 114.0, 162.0}) list += fmt::format("CB{},{},82,22,6.6,,0.2\n", x, x);
  std::ofstream(files->path() / "list.csv") << list;
  const test::Outcome outcome =
      cli({"holes", plate(), "--json", "--frame", drawing_frame(), "--compare", files->path() / "list.csv"});
  EXPECT_EQ(outcome.status, 1);
  const json report = json::parse(outcome.out);
  int failed = 0;
  for (const json& row : report["comparison"]) {
    if (row["state"] != "fail") continue;
    ++failed;
    EXPECT_EQ(row["listed"], "CB114");
    EXPECT_NEAR(row["dy"], 0.35, 1e-6);
    EXPECT_NEAR(row["true_position"], 0.7, 1e-6);
  }
  EXPECT_EQ(failed, 1);
}

TEST_F(Cli, OrientWritesThePartTurned) {
  const fs::path out = files->path() / "turned.step";
  ask({"orient", plate(), "--out", out, "--frame", drawing_frame()});
  const json box = ask({"info", out, "--json"})["bodies"][0]["box"];
  EXPECT_LT(point(box["min"]).Distance({0, 0, 0}), 1e-5);
  EXPECT_LT(point(box["max"]).Distance(test::plate().box_max), 1e-5);
  ask({"orient", files->path() / "housing.step", "--out", out, "--up", "+Y"});
  const json up = ask({"info", out, "--json"})["bodies"][0]["box"];
  EXPECT_NEAR(up["min"][2], 0, 1e-5);
  ask({"orient", files->path() / "housing.step", "--out", out, "--matrix",
       "0 0 1 10  1 0 0 20  0 1 0 30  0 0 0 1"});
  EXPECT_NEAR(ask({"info", out, "--json"})["bodies"][0]["box"]["min"][2], 30, 1e-5);
}

TEST_F(Cli, JobIsListedWithValuesInItsReadingFrame) {
  const auto job = demo::saddle_plate_job(plate());
  ASSERT_TRUE(job) << job.error().sentence;
  ASSERT_TRUE(save_job(*job, files->path() / "plate.anvil"));
  const json list = ask({"job", files->path() / "plate.anvil", "--list", "--json"});
  std::map<std::string, json> by_name;
  for (const json& entry : list["entries"]) {
    EXPECT_EQ(entry["state"], "current") << entry["reason"];
    by_name[entry["name"]] = entry;
  }
  EXPECT_NEAR(by_name.at("Dowel pitch")["value"]["distance"], 160, 1e-6);
  EXPECT_NEAR(by_name.at("Middle of width")["value"]["point"][1], 45, 1e-6);
  EXPECT_EQ(by_name.at("OP10")["kind"], "frame");
  const json holes = ask({"holes", files->path() / "plate.anvil", "--json", "--frame", "OP10"});
  double least = 1e9;
  for (const json& hole : holes["holes"])
    least = std::min(least, point(hole["entry"]).Distance(gp_Pnt(10, 20, 0)));
  EXPECT_LT(least, 1e-5);
}

TEST_F(Cli, OutputIsTheSameBytesOnEveryRun) {
  for (const std::vector<std::string>& command : {std::vector<std::string>{"info", plate(), "--json"},
                                                  {"holes", plate(), "--json"},
                                                  {"corners", plate(), "--axis", "0,-1,0", "--json"}})
    EXPECT_EQ(cli(command).out, cli(command).out);
}

TEST_F(Cli, TextOutputIsForPeople) {
  EXPECT_NE(cli({"holes", plate()}).out.find("Ø6.6 through, counterbore Ø11 × 6.8"), std::string::npos);
  EXPECT_NE(cli({"info", plate()}).out.find("solid, sound"), std::string::npos);
}

TEST_F(Cli, ConvertWritesEveryFormatAndRefusesOthers) {
  for (const char* name : {"plate.igs", "plate.brep", "plate.stl", "again.step"}) {
    const std::string out = (files->path() / name).string();
    const test::Outcome outcome = cli({"convert", plate().string(), "--out", out});
    EXPECT_EQ(outcome.status, 0) << outcome.err;
    const json info = json::parse(cli({"info", out, "--json"}).out);
    EXPECT_NEAR(info["bodies"][0]["volume"].get<double>(),
                volume_properties(test::plate().bodies[0].shape).volume_mm3, 60)
        << name;  // the mesh: 0.05 mm off its curved faces at most
  }
  EXPECT_EQ(cli({"convert", plate().string(), "--out", (files->path() / "plate.doc").string()}).status, 2);
  EXPECT_EQ(cli({"convert", plate().string(), "--out", "/no/such/folder/plate.step"}).status, 5);
}

TEST_F(Cli, ErrorsAreOneLineWithTheRightStatus) {
  std::ofstream(files->path() / "letter.step") << "Dear shop,";
  std::ofstream(files->path() / "empty.step");
  const std::string text = *read_file(plate());
  std::ofstream(files->path() / "cut.step") << text.substr(0, text.size() / 2);
  expect_error({"info", files->path() / "letter.step"}, 3, "not a STEP file");
  expect_error({"info", files->path() / "empty.step"}, 3, "empty");
  expect_error({"info", files->path() / "cut.step"}, 3, "cut off");
  expect_error({"info", files->path()}, 3, "folder");
  expect_error({"info", files->path() / "gone.step"}, 3, "not there");
  expect_error({"holes", plate(), "--frame", "OP10"}, 4, "no frame");
  expect_error({"holes", plate(), "--frame", "z=1,2"}, 2, "no frame");
  expect_error({"corners", plate(), "--axis", "up"}, 2, "no direction");
  expect_error({"corners", plate()}, 2, "--axis");
  expect_error({"dance"}, 2, "--help");
  expect_error({"info", plate(), "--unit", "cubit"}, 2, "mm");
  expect_error({"orient", plate(), "--out", "/no/such/folder/x.step", "--up", "+Y"}, 5, "cannot write");
  expect_error(
      {"orient", plate(), "--out", files->path() / "m.step", "--matrix", "-1 0 0 0 0 1 0 0 0 0 1 0 0 0 0 1"},
      2, "mirror");
  expect_error({"orient", plate(), "--out", files->path() / "m.step", "--matrix", "1 2 3"}, 2, "16 numbers");
}

}  // namespace
}  // namespace anvil
