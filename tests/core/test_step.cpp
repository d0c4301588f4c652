// STEP out and in again, in this process.
#include <gtest/gtest.h>
#include <STEPCAFControl_Writer.hxx>
#include <TCollection_ExtendedString.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include "base/file.h"
#include "demo/shapes.h"
#include "exchange/step_format.h"
#include "part/measure.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

Body block_body(const char* name) {
  Body body;
  body.name = name;
  body.shape = demo::block({0, 0, 0}, {25.4, 50.8, 76.2});
  for (TopExp_Explorer ex(body.shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
  return body;
}

class StepSchemas : public testing::TestWithParam<std::pair<const char*, const char*>> {};

TEST_P(StepSchemas, BodyComesBackInMillimetres) {
  const TemporaryFolder folder;
  for (const char* unit : {"MM", "INCH"}) {
    WriteOptions options;
    options.schema = GetParam().first;
    options.unit = unit;
    const auto path = folder.path() / "block.step";
    ASSERT_TRUE(write_step({block_body("block")}, options, path));
    const auto read = read_part_file(path, {});
    ASSERT_TRUE(read) << read.error().sentence;
    EXPECT_EQ(read->source.schema, GetParam().second);
    EXPECT_EQ(read->source.unit_name, std::string(unit) == "MM" ? "mm" : "inch");
    ASSERT_EQ(read->bodies.size(), 1u);
    EXPECT_EQ(read->bodies.front().name, "block");
    const Box box = exact_box(read->bodies.front().shape);
    EXPECT_LT(box.max.Distance(gp_Pnt(25.4, 50.8, 76.2)), 1e-9);
  }
}

INSTANTIATE_TEST_SUITE_P(All, StepSchemas,
                         testing::Values(std::pair{"AP203", "AP203"}, std::pair{"AP214IS", "AP214"},
                                         std::pair{"AP242DIS", "AP242"}));

TEST(Step, ColoursOfBodyAndFaceAndPlacementSurvive) {
  const TemporaryFolder folder;
  Body body = block_body("painted");
  body.colour = Colour{0.2, 0.4, 0.6};
  body.face_colours[3] = Colour{0.9, 0.1, 0.1};
  const Part before(SourceInfo{}, {body});
  const gp_Pnt painted =
      area_properties(before.topology().faces[3].face).centroid.Transformed(test::odd_motion());
  WriteOptions options;
  ASSERT_TRUE(write_part_file({body}, test::odd_motion(), *format_by_id("step"), options,
                              folder.path() / "painted.step"));
  const auto read = read_part_file(folder.path() / "painted.step", {});
  ASSERT_TRUE(read);
  const Body& back = read->bodies.front();
  ASSERT_TRUE(back.colour);
  EXPECT_NEAR(back.colour->g, 0.4, 0.01);
  ASSERT_EQ(back.face_colours.size(), 1u);
  EXPECT_NEAR(back.face_colours.begin()->second.r, 0.9, 0.01);
  const Part after(SourceInfo{}, {back});
  EXPECT_LT(area_properties(after.topology().faces[back.face_colours.begin()->first].face)
                .centroid.Distance(painted),
            1e-6);
}

// An assembly of two instances of one product, one of them turned and moved.
TEST(Step, AssembliesAreFlattenedWithTheirPlacements) {
  const TemporaryFolder folder;
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const TDF_Label product = shapes->AddShape(block_body("clamp").shape, false);
  TDataStd_Name::Set(product, "clamp");
  const TDF_Label assembly = shapes->NewShape();
  TDataStd_Name::Set(assembly, "fixture");
  shapes->AddComponent(assembly, product, TopLoc_Location());
  shapes->AddComponent(assembly, product, TopLoc_Location(test::odd_motion()));
  shapes->UpdateAssemblies();
  STEPCAFControl_Writer writer;
  ASSERT_TRUE(writer.Transfer(document));
  const auto path = folder.path() / "fixture.step";
  ASSERT_EQ(writer.Write(path.c_str()), IFSelect_RetDone);

  const auto read = read_part_file(path, {});
  ASSERT_TRUE(read) << read.error().sentence;
  ASSERT_EQ(read->bodies.size(), 2u);
  const gp_Pnt centre(12.7, 25.4, 38.1);
  for (const Body& body : read->bodies) EXPECT_EQ(body.name, "clamp");
  EXPECT_LT(volume_properties(read->bodies[0].shape).centroid.Distance(centre), 1e-6);
  EXPECT_LT(
      volume_properties(read->bodies[1].shape).centroid.Distance(centre.Transformed(test::odd_motion())),
      1e-6);
  const Part part(SourceInfo{}, read->bodies);
  EXPECT_EQ(part.topology().faces.size(), 12u);
}

TEST(Step, TheDemoPartIsTheSameBytesOnEveryRun) {
  const TemporaryFolder folder;
  WriteOptions options;
  options.time_stamp = "2026-01-01T00:00:00";
  ASSERT_TRUE(write_step(demo::saddle_plate().bodies, options, folder.path() / "a.step"));
  ASSERT_TRUE(write_step(demo::saddle_plate().bodies, options, folder.path() / "b.step"));
  EXPECT_EQ(*read_file(folder.path() / "a.step"), *read_file(folder.path() / "b.step"));
}

TEST(Step, WritingWhereNobodyMayIsRefused) {
  const auto written =
      write_part_file({block_body("block")}, {}, *format_by_id("step"), {}, "/no/such/folder/block.step");
  ASSERT_FALSE(written);
  EXPECT_EQ(written.error().code, RefusalCode::kCannotWrite);
}

}  // namespace
}  // namespace anvil
