// What a job says of holes and corners: names that stay with their holes, and tool planes side by side.
#include <gtest/gtest.h>

#include "inspect/holes.h"
#include "job/first_look.h"
#include "job/gate.h"
#include "job/hole_names.h"
#include "job/plane_checks.h"
#include "store/job_json.h"
#include "support/expected_holes.h"
#include "support/job_fixture.h"
#include "support/job_opening.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;

TopoDS_Shape bore(double x, double y, double diameter, double depth = 20) {
  return rod(gp_Ax2(gp_Pnt(x, y, 20), gp_Dir(0, 0, -1)), diameter, depth);
}

const Hole& hole_at(const HoleReport& report, double x, double y) {
  return *std::min_element(report.holes.begin(), report.holes.end(), [&](const Hole& a, const Hole& b) {
    const gp_Pnt at(x, y, 20);
    return a.entry.Distance(at) < b.entry.Distance(at);
  });
}

HoleReport named_holes(const Job& job, const PartPtr& part) {
  HoleReport report = holes_of(*part);
  give_names(job, {{part}}, report);
  return report;
}

Job named(const Job& job, const PartPtr& part, double x, double y, const std::string& name) {
  const HoleReport report = named_holes(job, part);
  const int index = static_cast<int>(&hole_at(report, x, y) - report.holes.data());
  const auto next = with_hole_name(job, {{part}}, report, {false, index}, name);
  EXPECT_TRUE(next) << (next ? "" : next.error().sentence);
  return next ? *next : job;
}

class HoleNames : public testing::Test {
 protected:
  PartPtr a =
      part_of(cut(block({0, 0, 0}, {80, 40, 20}), {bore(20, 20, 10), bore(50, 20, 10), bore(70, 30, 6)}));
  Job job = with_part({}, a, std::make_shared<const std::string>("source"), "block");
};

TEST_F(HoleNames, StayWithTheirHoleOnAPartThatChanged) {
  job = named(job, a, 50, 20, "dowel");
  EXPECT_EQ(hole_at(named_holes(job, a), 50, 20).name, "dowel");
  EXPECT_NE(hole_at(named_holes(job, a), 20, 20).name, "dowel");
  // Another hole comes first now and this one has moved by a millimetre.
  const PartPtr b = part_of(cut(block({0, 0, 0}, {80, 40, 20}),
                                {bore(8, 8, 10), bore(20, 20, 10), bore(51, 20, 10), bore(70, 30, 6)}));
  EXPECT_EQ(hole_at(named_holes(job, b), 51, 20).name, "dowel");
  EXPECT_EQ(hole_at(named_holes(job, b), 20, 20).name.find("dowel"), std::string::npos);
  // It is gone: nobody else gets its name, and it is kept for when it comes back.
  const PartPtr c = part_of(cut(block({0, 0, 0}, {80, 40, 20}), {bore(20, 20, 10), bore(70, 30, 6)}));
  for (const Hole& hole : named_holes(job, c).holes) EXPECT_NE(hole.name, "dowel");
  EXPECT_EQ(job.hole_names.size(), 1u);
}

TEST_F(HoleNames, AreOneForEachAndTakenBack) {
  job = named(job, a, 50, 20, "dowel");
  job = named(job, a, 50, 20, "pin");
  EXPECT_EQ(job.hole_names.size(), 1u);
  const HoleReport report = named_holes(job, a);
  const int other = static_cast<int>(&hole_at(report, 20, 20) - report.holes.data());
  const auto twice = with_hole_name(job, {{a}}, report, {false, other}, "pin");
  ASSERT_FALSE(twice);
  EXPECT_NE(twice.error().sentence.find("name of another hole"), std::string::npos);
  job = named(job, a, 50, 20, "");
  EXPECT_TRUE(job.hole_names.empty());
}

TEST_F(HoleNames, AreKeptInTheFileAndByTheGate) {
  job = named(job, a, 70, 30, "vent");
  EXPECT_FALSE(same_job(job, named(job, a, 70, 30, "bleed")));
  const auto loader = JobLoader{[&](const std::string&, double scale) {
    return SourceFile{a, std::make_shared<const std::string>("source"), scale};
  }};
  const auto again = job_from_json(job_to_json(job), loader);
  ASSERT_TRUE(again) << again.error().sentence;
  EXPECT_EQ(hole_at(named_holes(*again, a), 70, 30).name, "vent");
  EXPECT_EQ(job_to_json(*again), job_to_json(job));
}

// A pocket with corners of 4 from above, one with corners of 2.5 from the front.
TEST(PlaneChecks, EachPlaneTellsItsOwnCornersAndHoles) {
  TopoDS_Shape shape = block({0, 0, 0}, {80, 60, 40});
  shape = cut(shape, {pocket(gp_Ax2(gp_Pnt(30, 30, 40), gp_Dir(0, 0, 1)), {40, 30, 10, {4, 4, 4, 4}}),
                      pocket(gp_Ax2(gp_Pnt(40, 0, 15), gp_Dir(0, -1, 0)), {30, 14, 8, {2.5, 2.5, 2.5, 2.5}}),
                      rod(gp_Ax2(gp_Pnt(70, 30, 40), gp_Dir(0, 0, -1)), 6, 12)});
  const PartPtr part = part_of(shape);
  Job job = with_part({}, part, std::make_shared<const std::string>("source"), "block");
  const auto on_face = [&](const gp_Pnt& at) {
    int id = 0;
    const Reference face{
        describe(*part, job.first_part()->id, TopologyKind::kFace, face_at(*part, at, SurfaceKind::kPlane)),
        {}};
    job = with_datum(job,
                     JobFixture::recipe("frame.on-face", {face, {EntryReference{kReadPlaced}, {}}},
                                        {{"zero", "box centre"}, {"x", "X of the reading frame"}}),
                     &id);
    return id;
  };
  int setup = 0;
  const int top = on_face({75, 50, 40}), front = on_face({75, 0, 35});
  job = with_setup(job, top, &setup);
  job = with_tool_plane(job, setup, front);
  Inspection by;
  by.margin = 0.5;
  job = with_inspection(job, by);
  const Evaluation evaluation = evaluate(job);
  const HoleReport holes = holes_of(*part);
  const auto planes = check_planes(job, evaluation, holes);
  ASSERT_TRUE(planes) << planes.error().sentence;
  ASSERT_EQ(planes->size(), 2u);
  EXPECT_NEAR(planes->at(0).corners.smallest_radius_mm.value_or(0), 4, 1e-6);
  EXPECT_NEAR(planes->at(0).corners.largest_cutter_mm.value_or(0), 4, 1e-6) << "half of 8: the job's margin";
  EXPECT_NEAR(planes->at(1).corners.smallest_radius_mm.value_or(0), 2.5, 1e-6);
  EXPECT_NEAR(planes->at(1).corners.largest_cutter_mm.value_or(0), 2.5, 1e-6);
  ASSERT_EQ(holes.holes.size(), 1u);
  EXPECT_EQ(planes->at(0).reach.at(0), HoleReach::kFromEntry);
  EXPECT_EQ(planes->at(1).reach.at(0), HoleReach::kAslant);
  EXPECT_TRUE(same_planes(*planes, planes_to_check(job, evaluation)));
}

// What the first look says along a direction is what the table of corners says along it: a passage of 5 that
// no corner tells, the job's margin.
TEST(JobInspection, TheFirstLookGivesTheAnswerThatEverybodyGets) {
  const PartPtr part =
      part_of(cut(block({0, 0, 0}, {100, 60, 40}),
                  {block({-1, 20, 30}, {101, 25, 41}), block({-1, 15, 20}, {101, 30, 30}),
                   pocket(gp_Ax2(gp_Pnt(50, 45, 40), gp_Dir(0, 0, 1)), {30, 14, 8, {4, 4, 4, 4}})}));
  const HoleReport holes = holes_of(*part);
  Inspection by;
  by.margin = 0.9;
  ResultCache cache;
  const auto quick = check_directions(cache, *part, holes, gp_Trsf(), by, Passages::kNotYet, {});
  const auto looks = check_directions(cache, *part, holes, gp_Trsf(), by, Passages::kLookedAt, {});
  ASSERT_TRUE(quick && looks);
  for (const DirectionCheck& look : *quick) EXPECT_FALSE(look.is_last_word);
  bool upwards = false;
  for (const DirectionCheck& look : *looks) {
    EXPECT_TRUE(look.is_last_word);
    if (look.name != "+Z") continue;
    upwards = true;
    const auto report = find_corners(*part, {gp_Dir(0, 0, 1), by.margin, by.holder_mm / 2});
    EXPECT_NEAR(look.corners.largest_cutter_mm.value_or(0), 5, 1e-4);
    EXPECT_EQ(look.corners.largest_cutter_mm, report->largest_cutter_mm);
    EXPECT_EQ(look.corners.smallest_radius_mm, report->smallest_wall_radius_mm);
    EXPECT_EQ(look.corners.largest_cutter_why, report->largest_cutter_why);
  }
  EXPECT_TRUE(upwards);
}

}  // namespace
}  // namespace anvil
