// What the built programs are linked with stands in docs/dependencies.md, under a licence a closed product
// may use.
#include <gtest/gtest.h>

#include <fstream>
#include <map>
#include <regex>
#include <sstream>

#include "base/file.h"
#include "support/process.h"

namespace anvil::test {
namespace {

// Library (with * for any ending) and its licence, from the rows of the table.
std::map<std::string, std::string> listed() {
  std::map<std::string, std::string> found;
  std::istringstream lines(*read_file(ANVIL_DEPENDENCIES));
  for (std::string line; std::getline(lines, line);) {
    if (line.rfind("| `", 0) != 0) continue;
    const size_t end = line.find('|', 1), licence_end = line.find('|', end + 1);
    const std::string names = line.substr(1, end - 1), licence = line.substr(end + 2, licence_end - end - 3);
    const std::regex name("`([^`]+)`");
    for (std::sregex_iterator it(names.begin(), names.end(), name), none; it != none; ++it)
      found[(*it)[1].str()] = licence;
  }
  return found;
}

std::string licence_of(const std::string& library, const std::map<std::string, std::string>& table) {
  const std::string plain = library.substr(0, library.find(".so"));
  for (const auto& [name, licence] : table) {
    const bool any = name.back() == '*';
    if (any ? plain.rfind(name.substr(0, name.size() - 1), 0) == 0 : plain == name) return licence;
  }
  return {};
}

TEST(Licences, NothingTheProgramsAreLinkedWithIsUnderTheGpl) {
  const auto table = listed();
  ASSERT_GT(table.size(), 10u);
  int seen = 0;
  for (const char* name : {"true-anvil", "true-anvil-cli", "true-anvil-import", "true-anvil-control"}) {
    const auto told = run({"/usr/bin/objdump", "-p", program(name)});
    ASSERT_EQ(told.status, 0) << told.err;
    const std::regex needed("NEEDED +(\\S+)");
    for (std::sregex_iterator it(told.out.begin(), told.out.end(), needed), none; it != none; ++it) {
      const std::string licence = licence_of((*it)[1].str(), table);
      EXPECT_FALSE(licence.empty()) << (*it)[1].str() << " of " << name << " is not in docs/dependencies.md";
      const bool is_gpl = std::regex_search(licence, std::regex("(^|[^L])GPL")) &&
                          licence.find("runtime exception") == std::string::npos;
      EXPECT_FALSE(is_gpl) << (*it)[1].str() << ": " << licence;
      ++seen;
    }
  }
  EXPECT_GT(seen, 40);
}

TEST(Licences, WhatIsShippedIsNamedWhereItIsLookedFor) {
  const std::string root = *read_file(ANVIL_LICENSE), packaged = *read_file(ANVIL_COPYRIGHT);
  for (const std::string& text : {root, packaged}) {
    EXPECT_NE(text.find("The Inter Project Authors"), std::string::npos);
    EXPECT_NE(text.find("All rights reserved"), std::string::npos);
  }
  EXPECT_NE(packaged.find("OFL-1.1"), std::string::npos);
}

}  // namespace
}  // namespace anvil::test
