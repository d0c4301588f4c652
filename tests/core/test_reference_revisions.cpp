// References on a part that has changed: split and joined faces, and the next revision.
#include <gtest/gtest.h>

#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>

#include "demo/shapes.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "job/evaluate.h"
#include "pick/given.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::part_of;
using How = Located::How;

TopoDS_Shape drilled() {
  return demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                   {demo::rod(gp_Ax2(gp_Pnt(25, 20, 20), gp_Dir(0, 0, -1)), 10, 20)});
}

// The same solid with its faces cut along x = `at`, as some exporters do.
TopoDS_Shape split_at(const TopoDS_Shape& shape, double at) {
  TopTools_ListOfShape faces, tools;
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next()) faces.Append(ex.Current());
  tools.Append(
      BRepBuilderAPI_MakeFace(gp_Pln(gp_Pnt(at, 0, 0), gp_Dir(1, 0, 0)), -100, 100, -100, 100).Shape());
  BRepAlgoAPI_Splitter splitter;
  splitter.SetArguments(faces);
  splitter.SetTools(tools);
  splitter.Build();
  std::vector<TopoDS_Face> pieces;
  for (TopExp_Explorer ex(splitter.Shape(), TopAbs_FACE); ex.More(); ex.Next())
    pieces.push_back(TopoDS::Face(ex.Current()));
  return demo::shell_of(pieces);
}

Located located(const Part& part, const TopologyReference& reference) {
  const auto found = locate(part, reference);
  EXPECT_TRUE(found) << found.error().sentence;
  return found ? *found : Located{};
}

TEST(ChangedReferences, FaceThatWasSplitIsFoundAsAPieceOfIt) {
  const PartPtr whole = part_of(drilled()), split = part_of(split_at(drilled(), 60));
  ASSERT_GT(split->topology().faces.size(), whole->topology().faces.size());
  for (const gp_Pnt& at : {gp_Pnt(50, 20, 20), gp_Pnt(50, 0, 10), gp_Pnt(50, 20, 0)}) {
    const int face = test::face_at(*whole, at, SurfaceKind::kPlane);
    const Located found = located(*split, describe(*whole, 1, TopologyKind::kFace, face));
    EXPECT_EQ(found.how, How::kSameSurface);
    const gp_Pln before = whole->topology().faces[face].surface.plane(),
                 after = split->topology().faces[found.index].surface.plane();
    EXPECT_NEAR(height_over(before, after.Location()), 0, 1e-9);
  }
}

TEST(ChangedReferences, FacesThatWereJoinedAreFoundAsTheWhole) {
  const TopoDS_Shape split = split_at(drilled(), 60);
  ShapeUpgrade_UnifySameDomain unify(split);
  unify.Build();
  const PartPtr pieces = part_of(split), whole = part_of(unify.Shape());
  ASSERT_LT(whole->topology().faces.size(), pieces->topology().faces.size());
  int joined = 0;
  for (size_t i = 0; i < pieces->topology().faces.size(); ++i) {
    const Surface& before = pieces->topology().faces[i].surface;
    const Located found = located(*whole, describe(*pieces, 1, TopologyKind::kFace, static_cast<int>(i)));
    EXPECT_NE(found.how, How::kByIntent);
    EXPECT_TRUE(same_surface(before, whole->topology().faces[found.index].surface, 1e-6, 1e-9)) << i;
    joined += found.how == How::kSameSurface;
  }
  EXPECT_GE(joined, 6);
}

class Yokes : public testing::Test {
 protected:
  int face(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) const {
    return test::face_at(*a, at, kind);
  }
  TopologyReference reference(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) const {
    return describe(*a, 1, TopologyKind::kFace, face(at, kind));
  }
  const Surface& on_b(const Located& found) const { return b->topology().faces[found.index].surface; }

  PartPtr a = part_of(demo::worm_yoke_a()), b = part_of(demo::worm_yoke_b());
};

TEST_F(Yokes, WidenedCheekIsFoundByIntentAndTheDistanceIsTold) {
  const Located outer = located(*b, reference({90, 10, 40}));
  EXPECT_EQ(outer.how, How::kByIntent);
  EXPECT_NEAR(outer.moved_mm, 10, 1e-6);
  EXPECT_NEAR(on_b(outer).position.Location().X(), 100, 1e-9);
  const Located inner = located(*b, reference({75, 10, 40}));
  EXPECT_NEAR(on_b(inner).position.Location().X(), 85, 1e-9);
}

TEST_F(Yokes, WhatStayedIsFoundWhereItWas) {
  for (const gp_Pnt& at : {gp_Pnt(15, 10, 40), gp_Pnt(0, 10, 30), gp_Pnt(45, 10, 15), gp_Pnt(45, 0, 8)}) {
    const Located found = located(*b, reference(at));
    EXPECT_NEAR(height_over(on_b(found).plane(), at), 0, 1e-9) << at.X() << " " << at.Y() << " " << at.Z();
  }
}

TEST_F(Yokes, MovedHoleIsFoundAndTheOthersStayTheirOwn) {
  const auto hole = [&](double x, double y) {
    const Located found = located(*b, reference({x + 4.5, y, 8}, SurfaceKind::kCylinder));
    return std::pair{found, foot_on(on_b(found).axis(), gp_Pnt(0, 0, 0))};
  };
  const auto [moved, there] = hole(60, 45);
  EXPECT_EQ(moved.how, How::kByIntent);
  EXPECT_NEAR(moved.moved_mm, 3, 1e-6);
  EXPECT_LT(there.Distance(gp_Pnt(63, 45, 0)), 1e-9);
  for (const auto& [x, y] : {std::pair{30.0, 15.0}, std::pair{60.0, 15.0}, std::pair{30.0, 45.0}}) {
    const auto [found, at] = hole(x, y);
    EXPECT_EQ(found.how, How::kAsDescribed);
    EXPECT_LT(at.Distance(gp_Pnt(x, y, 0)), 1e-9);
  }
}

TEST_F(Yokes, WhatIsGoneIsSaid) {
  const auto tapped = locate(*b, reference({47.5, 30, 8}, SurfaceKind::kCylinder));
  ASSERT_FALSE(tapped);
  EXPECT_EQ(tapped.error().code, RefusalCode::kUnknownName);
  EXPECT_FALSE(locate(*b, reference({4, 30, 61})));  // the chamfer
}

TEST_F(Yokes, BoreOfAnotherDiameterOnItsAxisIsTheSameBore) {
  const PartPtr before = part_of(drilled()),
                after = part_of(demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                                          {demo::rod(gp_Ax2(gp_Pnt(25, 20, 20), gp_Dir(0, 0, -1)), 12, 20)}));
  const int bore = test::face_at(*before, {30, 20, 10}, SurfaceKind::kCylinder);
  const Located found = located(*after, describe(*before, 1, TopologyKind::kFace, bore));
  EXPECT_EQ(found.how, How::kByIntent);
  EXPECT_NEAR(after->topology().faces[found.index].surface.radius_mm, 6, 1e-12);
}

// Datums made on revision a follow to b, say what was found elsewhere, and are confirmed one by one.
TEST_F(Yokes, DatumsFollowTheRevisionAskAndAreConfirmed) {
  const auto bytes = std::make_shared<const std::string>("source");
  Job job = with_part({}, a, bytes, "yoke");
  const int part_entry = job.first_part()->id;
  const auto pick = [&](const gp_Pnt& at) {
    return Reference{describe(*a, part_entry, TopologyKind::kFace, face(at)), {}};
  };
  Recipe midway, above;
  midway.construction = "plane.midway";
  midway.inputs = {pick({0, 10, 30}), pick({90, 10, 40})};
  int middle = 0, on_it = 0;
  job = with_datum(std::move(job), midway, &middle);
  above.construction = "plane.offset";
  above.inputs = {{EntryReference{middle}, {}}};
  job = with_datum(std::move(job), above, &on_it);
  const Evaluation before = evaluate(job);
  const Job revised = with_checked_part(job, a, b);
  const Evaluation after = evaluate(revised, &before);
  const auto x_of = [&](const Evaluation& e, int id) {
    return std::get<PlaneDatum>(*e.entries.at(id).value).plane.Location().X();
  };
  EXPECT_NEAR(x_of(before, middle), 45, 1e-9);
  EXPECT_NEAR(x_of(after, middle), 50, 1e-9);
  EXPECT_EQ(after.entries.at(middle).state, EntryState::kAttention);
  EXPECT_NE(after.entries.at(middle).reason.find("② was found 10.000"), std::string::npos);
  EXPECT_EQ(after.entries.at(on_it).state, EntryState::kCurrent);
  EXPECT_NEAR(std::abs(x_of(after, on_it) - 50), 10, 1e-9);
  const Evaluation confirmed = evaluate(with_picks_as_found(revised, middle, after), &after);
  EXPECT_EQ(confirmed.entries.at(middle).state, EntryState::kCurrent);
  EXPECT_NEAR(x_of(confirmed, middle), 50, 1e-9);
}

// A limit that is kept says nothing, also not over what there is to say.
TEST_F(Yokes, MeasurementThatMovedAsksThoughItsLimitIsKept) {
  Job job = with_part({}, a, std::make_shared<const std::string>("source"), "yoke");
  const int part_entry = job.first_part()->id;
  Recipe width;
  width.construction = "measure.distance";
  for (const gp_Pnt& at : {gp_Pnt(0, 10, 30), gp_Pnt(90, 10, 40)})
    width.inputs.push_back({describe(*a, part_entry, TopologyKind::kFace, face(at)), {}});
  for (const char* limit : {"", "80..110"}) {
    width.parameters = {{"limit", limit}};
    int id = 0;
    const Evaluated measured = evaluate(with_checked_part(with_datum(job, width, &id), a, b)).entries.at(id);
    EXPECT_EQ(measured.state, EntryState::kAttention);
    EXPECT_NE(measured.reason.find("② was found 10.000"), std::string::npos) << measured.reason;
  }
}

}  // namespace
}  // namespace anvil
