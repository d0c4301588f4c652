// Regions of scans in a job: kept in its file, moved with the part, found again on another scan.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "geom/primitives.h"
#include "support/job_fixture.h"
#include "support/job_opening.h"
#include "support/scans.h"

namespace anvil {
namespace {

using test::JobFixture;
using test::TestMesh;
using test::wish_at;

// The block of the fixture as body 0 and the scanned counterweight as body 1.
PartPtr block_and_scan(const TestMesh& scan) {
  Body block, mesh = scan.part()->bodies().front();
  block.name = "block";
  mesh.delivered = -1;
  block.shape = demo::block({100, 0, 0}, {80, 40, 20});
  return std::make_shared<const Part>(SourceInfo{}, std::vector<Body>{block, mesh});
}

struct ScanJob {
  explicit ScanJob(const TestMesh& scan = test::counterweight()) : part(block_and_scan(scan)) {
    job = with_part({}, part, std::make_shared<const std::string>("source"), "scan");
  }
  [[nodiscard]] Reference region(const char* place, double within_mm = 0) const {
    RegionWish wish = wish_at(place);
    wish.within_mm = within_mm;
    return {describe_region(*part, job.first_part()->id, 1, wish), wish.at};
  }
  int keep(const char* construction, std::vector<Reference> picks) {
    int id = 0;
    job = with_datum(job, JobFixture::recipe(construction, std::move(picks)), &id);
    return id;
  }
  PartPtr part;
  Job job;
};

Result<Job> read(const ScanJob& scan, const std::string& text) {
  return test::opened(text, scan.job.first_part()->part()->sources.front());
}

gp_Ax1 axis_of(const Evaluation& evaluation, int id) {
  return std::get<AxisDatum>(*evaluation.entries.at(id).value).axis;
}

TEST(ScanJobs, RegionsAreKeptInTheFile) {
  ScanJob scan;
  Reference wished = scan.region("outer", 0.25);
  std::get<RegionReference>(wished.target).wish.as = SurfaceKind::kCylinder;
  scan.keep("axis.of", {wished});
  scan.keep("point.of-region", {scan.region("bottom")});
  const std::string text = job_to_json(scan.job);
  const auto json = nlohmann::json::parse(text);
  const auto& input = json["entries"][1]["datum"]["inputs"][0];
  EXPECT_EQ(input["kind"], "region");
  EXPECT_EQ(input["as"], "cylinder");
  EXPECT_EQ(input["within"], 0.25);
  const auto back = read(scan, text);
  ASSERT_TRUE(back) << back.error().sentence;
  for (const size_t entry : {1u, 2u})
    EXPECT_TRUE(back->entries[entry].datum()->recipe.inputs[0] ==
                scan.job.entries[entry].datum()->recipe.inputs[0]);
  std::string other = text;
  other.replace(other.find("\"cylinder\""), 10, "\"teapot\"");
  const auto refused = read(scan, other);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().sentence.find("teapot"), std::string::npos);
}

TEST(ScanJobs, RegionsFollowThePlacementAndTheirBody) {
  ScanJob scan;
  const int axis = scan.keep("axis.of", {scan.region("outer")});
  EXPECT_EQ(dependents(scan.job, scan.job.first_part()->id), std::vector<int>{axis});
  scan.job = with_placement_step(scan.job, JobFixture::recipe("place.face-down", {scan.region("bottom")}));
  const Evaluation down = evaluate(scan.job);
  EXPECT_EQ(down.entries.at(axis).state, EntryState::kCurrent) << down.entries.at(axis).reason;
  EXPECT_TRUE(parallel(axis_of(down, axis).Direction(), gp_Dir(0, 0, 1), 1e-9));
  // The scan alone is turned over against the block: the axis stays with it.
  Recipe turn = JobFixture::recipe("place.axis-along", {scan.region("outer")}, {{"along", "+X"}});
  turn.bodies = {1};
  scan.job = with_placement_step(scan.job, turn);
  const Evaluation turned = evaluate(scan.job, &down);
  ASSERT_EQ(turned.entries.at(axis).state, EntryState::kCurrent) << turned.entries.at(axis).reason;
  EXPECT_TRUE(parallel(axis_of(turned, axis).Direction(), gp_Dir(1, 0, 0), 1e-9));
  // What is picked now is described as delivered, and found again.
  const Reference again{
      describe_region(*turned.part, scan.job.first_part()->id, 1,
                      {wish_at("bore").at.Transformed(turned.part->bodies()[1].arranged),
                       wish_at("bore").seen_from.Transformed(turned.part->bodies()[1].arranged)}),
      {}};
  EXPECT_LT(std::get<RegionReference>(again.target).wish.at.Distance(wish_at("bore").at), 1e-9);
  const auto given = give(scan.job, turned, again);
  ASSERT_TRUE(given);
  EXPECT_NEAR(given->surface->radius_mm, 4, 1e-7);
}

TEST(ScanJobs, OnlyAnotherToleranceOrScanGrowsThemAgain) {
  ScanJob scan;
  const int axis = scan.keep("axis.of", {scan.region("outer", 0.1)});
  scan.keep("point.of-region", {scan.region("bottom")});
  const Evaluation first = evaluate(scan.job);
  EXPECT_EQ(first.computed, 2);
  EXPECT_EQ(evaluate(scan.job, &first).computed, 0);
  const Job wider = with_recipe(scan.job, axis, JobFixture::recipe("axis.of", {scan.region("outer", 0.2)}));
  EXPECT_EQ(evaluate(wider, &first).computed, 1);
}

TEST(ScanJobs, AnotherScanIsAcceptedWithinTheScatterAndElseAsks) {
  TestMesh near = test::counterweight(), moved = near;
  gp_Trsf hardly, plainly;
  hardly.SetTranslation(gp_Vec(0.05, 0, 0));
  plainly.SetTranslation(gp_Vec(1.5, 0, 0));
  near.move(hardly);
  moved.move(plainly);
  ScanJob scan;
  const int axis = scan.keep("axis.of", {scan.region("outer", 0.1)});
  const auto with = [&](const PartPtr& part) { return with_checked_part(scan.job, scan.part, part); };
  const Evaluation accepted = evaluate(with(block_and_scan(near)));
  EXPECT_EQ(accepted.entries.at(axis).state, EntryState::kCurrent);
  EXPECT_NEAR(axis_of(accepted, axis).Location().X(), 0.05, 1e-6);
  const PartPtr elsewhere = block_and_scan(moved);
  const Evaluation asks = evaluate(with(elsewhere));
  EXPECT_EQ(asks.entries.at(axis).state, EntryState::kAttention);
  // The corner that was clicked lies over the middle of a side now: 1.5 cos(180° / 96).
  EXPECT_NE(asks.entries.at(axis).reason.find("was found 1.499 from where it was"), std::string::npos)
      << asks.entries.at(axis).reason;
  const Job taken = with_picks_as_found(with(elsewhere), axis, asks);
  EXPECT_EQ(evaluate(taken).entries.at(axis).state, EntryState::kCurrent);
  // No scan any more: a solid in its place.
  const Evaluation none = evaluate(with(test::part_of(demo::block({0, 0, 0}, {9, 9, 9}))));
  EXPECT_EQ(none.entries.at(axis).state, EntryState::kRefused);
  EXPECT_NE(none.entries.at(axis).reason.find("the scan the region was grown on is no longer there"),
            std::string::npos)
      << none.entries.at(axis).reason;
}

}  // namespace
}  // namespace anvil
