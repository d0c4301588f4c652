#include "inspect/hole_comparison.h"

#include <gtest/gtest.h>

namespace anvil {
namespace {

Hole hole_at(double x, double y, double diameter, const char* name) {
  Hole hole;
  hole.name = name;
  hole.entry.SetCoord(x, y, 0);
  hole.axis = gp_Dir(0, 0, 1);
  hole.diameter_mm = diameter;
  hole.depth_mm = 10;
  return hole;
}

TEST(HoleComparison, TellsDeviationTruePositionMissingAndExtra) {
  const auto list = parse_hole_list(
      "# unit: mm\nname,x,y,z,diameter,depth,tolerance\nA,10,0,0,6,10,0.5\nB,30,0,0,6,,0.5\nC,90,0,0,6,,\n");
  ASSERT_TRUE(list) << list.error().sentence;
  const std::vector<Hole> found{hole_at(30.3, 0.4, 6, "H1.2"), hole_at(10.1, 0, 6, "H1.1"),
                                hole_at(60, 0, 6, "H1.3")};
  const auto rows = compare_holes(found, *list);
  ASSERT_EQ(rows.size(), 4u);
  EXPECT_EQ(rows[0].found, "H1.1");
  EXPECT_NEAR(rows[0].true_position_mm, 0.2, 1e-12);
  EXPECT_NEAR(*rows[0].depth_deviation_mm, 0, 1e-12);
  EXPECT_EQ(rows[0].state, ComparedHole::State::kPass);
  EXPECT_NEAR(rows[1].true_position_mm, 1.0, 1e-12);
  EXPECT_EQ(rows[1].state, ComparedHole::State::kFail);
  EXPECT_EQ(rows[2].state, ComparedHole::State::kMissing);
  EXPECT_EQ(rows[3].found, "H1.3");
  EXPECT_EQ(rows[3].state, ComparedHole::State::kExtra);
}

TEST(HoleComparison, InchListsAreRead) {
  const auto list = parse_hole_list("# unit: inch\nx,y,z,diameter\n1,0,0,0.25\n");
  ASSERT_TRUE(list);
  EXPECT_NEAR(list->front().at.X(), 25.4, 1e-12);
  EXPECT_NEAR(list->front().diameter_mm, 6.35, 1e-12);
}

TEST(HoleComparison, BadListsAreRefusedWithTheirLine) {
  EXPECT_NE(parse_hole_list("x,y,z,diameter\n1,2,3,wide\n").error().sentence.find("line 2"),
            std::string::npos);
  EXPECT_FALSE(parse_hole_list("x,y,diameter\n1,2,3\n"));
  EXPECT_FALSE(parse_hole_list(""));
}

}  // namespace
}  // namespace anvil
