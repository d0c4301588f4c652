#include <gtest/gtest.h>

#include "base/units.h"

namespace anvil {

TEST(Units, LengthIsToldInTheDisplayUnit) {
  EXPECT_EQ(format_length(12, {Unit::kMillimetre, 3}), "12.000");
  EXPECT_EQ(format_length(25.4, {Unit::kInch, 3}), "1.0000");
}

TEST(Units, RoundingLeavesNoNegativeZero) {
  EXPECT_EQ(format_length(-0.0004, {Unit::kMillimetre, 3}), "0.000");
  EXPECT_EQ(format_length(-0.0006, {Unit::kMillimetre, 3}), "-0.001");
  EXPECT_EQ(format_angle(-1e-12, {}), "0.000°");
}

TEST(Units, PlainNumbersHaveNoTrailingZeros) {
  EXPECT_EQ(format_plain(6.6), "6.6");
  EXPECT_EQ(format_plain(22), "22");
  EXPECT_EQ(format_plain(-0.0), "0");
}

}  // namespace anvil
