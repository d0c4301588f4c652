// Texts that a stranger wrote, in every field there is, and what becomes of them in everything that is
// written. The fields are found by walking over the documents themselves, so that a new one is in it by being
// there.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "exchange/part_file.h"
#include "geom/primitives.h"
#include "inspect/cutters.h"
#include "inspect/hole_comparison.h"
#include "job/gate.h"
#include "job/hole_names.h"
#include "report/drill_drawing.h"
#include "report/hole_list.h"
#include "report/json_reports.h"
#include "report/setup_sheet.h"
#include "report/text_reports.h"
#include "setup/shipped_machines.h"
#include "store/job_json.h"
#include "support/job_fixture.h"
#include "support/process.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;
using nlohmann::json;
using test::JobFixture;

// Each with a harmless text beside it that does to the program what it would, were it only a name.
const std::string kHarmless = "Some name", kLongButHarmless(1 << 20, 'y');
const std::string& harmless_for(const std::string& hostile) {
  return hostile.size() < 1000 ? kHarmless : kLongButHarmless;
}
const std::vector<std::string> kHostile{
    "T\nM3 S24000\r\nG0 Z-100\rG1 X0\u2028G2\u0085M30 (MSG,a) ) G0 X1 ( ; %",
    "G54</h1><h1 onclick='x'>ZERO X 999</h1><script>alert(\"1\")</script>--><!-- ]]> &amp; </title></svg>",
    "=cmd|' /C calc'!A0,\"a\";b\tc",
    "MSG,open\x1b[2J\x1b]0;title\x07\u009b31m \u202egpj.exe\u2066 %%u %%d{\\fArial} ^J \\P\\U+0041",
    std::string("long ") + std::string(1 << 20, 'x')};

std::vector<json::json_pointer> texts_in(const json& document) {
  std::vector<json::json_pointer> found;
  const json flat = document.flatten();
  for (const auto& [path, value] : flat.items())
    if (value.is_string()) found.emplace_back(path);
  return found;
}

// A job with everything in it that has a name: bodies, a group, planes, a setup with planes and a machine,
// cutters, views, named holes, a figure, a measurement, a correction.
Job job_with_all_names(JobFixture& f) {
  const int setup = f.setup_on_top();
  f.midway();
  f.job = with_group(f.job, f.job.entries[1].id, "group");
  f.job = with_machine(f.job, shipped_machines()[2]);  // table with A and C
  Setup with_machine = *f.job.find(setup)->setup();
  with_machine.machine = shipped_machines()[2].id;
  f.job = with_setup_changed(f.job, setup, with_machine);
  f.job = with_tool_plane(f.job, setup, f.frame_on_top());
  f.job = with_view(f.job, {"a view", gp_Pnt(0, 0, 100), gp_Pnt(), gp_Dir(0, 1, 0), 100});
  Inspection inspection;
  inspection.cutters = {{"T1", "end mill", 6.0}};
  f.job = with_inspection(f.job, inspection);
  const Reference bore = f.face({25, 20, 10}, SurfaceKind::kCylinder);
  f.job.hole_names.push_back({std::get<TopologyReference>(bore.target), "main bore"});
  BodySetting body;
  body.name = "body";
  f.job = with_body(f.job, 0, body);
  f.job = with_reading_frame(f.job, setup);
  return f.job;
}

using Outputs = std::map<std::string, std::string>;

void add_drawings(const Part& part, const HoleReport& holes, Outputs& outputs) {
  DrillView view;
  view.frame = world_frame();
  view.frame_name = "frame";
  view.part_name = part.bodies().empty() ? "" : part.bodies().front().name + part.source().file_name;
  const auto drawing = drill_drawing(part, holes, view);
  if (!drawing) return;
  outputs["drawing.svg"] = drawing_svg(*drawing);
  outputs["drawing.dxf"] = drawing_dxf(*drawing);
}

// Everything that is written of a job.
Outputs outputs_of(const Job& job) {
  Outputs outputs;
  const Evaluation evaluation = evaluate(job);
  if (!evaluation.part) return outputs;
  auto holes = find_holes(*evaluation.part);
  if (!holes) return outputs;
  give_names(job, evaluation.states, *holes);
  const Entry* setup = nullptr;
  for (const Entry& entry : job.entries)
    if (entry.setup()) setup = &entry;
  for (const TextReport& report : text_reports()) {
    const auto text =
        report.write({job, evaluation, setup ? setup->id : 0, &*holes, Unit::kMillimetre, "2026-01-01", {}});
    if (text) outputs[std::string(report.id) + "." + report.suffix] = *text;
  }
  outputs["holes.csv"] = hole_list_csv(*holes, reading_frame_name(job, job.reading_frame), Unit::kMillimetre);
  outputs["info.json"] = info_json(*evaluation.part, Unit::kMillimetre, 0.02);
  outputs["list.json"] = job_list_json(job, evaluation, Unit::kMillimetre);
  outputs["cutters.csv"] = cutters_csv(job.inspection.cutters, Unit::kMillimetre);
  outputs["job.json"] = job_to_json(job);
  add_drawings(*evaluation.part, *holes, outputs);
  return outputs;
}

struct StrangersTexts : testing::Test {
  void put(const std::string& which, const Outputs& outputs) {
    const fs::path place = folder.path() / fmt::format("{:04}", cases) / which;
    fs::create_directories(place);
    for (const auto& [name, text] : outputs) std::ofstream(place / name, std::ios::binary) << text;
  }
  // What differs between each pair, told by readers of other houses.
  void expect_nothing_more_than_without() {
    const auto ran = test::run({ANVIL_PYTHON, ANVIL_OUTPUT_READER, folder.path().string()});
    EXPECT_EQ(ran.status, 0) << ran.out.substr(0, 4000) << ran.err.substr(0, 2000);
  }
  JobLoader loader(const PartPtr& part) const {
    return {[part](const std::string&, double) -> Result<SourceFile> {
              return SourceFile{part, std::make_shared<const std::string>("source"), 1.0};
            },
            [](const std::string& sentence) { told_more().push_back(sentence); }};
  }
  static std::vector<std::string>& told_more() {
    static std::vector<std::string> told;
    return told;
  }
  static void expect_one_line(const std::vector<std::string>& sentences, const std::string& field) {
    for (const std::string& sentence : sentences)
      for (const char c : sentence) ASSERT_GE(static_cast<unsigned char>(c), 0x20) << field;
  }

  TemporaryFolder folder;
  int cases = 0;
};

TEST_F(StrangersTexts, InNoFieldOfAJobBecomeAnythingButTexts) {
  JobFixture f;
  json document = json::parse(job_to_json(job_with_all_names(f)));
  const auto fields = texts_in(document);
  ASSERT_GT(fields.size(), 60u);
  for (const auto& field : fields)
    for (const std::string& hostile : kHostile) {
      ++cases;
      for (const auto& [which, text] : {std::pair("without", harmless_for(hostile)), {"with", hostile}}) {
        json changed = document;
        changed[field] = text;
        told_more().clear();
        const auto job = job_from_json(changed.dump(), loader(f.part));
        expect_one_line(told_more(), field.to_string());
        if (!job) expect_one_line({job.error().sentence}, field.to_string());
        if (job) put(which, outputs_of(*job));
      }
    }
  expect_nothing_more_than_without();
}

TEST_F(StrangersTexts, InNoFieldOfAPartBecomeAnythingButTexts) {
  JobFixture f;
  const fs::path handed = folder.path() / "handed";
  fs::create_directories(handed);
  std::vector<Body> bodies = f.part->bodies();
  bodies.front().path = {"assembly", "sub-assembly"};
  SourceInfo source = f.part->source();
  source.warnings = {"noticed"};
  ASSERT_TRUE(write_part_folder({source, bodies}, handed));
  const json document = json::parse(*read_file(handed / "part.json"));
  const auto fields = texts_in(document);
  ASSERT_GT(fields.size(), 8u);
  for (const auto& field : fields)
    for (const std::string& hostile : kHostile) {
      ++cases;
      for (const auto& [which, text] : {std::pair("without", harmless_for(hostile)), {"with", hostile}}) {
        json changed = document;
        changed[field] = text;
        ASSERT_TRUE(write_file_atomically(handed / "part.json", changed.dump()));
        auto read = read_part_folder(handed);
        if (!read) continue;
        JobFixture own;
        own.part = std::make_shared<const Part>(read->source, read->bodies);
        own.job = with_part({}, own.part, std::make_shared<const std::string>("source"),
                            own.part->bodies()[0].name);
        put(which, outputs_of(job_with_all_names(own)));
      }
    }
  fs::remove_all(handed);
  expect_nothing_more_than_without();
}

TEST_F(StrangersTexts, InNoFieldOfAMachineBecomeAnythingButTexts) {
  JobFixture f;
  const Job job = job_with_all_names(f);
  const json document = json::parse(machine_to_json(job.machines.begin()->second));
  for (const auto& field : texts_in(document))
    for (const std::string& hostile : kHostile) {
      ++cases;
      for (const auto& [which, text] : {std::pair("without", harmless_for(hostile)), {"with", hostile}}) {
        json changed = document;
        changed[field] = text;
        const auto machine = machine_from_json(changed.dump(), "stranger");
        if (!machine) expect_one_line({machine.error().sentence}, field.to_string());
        Job with = job;
        if (machine) with.machines.begin()->second = *machine;
        const auto passed = through_gate(std::move(with));
        ASSERT_TRUE(passed);
        put(which, outputs_of(*passed));
      }
    }
  expect_nothing_more_than_without();
}

// Lists of holes and of cutters: every cell, the headings and what stands in comments.
TEST_F(StrangersTexts, InNoCellOfAListBecomeAnythingButTexts) {
  for (const std::string& hostile : kHostile) {
    const std::string list =
        fmt::format("\"# frame: {0}\"\nname,x,y,z,diameter,depth\n\"{0}\",1,2,3,4,5\n", hostile);
    const auto read = parse_hole_list(list, Unit::kMillimetre);
    if (!read) {
      expect_one_line({read.error().sentence}, "list");
      continue;
    }
    expect_one_line({read->frame}, "frame");
    for (const ListedHole& hole : read->holes) expect_one_line({hole.name}, "name");
    const auto cutters = read_cutters(fmt::format("number,name,diameter\n\"{0}\",\"{0}\",6\n", hostile));
    if (!cutters) expect_one_line({cutters.error().sentence}, "cutters");
    if (cutters)
      for (const Cutter& cutter : *cutters) expect_one_line({cutter.number, cutter.name}, "cutter");
  }
}

}  // namespace
}  // namespace anvil
