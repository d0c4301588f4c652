// Geometry has an identity of its own: what touches names only computes nothing, and what was known of a body
// is the same as if it were looked at anew.
#include <gtest/gtest.h>

#include <BRepAlgoAPI_BuilderAlgo.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_ListOfShape.hxx>

#include "job/history.h"
#include "part/mesh.h"
#include "support/job_fixture.h"

namespace anvil::test {
namespace {

using namespace anvil::demo;

Body body_of(const char* name, const TopoDS_Shape& shape) {
  Body body;
  body.name = name;
  body.shape = shape;
  return body;
}

PartPtr part_of_bodies(const std::vector<TopoDS_Shape>& shapes) {
  std::vector<Body> bodies;
  bodies.reserve(shapes.size());
  for (const TopoDS_Shape& shape : shapes) bodies.push_back(body_of("body", shape));
  return std::make_shared<const Part>(SourceInfo{}, std::move(bodies));
}

std::vector<TopoDS_Shape> three_bodies() {
  return {cut(block({0, 0, 0}, {80, 40, 20}), {rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20)}),
          rod(gp_Ax2(gp_Pnt(200, 0, 0), gp_Dir(0, 0, 1)), 12, 30), block({0, 100, 0}, {10, 110, 10})};
}

// Two blocks with one face between them.
std::vector<TopoDS_Shape> glued_blocks() {
  TopTools_ListOfShape blocks;
  blocks.Append(block({0, 0, 0}, {10, 10, 10}));
  blocks.Append(block({10, 0, 0}, {20, 10, 10}));
  BRepAlgoAPI_BuilderAlgo glue;
  glue.SetArguments(blocks);
  glue.Build();
  std::vector<TopoDS_Shape> solids;
  for (TopExp_Explorer it(glue.Shape(), TopAbs_SOLID); it.More(); it.Next()) solids.push_back(it.Current());
  return solids;
}

void expect_same_index(const TopologyIndex& a, const TopologyIndex& b) {
  ASSERT_EQ(a.faces.size(), b.faces.size());
  ASSERT_EQ(a.edges.size(), b.edges.size());
  ASSERT_EQ(a.vertices.size(), b.vertices.size());
  ASSERT_EQ(a.patches.size(), b.patches.size());
  for (size_t i = 0; i < a.faces.size(); ++i) {
    EXPECT_TRUE(a.faces[i].face.IsEqual(b.faces[i].face));
    EXPECT_EQ(a.faces[i].body, b.faces[i].body);
    EXPECT_EQ(a.faces[i].patch, b.faces[i].patch);
    EXPECT_EQ(a.faces[i].edges, b.faces[i].edges);
    EXPECT_EQ(a.find_face(a.faces[i].face), static_cast<int>(i));
  }
  const auto of_edge = [](const EdgeInfo& e) {
    return std::make_tuple(e.body, e.face_a, e.face_b, e.vertex_a, e.vertex_b, e.kind, e.convexity);
  };
  for (size_t i = 0; i < a.edges.size(); ++i) EXPECT_EQ(of_edge(a.edges[i]), of_edge(b.edges[i])) << i;
  for (size_t i = 0; i < a.patches.size(); ++i) {
    EXPECT_EQ(a.patches[i].faces, b.patches[i].faces);
    EXPECT_EQ(a.patches[i].border, b.patches[i].border);
    EXPECT_EQ(a.patches[i].body, b.patches[i].body);
  }
}

TEST(PartGeometry, BodiesTakenOverAreAsIfTheyWereLookedAtAnew) {
  for (const auto& shapes : {three_bodies(), glued_blocks()}) {
    ASSERT_GE(shapes.size(), 2u);
    const PartPtr all = part_of_bodies(shapes);
    const std::vector<TopoDS_Shape> others[] = {
        {shapes.begin() + 1, shapes.end()}, {shapes.rbegin(), shapes.rend()}, {shapes.back()}};
    for (const auto& left : others) {
      const auto taken = geometry_of(left, {all->geometry()});
      EXPECT_NE(taken, all->geometry());
      expect_same_index(taken->topology(), build_topology_index(left));
    }
    // Beside one that nobody has looked at.
    std::vector<TopoDS_Shape> more = shapes;
    more.push_back(block({0, 0, 500}, {1, 2, 503}));
    expect_same_index(geometry_of(more, {all->geometry()})->topology(), build_topology_index(more));
  }
}

TEST(PartGeometry, NamesAndColoursComputeNothingAndKeepNoCopy) {
  JobFixture f;
  f.offset_from(f.midway());
  const Evaluation before = evaluate(f.job);
  BodySetting setting;
  setting.name = "Yoke arm";
  setting.colour = Colour{1, 0, 0};
  const Job renamed = with_body(f.job, 0, setting);
  ASSERT_EQ(renamed.part()->bodies().front().name, "Yoke arm");
  EXPECT_EQ(renamed.part()->geometry(), f.job.part()->geometry());
  EXPECT_TRUE(same_geometry(renamed.part(), f.job.part()));
  EXPECT_EQ(evaluate(renamed, &before).computed, 0);
}

TEST(PartGeometry, WhatWasLeftOutAndComesBackIsTheSameGeometry) {
  const PartPtr all = part_of_bodies(three_bodies());
  const Job job = with_part({}, all, std::make_shared<const std::string>("source"), "three");
  BodySetting out;
  out.included = false;
  const Job without_one = with_body(job, 1, out);
  EXPECT_EQ(without_one.part()->topology().faces.size(), all->topology().faces.size() - 3);
  EXPECT_FALSE(same_geometry(without_one.part(), all));
  EXPECT_EQ(with_body(without_one, 1, BodySetting()).part()->geometry(), all->geometry());
}

TEST(PartGeometry, IdentityIsByContent) {
  const auto id = [](const TopoDS_Shape& shape) { return part_of_bodies({shape})->geometry()->id(); };
  const TopoDS_Shape shape = three_bodies().front();
  EXPECT_EQ(id(shape), id(BRepBuilderAPI_Copy(shape).Shape()));
  EXPECT_EQ(id(shape).hex().size(), 32u);
  gp_Trsf moved;
  moved.SetTranslation(gp_Vec(0, 0, 1e-9));
  EXPECT_NE(id(shape), id(shape.Moved(TopLoc_Location(moved))));
  EXPECT_NE(id(shape), id(shape.Reversed()));
  EXPECT_NE(id(shape), id(BRepBuilderAPI_NurbsConvert(shape).Shape()));
  const TopoDS_Shape wider =
      cut(block({0, 0, 0}, {80, 40, 20}), {rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10.001, 20)});
  EXPECT_NE(id(shape), id(wider));
}

// A pin is meshed by its own size, also beside a machine of five metres.
TEST(PartGeometry, SmallBodiesAreNotMeshedByTheSizeOfLargeOnes) {
  Body machine = body_of("bed", block({0, 0, 0}, {5000, 3000, 2000})),
       pin = body_of("pin", rod(gp_Ax2(gp_Pnt(6000, 0, 0), gp_Dir(0, 0, 1)), 40, 10));
  mesh_shape(compound_of({machine, pin}));
  const double own_mm = std::sqrt(40 * 40 + 40 * 40 + 10 * 10) * MeshQuality().relative_deflection;
  double off = 0;
  for (const Triangle& t : triangles_of(pin.shape)) {
    if (std::abs(t.a.Z() - t.b.Z()) + std::abs(t.a.Z() - t.c.Z()) < 1e-9) continue;  // an end
    for (const auto& [a, b] : {std::pair(t.a, t.b), std::pair(t.b, t.c), std::pair(t.c, t.a)})
      off = std::max(off, 20 - std::hypot((a.X() + b.X()) / 2 - 6000, (a.Y() + b.Y()) / 2));
  }
  EXPECT_GT(off, 1e-6);
  EXPECT_LE(off, 1.05 * own_mm);
}

// A thousand acts on one entry keep a thousand of that one, and the others once.
TEST(PartGeometry, HistorySharesWhatAnActDidNotTouch) {
  JobFixture f;
  const int touched = f.midway(), other = f.offset_from(touched);
  const auto place_of = [&](int id) {
    size_t place = 0;
    while (f.job.entries[place].id != id) ++place;
    return place;
  };
  History history(f.job);
  history.act("hide", with_visible(history.now(), touched, false));
  EXPECT_TRUE(history.now().entries.shares(place_of(other), f.job.entries));
  EXPECT_FALSE(history.now().entries.shares(place_of(touched), f.job.entries));
  EXPECT_TRUE(f.job.find(touched)->visible);
  EXPECT_FALSE(history.now().find(touched)->visible);
  history.undo();
  EXPECT_TRUE(history.now().entries.shares(place_of(touched), f.job.entries));
}

// Undo keeps recipes: what a part without one of its bodies looked like is made again when it comes back.
TEST(PartGeometry, EarlierValuesOfTheJobKeepNoPart) {
  History history(with_part({}, part_of_bodies(three_bodies()), nullptr, "three"));
  std::vector<std::weak_ptr<const PartGeometry>> composed;
  const auto leave = [&](int body, bool included) {
    history.act("leave out", with_body(history.now(), body, {.included = included}));
    composed.push_back(history.now().part()->geometry());
  };
  leave(0, false);
  const ContentKey without_first = history.now().part()->geometry()->id();
  leave(1, false);
  leave(2, false);
  EXPECT_TRUE(composed[0].expired());
  EXPECT_TRUE(composed[1].expired());
  EXPECT_FALSE(composed[2].expired());
  history.undo();
  history.undo();
  ASSERT_EQ(history.now().part()->bodies().size(), 2U);
  EXPECT_EQ(history.now().part()->geometry()->id(), without_first);
  EXPECT_EQ(history.now().part()->bodies()[0].delivered, 1);
  history.redo();
  EXPECT_EQ(history.now().part()->bodies().size(), 1U);
}

TEST(PartGeometry, ARenamedBodySharesTheGeometryWhicheverValueIsOpen) {
  const std::vector<TopoDS_Shape> three = three_bodies();
  Job two_files = with_part({}, part_of_bodies({three[0]}), nullptr, "a");
  two_files = with_part(two_files, part_of_bodies({three[1], three[2]}), nullptr, "b");
  History history(two_files);
  const GeometryPtr geometry = history.now().part()->geometry();
  history.act("rename", with_body(history.now(), 1, {.name = "pin"}));
  EXPECT_EQ(history.now().part()->geometry(), geometry);
  EXPECT_EQ(history.now().part()->bodies()[1].name, "pin");
  history.undo();
  EXPECT_EQ(history.now().part()->geometry(), geometry);
}

}  // namespace
}  // namespace anvil::test
