// Our reading of STEP text makes the same model as the kernel's own scanner, which is slow but long proven.
#include <gtest/gtest.h>

#include <STEPControl_Reader.hxx>
#include <StepData_StepWriter.hxx>
#include <StepData_UndefinedEntity.hxx>
#include <XSControl_WorkSession.hxx>
#include <algorithm>
#include <iostream>
#include <random>
#include <sstream>

#include "base/file.h"
#include "exchange/step_format.h"
#include "exchange/step_text.h"
#include "geom/quiet.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

// The kernel's writer never ends on entities that were read with an error, nor on those of a type it does not
// know that are made of several parts: of a model that has any, the types only.
bool can_be_written(const Handle(StepData_StepModel) & model) {
  for (int i = 1; i <= model->NbEntities(); ++i) {
    const auto unknown = Handle(StepData_UndefinedEntity)::DownCast(model->Value(i));
    if (model->IsReportEntity(i) || (!unknown.IsNull() && unknown->IsComplex())) return false;
  }
  return true;
}

std::string types_in(const Handle(StepData_StepModel) & model) {
  std::string types;
  for (int i = 1; i <= model->NbEntities(); ++i)
    types += std::string(model->Value(i)->DynamicType()->Name()) + "\n";
  return types;
}

std::string written(const Handle(StepData_StepModel) & model, const Handle(StepData_Protocol) & protocol) {
  if (!can_be_written(model)) return types_in(model);
  StepData_StepWriter writer(model);
  writer.SendModel(protocol);
  std::ostringstream out;
  writer.Print(out);
  return out.str();
}

Handle(StepData_Protocol) protocol_of(STEPControl_Reader& reader) {
  return Handle(StepData_Protocol)::DownCast(reader.WS()->Protocol());
}

std::string as_the_kernel_reads(const std::string& text) {
  STEPControl_Reader reader;
  std::istringstream stream(text);
  if (reader.ReadStream("text", stream) != IFSelect_RetDone) return "refused";
  return written(Handle(StepData_StepModel)::DownCast(reader.WS()->Model()), protocol_of(reader));
}

std::string as_we_read(std::string text) {
  STEPControl_Reader reader;
  const auto protocol = protocol_of(reader);
  const auto read = load_step_text(text, protocol, {});
  if (!read) return "refused: " + read.error().sentence;
  if (read->skipped > 0)
    return "left out " + std::to_string(read->skipped) + " from line " +
           std::to_string(read->first_skipped_line);
  return written(read->model, protocol);
}

std::string text_of(const demo::DemoPart& part, const char* schema) {
  const TemporaryFolder folder;
  WriteOptions options;
  options.schema = schema;
  EXPECT_TRUE(write_step(part.bodies, options, folder.path() / "part.step"));
  return *read_file(folder.path() / "part.step");
}

std::string around(const std::string& data) {
  return "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('a plate'),'2;1');\n"
         "FILE_NAME('plate.step','2026-01-01T00:00:00',('Tarn Hollow'),(''),'','','');\n"
         "FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));\nENDSEC;\nDATA;\n" +
         data + "ENDSEC;\nEND-ISO-10303-21;\n";
}

size_t lines_before(const std::string& text, const std::string& what) {
  return static_cast<size_t>(
      std::count(text.begin(), text.begin() + static_cast<long>(text.find(what)), '\n'));
}

TEST(StepText, DemoPartsOfEverySchemaAreTheSameModel) {
  for (const char* schema : {"AP203", "AP214IS", "AP242DIS"})
    for (const demo::DemoPart* part : {&test::plate(), &test::housing()}) {
      const std::string text = text_of(*part, schema);
      const std::string expected = as_the_kernel_reads(text);
      ASSERT_GT(expected.size(), text.size() / 2);
      EXPECT_EQ(as_we_read(text), expected) << schema;
    }
}

TEST(StepText, EveryWayOfWritingAValueIsKnown) {
  const std::vector<std::string> instances = {
      "#1 = CARTESIAN_POINT('',(1.,+3.0E+2,-2.5E-3));\n",
      "#1 = CARTESIAN_POINT('it''s, (here); #7',(0.,0.,0.));\n",
      "#1 = CARTESIAN_POINT('caf\\X2\\00E9\\X0\\',(0.,0.,0.));\n",
      "#1 = CARTESIAN_POINT('',(0.,0.,0.)); /* #2 = DIRECTION('',(1.,0.,0.)); */\n",
      "#1 = CARTESIAN_POINT('',());\n",
      // NOLINTNEXTLINE(bugprone-suspicious-missing-comma): one text of two lines
      "#1 = ORIENTED_EDGE('',*,*,#2,.F.);\n#2 = EDGE_CURVE('',#3,#3,$,.T.);\n"
      "#3 = VERTEX_POINT('',#4);\n#4 = CARTESIAN_POINT('',(0.,0.,0.));\n",
      "#1 = MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4),#2);\n"
      "#2 = ( LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.) );\n",
      "#1 = B_SPLINE_SURFACE_WITH_KNOTS('',1,1,((#2,#2),(#2,#2)),.UNSPECIFIED.,.F.,.F.,.F.,(2,2),(2,2),"
      "(0.,1.),(0.,1.),.UNSPECIFIED.);\n#2 = CARTESIAN_POINT('',(0.,0.,0.));\n",
      "#1=(BOUNDED_CURVE()B_SPLINE_CURVE(1,(#2,#2),.UNSPECIFIED.,.F.,.F.)B_SPLINE_CURVE_WITH_KNOTS((2,2),(0.,"
      "1.),"
      ".UNSPECIFIED.)CURVE()GEOMETRIC_REPRESENTATION_ITEM()RATIONAL_B_SPLINE_CURVE((1.,0.7))"
      "REPRESENTATION_ITEM(''));\n#2=CARTESIAN_POINT('',(0.,0.,0.));\n",
      "#123456789 = DIRECTION('',(0.,0.,1.));\n",
      "#1 = DIRECTION('far',(0.,0.,1.));\n#2 = SOMETHING_NOBODY_KNOWS('a',(#1,(1,2),((3))),TYPED((#1)));\n"};
  for (const std::string& data : instances)
    EXPECT_EQ(as_we_read(around(data)), as_the_kernel_reads(around(data))) << data;
}

// Not as the standard has it, but some exporters write it; the kernel's scanner reads something else.
TEST(StepText, SmallExponentIsTakenForTheLargeOne) {
  EXPECT_EQ(as_we_read(around("#1 = DIRECTION('',(0.,0.,3.0e-1));\n")),
            as_we_read(around("#1 = DIRECTION('',(0.,0.,3.0E-1));\n")));
}

TEST(StepText, QuoteThatWasNotDoubledBelongsToTheText) {
  EXPECT_EQ(as_we_read(around("#1 = DIRECTION('6' bar',(0.,0.,1.));\n#2 = DIRECTION('',(0.,1.,0.));\n")),
            as_we_read(around("#1 = DIRECTION('6'' bar',(0.,0.,1.));\n#2 = DIRECTION('',(0.,1.,0.));\n")));
}

// The kernel's scanner takes everything up to the last quote of the line for one text here.
TEST(StepText, CommentMayFollowAText) {
  const std::string first = "#1 = CARTESIAN_POINT('a'",
                    rest = ",(0.,0.,0.)); #2 = CARTESIAN_POINT('b',(1.,0.,0.));\n";
  EXPECT_EQ(as_we_read(around(first + " /* why */ " + rest)), as_we_read(around(first + rest)));
}

// Blanks and line ends between tokens mean nothing; quoted text keeps its own.
TEST(StepText, LayoutDoesNotMatter) {
  const std::string text = text_of(test::plate(), "AP214IS");
  const std::string expected = as_we_read(text);
  std::string one_line, spread;
  bool quoted = false;
  for (const char c : text) {
    quoted = quoted != (c == '\'');
    if (c != '\n') one_line += c;
    const bool separates = !quoted && (c == '(' || c == ')' || c == ',' || c == '=' || c == ';');
    spread += separates ? std::string("\r\n\t") + c + " /* between */ " : std::string(1, c);
  }
  EXPECT_EQ(as_we_read(one_line), expected);
  EXPECT_EQ(as_we_read(spread), expected);
}

TEST(StepText, BrokenInstancesAreLeftOutAndTheirLineTold) {
  const std::string good = around("#1 = DIRECTION('',(0.,0.,1.));\n#2 = DIRECTION('',(1.,0.,0.));\n");
  const auto broken = [&](const std::string& part, const std::string& by) {
    std::string text = good;
    text.replace(text.find(part), part.size(), by);
    return as_we_read(text);
  };
  const std::string told = "left out 1 from line " + std::to_string(lines_before(good, "#2 =") + 1);
  for (const char* by :
       {"#2 = DIRECTION('',(1.,,0.));", "#2 = DIRECTION('',(1.,0.,0.,));", "#2 = DIRECTION('' (1.,0.,0.));",
        "#2 DIRECTION('',(1.,0.,0.));", "2 = DIRECTION('',(1.,0.,0.));", "#2 = 'DIRECTION'('',(1.,0.,0.));",
        "#12345678901 = DIRECTION('',(1.,0.,0.));", "#2 = DIRECTION('',(1.,0.,.));",
        "#2 = &SCOPE ENDSCOPE A(1);", "#2 = DIRECTION('open,(1.,0.,0.));"})
    EXPECT_EQ(broken("#2 = DIRECTION('',(1.,0.,0.));", by), told) << by;
  EXPECT_EQ(broken("DATA;\n#1", "#1").find("refused: line"), 0u);
  EXPECT_EQ(broken("HEADER;", "HEDAER;").find("refused: line 2 "), 0u);
}

// What the kernel's scanner refuses as a whole, edition 3 of the format allows.
TEST(StepText, SeveralDataSectionsAreOneModelAndOtherSectionsArePassedOver) {
  const std::string first = "#1 = DIRECTION('',(0.,0.,1.));\n", second = "#2 = DIRECTION('',(1.,0.,0.));\n";
  const std::string one = around(first + second);
  std::string several =
      around(first + "ENDSEC;\nREFERENCE;\n#7 = <other.stp#1>;\nENDSEC;\nDATA('b',('AP'));\n" + second);
  EXPECT_EQ(as_we_read(several), as_we_read(one));
}

TEST(StepText, WhatCannotBeUnderstoodIsToldAndTheRestStillComesIn) {
  const TemporaryFolder folder;
  std::string text = text_of(test::plate(), "AP214IS");
  const std::string extra = "#999990 = &SCOPE ENDSCOPE NOTE('');\n#999991 = NOTE(,);\n";
  const size_t at = text.rfind("ENDSEC;");
  text.insert(at, extra);
  ASSERT_TRUE(write_file_atomically(folder.path() / "plate.step", text));
  const auto read = read_part_file(folder.path() / "plate.step", {});
  ASSERT_TRUE(read) << read.error().sentence;
  EXPECT_EQ(read->bodies.size(), test::plate().bodies.size());
  ASSERT_FALSE(read->source.warnings.empty());
  EXPECT_EQ(read->source.warnings.front().find("2 of the file's instances"), 0u);
  EXPECT_NE(read->source.warnings.front().find("line " + std::to_string(lines_before(text, extra) + 1)),
            std::string::npos)
      << read->source.warnings.front();
}

// Whatever is done to the text: what we accept, the kernel reads as the same model.
TEST(StepText, MutatedTextIsToldBrokenOrReadAsTheKernelDoes) {
  const std::string text = text_of(test::plate(), "AP214IS");
  const size_t data = text.find("DATA;") + 6;
  const unsigned seed = 20261125;
  std::mt19937 random(seed);
  std::cout << "seed " << seed << '\n';
  const std::string signs = "(),;='#$*.E+-0 \n/";
  int accepted = 0;
  for (int i = 0; i < 80; ++i) {
    std::string mutant = text;
    const size_t at = data + random() % (text.size() - data);
    switch (random() % 3) {
      case 0:
        mutant[at] = signs[random() % signs.size()];
        break;
      case 1:
        mutant.erase(at, 1 + random() % 40);
        break;
      default:
        mutant.insert(at, 1, signs[random() % signs.size()]);
    }
    const std::string ours = as_we_read(mutant);
    if (ours.find("refused") == 0 || ours.find("left out") == 0) continue;
    const std::string kernels = as_the_kernel_reads(mutant);
    const auto is_sound = [](const std::string& model) { return model.find("ISO-10303-21") == 0; };
    if (is_sound(ours) && !is_sound(kernels)) continue;  // it wants a number and its "=" in one line
    ++accepted;
    EXPECT_EQ(ours, kernels) << "mutant " << i << ": " << mutant.substr(at - std::min<size_t>(at, 40), 80);
  }
  EXPECT_GT(accepted, 10);
}

}  // namespace
}  // namespace anvil
