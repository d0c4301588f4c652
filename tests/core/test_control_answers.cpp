#include "setup/control_answers.h"

#include <gtest/gtest.h>

#include <string>

namespace anvil {
namespace {

TEST(ControlAnswers, PointsAreReadWithAllTheirDigits) {
  const auto at = point_in_answer("OFFSET G54 X-12.345678 Y0.5 Z-300.25");
  ASSERT_TRUE(at);
  EXPECT_TRUE(at->IsEqual(gp_Pnt(-12.345678, 0.5, -300.25), 1e-12));
}

TEST(ControlAnswers, WhatIsNoPointIsNone) {
  for (const std::string& line :
       {std::string("OFFSET G54 X. Y. Z."), std::string("X1 Y2"), std::string("X1,5 Y2 Z3"),
        "X" + std::string(400, '1') + " Y2 Z3", std::string("XY1 Z2"), std::string()})
    EXPECT_FALSE(point_in_answer(line)) << line;
}

}  // namespace
}  // namespace anvil
