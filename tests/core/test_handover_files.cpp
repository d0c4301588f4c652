// What crosses from the import worker: messages, orders, the folder with the part; and assemblies.
#include <gtest/gtest.h>

#include <STEPCAFControl_Writer.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <fstream>

#include "base/file.h"
#include "demo/shapes.h"
#include "exchange/part_file.h"
#include "exchange/worker_protocol.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

TEST(WorkerProtocol, MessagesComeBackAsTheyWereSent) {
  WorkerMessage phase;
  phase.phase = "reading \"odd\"\nname";
  phase.share = 0.25;
  EXPECT_EQ(encode(phase).find('\n'), std::string::npos) << "one line a message";
  const auto read = decode(encode(phase));
  ASSERT_TRUE(read);
  EXPECT_EQ(read->phase, phase.phase);
  EXPECT_DOUBLE_EQ(read->share, 0.25);
  WorkerMessage done;
  done.done = done.changed = true;
  EXPECT_TRUE(decode(encode(done))->done && decode(encode(done))->changed);
  done.changed = false;
  EXPECT_FALSE(decode(encode(done))->changed);
  WorkerMessage picture;
  picture.picture = true;
  EXPECT_TRUE(decode(encode(picture))->picture);
}

TEST(WorkerProtocol, RefusalsKeepTheirKindAndSentence) {
  for (const RefusalCode code : {RefusalCode::kUnreadable, RefusalCode::kNoBody, RefusalCode::kCannotWrite,
                                 RefusalCode::kGeometry, RefusalCode::kLimit, RefusalCode::kInternal}) {
    WorkerMessage message;
    message.refusal = Refusal{code, "plate.step is cut off – ask for it again."};
    const auto read = decode(encode(message));
    ASSERT_TRUE(read && read->refusal);
    EXPECT_EQ(read->refusal->code, code);
    EXPECT_EQ(read->refusal->sentence, message.refusal->sentence);
  }
}

TEST(WorkerProtocol, NoiseOfLibrariesIsNoMessage) {
  for (const char* noise : {"", "** Warning: something", "{", "[1,2]", "{\"phase\":", "42", "null"})
    EXPECT_FALSE(decode(noise)) << noise;
}

TEST(WorkerProtocol, OrdersHoldAnyByteButZero) {
  const std::vector<std::string> order{"read", "/tmp/two\nlines \"and\" quotes.step", "", "--scale", "25.4"};
  EXPECT_EQ(decode_order(encode_order(order)), order);
  EXPECT_TRUE(decode_order("").empty());
}

TEST(PartFolder, KeepsShapesMeshNamesColoursAndSource) {
  const TemporaryFolder folder;
  ImportedBodies sent;
  sent.source = {"plate.step", "STEP", "AP242", "inch", 25.4, "abc", {"first", "second"}, 2.0};
  Body solid;
  solid.name = "plate, \"A\"";
  solid.shape = demo::block({0, 0, 0}, {1, 2, 3});
  solid.colour = Colour{0.1, 0.2, 0.3};
  solid.face_colours[4] = Colour{1, 0, 0};
  solid.path = {"mount", "base"};
  solid.delivered = 7;
  mesh_shape(solid.shape);
  Body shell = solid;
  shell.kind = BodyKind::kShell;
  shell.colour.reset();
  shell.source = 1;
  sent.bodies = {solid, shell};
  ASSERT_TRUE(write_part_folder(sent, folder.path()));
  const auto read = read_part_folder(folder.path());
  ASSERT_TRUE(read) << read.error().sentence;
  EXPECT_EQ(read->source.warnings, sent.source.warnings);
  EXPECT_EQ(read->source.unit_name, "inch");
  EXPECT_DOUBLE_EQ(read->source.mm_per_unit, 25.4);
  EXPECT_DOUBLE_EQ(read->source.scale, 2.0);
  ASSERT_EQ(read->bodies.size(), 2u);
  for (size_t i = 0; i < 2; ++i) {
    const Body &before = sent.bodies[i], &after = read->bodies[i];
    EXPECT_EQ(after.name, before.name);
    EXPECT_EQ(after.kind, before.kind);
    EXPECT_EQ(after.colour, before.colour);
    EXPECT_EQ(after.face_colours, before.face_colours);
    EXPECT_EQ(after.path, before.path);
    EXPECT_EQ(after.source, before.source);
    EXPECT_EQ(after.delivered, before.delivered);
    EXPECT_NEAR(volume_properties(after.shape).volume_mm3, 6, 1e-12);
    EXPECT_EQ(triangles_of(after.shape).size(), triangles_of(before.shape).size());
  }
}

TEST(PartFolder, NameThatIsNoTextDoesNotLoseThePart) {
  const TemporaryFolder folder;
  ImportedBodies sent;
  Body body;
  body.name = "caf\xE9";  // Latin-1
  body.shape = demo::block({0, 0, 0}, {1, 1, 1});
  sent.bodies = {body};
  ASSERT_TRUE(write_part_folder(sent, folder.path()));
  const auto read = read_part_folder(folder.path());
  ASSERT_TRUE(read) << read.error().sentence;
  EXPECT_EQ(read->bodies.front().name.substr(0, 3), "caf");
}

TEST(PartFolder, WhatIsMissingOrDamagedIsRefused) {
  const TemporaryFolder folder;
  EXPECT_FALSE(read_part_folder(folder.path()));
  ASSERT_TRUE(write_file_atomically(folder.path() / "part.json", "{\"bodies\":[]}"));
  EXPECT_FALSE(read_part_folder(folder.path()));
  ASSERT_TRUE(write_file_atomically(folder.path() / "shape.bin", "not a shape"));
  EXPECT_FALSE(read_part_folder(folder.path()));
}

// Two levels: "mount" holds "bracket" twice and "plate" once; the bracket is moved by 100 and by 200 along X.
std::filesystem::path assembly_file(const TemporaryFolder& folder) {
  Handle(TDocStd_Document) document;
  XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document);
  const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
  const auto named = [&](const TDF_Label& label, const char* name) {
    TDataStd_Name::Set(label, name);
    return label;
  };
  const TDF_Label bracket = named(shapes->AddShape(demo::block({0, 0, 0}, {10, 10, 10}), false), "bracket");
  const TDF_Label plate = named(shapes->AddShape(demo::block({0, 0, 0}, {50, 50, 5}), false), "plate");
  const TDF_Label pair = named(shapes->NewShape(), "pair");
  for (const double x : {100.0, 200.0}) {
    gp_Trsf shift;
    shift.SetTranslation(gp_Vec(x, 0, 0));
    shapes->AddComponent(pair, bracket, TopLoc_Location(shift));
  }
  const TDF_Label mount = named(shapes->NewShape(), "mount");
  gp_Trsf up;
  up.SetTranslation(gp_Vec(0, 0, 5));
  shapes->AddComponent(mount, pair, TopLoc_Location(up));
  shapes->AddComponent(mount, plate, TopLoc_Location());
  shapes->UpdateAssemblies();
  STEPCAFControl_Writer writer;
  writer.SetNameMode(true);
  writer.Transfer(document);
  auto path = folder.path() / "mount.step";
  EXPECT_EQ(writer.Write(path.c_str()), IFSelect_RetDone);
  return path;
}

TEST(Assemblies, AreFlattenedWithNamesPathsAndPlacesOfEveryInstance) {
  const TemporaryFolder folder;
  const auto read = read_part_file(assembly_file(folder), {});
  ASSERT_TRUE(read) << read.error().sentence;
  ASSERT_EQ(read->bodies.size(), 3u);
  std::vector<double> brackets;
  for (const Body& body : read->bodies) {
    const Box box = exact_box(body.shape);
    if (body.name == "bracket") {
      EXPECT_EQ(body.path, (std::vector<std::string>{"mount", "pair"}));
      EXPECT_NEAR(box.min.Z(), 5, 1e-9);
      brackets.push_back(box.min.X());
    } else {
      EXPECT_EQ(body.name, "plate");
      EXPECT_EQ(body.path, std::vector<std::string>{"mount"});
      EXPECT_LT(box.max.Distance(gp_Pnt(50, 50, 5)), 1e-9);
    }
  }
  std::sort(brackets.begin(), brackets.end());
  ASSERT_EQ(brackets.size(), 2u);
  EXPECT_NEAR(brackets[0], 100, 1e-9);
  EXPECT_NEAR(brackets[1], 200, 1e-9);
}

}  // namespace
}  // namespace anvil
