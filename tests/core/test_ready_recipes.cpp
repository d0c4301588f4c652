#include "job/ready_recipes.h"

#include <gtest/gtest.h>

#include "support/job_fixture.h"
#include "support/random.h"

namespace anvil::test {
namespace {

constexpr unsigned kSeed = 20261128;

// The kept frame reads each touched place as the machine measured it, whatever unit the job shows.
TEST(ReadyRecipes, WhatWasProbedIsReadAsItWasMeasured) {
  for (const Unit unit : {Unit::kMillimetre, Unit::kInch}) {
    Random random(kSeed);
    JobFixture f;
    f.job = with_display(f.job, {unit, 3, 3});
    f.face_down();
    const Evaluation placed = evaluate(f.job);
    const gp_Trsf into_machine = random.motion();
    std::vector<gp_Pnt> contacts{{0, 0, 20}, {80, 0, 20}, {80, 40, 20}, {10, 30, 0}};
    std::vector<Touch> touched(contacts.size());
    for (size_t i = 0; i < contacts.size(); ++i)
      touched[i].at = contacts[i].Transformed(placed.placement).Transformed(into_machine);
    const Job kept = with_probed_frame(f.job, placed, contacts, touched);
    const Evaluation e = evaluate(kept, &placed);
    const Entry& frame = kept.entries.back();
    ASSERT_EQ(frame.name, "Machine, as probed");
    ASSERT_EQ(e.entries.at(frame.id).state, EntryState::kCurrent) << e.entries.at(frame.id).reason;
    const gp_Ax2 read = std::get<FrameDatum>(*e.entries.at(frame.id).value).frame;
    for (size_t i = 0; i < contacts.size(); ++i) {
      gp_Trsf in_frame;
      in_frame.SetTransformation(gp_Ax3(read));
      const gp_Pnt told = contacts[i].Transformed(placed.placement).Transformed(in_frame);
      EXPECT_LT(told.Distance(touched[i].at), 1e-6) << unit_name(unit);
    }
  }
}

TEST(ReadyRecipes, ASeatReplacesThePlacement) {
  JobFixture f;
  f.face_down();
  Seat seat;
  seat.down_face = face_at(*f.part, {0, 20, 10}, SurfaceKind::kPlane);  // the end at X 0
  const Job seated = with_seat(f.job, evaluate(f.job), seat);
  EXPECT_EQ(seated.placement()->placement()->steps.size(), 1u);
  const gp_Trsf placement = evaluate(seated).placement;
  EXPECT_NEAR(gp_Pnt(0, 13, 7).Transformed(placement).Z(), 0, 1e-9);
  EXPECT_NEAR(gp_Pnt(80, 13, 7).Transformed(placement).Z(), 80, 1e-9);
}

TEST(ReadyRecipes, AProposedPlaneLooksAlongItsAxis) {
  JobFixture f;
  const int setup = f.setup_on_top();
  const Evaluation before = evaluate(f.job);
  ProposedAxis front;
  front.towards_tool = gp_Dir(0, -1, 0);
  front.flat_face = face_at(*f.part, {40, 0, 10}, SurfaceKind::kPlane);
  ProposedAxis top;  // the setup's own
  top.towards_tool = gp_Dir(0, 0, 1);
  top.flat_face = face_at(*f.part, {60, 20, 20}, SurfaceKind::kPlane);
  int kept = 0;
  const Job next = with_proposed_planes(f.job, before, setup, {top, front}, kept);
  EXPECT_EQ(kept, 1);
  const Evaluation after = evaluate(next, &before);
  ASSERT_EQ(after.entries.at(setup).setup->planes.size(), 2u);
  EXPECT_TRUE(after.entries.at(setup).setup->planes[1].frame.Direction().IsEqual(front.towards_tool, 1e-9));
  EXPECT_EQ(plane_along(after, setup, front), 1);
}

}  // namespace
}  // namespace anvil::test
