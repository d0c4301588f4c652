// What other writers' files make of names, shells and ends.
#include <gtest/gtest.h>

#include <STEPCAFControl_Writer.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>

#include <fstream>

#include "base/file.h"
#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "exchange/body_names.h"
#include "exchange/repeated_shells.h"
#include "exchange/step_format.h"
#include "exchange/worker_client.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

TopoDS_Shape solid_at(double x) {
  TopoDS_Shape shape = demo::block({x, 0, 0}, {x + 10, 10, 10});
  for (TopExp_Explorer ex(shape, TopAbs_SOLID); ex.More(); ex.Next()) shape = ex.Current();
  return shape;
}

TEST(BodyNames, WordsForWhatAThingIsAreNoNames) {
  for (const char* word : {"", "SOLID", "Solid1", "1", "COMPOUND", "body 3", "NONE", "Shell_2"})
    EXPECT_TRUE(says_nothing(word)) << word;
  for (const char* name : {"lid", "Saddle plate", "OP10", "solid oak board", "x1"})
    EXPECT_FALSE(says_nothing(name)) << name;
}

TEST(BodyNames, SolidsWithoutANameOfTheirOwnAreCalledAfterTheirProduct) {
  const TemporaryFolder folder;
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const TDF_Label product = shapes->NewShape();
  TDataStd_Name::Set(product, "counterweight arm");
  int number = 0;
  for (const char* name : {"SOLID", "COMPOUND", "clamp"}) {
    const TDF_Label part = shapes->AddShape(solid_at(20 * number++), false);
    TDataStd_Name::Set(part, name);
    shapes->AddComponent(product, part, TopLoc_Location());
  }
  shapes->UpdateAssemblies();
  STEPCAFControl_Writer writer;
  writer.SetNameMode(true);
  ASSERT_TRUE(writer.Transfer(document, STEPControl_AsIs));
  ASSERT_EQ(writer.Write((folder.path() / "arm.step").c_str()), IFSelect_RetDone);
  const auto read = read_part_file(folder.path() / "arm.step", {});
  ASSERT_TRUE(read) << read.error().sentence;
  ASSERT_EQ(read->bodies.size(), 3u);
  EXPECT_EQ(read->bodies[0].name, "counterweight arm 1");
  EXPECT_EQ(read->bodies[1].name, "counterweight arm 2");
  EXPECT_EQ(read->bodies[2].name, "clamp");
}

// A copy of the boundary is no second part; a cap that lies on some of its faces is one of its own.
TEST(RepeatedShells, OnlyWholeBoundariesOfSolidsGo) {
  const TopoDS_Shape solid = solid_at(0);
  const std::vector<TopoDS_Face> faces = demo::faces_of(solid_at(0));
  std::vector<Body> bodies{{"solid", BodyKind::kSolid, solid, {}, {}},
                           {"copy", BodyKind::kShell, demo::shell_of(faces), {}, {}},
                           {"cap", BodyKind::kShell, demo::shell_of({faces[0], faces[1]}), {}, {}}};
  EXPECT_EQ(drop_repeated_shells(bodies), 1);
  ASSERT_EQ(bodies.size(), 2u);
  EXPECT_EQ(bodies[1].name, "cap");
}

// The last reference on two lines, and numbers behind it: other writers end so.
TEST(BrepFiles, EndsLookDifferentAndTheFileIsWhole) {
  const TemporaryFolder folder;
  const fs::path path = folder.path() / "jaw.brep";
  ASSERT_TRUE(
      write_part_file({{"jaw", BodyKind::kSolid, solid_at(0), {}, {}}}, {}, *format_by_id("brep"), {}, path));
  std::string text = *read_file(path);
  const size_t end = text.rfind("+1 0");
  ASSERT_NE(end, std::string::npos);
  for (const char* other : {"+1 0 \n0\n", "+1\n0", "+1 0\n\n\n"}) {
    std::ofstream(path, std::ios::binary) << text.substr(0, end) + other;
    const auto read = read_part_file(path, {});
    EXPECT_TRUE(read) << other << ": " << (read ? "" : read.error().sentence);
  }
}

// A worker in whose place a script stands: it dies unless it is asked for the plain way.
class FallbackToThePlainReader : public testing::Test {
 protected:
  void SetUp() override {
    const char* real = std::getenv("TRUE_ANVIL_IMPORT");
    ASSERT_TRUE(real);
    real_ = real;
    put_in_its_place("if grep -q plainly \"$orders\"; then exec \"" + real_ + "\" serve <\"$orders\"; fi");
  }
  // `answer`: what the script does with the orders it was given, before it dies.
  void put_in_its_place(const std::string& answer) const {
    const fs::path script = folder.path() / "worker";
    std::ofstream(script) << "#!/bin/sh\norders=$(mktemp)\ncat >\"$orders\"\n"
                          << answer << "\nrm \"$orders\"\nkill -SEGV $$\n";
    fs::permissions(script, fs::perms::owner_all);
    ::setenv("TRUE_ANVIL_IMPORT", script.c_str(), 1);
  }
  void TearDown() override { ::setenv("TRUE_ANVIL_IMPORT", real_.c_str(), 1); }
  TemporaryFolder folder;
  std::string real_;
};

TEST_F(FallbackToThePlainReader, ThePartComesWithoutNamesAndColoursAndSaysSo) {
  const fs::path path = folder.path() / "plate.step";
  ASSERT_TRUE(write_step(test::plate().bodies, {}, path));
  const auto part = import_part(path, {});
  ASSERT_TRUE(part) << part.error().sentence;
  EXPECT_EQ((*part)->topology().faces.size(), test::part_of(test::plate())->topology().faces.size());
  const std::vector<std::string>& notes = (*part)->source().warnings;
  EXPECT_TRUE(std::any_of(notes.begin(), notes.end(), [](const std::string& note) {
    return note.find("names and colours") != std::string::npos;
  }));
}

TEST_F(FallbackToThePlainReader, WhatNoReaderTakesIsDamaged) {
  put_in_its_place("");
  const fs::path path = folder.path() / "plate.step";
  ASSERT_TRUE(write_step(test::plate().bodies, {}, path));
  const auto part = import_part(path, {});
  ASSERT_FALSE(part);
  EXPECT_EQ(part.error().code, RefusalCode::kReaderDied);
  EXPECT_NE(part.error().sentence.find("damaged"), std::string::npos);
}

}  // namespace
}  // namespace anvil
