// Jobs asked by the command line: entries, corrections, setups, and what is written of them.
#include <fstream>

#include "base/file.h"
#include "cli_fixture.h"
#include "construct/registry.h"
#include "demo/demo_job.h"
#include "job/edits.h"
#include "job/hole_names.h"
#include "job/setup_edits.h"
#include "part/measure.h"
#include "setup/shipped_machines.h"
#include "store/job_file.h"

namespace anvil {
namespace {

TEST_F(Cli, HolesOfAJobBearItsNamesAndAreDrawnAndSurveyed) {
  auto job = demo::saddle_plate_job(plate());
  ASSERT_TRUE(job);
  const PartPtr part = job->part();
  const auto found = find_holes(*part);
  ASSERT_TRUE(found);
  const auto named = with_hole_name(*job, {{part}}, *found, {false, 0}, "oil, left");
  ASSERT_TRUE(named);
  const std::string file = (files->path() / "named.anvil").string(),
                    drawing = (files->path() / "named.dxf").string();
  ASSERT_TRUE(save_job(*named, file));
  const json told = ask({"holes", file, "--json", "--surroundings", "--drawing", drawing});
  EXPECT_EQ(told["holes"][0]["name"], "oil, left");
  EXPECT_NEAR(told["holes"][0]["around"]["next_hole"]["distance"].get<double>(), 20, 1e-6);
  EXPECT_NEAR(told["holes"][0]["around"]["edge"]["distance"].get<double>(), 8, 1e-6);
  const auto dxf = read_file(drawing);
  ASSERT_TRUE(dxf);
  EXPECT_NE(dxf->find("oil, left"), std::string::npos);
  expect_error({"holes", file, "--drawing", (files->path() / "named.png").string()}, 2,
               "neither .svg nor .dxf");
  expect_error({"holes", file, "--axis", "0,0,1"}, 2, "--drawing");
}

TEST_F(Cli, BodiesAreWrittenInTheColoursTheJobGivesThem) {
  auto job = demo::saddle_plate_job(plate());
  ASSERT_TRUE(job) << job.error().sentence;
  BodySetting red = job->body(0);
  red.colour = Colour{1, 0, 0};
  const fs::path file = files->path() / "red.anvil", out = files->path() / "red.step";
  ASSERT_TRUE(save_job(with_body(*job, 0, red), file));
  ask({"orient", file, "--out", out, "--up", "+Y"});
  const auto written = read_part_file(out, {});
  ASSERT_TRUE(written) << written.error().sentence;
  ASSERT_TRUE(written->bodies[0].colour);
  EXPECT_NEAR(written->bodies[0].colour->r, 1, 1e-6);
  EXPECT_NEAR(written->bodies[0].colour->g, 0, 1e-6);
}

TEST_F(Cli, WhatCorrectionsLeaveIsReadAndWritten) {
  auto job = demo::saddle_plate_job(plate());
  ASSERT_TRUE(job) << job.error().sentence;
  const PartPtr part = job->part();
  const auto found = find_holes(*part);
  ASSERT_TRUE(found);
  const auto recipe = [](const char* id, const Reference& pick) {
    Recipe made;
    made.construction = id;
    made.inputs = {pick};
    made.parameters = initial_parameters(*find_construction(id));
    return made;
  };
  const Reference hole{
      describe(*part, job->first_part()->id, TopologyKind::kFace, found->holes.front().faces.front()), {}};
  Job corrected = with_datum(*job, recipe("correct.close", hole));
  corrected = with_datum(corrected, recipe("correct.own-block", {EntryReference{kReadPlaced}, {}}));
  const fs::path file = files->path() / "corrected.anvil", out = files->path() / "corrected.step";
  ASSERT_TRUE(save_job(corrected, file));
  EXPECT_EQ(ask({"holes", file, "--json"})["holes"].size(), found->holes.size() - 1);
  const json list = ask({"job", file, "--list", "--json"});
  ASSERT_GE(list["entries"].size(), 3U);
  for (const json& entry : list["entries"])
    EXPECT_EQ(entry["state"], "current") << entry["name"] << ": " << entry["reason"];
  ask({"convert", file, "--out", out});
  const auto written = read_part_file(out, {});
  ASSERT_TRUE(written) << written.error().sentence;
  ASSERT_EQ(written->bodies.size(), 2U);
  EXPECT_EQ(written->bodies[1].name, "Block 1");
  EXPECT_NEAR(volume_properties(written->bodies[1].shape).volume_mm3, 4000, 1e-3);
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
  EXPECT_EQ(by_name.at("OP10")["kind"], "setup");
  EXPECT_EQ(by_name.at("OP10")["value"]["work_offset"], "G54");
  const json holes = ask({"holes", files->path() / "plate.anvil", "--json", "--frame", "OP10"});
  double least = 1e9;
  for (const json& hole : holes["holes"])
    least = std::min(least, point(hole["entry"]).Distance(gp_Pnt(10, 20, 0)));
  EXPECT_LT(least, 1e-5);
}

TEST_F(Cli, ProposalsReachWhatTheMachineCan) {
  const std::string housing = (files->path() / "housing.step").string();
  const json all = ask({"proposals", housing, "--json"});
  EXPECT_EQ(all["axes"].size(), 5u);
  EXPECT_TRUE(all["unreached"].empty());
  EXPECT_EQ(all["machine"], nullptr);
  // Delivered with Y up, the cradle looks at it from the side: its own +Z is one of the five.
  const json on = ask({"proposals", housing, "--machine", "cradle-ac", "--json"});
  EXPECT_EQ(on["machine"], "Cradle A with rotary table C");
  for (const json& axis : on["axes"]) EXPECT_TRUE(axis["rotary"].contains("A")) << axis;
  EXPECT_EQ(cli({"proposals", housing, "--machine", "no-such"}).status, 4);
  EXPECT_EQ(cli({"proposals", housing, "--machine", housing}).status, 3);
}

TEST_F(Cli, JobIsCheckedAndItsSetupsExported) {
  auto made = demo::saddle_plate_job(plate());
  ASSERT_TRUE(made);
  Job job = *made;
  const std::string path = (files->path() / "checked.anvil").string(),
                    out = (files->path() / "out.txt").string();
  ASSERT_TRUE(save_job(job, path));
  EXPECT_EQ(cli({"job", path, "--check"}).status, 0);
  EXPECT_EQ(cli({"job", path, "--export", "offsets", "--out", out}).status, 2);  // no machine yet
  for (const Machine& machine : shipped_machines())
    if (machine.id == "bench-3axis") job = with_machine(job, machine);
  for (const Entry& entry : job.entries)
    if (const anvil::Setup* setup = entry.setup()) {
      anvil::Setup on = *setup;
      on.machine = "bench-3axis";
      on.place = {{"x", "100"}, {"y", "1in"}, {"z", "-250"}};
      job = with_setup_changed(job, entry.id, on);
      break;
    }
  ASSERT_TRUE(save_job(job, path));
  EXPECT_EQ(cli({"job", path, "--export", "offsets", "--out", out}).status, 0);
  EXPECT_NE(read_file(out)->find("G10 L2 P1 X100.000 Y25.400 Z-250.000"), std::string::npos)
      << *read_file(out);
  EXPECT_EQ(cli({"job", path, "--export", "setups", "--out", out}).status, 0);
  EXPECT_EQ(json::parse(*read_file(out))["setups"][0]["offsets"][0]["in_machine"][1], 25.4);
  EXPECT_EQ(cli({"job", path, "--export", "sheets", "--out", out}).status, 0);
  EXPECT_NE(read_file(out)->find("OP10 · G54"), std::string::npos);
  EXPECT_EQ(cli({"job", path, "--export", "matrix", "--setup", "OP99", "--out", out}).status, 4);
  EXPECT_EQ(cli({"job", path, "--export", "matrix", "--out", "/no/such/folder/x"}).status, 5);
  EXPECT_EQ(cli({"job", path, "--export", "matrix"}).status, 2);
  // A limit that is broken fails the check.
  for (const Entry& entry : job.entries)
    if (entry.name == "Dowel pitch") {
      Recipe limited = entry.datum()->recipe;
      limited.parameters["limit"] = "150 ±1";
      job = with_recipe(job, entry.id, limited);
      break;
    }
  ASSERT_TRUE(save_job(job, path));
  const auto checked = cli({"job", path, "--check"});
  EXPECT_EQ(checked.status, 1);
  EXPECT_NE(checked.out.find("Dowel pitch"), std::string::npos);
}

TEST_F(Cli, JobThatIsDamagedOrGoneIsRefused) {
  expect_error({"job", files->path() / "gone.anvil", "--list"}, 3, "gone.anvil");
  std::ofstream(files->path() / "noise.anvil") << "PK\x03\x04 noise";
  expect_error({"job", files->path() / "noise.anvil", "--list"}, 3, "noise.anvil");
  expect_error({"holes", files->path() / "noise.anvil"}, 3, "noise.anvil");
}

}  // namespace
}  // namespace anvil
