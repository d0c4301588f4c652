// Files asked by the command line: its JSON against the construction numbers, its exit statuses, its one-line
// errors.
#include <fstream>
#include <set>

#include "base/file.h"
#include "cli_fixture.h"
#include "demo/demo_job.h"
#include "support/damage.h"

namespace anvil {
namespace {

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

TEST_F(Cli, CuttersOfAListAreJudgedForEveryPocket) {
  const fs::path list = files->path() / "cutters.csv";
  ASSERT_TRUE(write_file_atomically(list, demo::cutters_csv()));
  const json report =
      ask({"corners", plate(), "--axis", "0,-1,0", "--cutters", list, "--cutter", "8", "--json"});
  std::map<double, json> by_depth;
  for (const json& pocket : report["pockets"]) by_depth[std::round(pocket["depth"].get<double>())] = pocket;
  EXPECT_EQ(by_depth[12]["cutter"]["number"], "T2");
  EXPECT_EQ(by_depth[10]["cutter"]["number"], "T3");
  EXPECT_EQ(by_depth[8]["cutter"]["number"], "T5");
  EXPECT_EQ(by_depth[6]["cutter"]["number"], "T7");  // T8 is as thin, but its flutes are too short
  EXPECT_TRUE(by_depth[22]["cutter"].is_null());
  for (const json& tried : by_depth[6]["cutters"]) {
    if (tried["number"] != "T8") continue;
    ASSERT_EQ(tried["fails"].size(), 1u);
    EXPECT_EQ(tried["fails"][0]["limit"], "flute");
    EXPECT_EQ(tried["fails"][0]["allowed"], 6.0);
    EXPECT_EQ(tried["fails"][0]["has"], 5.0);
  }
  EXPECT_EQ(report["left_by_cutter"]["diameter"], 8.0);
  EXPECT_GT(report["left_by_cutter"]["volume"], 100);
  expect_error({"corners", plate(), "--axis", "0,-1,0", "--cutter", "-3"}, 2, "diameter");
  ASSERT_TRUE(write_file_atomically(list, "number;diameter\nT1;wide\n"));
  expect_error({"corners", plate(), "--axis", "0,-1,0", "--cutters", list}, 3, "line 2");
}

TEST_F(Cli, WhicheverWayAToolComesTheSmallestIsTold) {
  const json report = ask({"corners", plate(), "--any-axis", "--json"});
  EXPECT_EQ(report["smallest_radius"], 1.0);  // the rounded floor
  std::map<std::string, int> fillets;
  for (const json& group : report["hollows"])
    if (group["kind"] == "fillet")
      fillets[fmt::format("{}", group["radius"].get<double>())] += group["count"].get<int>();
  EXPECT_EQ(fillets["1.5"], 3);
  EXPECT_EQ(fillets["6"], 4);
  expect_error({"corners", plate(), "--any-axis", "--axis", "0,0,1"}, 2, "");
  expect_error({"corners", plate(), "--any-axis", "--margin", "0.9"}, 2, "");
  expect_error({"corners", plate()}, 2, "");
}

TEST_F(Cli, TheDemoListFindsWhatIsWrongWithThePlate) {
  const fs::path list = files->path() / "holes.csv";
  ASSERT_TRUE(write_file_atomically(list, demo::saddle_plate_holes_csv()));
  const test::Outcome outcome = cli({"holes", plate(), "--compare", list, "--json"});
  EXPECT_EQ(outcome.status, 1);
  const json rows = json::parse(outcome.out)["comparison"];
  std::map<std::string, json> by_name;
  for (const json& row : rows)
    by_name[row["listed"].is_null() ? "extra" : row["listed"].get<std::string>()] = row;
  EXPECT_EQ(rows.size(), 13u);
  EXPECT_EQ(by_name["B3"]["fails"], json::array({"position"}));
  EXPECT_NEAR(by_name["B3"]["true_position"], 0.7, 1e-3);
  EXPECT_EQ(by_name["T1"]["fails"], json::array({"depth"}));
  EXPECT_EQ(by_name["oil hole"]["state"], "missing");
  EXPECT_EQ(by_name["S5"]["state"], "pass");
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

// A hole is closed and a block stands beside the part: holes, body list and what is written are of that.
TEST_F(Cli, OutputIsTheSameBytesOnEveryRun) {
  for (const std::vector<std::string>& command : {std::vector<std::string>{"info", plate(), "--json"},
                                                  {"holes", plate(), "--json"},
                                                  {"corners", plate(), "--axis", "0,-1,0", "--json"}})
    EXPECT_EQ(cli(command).out, cli(command).out);
}

TEST_F(Cli, TextOutputIsForPeople) {
  EXPECT_NE(cli({"holes", plate()}).out.find("Ø6.6 through, counterbore Ø11 × 6.8"), std::string::npos);
  EXPECT_NE(
      cli({"holes", plate(), "--unit", "inch"}).out.find("Ø0.2598 through, counterbore Ø0.4331 × 0.2677"),
      std::string::npos);
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
  std::ofstream(files->path() / "empty.step") << "";
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

// The kernel's reader dies on it; the command reads it again without what made it die.
TEST_F(Cli, AFileThatEndsTheReaderIsReadWithoutWhatIsWrong) {
  const fs::path wrong = files->path() / "wrong.step";
  std::ofstream(wrong) << test::with_wrong_vector(*read_file(plate()), 1);
  const json whole = ask({"info", plate(), "--json"})["bodies"][0],
             rest = ask({"info", wrong, "--json"})["bodies"][0];
  EXPECT_EQ(rest["faces"].get<int>(), whole["faces"].get<int>() - 2);
  EXPECT_FALSE(rest["sound"].get<bool>());
  EXPECT_FALSE(ask({"holes", wrong, "--json"})["holes"].empty());
}

TEST_F(Cli, AMeshIsNotWrittenAsSurfacesAndTheReasonIsTold) {
  const auto stl = files->path() / "plate.stl";
  EXPECT_EQ(cli({"convert", plate(), "--out", stl}).status, 0);
  for (const char* name : {"mesh.step", "mesh.igs", "mesh.brep"}) {
    const auto out = files->path() / name;
    const test::Outcome outcome = cli({"convert", stl, "--out", out});
    EXPECT_EQ(outcome.status, 2) << outcome.err;
    EXPECT_NE(outcome.err.find("mesh of triangles"), std::string::npos) << outcome.err;
    EXPECT_EQ(outcome.err.find("damaged"), std::string::npos) << outcome.err;
    EXPECT_FALSE(fs::exists(out));
  }
  EXPECT_EQ(cli({"convert", stl, "--out", files->path() / "again.stl"}).status, 0);
}

TEST_F(Cli, NamesMayBeginWithADash) {
  const fs::path before = fs::current_path();
  fs::current_path(files->path());
  fs::copy_file("plate.step", "-plate.step");
  EXPECT_EQ(cli({"info", "-plate.step"}).status, 0);
  const test::Outcome written = cli({"convert", "-plate.step", "--out", "./-again.step"});
  EXPECT_EQ(written.status, 0) << written.err;
  EXPECT_EQ(cli({"info", "--", "-again.step"}).status, 0);
  fs::current_path(before);
}

TEST_F(Cli, AnAnswerThatCannotBeWrittenIsAFailure) {
  const test::Outcome outcome = test::run(
      {"/bin/sh", "-c", test::program("true-anvil-cli") + " info " + plate().string() + " > /dev/full"});
  EXPECT_EQ(outcome.status, 5) << outcome.err;
  EXPECT_NE(outcome.err.find("cannot be written"), std::string::npos) << outcome.err;
}

TEST_F(Cli, ToleranceDecidesWhatIsSound) {
  const demo::TornBracket torn = demo::torn_bracket();
  const fs::path file = files->path() / "torn.step";
  ASSERT_TRUE(write_step(torn.bodies, {}, file));
  const auto kinds = [&](const std::string& tolerance) {
    std::set<std::string> found;
    const json info = ask({"info", file, "--json", "--tolerance", tolerance});
    for (const json& body : info["bodies"])
      for (const json& finding : body["findings"]) found.insert(finding["kind"]);
    return found;
  };
  const auto fine = kinds("0.001"), coarse = kinds("1mm");
  EXPECT_TRUE(fine.count("open-edge") && coarse.count("open-edge"))
      << "a missing face is no matter of tolerance";
  EXPECT_NE(fine, coarse);
  expect_error({"info", file, "--tolerance", "wide"}, 2, "wide");
  expect_error({"info", file, "--tolerance", "-1"}, 2, "tolerance");
}

TEST_F(Cli, LengthsAreInTheUnitAskedFor) {
  const json mm = ask({"holes", plate(), "--json"}),
             inch = ask({"holes", plate(), "--json", "--unit", "inch"});
  EXPECT_EQ(inch["unit"], "inch");
  ASSERT_EQ(inch["holes"].size(), mm["holes"].size());
  for (size_t i = 0; i < mm["holes"].size(); ++i) {
    const json &a = mm["holes"][i], &b = inch["holes"][i];
    EXPECT_EQ(a["name"], b["name"]);
    for (const char* key : {"diameter", "depth"})
      EXPECT_NEAR(a[key].get<double>(), 25.4 * b[key].get<double>(), 1e-7);
    EXPECT_LT(point(a["entry"]).Distance(gp_Pnt(point(b["entry"]).XYZ() * 25.4)), 1e-6);
    EXPECT_EQ(a["axis"], b["axis"]) << "directions have no unit";
  }
}

TEST_F(Cli, FrameTurnsPositionsAndDirections) {
  // Z down, X along Y of the drawing: positions and axes are what the drawing gives when read so.
  const gp_Trsf& t = test::plate().placement;
  const std::string frame = "origin=" + numbers(gp_Pnt(10, 20, 22).Transformed(t).XYZ()) +
                            ";z=" + numbers(gp_Dir(0, 0, -1).Transformed(t).XYZ()) +
                            ";x=" + numbers(gp_Dir(0, 1, 0).Transformed(t).XYZ());
  const json report = ask({"holes", plate(), "--json", "--frame", frame});
  for (const demo::ExpectedHole& expected : test::plate().holes) {
    const gp_Pnt drawn = expected.entry.Transformed(t.Inverted());
    const gp_Pnt read(drawn.Y() - 20, drawn.X() - 10, 22 - drawn.Z());
    EXPECT_TRUE(std::any_of(report["holes"].begin(), report["holes"].end(),
                            [&](const json& h) { return point(h["entry"]).Distance(read) < 1e-6; }));
  }
}

TEST_F(Cli, InchFilesComeInAtTheirSize) {
  WriteOptions options;
  options.unit = "INCH";
  const fs::path file = files->path() / "inch.step";
  ASSERT_TRUE(write_step(test::plate().bodies, options, file));
  const json info = ask({"info", file, "--json"}), plain = ask({"info", plate(), "--json"});
  EXPECT_EQ(info["source_unit"], "inch");
  EXPECT_EQ(info["unit"], "mm");
  EXPECT_NEAR(info["bodies"][0]["volume"].get<double>() / plain["bodies"][0]["volume"].get<double>(), 1,
              1e-9);
}

TEST_F(Cli, ComparisonListsAreReadWithCareForTheirUnit) {
  const auto compare = [&](const std::string& text) {
    std::ofstream(files->path() / "mine.csv") << text;
    return cli(
        {"holes", plate(), "--json", "--frame", drawing_frame(), "--compare", files->path() / "mine.csv"});
  };
  // One hole, in inches: it is there; every other hole is an extra, which is no failure of the list.
  const std::string inch =
      fmt::format("# unit: inch\nname,x,y,z,diameter,depth\nCB1,{:.7f},{:.7f},{:.7f},{:.7f},\n", 18 / 25.4,
                  82 / 25.4, 22 / 25.4, 6.6 / 25.4);
  const json report = json::parse(compare(inch).out, nullptr, false);
  int passed = 0;
  for (const json& row : report["comparison"]) passed += row["state"] == "pass";
  EXPECT_EQ(passed, 1);
  EXPECT_EQ(report["comparison"].size(), report["holes"].size());
  expect_error({"holes", plate(), "--compare", files->path() / "no.csv"}, 3, "no.csv");
  std::ofstream(files->path() / "bad.csv") << "name,x,y,z,diameter\nA,1,2,three,4\n";
  expect_error({"holes", plate(), "--compare", files->path() / "bad.csv"}, 3, "line 2");
}

TEST_F(Cli, FilesOfEveryKindAreAsked) {
  for (const char* name : {"k.igs", "k.brep", "k.stl"}) {
    const fs::path file = files->path() / name;
    ASSERT_EQ(cli({"convert", plate(), "--out", file}).status, 0);
    const json info = ask({"info", file, "--json"});
    EXPECT_EQ(info["bodies"][0]["kind"], std::string(name) == "k.stl" ? "mesh" : "solid");
    if (std::string(name) == "k.stl") continue;
    EXPECT_EQ(ask({"holes", file, "--json"})["holes"].size(), test::plate().holes.size()) << name;
  }
}

// A cube of triangles with one side missing: judged, and refused where nothing exact can be found.
TEST_F(Cli, MeshesAreJudgedAndHaveNoHolesNorCorners) {
  const std::string file = (files->path() / "open.stl").string();
  std::ofstream stl(file);
  stl << "solid cube\n";
  const double c[8][3] = {{0, 0, 0}, {9, 0, 0}, {0, 9, 0}, {9, 9, 0},
                          {0, 0, 9}, {9, 0, 9}, {0, 9, 9}, {9, 9, 9}};
  const int sides[10][3] = {{4, 5, 7}, {4, 7, 6}, {0, 1, 5}, {0, 5, 4}, {2, 6, 7},
                            {2, 7, 3}, {0, 4, 6}, {0, 6, 2}, {1, 3, 7}, {1, 7, 5}};
  for (const auto& t : sides) {
    stl << "facet normal 0 0 0\nouter loop\n";
    for (const int k : t) stl << "vertex " << c[k][0] << ' ' << c[k][1] << ' ' << c[k][2] << '\n';
    stl << "endloop\nendfacet\n";
  }
  stl << "endsolid cube\n";
  stl.close();
  const json body = ask({"info", file, "--json"})["bodies"][0];
  EXPECT_EQ(body["sound"], false);
  ASSERT_EQ(body["findings"].size(), 1u);
  EXPECT_EQ(body["findings"][0]["kind"], "open-edge");
  EXPECT_EQ(body["findings"][0]["count"], 4);
  EXPECT_NEAR(body["findings"][0]["amount"].get<double>(), 36, 1e-6);
  expect_error({"holes", file, "--json"}, 3, "triangles only");
  expect_error({"corners", file, "--axis", "0,0,1"}, 3, "triangles only");
}

// An option that does nothing is refused, not swallowed.
TEST_F(Cli, ToleranceIsForInfoAlone) {
  const std::string file = plate().string();
  expect_error({"holes", file, "--tolerance", "0.1"}, 2, "tolerance");
  expect_error({"corners", file, "--axis", "+Z", "--tolerance", "0.1"}, 2, "tolerance");
}

TEST_F(Cli, OrientWritesInTheUnitItNames) {
  const fs::path out = files->path() / "up-inch.step";
  const json written =
      ask({"orient", plate().string(), "--out", out.string(), "--up", "+Y", "--unit", "inch", "--json"});
  EXPECT_EQ(written["unit"], "inch");
  EXPECT_EQ(ask({"info", out.string(), "--json"})["source_unit"], "inch");
}

}  // namespace
}  // namespace anvil
