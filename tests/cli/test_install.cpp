// What scripts/install-desktop puts where the desktop looks for it.
#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>
#include <regex>
#include <set>

#include "base/file.h"
#include "exchange/format.h"
#include "support/process.h"

namespace anvil {
namespace {

namespace fs = std::filesystem;

std::string text_at(const fs::path& path) {
  const auto text = read_file(path);
  EXPECT_TRUE(text) << (text ? "" : text.error().sentence);
  return text ? *text : "";
}

class Install : public testing::Test {
 protected:
  static void SetUpTestSuite() {
    prefix = new TemporaryFolder;
    const test::Outcome made =
        test::run({ANVIL_CMAKE, "--install", ANVIL_BUILD_FOLDER, "--prefix", prefix->path()});
    ASSERT_EQ(made.status, 0) << made.err;
  }
  static void TearDownTestSuite() { delete prefix; }
  static TemporaryFolder* prefix;
};
TemporaryFolder* Install::prefix = nullptr;

TEST_F(Install, ProgramsLieTogetherAndRun) {
  for (const char* name : {"true-anvil", "true-anvil-cli", "true-anvil-import"})
    EXPECT_TRUE(fs::exists(prefix->path() / "bin" / name)) << name;
  const test::Outcome help = test::run({prefix->path() / "bin" / "true-anvil-cli", "--help"});
  EXPECT_EQ(help.status, 0);
  EXPECT_NE(help.out.find("holes"), std::string::npos);
}

TEST_F(Install, DesktopEntryStartsAProgramThatIsThereWithAnIconThatIsThere) {
  const std::string entry = text_at(prefix->path() / "share/applications/true-anvil.desktop");
  std::smatch match;
  ASSERT_TRUE(std::regex_search(entry, match, std::regex("Exec=(\\S+) %F")));
  EXPECT_TRUE(fs::exists(prefix->path() / "bin" / match[1].str()));
  ASSERT_TRUE(std::regex_search(entry, match, std::regex("Icon=(\\S+)")));
  bool has_icon = false;
  for (const auto& file : fs::recursive_directory_iterator(prefix->path() / "share/icons"))
    has_icon = has_icon || file.path().stem() == match[1].str();
  EXPECT_TRUE(has_icon);
}

// Every kind of file the program reads has a type the desktop knows, and the entry claims that type.
TEST_F(Install, EveryKindOfFileLeadsToTheProgram) {
  const std::string types = text_at(prefix->path() / "share/mime/packages/true-anvil.xml");
  const std::string entry = text_at(prefix->path() / "share/applications/true-anvil.desktop");
  std::set<std::string> globs{"stl", "obj"};  // known to every desktop
  const std::regex type("<mime-type type=\"([^\"]+)\">([\\s\\S]*?)</mime-type>"),
      glob("pattern=\"\\*\\.([^\"]+)\"");
  for (auto it = std::sregex_iterator(types.begin(), types.end(), type); it != std::sregex_iterator(); ++it) {
    EXPECT_NE(entry.find((*it)[1].str() + ";"), std::string::npos) << (*it)[1].str();
    const std::string body = (*it)[2].str();
    for (auto g = std::sregex_iterator(body.begin(), body.end(), glob); g != std::sregex_iterator(); ++g)
      globs.insert((*g)[1].str());
  }
  for (const Format& format : formats())
    for (const std::string& suffix : format.suffixes) EXPECT_TRUE(globs.count(suffix)) << suffix;
  EXPECT_TRUE(globs.count("anvil"));
}

}  // namespace
}  // namespace anvil
