// Edits of a job as a value, its text form field by field, and what the reports say of it.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "base/file.h"
#include "construct/registry.h"
#include "geom/primitives.h"
#include "inspect/hole_comparison.h"
#include "job/history.h"
#include "report/hole_list.h"
#include "report/json_reports.h"
#include "support/job_fixture.h"
#include "support/job_opening.h"

namespace anvil {
namespace {

using nlohmann::json;
using test::JobFixture;

json text_of(const Job& job) {
  return json::parse(job_to_json(job));
}

Result<Job> read(const JobFixture& f, const std::string& text) {
  return test::opened(text, {f.part, std::make_shared<const std::string>()});
}

TEST(JobValues, BodySettingsSurviveTheTextForm) {
  JobFixture f;
  BodySetting setting;
  setting.visible = false;
  setting.colour = Colour{0.25, 0.5, 0.75};
  setting.transparency = 0.4;
  setting.name = "Deckel";
  const auto again = read(f, job_to_json(with_body(f.job, 0, setting)));
  ASSERT_TRUE(again) << again.error().sentence;
  EXPECT_EQ(again->body(0), setting);
}

TEST(JobValues, ViewsAreKeptReplacedAndTakenAwayByName) {
  JobFixture f;
  Job job = with_view(f.job, {"from above", gp_Pnt(0, 0, 100), gp_Pnt(), gp_Dir(0, 1, 0), 50});
  job = with_view(job, {"tip", gp_Pnt(9, 9, 9), gp_Pnt(1, 0, 0), gp_Dir(0, 0, 1), 5});
  job = with_view(job, {"from above", gp_Pnt(0, 0, 200), gp_Pnt(), gp_Dir(1, 0, 0), 75});
  ASSERT_EQ(job.views.size(), 2u);
  const auto again = read(f, job_to_json(job));
  ASSERT_TRUE(again) << again.error().sentence;
  ASSERT_EQ(again->views.size(), 2u);
  const KeptView& above = again->views[0].name == "from above" ? again->views[0] : again->views[1];
  EXPECT_LT(above.eye.Distance(gp_Pnt(0, 0, 200)), 1e-12);
  EXPECT_DOUBLE_EQ(above.scale_mm, 75);
  EXPECT_TRUE(above.up.IsEqual(gp_Dir(1, 0, 0), 1e-12));
  EXPECT_EQ(without_view(job, "from above").views.size(), 1u);
  EXPECT_EQ(without_view(job, "no such").views.size(), 2u);
}

// Before version 5 bare lengths were read in the unit the job was shown in: they go on meaning that.
TEST(JobValues, LengthsOfEarlierJobsKeepWhatTheyMeant) {
  JobFixture f;
  const int shelf = f.offset_from(f.midway(), "2");
  f.job.display.unit = Unit::kInch;
  json text = text_of(f.job);
  text["version"] = 4;
  for (json& entry : text["entries"])
    if (entry.contains("datum")) entry["datum"].erase("unit");
  auto again = read(f, text.dump());
  ASSERT_TRUE(again) << again.error().sentence;
  EXPECT_EQ(again->find(shelf)->datum()->recipe.unit, Unit::kInch);
  again->display.unit = Unit::kMillimetre;
  EXPECT_NEAR(evaluate(*again).numbers.at(shelf)->at("distance").value, 50.8, 1e-12);
}

TEST(JobValues, EveryFieldOfTheDocumentIsWritten) {
  JobFixture f;
  const int plane = f.midway();
  f.offset_from(plane);
  f.face_down();
  f.job.display = {Unit::kInch, 4};
  const json text = text_of(f.job);
  EXPECT_EQ(text["format"], "true-anvil-job");
  EXPECT_EQ(text["version"], kJobFormatVersion);
  EXPECT_EQ(text["unit"], "inch");
  EXPECT_EQ(text["decimals"], 4);
  std::map<std::string, int> kinds;
  for (const json& entry : text["entries"])
    for (const char* kind : {"part", "placement", "datum", "healing"})
      if (entry.contains(kind)) ++kinds[kind];
  EXPECT_EQ(kinds["part"], 1);
  EXPECT_EQ(kinds["placement"], 1);
  EXPECT_EQ(kinds["datum"], 2);
  EXPECT_EQ(job_version(job_to_json(f.job)), kJobFormatVersion);
  EXPECT_FALSE(job_version("{\"format\":\"something\"}"));
  EXPECT_FALSE(job_version("no json"));
}

// Each field in turn gets a value of the wrong kind: a sentence, never a crash, never a job that lost
// something.
TEST(JobValues, AnyFieldOfTheWrongKindIsRefusedOrHarmless) {
  JobFixture f;
  f.offset_from(f.midway());
  f.face_down();
  f.job = with_view(f.job, {"v", gp_Pnt(0, 0, 1), gp_Pnt(), gp_Dir(0, 1, 0), 50});
  const json whole = text_of(f.job).flatten();
  int refused = 0;
  for (const auto& [path, value] : whole.items()) {
    for (const json& wrong : {json(nullptr), json("nonsense"), json(-7.5), json(true)}) {
      json changed = whole;
      changed[path] = wrong;
      const auto job = read(f, changed.unflatten().dump());
      if (job) continue;
      ++refused;
      EXPECT_FALSE(job.error().sentence.empty()) << path;
    }
  }
  EXPECT_GT(refused, static_cast<int>(whole.size()));
}

TEST(JobValues, DuplicatedNamesAreTheUsersBusinessAndFreeOnesTheProgramms) {
  JobFixture f;
  const int first = f.midway(), second = f.midway();
  EXPECT_EQ(f.job.find(first)->name, "Plane 1");
  EXPECT_EQ(f.job.find(second)->name, "Plane 2");
  f.job = with_name(f.job, first, "Plane 3");
  EXPECT_EQ(f.job.find(f.midway())->name, "Plane 1");
  EXPECT_EQ(f.job.find(f.midway())->name, "Plane 4");
}

TEST(JobValues, EditsOfWhatIsNotThereLeaveTheJobAsItWas) {
  JobFixture f;
  f.midway();
  const std::string before = job_to_json(f.job);
  EXPECT_EQ(job_to_json(with_name(f.job, 99, "x")), before);
  EXPECT_EQ(job_to_json(with_visible(f.job, 99, false)), before);
  EXPECT_EQ(job_to_json(without(f.job, 99)), before);
  EXPECT_EQ(job_to_json(with_recipe(f.job, 99, {})), before);
  EXPECT_EQ(job_to_json(with_body(f.job, 99, {})), before);
}

TEST(JobValues, DependentsAreTheWholeChainInOrder) {
  JobFixture f;
  const int middle = f.midway(), first = f.offset_from(middle), alone = f.midway(),
            second = f.offset_from(first);
  EXPECT_EQ(dependents(f.job, middle), (std::vector<int>{first, second}));
  EXPECT_TRUE(dependents(f.job, alone).empty());
  const Job left = without(f.job, first);
  EXPECT_NE(left.find(middle), nullptr);
  EXPECT_NE(left.find(alone), nullptr);
  EXPECT_EQ(left.find(second), nullptr);
}

TEST(JobValues, AmendingChangesThePastTooAndIsNoAct) {
  JobFixture f;
  History history(f.job);
  f.midway();
  history.act("plane", f.job);
  history.act("inch", with_display(f.job, {Unit::kInch}));
  history.undo();
  history.amend([](Job job) {
    job.display.decimals = 5;
    return job;
  });
  EXPECT_EQ(history.undo_name(), "plane");
  EXPECT_EQ(history.redo_name(), "inch");
  EXPECT_EQ(history.now().display.decimals, 5);
  history.undo();
  EXPECT_EQ(history.now().display.decimals, 5);
  history.redo();
  history.redo();
  EXPECT_EQ(history.now().display.decimals, 5);
  EXPECT_EQ(history.now().display.unit, Unit::kInch);
}

TEST(Evaluation, EveryConstructionThatTakesPicksOfThisBlockEvaluatesCleanlyInTheJob) {
  JobFixture f;
  const std::vector<Reference> picks{f.face({60, 20, 20}), f.face({40, 0, 10}), f.face({0, 20, 10}),
                                     f.face({25, 20, 10}, SurfaceKind::kCylinder)};
  int built = 0;
  for (const Construction& c : constructions()) {
    if (c.makes == Makes::kPlacement || c.roles.size() > picks.size()) continue;
    const std::vector<Reference> inputs(picks.begin(), picks.begin() + static_cast<long>(c.roles.size()));
    std::vector<Given> givens;
    const Evaluation now = evaluate(f.job);
    bool fits = true;
    for (size_t i = 0; i < inputs.size(); ++i) {
      givens.push_back(*give(f.job, now, inputs[i]));
      fits = fits && gives(givens.back(), c.roles[i]);
    }
    if (!fits) continue;
    int id = 0;
    const Job job = with_datum(f.job, JobFixture::recipe(c.id.c_str(), inputs), &id);
    const Evaluated made = evaluate(job).entries.at(id);
    // Built, or refused with a whole sentence that names no role any more.
    if (made.state == EntryState::kCurrent) {
      ++built;
      EXPECT_TRUE(made.value) << c.id;
    } else {
      EXPECT_GT(made.reason.size(), 10u) << c.id;
      EXPECT_EQ(made.reason.find("{1}"), std::string::npos) << made.reason;
    }
  }
  EXPECT_GE(built, 5);
}

TEST(Reports, JobListTellsValuesInTheReadingFrame) {
  JobFixture f;
  const int frame = f.frame_on_top();
  const int plane = f.midway();
  f.job = with_reading_frame(f.job, frame);
  const json list = json::parse(job_list_json(f.job, evaluate(f.job), Unit::kMillimetre));
  EXPECT_EQ(list["unit"], "mm");
  bool seen = false;
  for (const json& entry : list["entries"]) {
    EXPECT_EQ(entry["state"], "current") << entry.dump();
    if (entry["id"] != plane) continue;
    seen = true;
    EXPECT_EQ(entry["kind"], "plane");
  }
  EXPECT_TRUE(seen);
  const json inch = json::parse(job_list_json(f.job, evaluate(f.job), Unit::kInch));
  EXPECT_EQ(inch["unit"], "inch");
}

TEST(Reports, PointsAreToldInTheFrameAndUnit) {
  const gp_Ax2 frame = make_frame(gp_Pnt(10, 20, 30), gp_Dir(0, 0, -1), gp_Dir(0, 1, 0));
  EXPECT_EQ(point_text(gp_Pnt(11, 22, 33), frame, {}), "X 2.000  Y 1.000  Z -3.000");
  EXPECT_EQ(point_text(gp_Pnt(10, 45.4, 30), frame, {Unit::kInch}), "X 1.0000  Y 0.0000  Z 0.0000");
}

TEST(Reports, HoleListIsReadBackAndMatchesItself) {
  const PartPtr part = test::part_of(test::housing());
  const auto report = find_holes(*part);
  ASSERT_TRUE(report);
  for (const Unit unit : {Unit::kMillimetre, Unit::kInch}) {
    const auto listed = parse_hole_list(hole_list_csv(*report, "as delivered", unit));
    ASSERT_TRUE(listed) << listed.error().sentence;
    ASSERT_EQ(listed->holes.size(), report->holes.size());
    for (const ComparedHole& row : compare_holes(report->holes, listed->holes)) {
      EXPECT_EQ(row.state, ComparedHole::State::kPass) << row.listed << " " << row.found;
      EXPECT_LT(row.true_position_mm, 1e-3);
    }
  }
}

TEST(Reports, InfoTellsEachBodyWithItsNumbers) {
  Body left, right;
  left.name = "left";
  left.shape = demo::block({0, 0, 0}, {10, 20, 30});
  right.name = "right \xE9";  // no UTF-8: replaced, not fatal
  right.kind = BodyKind::kShell;
  right.shape = demo::shell_of({demo::faces_of(left.shape).front()});
  SourceInfo source;
  source.file_name = "pair.step";
  const Part part(source, {left, right});
  const json info = json::parse(info_json(part, Unit::kMillimetre, 0.02));
  ASSERT_EQ(info["bodies"].size(), 2u);
  EXPECT_EQ(info["bodies"][0]["faces"], 6);
  EXPECT_EQ(info["bodies"][0]["edges"], 12);
  EXPECT_EQ(info["bodies"][0]["vertices"], 8);
  EXPECT_NEAR(info["bodies"][0]["volume"], 6000, 1e-6);
  EXPECT_NEAR(info["bodies"][0]["area"], 2200, 1e-6);
  EXPECT_EQ(info["bodies"][0]["sound"], true);
  EXPECT_EQ(info["bodies"][1]["kind"], "shell");
  EXPECT_EQ(info["bodies"][1]["sound"], false);
  EXPECT_EQ(info["bodies"][1]["volume"], 0.0);
}

}  // namespace
}  // namespace anvil
