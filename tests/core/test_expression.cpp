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
  const auto value = evaluate_length(GetParam().text, GetParam().unit,
                                     {{"stock.x", 120},
                                      {"P1.distance", 14},
                                      {"Row.count", {3, Named::Kind::kNumber}},
                                      {"P1.angle", {60, Named::Kind::kAngle}}});
  ASSERT_TRUE(value) << value.error().sentence;
  EXPECT_NEAR(*value, GetParam().mm, 1e-12);
}

INSTANTIATE_TEST_SUITE_P(
    Cases, LengthExpression,
    testing::Values(
        LengthCase{"1/4in + 2", Unit::kMillimetre, 8.35}, LengthCase{"25.4*3", Unit::kMillimetre, 76.2},
        LengthCase{"stock.x/2", Unit::kMillimetre, 60}, LengthCase{"P1.distance*2", Unit::kInch, 28},
        LengthCase{"1/4in + 2", Unit::kInch, 57.15}, LengthCase{"10mm", Unit::kInch, 10},
        LengthCase{"2", Unit::kInch, 50.8}, LengthCase{"-3", Unit::kMillimetre, -3},
        LengthCase{"(1+2)*4mm", Unit::kMillimetre, 12},
        // Mixed numbers and fractions as the trade writes them.
        LengthCase{"1 1/4in", Unit::kMillimetre, 31.75}, LengthCase{"1-1/2in", Unit::kMillimetre, 38.1},
        LengthCase{"1.5/2in", Unit::kMillimetre, 19.05}, LengthCase{"1 1/2", Unit::kInch, 38.1},
        LengthCase{"3-1/2", Unit::kMillimetre, 2.5}, LengthCase{"10 - 1/2in", Unit::kMillimetre, -2.7},
        LengthCase{"2*(1+1)in", Unit::kMillimetre, 101.6}, LengthCase{"3/4\"", Unit::kMillimetre, 19.05},
        LengthCase{"2cm", Unit::kInch, 20},
        // A decimal comma, where it cannot be anything else.
        LengthCase{"1,5", Unit::kMillimetre, 1.5}, LengthCase{"0,500 + 1", Unit::kMillimetre, 1.5},
        LengthCase{"max(1,5)", Unit::kMillimetre, 5}, LengthCase{"min(1.5; 2)", Unit::kMillimetre, 1.5},
        // Angles are degrees wherever they are typed.
        LengthCase{"10*sin(30)", Unit::kMillimetre, 5}, LengthCase{"atan(1)", Unit::kMillimetre, 45},
        LengthCase{"10*cos(P1.angle)", Unit::kInch, 127},
        // Counts and angles are no lengths: an inch does not divide them.
        LengthCase{"P1.distance*Row.count", Unit::kInch, 42}));

TEST(Expression, AnglesAreDegreesUnlessTheySayRadians) {
  EXPECT_NEAR(*evaluate_angle("90/4", {}), kPi / 8, 1e-15);
  EXPECT_NEAR(*evaluate_angle("1rad", {}), 1.0, 1e-15);
}

TEST(Expression, NonsenseIsRefusedWithTheWordThatIsNotUnderstood) {
  const std::string long_number(20000, '7'), long_sum = [] {
    std::string text = "1";
    for (int i = 0; i < 50000; ++i) text += "+1";
    return text;
  }();
  for (const std::string& text :
       {std::string(), std::string("  "), std::string("12+"), std::string("stock.q"), std::string("4mm 5"),
        std::string("1/0"), std::string("((2)"), std::string("1,500"), std::string("1,2,3"),
        std::string("1.2.3"), std::string("1,5.2"), long_number, long_sum}) {
    const auto value = evaluate_length(text, Unit::kMillimetre, {});
    ASSERT_FALSE(value) << text;
    EXPECT_EQ(value.error().code, RefusalCode::kBadInput);
    EXPECT_FALSE(value.error().sentence.empty());
  }
  EXPECT_NE(evaluate_length("stock.q", Unit::kMillimetre, {}).error().sentence.find("stock.q"),
            std::string::npos);
}

}  // namespace anvil
