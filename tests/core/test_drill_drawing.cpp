// Drill drawings of parts whose holes are known, the DXF read back by a reader of another house.
#include <gtest/gtest.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "report/drill_drawing.h"
#include "support/expected_holes.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {
namespace {

using namespace anvil::demo;
using namespace anvil::test;
using Json = nlohmann::json;

// A plate 80 x 60 x 20: Ø10 through at (15, 30), a stepped Ø6/Ø11 at (50, 20), and a bore along Y.
PartPtr plate_with_three() {
  const gp_Dir down(0, 0, -1);
  return part_of(
      cut(block({0, 0, 0}, {80, 60, 20}),
          {rod(gp_Ax2(gp_Pnt(15, 30, 20), down), 10, 20), rod(gp_Ax2(gp_Pnt(50, 20, 20), down), 6, 20),
           rod(gp_Ax2(gp_Pnt(50, 20, 20), down), 11, 6),
           rod(gp_Ax2(gp_Pnt(70, -1, 10), gp_Dir(0, 1, 0)), 5, 30)}),
      "plate Ø & <co>");
}

DrillView from_above(const gp_Trsf& placement = {}) {
  DrillView view;
  view.placement = placement;
  view.towards_eye = gp_Dir(0, 0, 1).Transformed(placement);
  view.frame = world_frame().Transformed(placement);
  view.frame_name = "OP10";
  view.part_name = "plate Ø & <co>";
  return view;
}

Json read_back(const std::string& dxf) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "drawing.dxf";
  std::ofstream(path) << dxf;
  const auto ran = run({ANVIL_PYTHON, ANVIL_DXF_READER, path.string()});
  EXPECT_EQ(ran.status, 0) << ran.err;
  return Json::parse(ran.out, nullptr, false);
}

const Json* circle_at(const Json& drawing, double x, double y, double radius) {
  for (const Json& c : drawing.at("circles"))
    if (std::hypot(c["x"].get<double>() - x, c["y"].get<double>() - y) < 1e-6 &&
        std::abs(c["radius"].get<double>() - radius) < 1e-6)
      return &c;
  return nullptr;
}

bool has_text(const Json& drawing, const std::string& text) {
  const Json& texts = drawing.at("texts");
  return std::any_of(texts.begin(), texts.end(), [&](const Json& t) { return t["text"] == text; });
}

void expect_plate(const Json& read, double per_unit) {
  EXPECT_EQ(read.at("errors"), 0);
  EXPECT_EQ(read["circles"].size(), 3u) << "Ø10, Ø6 and its counterbore";
  for (const auto& [x, y, radius] : {std::tuple(15.0, 30.0, 5.0), {50.0, 20.0, 3.0}, {50.0, 20.0, 5.5}}) {
    const Json* circle = circle_at(read, x / per_unit, y / per_unit, radius / per_unit);
    ASSERT_NE(circle, nullptr) << x << " " << y << " " << radius;
    EXPECT_EQ((*circle)["layer"], "HOLES");
  }
  // The part's outline: its corners are ends of lines on its layer.
  const Json& box = read.at("part_box");
  EXPECT_NEAR(box[0].get<double>(), 0, 1e-6);
  EXPECT_NEAR(box[1].get<double>(), 0, 1e-6);
  EXPECT_NEAR(box[2].get<double>(), 80 / per_unit, 1e-6);
  EXPECT_NEAR(box[3].get<double>(), 60 / per_unit, 1e-6);
}

TEST(DrillDrawing, DxfIsReadBackWithEveryHole) {
  const PartPtr part = plate_with_three();
  const HoleReport holes = holes_of(*part);
  const auto drawing = drill_drawing(*part, holes, from_above());
  ASSERT_TRUE(drawing) << drawing.error().sentence;
  const auto dxf = drawing_dxf(*drawing);
  const Json read = read_back(dxf);
  expect_plate(read, 1);
  EXPECT_EQ(read["unit"], 4);
  EXPECT_TRUE(has_text(read, "plate Ø & <co>"));
  for (const Hole& hole : holes.holes)
    if (std::abs(hole.axis.Z()) > 0.5) {
      EXPECT_TRUE(has_text(read, hole.name));
      EXPECT_TRUE(has_text(read, holes.groups[hole.group].form)) << holes.groups[hole.group].form;
    }
  EXPECT_TRUE(has_text(read, "15.000"));
}

TEST(DrillDrawing, IsTheSameInInchesAndWhereverThePartLies) {
  const PartPtr part = plate_with_three();
  DrillView view = from_above(odd_motion());
  view.display.unit = Unit::kInch;
  const auto drawing = drill_drawing(*part, holes_of(*part), view);
  ASSERT_TRUE(drawing) << drawing.error().sentence;
  const Json read = read_back(drawing_dxf(*drawing));
  expect_plate(read, 25.4);
  EXPECT_EQ(read["unit"], 1);
}

// A zero far off does not make the part small.
TEST(DrillDrawing, ThePartFillsTheSheetWhereverTheZeroIs) {
  const PartPtr part = plate_with_three();
  DrillView far = from_above();
  far.frame.Translate(gp_Vec(-5000, 3000, 0));
  const HoleReport holes = holes_of(*part);
  const auto drawing = drill_drawing(*part, holes, far);
  ASSERT_TRUE(drawing);
  EXPECT_GT(80 * drawing->scale, 0.1 * drawing->sheet_width_mm);
  const Json read = read_back(drawing_dxf(*drawing));
  EXPECT_NE(circle_at(read, 5015, -2970, 5), nullptr);
}

TEST(DrillDrawing, SeenFromBelowOnlyWhatGoesThroughIsDrawn) {
  const PartPtr part = plate_with_three();
  DrillView view = from_above();
  view.towards_eye = gp_Dir(0, 0, -1);
  const auto drawing = drill_drawing(*part, holes_of(*part), view);
  ASSERT_TRUE(drawing);
  EXPECT_EQ(drawing->circles.size(), 2u) << "the counterbore is on the other side";
  view.towards_eye = gp_Dir(0, -1, 0);
  const auto front = drill_drawing(*part, holes_of(*part), view);
  ASSERT_TRUE(front);
  EXPECT_EQ(front->circles.size(), 1u);
}

TEST(DrillDrawing, SvgHoldsTheSameAtTheScaleOfThePaper) {
  const PartPtr part = plate_with_three();
  const auto drawing = drill_drawing(*part, holes_of(*part), from_above());
  ASSERT_TRUE(drawing);
  const std::string svg = drawing_svg(*drawing);
  EXPECT_NE(svg.find("plate Ø &amp; &lt;co&gt;"), std::string::npos);
  size_t circles = 0;
  for (size_t at = 0; (at = svg.find("<circle", at)) != std::string::npos; ++at) ++circles;
  EXPECT_EQ(circles, 3u);
  // 80 mm of the part at this scale stay on the sheet beside the table.
  EXPECT_LT(80 * drawing->scale, drawing->sheet_width_mm);
  for (const Drawing::Text& text : drawing->texts) {
    const double x = (text.at.X() - drawing->low.X()) * drawing->scale,
                 y = (text.at.Y() - drawing->low.Y()) * drawing->scale;
    EXPECT_TRUE(x > 0 && x < drawing->sheet_width_mm && y > 0 && y < drawing->sheet_height_mm) << text.text;
  }
}

TEST(DrillDrawing, APartWithoutHolesIsRefused) {
  const PartPtr part = part_of(block({0, 0, 0}, {10, 10, 10}));
  const auto drawing = drill_drawing(*part, holes_of(*part), from_above());
  ASSERT_FALSE(drawing);
  EXPECT_EQ(drawing.error().sentence, "the part has no holes to draw");
}

}  // namespace
}  // namespace anvil
