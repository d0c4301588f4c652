// Placement steps to 1e-9, seats, single bodies moved against the others, and the chain made one.
#include <gtest/gtest.h>

#include <BRepPrimAPI_MakeBox.hxx>

#include "geom/primitives.h"
#include "inspect/seats.h"
#include "part/measure.h"
#include "store/job_json.h"
#include "support/givens.h"
#include "support/job_fixture.h"

namespace anvil {
namespace {

using test::frame_given;
using test::JobFixture;
using test::plane_given;
using test::run;

gp_Trsf motion_of(const Solution& solution) {
  return std::get<PlacementStep>(solution.value).motion;
}

// Three planes square to each other after an odd motion, the corner at `corner` before it.
std::vector<Given> corner_planes(const gp_Trsf& motion, const gp_Pnt& corner, double hand) {
  return {plane_given(gp_Pln(corner, gp_Dir(0, 0, -1)).Transformed(motion)),
          plane_given(gp_Pln(corner, gp_Dir(0, -1, 0)).Transformed(motion)),
          plane_given(gp_Pln(corner, gp_Dir(-hand, 0, 0)).Transformed(motion))};
}

TEST(Placing, ThreeFacesBringTheirCornerToZeroAndEachFaceToItsSide) {
  for (const double hand : {1.0, -1.0}) {
    const gp_Pnt corner(7, -3, 11);
    const auto solutions = run("place.three-faces", corner_planes(test::odd_motion(), corner, hand));
    ASSERT_TRUE(solutions) << solutions.error().sentence;
    const gp_Trsf back = motion_of(solutions->front()) * test::odd_motion();
    EXPECT_LT(corner.Transformed(back).Distance(gp_Pnt()), 1e-9);
    EXPECT_TRUE(gp_Dir(0, 0, -1).Transformed(back).IsEqual(gp_Dir(0, 0, -1), 1e-9));
    EXPECT_TRUE(gp_Dir(0, -1, 0).Transformed(back).IsEqual(gp_Dir(0, -1, 0), 1e-9));
    EXPECT_TRUE(gp_Dir(-hand, 0, 0).Transformed(back).IsEqual(gp_Dir(-hand, 0, 0), 1e-9));
    EXPECT_GT(back.VectorialPart().Determinant(), 0);
  }
}

TEST(Placing, ThreeFacesThatDoNotMakeACornerAreRefusedWithTheReason) {
  auto planes = corner_planes({}, {}, 1);
  planes[1] = planes[0];
  EXPECT_NE(run("place.three-faces", planes).error().sentence.find("parallel"), std::string::npos);
}

TEST(Placing, PlanesMatchPlanesFacingOrFlushAndNeverAsAMirrorImage) {
  std::vector<Given> picks = corner_planes(test::odd_motion(), {1, 2, 3}, 1);
  for (const Given& target : corner_planes({}, {50, 60, 70}, 1)) picks.push_back(target);
  const auto solutions = run("place.match-planes", picks);
  ASSERT_TRUE(solutions) << solutions.error().sentence;
  ASSERT_EQ(solutions->size(),
            1u);  // facing would need a mirror image: three normals reversed change the hand
  EXPECT_EQ(solutions->front().key, "flush");
  const gp_Trsf whole = motion_of(solutions->front()) * test::odd_motion();
  EXPECT_LT(gp_Pnt(1, 2, 3).Transformed(whole).Distance(gp_Pnt(50, 60, 70)), 1e-9);
  // The other hand on one side turns it into the facing case.
  std::vector<Given> other = corner_planes(test::odd_motion(), {1, 2, 3}, 1);
  for (const Given& target : corner_planes({}, {50, 60, 70}, -1)) other.push_back(target);
  const auto facing = run("place.match-planes", other);
  ASSERT_TRUE(facing);
  EXPECT_EQ(facing->front().key, "facing");
  for (const auto& s : *facing) EXPECT_NEAR(motion_of(s).VectorialPart().Determinant(), 1, 1e-12);
}

TEST(Placing, FramesMatchFramesExactly) {
  const gp_Ax2 from =
      gp_Ax2(gp_Pnt(3, 4, 5), gp_Dir(1, 2, 3), gp_Dir(2, -1, 0)).Transformed(test::odd_motion());
  const gp_Ax2 to(gp_Pnt(-10, 20, 30), gp_Dir(0, 1, 0), gp_Dir(0, 0, 1));
  const auto solutions = run("place.match-frames", {frame_given(from), frame_given(to)});
  ASSERT_TRUE(solutions);
  const gp_Ax2 moved = from.Transformed(motion_of(solutions->front()));
  EXPECT_LT(moved.Location().Distance(to.Location()), 1e-9);
  EXPECT_TRUE(moved.Direction().IsEqual(to.Direction(), 1e-9));
  EXPECT_TRUE(moved.XDirection().IsEqual(to.XDirection(), 1e-9));
}

TEST(Placing, FaceGoesToEverySideAndDirectionsAlongEveryAxis) {
  const gp_Dir odd = gp_Dir(0.2, -0.7, 0.4);
  const std::pair<const char*, gp_Dir> sides[] = {{"down", {0, 0, -1}},
                                                  {"up", {0, 0, 1}},
                                                  {"towards the front", {0, -1, 0}},
                                                  {"towards the back", {0, 1, 0}},
                                                  {"to the left", {-1, 0, 0}},
                                                  {"to the right", {1, 0, 0}}};
  Given face = plane_given(gp_Pln(gp_Pnt(1, 2, 3), odd));
  face.surface = Surface{SurfaceKind::kPlane, {}, 0, 0, 0, false};
  for (const auto& [side, direction] : sides) {
    const auto solutions = run("place.face-towards", {face}, {{"side", side}});
    ASSERT_TRUE(solutions) << side;
    EXPECT_TRUE(odd.Transformed(motion_of(solutions->front())).IsEqual(direction, 1e-9)) << side;
  }
  const auto both = run("place.axis-along", {face}, {{"along", "−Y"}});
  ASSERT_TRUE(both);
  EXPECT_TRUE(odd.Transformed(motion_of((*both)[0])).IsEqual(gp_Dir(0, -1, 0), 1e-9));
  EXPECT_TRUE(odd.Transformed(motion_of((*both)[1])).IsEqual(gp_Dir(0, 1, 0), 1e-9));
}

TEST(Placing, MirrorImagesAndStretchingAreRefusedWithTheNumber) {
  const auto mirror = rigid_motion_from("1 0 0 0  0 1 0 0  0 0 -1 0  0 0 0 1", 1);
  ASSERT_FALSE(mirror);
  EXPECT_NE(mirror.error().sentence.find("mirror image (determinant -1"), std::string::npos);
  EXPECT_NE(rigid_motion_from("2 0 0 0  0 1 0 0  0 0 1 0", 1).error().sentence.find("stretches"),
            std::string::npos);
  EXPECT_FALSE(rigid_motion_from("1 0 0", 1));
  EXPECT_FALSE(rigid_motion_from("1 0 0 0 0 1 0 0 0 0 1 0 x", 1));
  EXPECT_FALSE(rigid_motion_from("nan 0 0 0 0 1 0 0 0 0 1 0", 1));
  const gp_Trsf odd = test::odd_motion();
  const auto again = rigid_motion_from(matrix_text(odd), 1);
  ASSERT_TRUE(again);
  EXPECT_LT(gp_Pnt(1e3, -2e3, 3e3).Transformed(*again).Distance(gp_Pnt(1e3, -2e3, 3e3).Transformed(odd)),
            1e-9);
}

TEST(Placing, ChainCollapsedIntoOneStepPlacesThePartTheSame) {
  JobFixture f;
  f.face_down();
  f.job = with_placement_step(
      f.job, JobFixture::recipe("place.move-by", {}, {{"dx", "12.5"}, {"dy", "-3"}, {"dz", "1in"}}));
  const gp_Trsf before = evaluate(f.job).placement;
  const Job collapsed = with_collapsed_placement(f.job, before);
  ASSERT_EQ(collapsed.placement()->placement()->steps.size(), 1u);
  const gp_Trsf after = evaluate(collapsed).placement;
  for (const gp_Pnt& p : {gp_Pnt(0, 0, 0), gp_Pnt(80, 40, 20), gp_Pnt(1, 2, 3)})
    EXPECT_LT(p.Transformed(before).Distance(p.Transformed(after)), 1e-9);
}

// Two blocks, 100 apart.
std::vector<Body> two_blocks() {
  std::vector<Body> bodies(2);
  bodies[0].shape =
      TopExp_Explorer(BRepPrimAPI_MakeBox(gp_Pnt(0, 0, 0), 10, 10, 10).Shape(), TopAbs_SOLID).Current();
  bodies[1].shape =
      TopExp_Explorer(BRepPrimAPI_MakeBox(gp_Pnt(100, 0, 0), 10, 20, 30).Shape(), TopAbs_SOLID).Current();
  return bodies;
}

// Two blocks; the second is moved on its own.
TEST(Placing, OneBodyMovesAgainstTheOthersAndItsReferencesGoWithIt) {
  const std::vector<Body> bodies = two_blocks();
  SourceInfo source;
  source.file_name = "two.step";
  const auto part = std::make_shared<const Part>(source, bodies);
  Job job = with_part({}, part, std::make_shared<const std::string>("x"), "two");
  const int top = test::face_at(*part, {105, 10, 30}, SurfaceKind::kPlane);
  const Reference on_second{describe(*part, job.first_part()->id, TopologyKind::kFace, top), {}};
  int plane = 0;
  job = with_datum(job, JobFixture::recipe("plane.on-face", {on_second}), &plane);
  Recipe turn = JobFixture::recipe("place.quarter-turn", {}, {{"about", "Y"}, {"sense", "forward"}});
  turn.bodies = {1};
  Recipe shift = JobFixture::recipe("place.move-by", {}, {{"dx", "0"}, {"dy", "0"}, {"dz", "200"}});
  shift.bodies = {1};
  job = with_placement_step(with_placement_step(job, turn), shift);
  job = with_placement_step(
      job, JobFixture::recipe("place.move-by", {}, {{"dx", "1000"}, {"dy", "0"}, {"dz", "0"}}));
  const Evaluation e = evaluate(job);
  // A quarter turn about Y takes (x, y, z) to (z, y, -x); then 200 up, then all of it 1000 along X.
  const Box second = exact_box(e.part->bodies()[1].shape, e.placement);
  EXPECT_LT(second.min.Distance(gp_Pnt(1000, 0, 90)), 1e-6);
  EXPECT_LT(second.max.Distance(gp_Pnt(1030, 20, 100)), 1e-6);
  EXPECT_LT(exact_box(e.part->bodies()[0].shape, e.placement).min.Distance(gp_Pnt(1000, 0, 0)), 1e-6);
  const auto& datum = std::get<PlaneDatum>(*e.entries.at(plane).value).plane;
  EXPECT_TRUE(datum.Axis().Direction().IsEqual(gp_Dir(1, 0, 0), 1e-9));
  EXPECT_NEAR(datum.Location().X(), 1030, 1e-9);
  // Nothing changed: the arranged part is taken over, not built anew.
  EXPECT_EQ(evaluate(job, &e).part, e.part);
  // And it survives the job file's text.
  const auto again = job_from_json(job_to_json(job), {[&](const std::string&, double) -> Result<SourceFile> {
                                     return SourceFile{part, std::make_shared<const std::string>("x"), 1.0};
                                   }});
  ASSERT_TRUE(again) << again.error().sentence;
  EXPECT_LT(exact_box(evaluate(*again).part->bodies()[1].shape, e.placement).min.Distance(second.min), 1e-9);
}

TEST(Bodies, LeftOutBodiesLeaveTheOthersReferencesAlone) {
  const std::vector<Body> bodies = two_blocks();
  const auto part = std::make_shared<const Part>(SourceInfo{}, bodies);
  Job job = with_part({}, part, std::make_shared<const std::string>("x"), "two");
  int on_first = 0, on_second = 0;
  const auto reference = [&](const gp_Pnt& at) {
    return Reference{describe(*part, job.first_part()->id, TopologyKind::kFace,
                              test::face_at(*part, at, SurfaceKind::kPlane)),
                     {}};
  };
  job = with_datum(job, JobFixture::recipe("plane.on-face", {reference({5, 5, 10})}), &on_first);
  job = with_datum(job, JobFixture::recipe("plane.on-face", {reference({105, 10, 30})}), &on_second);
  BodySetting out;
  out.included = false;
  const Evaluation e = evaluate(with_body(job, 0, out));
  EXPECT_EQ(e.part->bodies().size(), 1u);
  EXPECT_EQ(e.entries.at(on_second).state, EntryState::kCurrent);
  EXPECT_EQ(e.entries.at(on_first).state, EntryState::kRefused);
  BodySetting hidden;
  hidden.visible = false;
  EXPECT_EQ(with_body(job, 0, hidden).part(), job.part());  // how a body is shown makes no new part
}

TEST(Seats, PlateLiesOnItsLargestSideWithItsHolesFromAbove) {
  const PartPtr part = test::part_of(test::plate());
  const auto holes = find_holes(*part);
  ASSERT_TRUE(holes);
  const auto seats = likely_seats(*part, *holes);
  ASSERT_FALSE(seats.empty());
  const gp_Dir down = part->topology().faces[seats.front().down_face].surface.position.Direction();
  EXPECT_TRUE(down.IsEqual(test::plate().tool_axis.Reversed(), 1e-9));  // constructed with the pockets upward
  ASSERT_GE(seats.front().along_x_edge, 0);
  const gp_Dir along =
      BRepAdaptor_Curve(part->topology().edges[seats.front().along_x_edge].edge).Line().Direction();
  EXPECT_TRUE(
      parallel(along, gp_Dir(1, 0, 0).Transformed(test::plate().placement), 1e-9));  // the 180 mm side
  EXPECT_EQ(seats.size(), 6u);
  // The plate is 180 long; its lengths are told in the unit they are read in.
  EXPECT_NE(seat_text(seats.front(), {Unit::kMillimetre, 3}).find("longest edge (180.000)"),
            std::string::npos);
  EXPECT_NE(seat_text(seats.front(), {Unit::kInch, 3}).find("longest edge (7.086"), std::string::npos);
  EXPECT_NE(seat_text(seats.back(), {Unit::kInch, 3}).find("inch²"), std::string::npos);
}

}  // namespace
}  // namespace anvil
