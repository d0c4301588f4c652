// Sizes, hands and places that a STEP file says by chains of units, scales, mirrors and placements. The files
// are made as text, and where every corner must come to lie is worked out here from the numbers that were
// written.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include <BRepAlgoAPI_Fuse.hxx>
#include <BRep_Tool.hxx>
#include <Eigen/Dense>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Reader.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <random>
#include <regex>

#include "base/file.h"
#include "demo/shapes.h"
#include "exchange/document_bodies.h"
#include "exchange/format.h"
#include "exchange/step_extent.h"
#include "part/measure.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

// p -> at + turn * p; `turn` may scale and mirror.
struct Affine {
  Matrix3d turn = Matrix3d::Identity();
  Vector3d at = Vector3d::Zero();
  Vector3d operator()(const Vector3d& p) const { return at + turn * p; }
  Affine operator*(const Affine& inner) const { return {turn * inner.turn, (*this)(inner.at)}; }
};

// Three legs of other lengths: turned, it is never its own mirror image.
TopoDS_Shape three_legs() {
  const TopoDS_Shape x = demo::block({0, 0, 0}, {30, 5, 5}), y = demo::block({0, 0, 0}, {5, 20, 5}),
                     z = demo::block({0, 0, 0}, {5, 5, 12});
  return BRepAlgoAPI_Fuse(BRepAlgoAPI_Fuse(x, y), z);
}

std::vector<Vector3d> corners_of(const TopoDS_Shape& shape) {
  TopTools_IndexedMapOfShape vertices;
  TopExp::MapShapes(shape, TopAbs_VERTEX, vertices);
  std::vector<Vector3d> points;
  for (int i = 1; i <= vertices.Extent(); ++i) {
    const gp_Pnt p = BRep_Tool::Pnt(TopoDS::Vertex(vertices(i)));
    points.emplace_back(p.X(), p.Y(), p.Z());
  }
  return points;
}

std::string triple(const Vector3d& v) {
  return fmt::format("({:.15E},{:.15E},{:.15E})", v.x(), v.y(), v.z());
}

struct StepPlacements : testing::Test {
  StepPlacements() {
    const auto path = folder.path() / "legs.step";
    Body body;
    body.name = "legs";
    body.shape = three_legs();
    legs = corners_of(body.shape);
    volume = volume_properties(body.shape).volume_mm3;
    EXPECT_TRUE(write_part_file({body}, {}, *format_by_id("step"), {}, path));
    text = *read_file(path);
  }

  // A new instance; its number.
  std::string add(const std::string& instance) {
    std::string number = fmt::format("#{}", ++last);
    added += number + "=" + instance + ";\n";
    return number;
  }
  std::string direction(const Vector3d& v) { return add("DIRECTION(''," + triple(v) + ")"); }
  std::string point(const Vector3d& v) { return add("CARTESIAN_POINT(''," + triple(v) + ")"); }

  double number(double from, double to) { return std::uniform_real_distribution<>(from, to)(random); }
  bool coin() { return random() % 2 == 0; }

  Matrix3d any_turn() {
    return Eigen::Quaterniond(number(-1, 1), number(-1, 1), number(-1, 1), number(0.1, 1))
        .normalized()
        .toRotationMatrix();
  }

  // An operator or a placement, with what it means.
  std::string placement(Affine& said) {
    const Matrix3d turn = any_turn();
    said.at = Vector3d(number(-50, 50), number(-50, 50), number(-50, 50));
    if (random() % 3 == 0) {
      said.turn = turn;
      const std::string at = point(said.at), z = direction(turn.col(2)), x = direction(turn.col(0));
      return add(fmt::format("AXIS2_PLACEMENT_3D('',{},{},{})", at, z, x));
    }
    const double scale = coin() ? number(0.2, 4) : 1;
    Matrix3d axes = turn;
    if (coin()) axes.col(1) *= -1;
    said.turn = axes * scale;
    return cartesian_operator(axes, said.at, scale);
  }
  std::string cartesian_operator(const Matrix3d& axes, const Vector3d& at, double scale) {
    const std::string x = direction(axes.col(0)), y = direction(axes.col(1)), z = direction(axes.col(2)),
                      origin = point(at);
    return add(fmt::format("CARTESIAN_TRANSFORMATION_OPERATOR_3D('','','',{},{},{},{:.15E},{})", x, y, origin,
                           scale, z));
  }

  // The unit of length by others; mm in it.
  double chain_of_units(int length) {
    std::string unit = coin() ? add("(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.CENTI.,.METRE.))")
                              : add("(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT($,.METRE.))");
    double mm = added.find(".CENTI.") != std::string::npos ? 10 : 1000;
    const std::string size = add("DIMENSIONAL_EXPONENTS(1.,0.,0.,0.,0.,0.,0.)");
    for (int i = 0; i < length; ++i) {
      const double of_it = number(0.3, 2.5);
      const std::string measure =
          add(fmt::format("LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE({:.15E}),{})", of_it, unit));
      unit =
          add(fmt::format("(CONVERSION_BASED_UNIT('U{}',{})LENGTH_UNIT()NAMED_UNIT({}))", i, measure, size));
      mm *= of_it;
    }
    put_unit(unit);
    return mm;
  }
  void put_unit(const std::string& unit) {
    text = std::regex_replace(text, std::regex("GLOBAL_UNIT_ASSIGNED_CONTEXT\\s*\\(\\(#[0-9]+,"),
                              "GLOBAL_UNIT_ASSIGNED_CONTEXT((" + unit + ",");
  }

  Result<ImportedBodies> read_back() {
    const auto path = folder.path() / "made.step";
    std::string whole = text;
    whole.insert(whole.rfind("ENDSEC;"), added);
    EXPECT_TRUE(write_file_atomically(path, whole));
    return read_part_file(path, {});
  }

  static bool is_told(const ImportedBodies& read, const std::string& words) {
    return std::any_of(read.source.warnings.begin(), read.source.warnings.end(),
                       [&](const std::string& w) { return w.find(words) != std::string::npos; });
  }

  // Every corner where one must be, and as many; nothing inside out.
  void expect_placed(const ImportedBodies& read, const std::vector<Affine>& places) {
    ASSERT_EQ(read.bodies.size(), places.size());
    for (const Affine& place : places) {
      const auto fits = [&](const Body& body) {
        const std::vector<Vector3d> found = corners_of(body.shape);
        return found.size() == legs.size() && std::all_of(legs.begin(), legs.end(), [&](const Vector3d& leg) {
                 const Vector3d wanted = place(leg);
                 return std::any_of(found.begin(), found.end(), [&](const Vector3d& p) {
                   return (p - wanted).norm() < 1e-7 * (1 + wanted.norm());
                 });
               });
      };
      const auto body = std::find_if(read.bodies.begin(), read.bodies.end(), fits);
      ASSERT_TRUE(body != read.bodies.end())
          << "seed " << seed << ": no body lies where the text says, which is "
          << place(legs.front()).transpose() << " … " << place(legs.back()).transpose() << "; "
          << corners_of(read.bodies.front().shape).front().transpose() << " in " << added;
      EXPECT_NEAR(volume_properties(body->shape).volume_mm3 / (volume * std::abs(place.turn.determinant())),
                  1, 1e-6)
          << "seed " << seed;
    }
    EXPECT_FALSE(is_told(read, "own numbers")) << read.source.warnings.back();
  }

  TemporaryFolder folder;
  std::vector<Vector3d> legs;
  double volume = 0;
  std::string text, added;
  int last = 100000;
  unsigned seed = std::random_device()();
  std::mt19937 random{seed};
};

std::string match(const std::string& text, const std::string& expression) {
  std::smatch found;
  EXPECT_TRUE(std::regex_search(text, found, std::regex(expression))) << expression;
  return found.empty() ? "#0" : found[1].str();
}

TEST_F(StepPlacements, RandomChainsComeWhereTheTextSays) {
  const std::string original = text;
  for (int round = 0; round < 40; ++round) {
    text = original;
    added.clear();
    Affine unit;
    const double mm = chain_of_units(static_cast<int>(random() % 4));
    unit.turn *= mm;
    const std::string context =
        match(text, "ADVANCED_BREP_SHAPE_REPRESENTATION\\('[^']*',\\([^)]*\\),(#[0-9]+)\\)");
    const std::string axes = match(text, "ADVANCED_BREP_SHAPE_REPRESENTATION\\('[^']*',\\((#[0-9]+),");
    std::string representation = match(text, "SHAPE_DEFINITION_REPRESENTATION\\(#[0-9]+,(#[0-9]+)\\)");
    std::vector<Affine> places(1);
    for (unsigned level = random() % 4; level > 0; --level) {
      const std::string map = add(fmt::format("REPRESENTATION_MAP({},{})", axes, representation));
      std::vector<Affine> all;
      std::string items;
      for (unsigned copies = 1 + random() % 2; copies > 0; --copies) {
        Affine said;
        items += "," + add(fmt::format("MAPPED_ITEM('',{},{})", map, placement(said)));
        for (const Affine& inner : places) all.push_back(said * inner);
      }
      representation = add(fmt::format("SHAPE_REPRESENTATION('',({}{}),{})", axes, items, context));
      places = std::move(all);
    }
    text = std::regex_replace(text, std::regex("SHAPE_DEFINITION_REPRESENTATION\\((#[0-9]+),#[0-9]+\\)"),
                              "SHAPE_DEFINITION_REPRESENTATION($1," + representation + ")");
    for (Affine& place : places) place = unit * place;
    const auto read = read_back();
    ASSERT_TRUE(read) << "seed " << seed << ": " << read.error().sentence;
    expect_placed(*read, places);
    if (HasFatalFailure()) return;
  }
}

TEST_F(StepPlacements, AnAssemblyRelatedByAnOperatorIsScaledAndMirrored) {
  // Two of the part in an assembly, as the kernel writes it.
  const Handle(TDocStd_Document) document = new_document();
  BRep_Builder builder;
  TopoDS_Compound two;
  builder.MakeCompound(two);
  gp_Trsf moved;
  moved.SetTranslation(gp_Vec(100, 0, 0));
  const TopoDS_Shape one = three_legs();
  builder.Add(two, one.Moved(TopLoc_Location(moved)));
  moved.SetTranslation(gp_Vec(0, 200, 0));
  builder.Add(two, one.Moved(TopLoc_Location(moved)));
  XCAFDoc_DocumentTool::ShapeTool(document->Main())->AddShape(two, true);
  STEPCAFControl_Writer writer;
  ASSERT_TRUE(writer.Transfer(document));
  const auto path = folder.path() / "assembly.step";
  ASSERT_EQ(writer.Write(path.c_str()), IFSelect_RetDone);
  text = *read_file(path);
  const std::string relation = match(text, "(#[0-9]+) = ITEM_DEFINED_TRANSFORMATION");
  Matrix3d axes = any_turn();
  axes.col(1) *= -1;
  const Affine said{axes * 0.5, Vector3d(7, 8, 9)};
  const std::string op = cartesian_operator(axes, said.at, 0.5);
  text = std::regex_replace(
      text, std::regex("REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION\\(" + relation + "\\)"),
      "REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(" + op + ")");
  const auto read = read_back();
  ASSERT_TRUE(read);
  Affine other;
  other.at = Vector3d(0, 200, 0);
  expect_placed(*read, {said, other});
}

TEST_F(StepPlacements, AFootOfTwelveInchesIsAFoot) {
  const std::string mm = add("(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.))"),
                    size = add("DIMENSIONAL_EXPONENTS(1.,0.,0.,0.,0.,0.,0.)"),
                    inches = add("LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4)," + mm + ")"),
                    inch = add("(CONVERSION_BASED_UNIT('INCH'," + inches + ")LENGTH_UNIT()NAMED_UNIT(" +
                               size + "))"),
                    feet = add("LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(12.)," + inch + ")");
  put_unit(add("(CONVERSION_BASED_UNIT('FOOT'," + feet + ")LENGTH_UNIT()NAMED_UNIT(" + size + "))"));
  const auto read = read_back();
  ASSERT_TRUE(read);
  EXPECT_NEAR(exact_box(read->bodies.at(0).shape).size().X(), 30 * 304.8, 1e-6);
  EXPECT_NEAR(read->source.mm_per_unit, 304.8, 1e-9);
}

TEST_F(StepPlacements, WhatCannotBeIsToldWithItsInstance) {
  const std::string size = add("DIMENSIONAL_EXPONENTS(1.,0.,0.,0.,0.,0.,0.)");
  const std::string unit = fmt::format("#{}", last + 2),
                    measure = add("LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(2.)," + unit + ")");
  put_unit(add("(CONVERSION_BASED_UNIT('ELL'," + measure + ")LENGTH_UNIT()NAMED_UNIT(" + size + "))"));
  const auto read = read_back();
  ASSERT_TRUE(read);
  EXPECT_TRUE(is_told(*read, unit)) << "a unit defined by itself";
  EXPECT_TRUE(is_told(*read, "by itself"));
}

TEST_F(StepPlacements, AScaleOfNothingIsToldWithItsInstance) {
  const std::string op = cartesian_operator(Matrix3d::Identity(), Vector3d::Zero(), -2);
  const auto read = read_back();
  ASSERT_TRUE(read);
  EXPECT_TRUE(is_told(*read, op));
}

// A guard that stays silent on what is read right (see expect_placed too) and speaks where it is not.
TEST_F(StepPlacements, WhatIsNotBuiltIsNoticedByTheFilesOwnNumbers) {
  const std::string context =
      match(text, "ADVANCED_BREP_SHAPE_REPRESENTATION\\('[^']*',\\([^)]*\\),(#[0-9]+)\\)");
  const std::string axes = match(text, "ADVANCED_BREP_SHAPE_REPRESENTATION\\('[^']*',\\((#[0-9]+),");
  const std::string legs_in = match(text, "SHAPE_DEFINITION_REPRESENTATION\\(#[0-9]+,(#[0-9]+)\\)");
  const std::string map = add(fmt::format("REPRESENTATION_MAP({},{})", axes, legs_in)),
                    x = direction(Vector3d(1, 0, 0)), at = point(Vector3d(500, 0, 0)),
                    here = add(fmt::format("MAPPED_ITEM('',{},{})", map, axes)),
                    there = add(fmt::format("AXIS2_PLACEMENT_3D('',{},$,{})", at, x));
  const std::string elsewhere = add(fmt::format("MAPPED_ITEM('',{},{})", map, there));
  const std::string both =
      add(fmt::format("SHAPE_REPRESENTATION('',({},{},{}),{})", axes, here, elsewhere, context));
  text = std::regex_replace(text, std::regex("SHAPE_DEFINITION_REPRESENTATION\\((#[0-9]+),#[0-9]+\\)"),
                            "SHAPE_DEFINITION_REPRESENTATION($1," + both + ")");
  const auto read = read_back();
  ASSERT_TRUE(read) << read.error().sentence;
  ASSERT_EQ(read->bodies.size(), 2u);
  EXPECT_FALSE(is_told(*read, "own numbers"));
  // The same model against one body of the two.
  STEPControl_Reader reader;
  ASSERT_EQ(reader.ReadFile((folder.path() / "made.step").c_str()), IFSelect_RetDone);
  const StepOperators operators(*reader.StepModel());
  EXPECT_EQ(where_size_disagrees(*reader.StepModel(), operators, read->bodies), "");
  EXPECT_NE(where_size_disagrees(*reader.StepModel(), operators, {read->bodies[0]}).find("own numbers"),
            std::string::npos);
  gp_Trsf twice;
  twice.SetScale(gp_Pnt(), 2);
  EXPECT_NE(where_size_disagrees(*reader.StepModel(), operators, moved_bodies(read->bodies, twice)), "");
}

// IGES 5.3, 2.2.4.3.13: at 0.5 in the model, 1 is 2 of the real thing.
TEST(IgesScale, OfTheModelSpaceIsTakenAndWhatCannotBeIsTold) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "block.igs";
  Body body;
  body.name = "block";
  body.shape = demo::block({10, 0, 0}, {40, 20, 12});
  ASSERT_TRUE(write_part_file({body}, {}, *format_by_id("iges"), {}, path));
  const std::string text = *read_file(path);
  // Parameter 13 stands between the name of the receiver and the unit flag.
  const std::regex scale(",1\\.,2,2HMM");
  ASSERT_TRUE(std::regex_search(text, scale)) << text.substr(0, 800);
  for (const auto& [written, factor] :
       {std::pair(",.5,2,2HMM", 2.0), {",4.,2,2HMM", 0.25}, {",0.,2,2HMM", 1.0}}) {
    ASSERT_TRUE(write_file_atomically(path, std::regex_replace(text, scale, written)));
    const auto read = read_part_file(path, {});
    ASSERT_TRUE(read) << written << ": " << read.error().sentence;
    const Box box = exact_box(read->bodies.at(0).shape);
    EXPECT_NEAR(box.min.X(), 10 * factor, 1e-6) << written;
    EXPECT_NEAR(box.size().Y(), 20 * factor, 1e-6) << written;
    ASSERT_FALSE(read->source.warnings.empty());
    EXPECT_NE(read->source.warnings.back().find("model space scale"), std::string::npos);
  }
}

}  // namespace
}  // namespace anvil
