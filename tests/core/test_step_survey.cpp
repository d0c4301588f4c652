// What is noticed in the text of a STEP file before the library sees it.
#include <gtest/gtest.h>

#include "base/file.h"
#include "exchange/step_format.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

const std::string& good_text() {
  static const std::string text = [] {
    const TemporaryFolder folder;
    EXPECT_TRUE(write_step(test::plate().bodies, {}, folder.path() / "plate.step"));
    return *read_file(folder.path() / "plate.step");
  }();
  return text;
}

std::string refusal_of(const std::string& bytes) {
  const auto survey = survey_step(bytes, "plate.step");
  return survey ? "" : survey.error().sentence;
}

TEST(StepSurvey, GoodFileHasItsSchemaUnitAndNothingMissing) {
  const auto survey = survey_step(good_text(), "plate.step");
  ASSERT_TRUE(survey) << survey.error().sentence;
  EXPECT_EQ(survey->schema, "AP214");
  EXPECT_TRUE(survey->has_length_unit);
  EXPECT_EQ(survey->missing_count, 0u);
}

TEST(StepSurvey, SaysWhatIsWrong) {
  EXPECT_NE(refusal_of("").find("empty"), std::string::npos);
  EXPECT_NE(refusal_of("Dear shop, please find attached").find("not a STEP file"), std::string::npos);
  EXPECT_NE(refusal_of(good_text().substr(0, good_text().size() / 2)).find("cut off"), std::string::npos);
  EXPECT_NE(refusal_of("ISO-10303-21;\nHEADER;\nENDSEC;\n").find("no data section"), std::string::npos);
}

TEST(StepSurvey, NumbersThatAreNoneAreNoticed) {
  std::string text = good_text();
  const size_t at = text.find("CARTESIAN_POINT('',(");
  ASSERT_NE(at, std::string::npos);
  text.replace(at, 20, "CARTESIAN_POINT('',(NAN,");
  EXPECT_NE(refusal_of(text).find("not numbers"), std::string::npos);
}

TEST(StepSurvey, MissingEntitiesAreCounted) {
  std::string text = good_text();
  const size_t line = text.find("#100 =");
  ASSERT_NE(line, std::string::npos);
  text.erase(line, text.find('\n', line) - line + 1);
  const auto survey = survey_step(text, "plate.step");
  ASSERT_TRUE(survey);
  EXPECT_EQ(survey->missing_count, 1u);
  EXPECT_EQ(survey->missing.front(), 100);
}

TEST(StepSurvey, QuotedTextAndCommentsAreNotData) {
  const std::string text =
      "ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n/* #7 (NAN) */\n#1 = PRODUCT('see #9, "
      "(NAN)');\nENDSEC;\nEND-ISO-10303-21;\n";
  const auto survey = survey_step(text, "x.step");
  ASSERT_TRUE(survey) << survey.error().sentence;
  EXPECT_EQ(survey->missing_count, 0u);
  EXPECT_EQ(survey->entities, 1u);
}

TEST(StepSurvey, FileWithAByteOrderMarkIsRead) {
  const TemporaryFolder folder;
  ASSERT_TRUE(write_file_atomically(folder.path() / "marked.step", "\xEF\xBB\xBF" + good_text()));
  EXPECT_TRUE(read_part_file(folder.path() / "marked.step", {}));
}

TEST(StepSurvey, FirstFewMissingOnesAreNamedInOrderAndAllCounted) {
  std::string data;
  for (const int missing : {905, 31, 77, 420, 31, 9, 268, 512})
    data += "#" + std::to_string(1000 + missing) + " = A('',#" + std::to_string(missing) + ");\n";
  const auto survey = survey_step(
      "ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n" + data + "ENDSEC;\nEND-ISO-10303-21;\n", "x.step");
  ASSERT_TRUE(survey) << survey.error().sentence;
  EXPECT_EQ(survey->entities, 7u);  // one number is defined twice
  EXPECT_EQ(survey->missing_count, 7u);
  EXPECT_EQ(survey->missing, (std::vector<long>{9, 31, 77, 268, 420}));
}

}  // namespace
}  // namespace anvil
