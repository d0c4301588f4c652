// Every kind of file out and in again, and what each refuses.
#include "exchange/format.h"

#include <gtest/gtest.h>
#include <unistd.h>
#include <zlib.h>

#include <BRepBuilderAPI_Transform.hxx>
#include <fstream>

#include "base/file.h"
#include "demo/shapes.h"
#include "inspect/unit_suspicion.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

Body block_body(const std::string& name, double x) {
  Body body;
  body.name = name;
  body.shape = demo::block({x, 0, 0}, {x + 40, 30, 20});
  for (TopExp_Explorer ex(body.shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
  body.colour = Colour{0.25, 0.5, 0.75};
  return body;
}

std::string packed(const std::string& bytes, const fs::path& path) {
  gzFile file = gzopen(path.c_str(), "wb");
  gzwrite(file, bytes.data(), static_cast<unsigned>(bytes.size()));
  gzclose(file);
  return *read_file(path);
}

class Formats : public testing::TestWithParam<const char*> {
 protected:
  TemporaryFolder folder;
};

TEST_P(Formats, WhatIsWrittenComesBackInItsPlace) {
  const Format& format = *format_by_id(GetParam());
  const fs::path path = folder.path() / ("two." + format.suffixes.front());
  const std::vector<Body> bodies{block_body("left jaw", 0), block_body("right jaw", 100)};
  const auto report = write_part_file(bodies, test::odd_motion(), format, {}, path);
  ASSERT_TRUE(report) << report.error().sentence;
  // STL holds single precision: at this distance from zero a tenth of a micrometre over the whole surface.
  EXPECT_NEAR(report->volume_mm3, 2 * 40 * 30 * 20, std::string(format.id) == "stl" ? 1 : 1e-2);
  const auto read = read_part_file(path, {});
  ASSERT_TRUE(read) << read.error().sentence;
  EXPECT_EQ(read->source.format, format.name);
  const bool is_mesh = format.is_of_triangles();
  ASSERT_EQ(read->bodies.size(), is_mesh ? 1u : 2u);
  const gp_Pnt centre = gp_Pnt(20, 15, 10).Transformed(test::odd_motion());
  if (is_mesh) {
    EXPECT_EQ(read->bodies[0].kind, BodyKind::kMesh);
    EXPECT_NEAR(mesh_properties(read->bodies[0].shape).volume_mm3, 48000,
                1);  // single precision far from zero
    return;
  }
  EXPECT_EQ(read->bodies[0].kind, BodyKind::kSolid);
  EXPECT_LT(volume_properties(read->bodies[0].shape).centroid.Distance(centre), 1e-5);
  if (std::string(format.id) == "brep") return;  // holds neither names nor colours
  EXPECT_EQ(read->bodies[0].name, "left jaw");
  EXPECT_EQ(read->bodies[1].name, "right jaw");
  ASSERT_TRUE(read->bodies[0].colour || !read->bodies[0].face_colours.empty());
  const Colour colour =
      read->bodies[0].colour ? *read->bodies[0].colour : read->bodies[0].face_colours.begin()->second;
  EXPECT_NEAR(colour.b, 0.75, 0.01);
}

TEST_P(Formats, CutOffFilesAreRefusedWithASentence) {
  const Format& format = *format_by_id(GetParam());
  const fs::path path = folder.path() / ("whole." + format.suffixes.front());
  ASSERT_TRUE(write_part_file({block_body("jaw", 0)}, {}, format, {}, path));
  const std::string whole = *read_file(path);
  for (const size_t part : {0, 1, 3, 5, 9}) {
    const fs::path cut = folder.path() / ("cut." + format.suffixes.front());
    std::ofstream(cut, std::ios::binary) << whole.substr(0, whole.size() * part / 10);
    const auto read = read_part_file(cut, {});
    ASSERT_FALSE(read) << format.name << " cut to " << part << " tenths";
    EXPECT_EQ(read.error().sentence.back(), '.') << read.error().sentence;
    EXPECT_NE(read.error().sentence.find("cut."), std::string::npos);
  }
}

TEST_P(Formats, NothingIsLeftWhereItCannotBeWritten) {
  const Format& format = *format_by_id(GetParam());
  const auto report =
      write_part_file({block_body("jaw", 0)}, {}, format, {}, folder.path() / "no such folder" / "jaw.x");
  ASSERT_FALSE(report);
  EXPECT_EQ(report.error().code, RefusalCode::kCannotWrite);
  EXPECT_TRUE(fs::is_empty(folder.path()));
}

// As every file that is written: through a link, with the permissions it had, and under no name that somebody
// could have put a link at.
TEST_P(Formats, ALinkStaysOneAndPermissionsAreKept) {
  const Format& format = *format_by_id(GetParam());
  const fs::path behind = folder.path() / "behind", link = folder.path() / ("jaw." + format.suffixes.front());
  std::ofstream(behind) << "old";
  fs::permissions(behind, fs::perms(0640));
  fs::create_symlink("behind", link);
  const fs::path trap = folder.path() / "trap";
  std::ofstream(trap) << "mine";
  fs::create_symlink(trap, link.string() + ".part-" + std::to_string(::getpid()));
  ASSERT_TRUE(write_part_file({block_body("jaw", 0)}, {}, format, {}, link));
  EXPECT_TRUE(fs::is_symlink(link));
  EXPECT_EQ(fs::status(behind).permissions(), fs::perms(0640));
  EXPECT_TRUE(read_part_file(behind, {}));
  EXPECT_EQ(*read_file(trap), "mine");
  EXPECT_EQ(std::distance(fs::directory_iterator(folder.path()), {}), 4);
}

INSTANTIATE_TEST_SUITE_P(All, Formats, testing::Values("step", "iges", "brep", "stl"),
                         [](const auto& test) { return std::string(test.param); });

// Cut inside a list of parts, the last line may look like the closing one; the kernel's reader would never
// end.
TEST(BrepFiles, CutAnywhereTheyAreRefused) {
  const TemporaryFolder folder;
  const fs::path path = folder.path() / "whole.brep";
  ASSERT_TRUE(write_part_file({block_body("jaw", 0)}, {}, *format_by_id("brep"), {}, path));
  const std::string whole = *read_file(path);
  ASSERT_TRUE(read_part_file(path, {}));
  const size_t end = whole.find_last_not_of(" \n");
  for (size_t length = whole.size() / 2; length < end; ++length) {
    std::ofstream(folder.path() / "cut.brep", std::ios::binary) << whole.substr(0, length);
    ASSERT_FALSE(read_part_file(folder.path() / "cut.brep", {}))
        << "cut to " << length << " of " << whole.size();
  }
}

TEST(PackedFiles, AreReadUnderTheirNameInside) {
  const TemporaryFolder folder;
  const fs::path plain = folder.path() / "jaw.step";
  ASSERT_TRUE(write_part_file({block_body("jaw", 0)}, {}, *format_by_id("step"), {}, plain));
  for (const char* name : {"jaw.stpz", "jaw.step.gz"}) {
    const std::string bytes = packed(*read_file(plain), folder.path() / name);
    const auto read = read_part_file(folder.path() / name, {});
    ASSERT_TRUE(read) << read.error().sentence;
    EXPECT_EQ(read->bodies.size(), 1u);
    EXPECT_EQ(read->source.sha256, sha256_hex(bytes));
    std::ofstream(folder.path() / "cut.stpz", std::ios::binary) << bytes.substr(0, bytes.size() / 2);
    EXPECT_FALSE(read_part_file(folder.path() / "cut.stpz", {}));
  }
}

TEST(MeshFiles, TextStlKeepsEverySolid) {
  const TemporaryFolder folder;
  const std::string facet =
      " facet normal 0 0 1\n  outer loop\n   vertex {0} 0 0\n   vertex {1} 0 0\n   vertex {0} 1 0\n  "
      "endloop\n endfacet\n";
  std::string text;
  for (int i = 0; i < 3; ++i) {
    std::string own = facet;
    for (size_t at; (at = own.find("{0}")) != std::string::npos;) own.replace(at, 3, std::to_string(10 * i));
    for (size_t at; (at = own.find("{1}")) != std::string::npos;)
      own.replace(at, 3, std::to_string(10 * i + 1));
    text += "solid s" + std::to_string(i) + "\n" + own + "endsolid s" + std::to_string(i) + "\n";
  }
  std::ofstream(folder.path() / "three.stl") << text;
  const auto read = read_part_file(folder.path() / "three.stl", {});
  ASSERT_TRUE(read) << read.error().sentence;
  size_t triangles = 0;
  for (const Body& body : read->bodies) triangles += triangles_of(body.shape).size();
  EXPECT_EQ(read->bodies.size(), 3u);
  EXPECT_EQ(triangles, 3u);
}

TEST(MeshFiles, PlyAndObjComeInWithTheirAreas) {
  const TemporaryFolder folder;
  std::ofstream(folder.path() / "square.ply")
      << "ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty "
         "float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n3 0 0\n3 2 "
         "0\n0 2 "
         "0\n4 0 1 2 3\n";
  std::ofstream(folder.path() / "square.obj") << "v 0 0 0\nv 3 0 0\nv 3 2 0\nv 0 2 0\nf 1 2 3 4\n";
  for (const char* name : {"square.ply", "square.obj"}) {
    const auto read = read_part_file(folder.path() / name, {});
    ASSERT_TRUE(read) << read.error().sentence;
    ASSERT_EQ(read->bodies.size(), 1u);
    EXPECT_NEAR(mesh_area(read->bodies[0].shape).area_mm2, 6, 1e-6);
    EXPECT_LT(exact_box(read->bodies[0].shape).max.Distance(gp_Pnt(3, 2, 0)), 1e-6);
    EXPECT_FALSE(read->source.warnings.empty());  // no unit named
  }
}

TEST(FileKinds, AreToldByWhatTheFileHoldsNotByItsName) {
  const TemporaryFolder folder;
  const fs::path step = folder.path() / "jaw.step", renamed = folder.path() / "jaw.igs";
  ASSERT_TRUE(write_part_file({block_body("jaw", 0)}, {}, *format_by_id("step"), {}, step));
  fs::rename(step, renamed);
  const auto read = read_part_file(renamed, {});
  ASSERT_TRUE(read) << read.error().sentence;
  EXPECT_EQ(read->source.format, "STEP");
}

TEST(FileKinds, AreNamedToWhoBringsSomethingElse) {
  const TemporaryFolder folder;
  std::ofstream(folder.path() / "letter.txt") << "Dear Ines, the plates are ready.";
  const auto read = read_part_file(folder.path() / "letter.txt", {});
  ASSERT_FALSE(read);
  for (const Format& format : formats())
    EXPECT_NE(read.error().sentence.find(format.name), std::string::npos) << read.error().sentence;
}

TEST(Scale, MultipliesEveryLength) {
  const TemporaryFolder folder;
  const fs::path path = folder.path() / "jaw.step";
  ASSERT_TRUE(write_part_file({block_body("jaw", 0)}, {}, *format_by_id("step"), {}, path));
  const auto read = read_part_file(path, {}, 25.4);
  ASSERT_TRUE(read) << read.error().sentence;
  EXPECT_LT(exact_box(read->bodies[0].shape).max.Distance(gp_Pnt(40 * 25.4, 30 * 25.4, 20 * 25.4)), 1e-6);
  EXPECT_EQ(read->source.scale, 25.4);
}

TEST(UnitSuspicion, NoticesPartsThatCameInTheWrongUnit) {
  const auto scaled = [](double factor) {
    gp_Trsf t;
    t.SetScale(gp_Pnt(), factor);
    return test::part_of(BRepBuilderAPI_Transform(
                             demo::cut(demo::block({0, 0, 0}, {120, 80, 15.5}),
                                       {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10.3, 40)}),
                             t)
                             .Shape());
  };
  EXPECT_FALSE(suspect_unit(*scaled(1)));
  const auto too_big = suspect_unit(*scaled(25.4));
  ASSERT_TRUE(too_big);
  EXPECT_NEAR(too_big->scale, 1 / 25.4, 1e-12);
  const auto too_small = suspect_unit(*scaled(1 / 25.4));
  ASSERT_TRUE(too_small);
  EXPECT_NEAR(too_small->scale, 25.4, 1e-12);
  EXPECT_FALSE(suspect_unit(*test::part_of(test::plate())));
}

}  // namespace
}  // namespace anvil
