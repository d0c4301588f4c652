// A control is a stranger: what it says is the answer to what was asked, or it is none.
#include "setup/control_answers.h"

#include <gtest/gtest.h>

#include <string>

#include "base/units.h"

namespace anvil {
namespace {

const WorkOffset kG54 = *work_offset_from("G54"), kFar = *work_offset_from("G54.1 P7");

TEST(ControlAnswers, AnOffsetIsReadWithAllItsDigits) {
  const auto at = offset_in_answer("OFFSET G54 X-12.345678 Y0.5 Z-300.25", kG54);
  ASSERT_TRUE(at);
  EXPECT_TRUE(at->IsEqual(gp_Pnt(-12.345678, 0.5, -300.25), 1e-12));
  EXPECT_TRUE(offset_in_answer("OFFSET G54.1 P7 X1 Y2 Z3", kFar));
}

TEST(ControlAnswers, WhatIsNoOffsetOrAnotherOneIsRefused) {
  for (const std::string& line :
       {std::string("OFFSET G54 X. Y. Z."), std::string("OFFSET G54 X1 Y2"),
        std::string("OFFSET G55 X1 Y2 Z3"), std::string("OFFSET G54.1 P7 X1 Y2 Z3"),
        std::string("OFFSET G54 X1,5 Y2 Z3"), "OFFSET G54 X" + std::string(400, '1') + " Y2 Z3",
        std::string("OFFSET G54 X1e99 Y2 Z3"), std::string("OFFSET G54 X1 Y2 Z3 X4"),
        std::string("OFFSET G54 XY1 Z2"), std::string("TOUCH X1 Y2 Z3"), std::string()}) {
    const auto at = offset_in_answer(line, kG54);
    ASSERT_FALSE(at) << line;
    EXPECT_LT(at.error().sentence.size(), 200u);
  }
}

TEST(ControlAnswers, APositionIsTheOneThatWasSent) {
  const std::vector<RotaryPosition> sent{{"A", radians(-30)}, {"C", radians(90)}};
  EXPECT_TRUE(check_position("AT G54 A-30.000000 C90.000000", kG54, sent));
  EXPECT_TRUE(check_position("AT G54 A330 C-270", kG54, sent));  // whole turns aside
  EXPECT_TRUE(check_position("AT G54.1 P7 A-30 C90", kFar, sent));
  EXPECT_TRUE(check_position("AT G54.1 P7 A-30 C90", std::nullopt, sent));
  EXPECT_TRUE(check_position("AT G54", kG54, {}));
  for (const char* line : {"AT G55 A-30 C90", "AT G54 A-30 C91", "AT G54 A-30", "AT G54 C90 A-30",
                           "AT G54 A-30 C90 B0", "AT G54 A-30 C", "OK", "AT ", ""})
    EXPECT_FALSE(check_position(line, kG54, sent)) << line;
}

TEST(ControlAnswers, ATouchLiesOnTheLineThatWasProbed) {
  const ProbeMove move{gp_Pnt(10, 0, 5), gp_Dir(1, 0, 0), 10, gp_Pnt(15, 0, 5), 3};
  ASSERT_TRUE(touch_in_answer("TOUCH X15.003 Y0.001 Z5", move));
  EXPECT_NEAR((*touch_in_answer("TOUCH X15.003 Y0.001 Z5", move))->X(), 15.003, 1e-12);
  EXPECT_FALSE(touch_in_answer("MISS", move)->has_value());
  for (const char* line : {"TOUCH X15 Y3 Z5", "TOUCH X9 Y0 Z5", "TOUCH X21 Y0 Z5", "TOUCH X15 Y0", "MISSED",
                           "OFFSET G54 X15 Y0 Z5"})
    EXPECT_FALSE(touch_in_answer(line, move)) << line;
}

TEST(ControlAnswers, AProgramIsTakenWhole) {
  EXPECT_TRUE(check_program_taken("OK 7 lines", 7));
  EXPECT_FALSE(check_program_taken("OK 6 lines", 7));
  EXPECT_FALSE(check_program_taken("OK", 7));
}

}  // namespace
}  // namespace anvil
