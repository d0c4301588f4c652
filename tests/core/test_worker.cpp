// Import in a process of its own: bad files, cancel, limits. The worker is the real one.
#include <dirent.h>
#include <gtest/gtest.h>
#include <unistd.h>
#include <TopExp_Explorer.hxx>

#include <fstream>
#include <thread>

#include "base/file.h"
#include "base/sanitizers.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"
#include "exchange/worker_client.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

class Worker : public testing::Test {
 protected:
  fs::path write(const std::string& name, const std::string& bytes) const {
    std::ofstream(folder.path() / name, std::ios::binary) << bytes;
    return folder.path() / name;
  }
  fs::path good() const {
    fs::path path = folder.path() / "plate.step";
    EXPECT_TRUE(write_step(test::plate().bodies, {}, path));
    return path;
  }
  TemporaryFolder folder;
};

TEST_F(Worker, PartComesOverMeshedAndExact) {
  std::vector<std::string> phases;
  const fs::path file = good();
  const auto part =
      import_part(file, {[&](const std::string& phase, double) { phases.push_back(phase); }, {}});
  ASSERT_TRUE(part) << part.error().sentence;
  EXPECT_EQ((*part)->topology().faces.size(), test::part_of(test::plate())->topology().faces.size());
  const Box box = exact_box((*part)->shape(), test::plate().placement.Inverted());
  EXPECT_LT(box.max.Distance(test::plate().box_max), 1e-5);
  EXPECT_GE(phases.size(), 4u);
  EXPECT_EQ((*part)->source().sha256, sha256_hex(*read_file(file)));
}

TEST_F(Worker, EveryBadFileGetsOneSentence) {
  const std::string text = *read_file(good());
  fs::create_directory(folder.path() / "folder.step");
  const fs::path bad[] = {write("empty.step", ""),
                          write("letter.step", "Dear shop"),
                          write("cut.step", text.substr(0, text.size() / 3)),
                          folder.path() / "folder.step",
                          folder.path() / "gone.step",
                          write("nothing.step",
                                "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),"
                                "(''),'','','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\n#1="
                                "CARTESIAN_POINT('',(0.,0.,0.));\nENDSEC;\nEND-ISO-10303-21;\n")};
  for (const fs::path& path : bad) {
    const auto part = import_part(path, {});
    ASSERT_FALSE(part) << path;
    const std::string& sentence = part.error().sentence;
    EXPECT_EQ(sentence.back(), '.') << sentence;
    EXPECT_EQ(sentence.find('\n'), std::string::npos);
    EXPECT_NE(sentence.find(path.filename().string()), std::string::npos) << sentence;
  }
  EXPECT_EQ(test::children(), 0);
}

TEST_F(Worker, CancelAnswersAtOnceAndLeavesNoProcess) {
  const auto started = std::chrono::steady_clock::now();
  std::chrono::steady_clock::time_point asked;
  bool cancelled = false;
  const auto part = import_part(good(), {[&](const std::string&, double) {
                                           if (!cancelled) asked = std::chrono::steady_clock::now();
                                           cancelled = true;
                                         },
                                         [&] { return cancelled; }});
  const std::chrono::duration<double> late = std::chrono::steady_clock::now() - asked;
  ASSERT_FALSE(part);
  EXPECT_EQ(part.error().code, RefusalCode::kCancelled);
  EXPECT_GT(asked, started);
  EXPECT_LT(late.count(), 2.0);  // far more than it takes: only "does not wait for the reader" is asserted
  EXPECT_EQ(test::children(), 0);
}

TEST_F(Worker, TimeLimitEndsIt) {
  const auto part = import_part(good(), {}, {std::chrono::seconds(0), 8192});
  ASSERT_FALSE(part);
  EXPECT_EQ(part.error().code, RefusalCode::kLimit);
  EXPECT_EQ(test::children(), 0);
}

TEST_F(Worker, MemoryLimitEndsItWithASentence) {
  if (kHasSanitizer) GTEST_SKIP() << "sanitizers reserve more addresses than any limit";
  const auto part = import_part(good(), {}, {std::chrono::seconds(60), 64});
  ASSERT_FALSE(part);
  EXPECT_FALSE(part.error().sentence.empty());
}

TEST_F(Worker, MissingEntitiesAreToldWithThePart) {
  std::string text = *read_file(good());
  const size_t line = text.find("CARTESIAN_POINT");
  const size_t begin = text.rfind('\n', line) + 1;
  text.erase(begin, text.find('\n', line) - begin + 1);
  const auto part = import_part(write("holey.step", text), {});
  if (part) {
    EXPECT_FALSE((*part)->source().warnings.empty());
  } else {
    EXPECT_FALSE(part.error().sentence.empty());
  }
}

TEST_F(Worker, ExportIsReadBackInThePlaceItWasAskedFor) {
  const auto part = import_part(good(), {});
  ASSERT_TRUE(part);
  const fs::path out = folder.path() / "out.step";
  ExportRequest request;
  request.file = out;
  request.placement = test::plate().placement.Inverted();
  const auto report = export_part(**part, request, {});
  ASSERT_TRUE(report) << report.error().sentence;
  EXPECT_EQ(report->faces, static_cast<int>((*part)->topology().faces.size()));
  EXPECT_LT(report->box_difference_mm, 1e-5);
  const auto again = import_part(out, {});
  ASSERT_TRUE(again);
  EXPECT_LT(exact_box((*again)->shape()).max.Distance(test::plate().box_max), 1e-5);
  request.file = "/no/such/folder/x.step";
  const auto refused = export_part(**part, request, {});
  ASSERT_FALSE(refused);
  EXPECT_EQ(refused.error().code, RefusalCode::kCannotWrite);
}

// Above a thousand faces a coarse mesh comes first; the part that follows is the same but for its mesh.
TEST_F(Worker, LargePartIsShownCoarselyFirstAndFinelyAfter) {
  Body plate;
  plate.name = "plate";
  TopExp_Explorer solids(demo::plate_of_holes(16, 16), TopAbs_SOLID);
  plate.shape = solids.Current();
  const fs::path path = folder.path() / "large.step";
  ASSERT_TRUE(write_step({plate}, {}, path));
  PartPtr first;
  ImportRequest request{path};
  request.first_picture = [&](const PartPtr& part) {
    EXPECT_EQ(first, nullptr) << "one first picture";
    first = part;
  };
  const auto last = import_part(request, {});
  ASSERT_TRUE(last) << last.error().sentence;
  ASSERT_NE(first, nullptr);
  EXPECT_NE(first, *last);
  const TopologyIndex &coarse = first->topology(), &fine = (*last)->topology();
  ASSERT_GT(fine.faces.size(), 1000u);
  ASSERT_EQ(coarse.faces.size(), fine.faces.size());
  for (size_t i = 0; i < fine.faces.size(); ++i) {
    EXPECT_EQ(coarse.faces[i].surface.kind, fine.faces[i].surface.kind);
    EXPECT_DOUBLE_EQ(coarse.faces[i].surface.radius_mm, fine.faces[i].surface.radius_mm);
  }
  const auto few = triangles_of(first->shape()).size(), many = triangles_of((*last)->shape()).size();
  EXPECT_GT(few, fine.faces.size());
  EXPECT_LT(few * 5, many * 4) << few << " and " << many;
}

TEST_F(Worker, SmallSoundPartIsTheVeryOneOfItsFirstPicture) {
  PartPtr first;
  ImportRequest request{good()};
  request.first_picture = [&](const PartPtr& part) { first = part; };
  const auto last = import_part(request, {});
  ASSERT_TRUE(last) << last.error().sentence;
  EXPECT_EQ(first, *last);
}

}  // namespace
}  // namespace anvil
