// What is put right before the first picture and after it.
#include <gtest/gtest.h>

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <Geom2d_Curve.hxx>
#include <TopoDS_Iterator.hxx>

#include "base/units.h"
#include "demo/shapes.h"
#include "part/measure.h"
#include "part/mend.h"
#include "part/mesh.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

Body body_of(const TopoDS_Shape& shape) {
  Body body;
  body.name = "body";
  body.shape = shape;
  for (TopExp_Explorer ex(shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
  return body;
}

TopoDS_Shape drilled_block() {
  return demo::cut(demo::block({0, 0, 0}, {40, 40, 20}),
                   {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20)});
}

TopoDS_Face first_of(const TopoDS_Shape& shape, GeomAbs_SurfaceType type) {
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More(); ex.Next())
    if (BRepAdaptor_Surface(TopoDS::Face(ex.Current())).GetType() == type) return TopoDS::Face(ex.Current());
  return {};
}

// Exchanges the two curves of the seam on the face, as some files have them.
void exchange_seam(const TopoDS_Face& shape) {
  const TopoDS_Face face = TopoDS::Face(shape.Oriented(TopAbs_FORWARD));
  for (TopExp_Explorer ex(face, TopAbs_EDGE); ex.More(); ex.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(ex.Current());
    if (!BRep_Tool::IsClosed(edge, face)) continue;
    double first, last;
    const auto one =
        BRep_Tool::CurveOnSurface(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD)), face, first, last);
    const auto two =
        BRep_Tool::CurveOnSurface(TopoDS::Edge(edge.Oriented(TopAbs_REVERSED)), face, first, last);
    BRep_Builder().UpdateEdge(edge, two, one, face, BRep_Tool::Tolerance(edge));
    return;
  }
}

// Takes the point a cone runs into out of its outline, as STEP has no edges without length.
void leave_out_apex(const TopoDS_Face& face) {
  const BRep_Builder builder;
  for (TopoDS_Iterator wire(face.Oriented(TopAbs_FORWARD)); wire.More(); wire.Next()) {
    for (TopoDS_Iterator edge(wire.Value()); edge.More(); edge.Next()) {
      if (!BRep_Tool::Degenerated(TopoDS::Edge(edge.Value()))) continue;
      TopoDS_Shape outline = wire.Value();
      outline.Free(true);
      builder.Remove(outline, edge.Value());
      return;
    }
  }
}

TEST(CloseOutlines, SoundFacesAreLeftAloneWhicheverWayTheyLook) {
  std::vector<Body> bodies{body_of(drilled_block()), body_of(demo::rod(gp_Ax2(), 10, 30)),
                           body_of(BRepPrimAPI_MakeCone(5, 0, 8).Shape())};
  bodies.push_back(bodies[0]);
  bodies.back().shape.Reverse();
  EXPECT_EQ(close_outlines(bodies), 0);
}

TEST(CloseOutlines, ExchangedSeamIsPutRightAndTheFaceStaysItself) {
  std::vector<Body> bodies{body_of(drilled_block())};
  const TopoDS_Shape shape = bodies.front().shape;
  const TopoDS_Face bore = first_of(shape, GeomAbs_Cylinder);
  exchange_seam(bore);
  ASSERT_FALSE(BRepCheck_Analyzer(shape).IsValid());
  EXPECT_EQ(close_outlines(bodies), 1);
  EXPECT_TRUE(BRepCheck_Analyzer(bodies.front().shape).IsValid());
  EXPECT_TRUE(bodies.front().shape.IsSame(shape));
  EXPECT_TRUE(first_of(bodies.front().shape, GeomAbs_Cylinder).IsSame(bore));
}

TEST(CloseOutlines, MissingApexIsPutBackWithoutTouchingTheRest) {
  std::vector<Body> bodies{body_of(BRepPrimAPI_MakeCone(5, 0, 8).Shape())};
  const TopoDS_Shape shape = bodies.front().shape;
  leave_out_apex(first_of(shape, GeomAbs_Cone));
  EXPECT_EQ(close_outlines(bodies), 1);
  EXPECT_TRUE(BRepCheck_Analyzer(bodies.front().shape).IsValid());
  EXPECT_TRUE(bodies.front().shape.IsSame(shape));
  EXPECT_EQ(mesh_shape(shape), 0);
  EXPECT_NEAR(mesh_volume_mm3(shape), kPi * 25 * 8 / 3, 5);
}

TEST(Mend, SoundBodiesAreLeftAlone) {
  std::vector<Body> bodies{body_of(drilled_block())};
  mesh_shape(bodies.front().shape);
  const TopoDS_Shape before = bodies.front().shape;
  EXPECT_TRUE(mend_bodies(bodies, {}).mended.empty());
  EXPECT_TRUE(bodies.front().shape.IsEqual(before));
}

TEST(Mend, SolidThatCameInsideOutIsTurnedRight) {
  std::vector<Body> bodies{body_of(demo::block({0, 0, 0}, {1, 2, 3})), body_of(drilled_block())};
  bodies[0].name = "shim";
  bodies[0].shape.Reverse();
  for (const Body& body : bodies) mesh_shape(body.shape);
  ASSERT_LT(mesh_volume_mm3(bodies[0].shape), 0);
  const MendReport report = mend_bodies(bodies, {});
  ASSERT_EQ(report.mended, std::vector<int>{0});
  EXPECT_NE(report.sentences.front().find("shim came inside out"), std::string::npos);
  EXPECT_NEAR(volume_properties(bodies[0].shape).volume_mm3, 6, 1e-9);
}

TEST(Mend, ColoursStayWithTheirFacesWhenTheirBodyIsMended) {
  Body body = body_of(drilled_block());
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(body.shape, TopAbs_FACE, faces);
  const TopoDS_Face bore = first_of(body.shape, GeomAbs_Cylinder);
  const Colour red{0.8, 0.1, 0.1};
  body.face_colours[faces.FindIndex(bore) - 1] = red;
  exchange_seam(bore);
  mesh_shape(body.shape);
  std::vector<Body> bodies{body};
  ASSERT_EQ(mend_bodies(bodies, {}).mended.size(), 1u);
  EXPECT_TRUE(BRepCheck_Analyzer(bodies.front().shape).IsValid());
  ASSERT_EQ(bodies.front().face_colours.size(), 1u);
  const auto [index, colour] = *bodies.front().face_colours.begin();
  EXPECT_EQ(colour, red);
  faces.Clear();
  TopExp::MapShapes(bodies.front().shape, TopAbs_FACE, faces);
  EXPECT_EQ(BRepAdaptor_Surface(TopoDS::Face(faces(index + 1))).GetType(), GeomAbs_Cylinder);
}

TEST(Mend, OpenEdgesAreCountedWithoutSeamsAndPoints) {
  EXPECT_EQ(count_open_edges(drilled_block()), 0);
  EXPECT_EQ(count_open_edges(BRepPrimAPI_MakeCone(5, 0, 8).Shape()), 0);
  std::vector<TopoDS_Face> faces = demo::faces_of(drilled_block());
  std::erase_if(
      faces, [](const TopoDS_Face& face) { return BRepAdaptor_Surface(face).GetType() == GeomAbs_Cylinder; });
  EXPECT_EQ(count_open_edges(demo::shell_of(faces)), 2);
}

}  // namespace
}  // namespace anvil
