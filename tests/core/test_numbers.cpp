// Reading and telling numbers does not depend on the locale of the process.
#include <gtest/gtest.h>

#include <clocale>

#include "base/expression.h"
#include "base/numbers.h"
#include "base/units.h"

namespace anvil {
namespace {

TEST(Numbers, AreReadWholeOrNotAtAll) {
  EXPECT_DOUBLE_EQ(number_from("1.5").value_or(0), 1.5);
  EXPECT_DOUBLE_EQ(number_from("+2e-3").value_or(0), 0.002);
  EXPECT_DOUBLE_EQ(number_from("-.5").value_or(0), -0.5);
  for (const char* bad : {"", "1,5", "1.5 ", " 1", "nan", "inf", "0x10", "1e999", "+-1", "--1", "1.5mm"})
    EXPECT_FALSE(number_from(bad)) << bad;
  EXPECT_FALSE(number_from(std::string(400, '9')));
  EXPECT_EQ(whole_number_from("-12").value_or(0), -12);
  EXPECT_FALSE(whole_number_from("12.0"));
  EXPECT_FALSE(whole_number_from("99999999999999999999"));
}

TEST(Numbers, AreTakenFromTheFrontOfAText) {
  std::string_view text = "1.25X3";
  EXPECT_DOUBLE_EQ(take_number(text).value_or(0), 1.25);
  EXPECT_EQ(text, "X3");
  EXPECT_FALSE(take_number(text));
  EXPECT_EQ(text, "X3");
}

// Under a locale with a decimal comma, where the C library's own functions read and write one.
class DecimalComma : public testing::Test {
 protected:
  void SetUp() override {
    if (!std::setlocale(LC_NUMERIC, "de_DE.UTF-8"))
      GTEST_SKIP() << "no locale with a decimal comma on this machine";
    ASSERT_STREQ(std::localeconv()->decimal_point, ",");
  }
  void TearDown() override { std::setlocale(LC_NUMERIC, "C"); }
};

TEST_F(DecimalComma, ChangesNothing) {
  EXPECT_DOUBLE_EQ(number_from("1.5").value_or(0), 1.5);
  EXPECT_FALSE(number_from("1,5"));
  EXPECT_DOUBLE_EQ(evaluate_length("1.5 + 1/4in", Unit::kMillimetre, {}).value_or(0), 7.85);
  EXPECT_EQ(format_length(1234.5, {}), "1234.500");
  EXPECT_EQ(format_plain(0.25), "0.25");
}

}  // namespace
}  // namespace anvil
