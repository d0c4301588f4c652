#include "base/expression.h"

#include <gtest/gtest.h>

namespace anvil {

struct LengthCase {
  const char* text;
  Unit unit;
  double mm;
};

class LengthExpression : public testing::TestWithParam<LengthCase> {};

TEST_P(LengthExpression, HasTheLengthTheTradeReads) {
  const auto value =
      evaluate_length(GetParam().text, GetParam().unit, {{"stock.x", 120}, {"P1.distance", 14}});
  ASSERT_TRUE(value) << value.error().sentence;
  EXPECT_NEAR(*value, GetParam().mm, 1e-12);
}

INSTANTIATE_TEST_SUITE_P(
    Cases, LengthExpression,
    testing::Values(LengthCase{"1/4in + 2", Unit::kMillimetre, 8.35},
                    LengthCase{"25.4*3", Unit::kMillimetre, 76.2},
                    LengthCase{"stock.x/2", Unit::kMillimetre, 60},
                    LengthCase{"P1.distance*2", Unit::kInch, 28}, LengthCase{"1/4in + 2", Unit::kInch, 57.15},
                    LengthCase{"10mm", Unit::kInch, 10}, LengthCase{"2", Unit::kInch, 50.8},
                    LengthCase{"-3", Unit::kMillimetre, -3}, LengthCase{"(1+2)*4mm", Unit::kMillimetre, 12}));

TEST(Expression, AnglesAreDegreesUnlessTheySayRadians) {
  EXPECT_NEAR(*evaluate_angle("90/4", {}), kPi / 8, 1e-15);
  EXPECT_NEAR(*evaluate_angle("1rad", {}), 1.0, 1e-15);
}

TEST(Expression, NonsenseIsRefusedWithTheWordThatIsNotUnderstood) {
  for (const char* text : {"", "  ", "12+", "stock.q", "4mm 5", "1/0", "((2)"}) {
    const auto value = evaluate_length(text, Unit::kMillimetre, {});
    ASSERT_FALSE(value) << text;
    EXPECT_EQ(value.error().code, RefusalCode::kBadInput);
    EXPECT_FALSE(value.error().sentence.empty());
  }
  EXPECT_NE(evaluate_length("stock.q", Unit::kMillimetre, {}).error().sentence.find("stock.q"),
            std::string::npos);
}

}  // namespace anvil
