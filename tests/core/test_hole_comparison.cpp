#include "inspect/hole_comparison.h"

#include <gtest/gtest.h>

#include <iostream>
#include <numeric>

#include "inspect/assignment.h"
#include "support/random.h"

namespace anvil {
namespace {

using State = ComparedHole::State;

Hole hole_at(double x, double y, double diameter, const char* name) {
  Hole hole;
  hole.name = name;
  hole.entry.SetCoord(x, y, 0);
  hole.axis = gp_Dir(0, 0, 1);
  hole.diameter_mm = diameter;
  hole.depth_mm = 10;
  return hole;
}

ListedHole listed_at(double x, double y, double z, double diameter) {
  ListedHole listed;
  listed.name = "L";
  listed.at.SetCoord(x, y, z);
  listed.diameter_mm = diameter;
  return listed;
}

TEST(HoleComparison, TellsDeviationTruePositionMissingAndExtra) {
  const auto list = parse_hole_list(
      "# unit: mm\nname,x,y,z,diameter,depth,tolerance\nA,10,0,0,6,10,0.5\nB,30,0,0,6,,0.5\nC,90,0,0,6,,\n");
  ASSERT_TRUE(list) << list.error().sentence;
  const std::vector<Hole> found{hole_at(30.3, 0.4, 6, "H1.2"), hole_at(10.1, 0, 6, "H1.1"),
                                hole_at(60, 0, 6, "H1.3")};
  const auto rows = compare_holes(found, list->holes);
  ASSERT_EQ(rows.size(), 4u);
  EXPECT_EQ(rows[0].found, "H1.1");
  EXPECT_NEAR(rows[0].true_position_mm, 0.2, 1e-12);
  EXPECT_NEAR(*rows[0].depth_deviation_mm, 0, 1e-12);
  EXPECT_EQ(rows[0].state, State::kPass);
  EXPECT_NEAR(rows[1].true_position_mm, 1.0, 1e-12);
  EXPECT_EQ(rows[1].state, State::kFail);
  EXPECT_EQ(failure_text(rows[1], list->holes[1], {}), "true position 1.000 of 0.500");
  EXPECT_EQ(rows[2].state, State::kMissing);
  EXPECT_EQ(rows[3].found, "H1.3");
  EXPECT_EQ(rows[3].state, State::kExtra);
}

// What people and spreadsheets write: any separator, a decimal comma, headings in any case, units in them.
TEST(HoleComparison, ListsAreReadAsTheyAreWritten) {
  for (const char* text :
       {"Name;X;Y;Z;Dia;Depth\nA;12,5;-3;0;6;10\n", "NAME\tX\tY\tZ\tØ\tDEPTH\nA\t12,5\t-3\t0\t6\t10\n",
        "\xEF\xBB\xBF\"Name\",\"x\",\"y\",\"z\",\"Diameter [mm]\",\"depth\"\r\n\"A\",\"12.5\",-3,0,6,10\r\n",
        "# made by hand\n\nx, y, z, d, depth, name\n12.5, -3, 0, 6, 10, A\n"}) {
    const auto list = parse_hole_list(text);
    ASSERT_TRUE(list) << list.error().sentence << text;
    ASSERT_EQ(list->holes.size(), 1u) << text;
    const ListedHole& hole = list->holes.front();
    EXPECT_EQ(hole.name, "A");
    EXPECT_NEAR(hole.at.X(), 12.5, 1e-12);
    EXPECT_NEAR(hole.at.Y(), -3, 1e-12);
    EXPECT_NEAR(hole.diameter_mm, 6, 1e-12);
    EXPECT_NEAR(*hole.depth_mm, 10, 1e-12);
  }
  const auto inches = parse_hole_list("x [inch],y,z,diameter\n1,0,0,0.25\n");
  ASSERT_TRUE(inches);
  EXPECT_NEAR(inches->holes.front().at.X(), 25.4, 1e-12);
  EXPECT_NEAR(inches->holes.front().diameter_mm, 6.35, 1e-12);
  EXPECT_EQ(inches->unit, Unit::kInch);
  const auto asked = parse_hole_list("x,y,z,diameter,depth\n1,0,0,0.25,through\n", Unit::kInch);
  EXPECT_NEAR(asked->holes.front().at.X(), 25.4, 1e-12);
  EXPECT_EQ(asked->holes.front().through, true);
  EXPECT_EQ(parse_hole_list("# frame: OP10 G54\nx,y,z,d\n1,2,3,4\n")->frame, "OP10 G54");
}

TEST(HoleComparison, BadListsAreRefusedWithLineAndColumn) {
  const std::string wrong = parse_hole_list("x,y,z,Diameter\n1,2,3,4\n1,2,3,wide\n").error().sentence;
  EXPECT_NE(wrong.find("line 3"), std::string::npos) << wrong;
  EXPECT_NE(wrong.find("\"Diameter\""), std::string::npos) << wrong;
  EXPECT_NE(parse_hole_list("x,y,z,d\n1,,3,4\n").error().sentence.find("column \"y\": empty"),
            std::string::npos);
  EXPECT_FALSE(parse_hole_list("x,y,z,d\n1,2,3,-4\n"));
  EXPECT_FALSE(parse_hole_list("x,y,diameter\n1,2,3\n"));
  EXPECT_FALSE(parse_hole_list(""));
  EXPECT_FALSE(parse_hole_list(std::string("x,y,z,d\n\0", 9)));
}

TEST(HoleComparison, DepthIsJudgedAndSoIsThrough) {
  auto deep = listed_at(0, 0, 0, 6);
  deep.depth_mm = 12;
  auto through = listed_at(20, 0, 0, 6);
  through.through = true;
  const auto rows = compare_holes({hole_at(0, 0, 6, "a"), hole_at(20, 0, 6, "b")}, {deep, through});
  EXPECT_TRUE(rows[0].depth_fails);
  EXPECT_EQ(failure_text(rows[0], deep, {}), "depth 10.000 instead of 12.000");
  EXPECT_TRUE(rows[1].through_fails);
  EXPECT_EQ(rows[1].state, State::kFail);
}

TEST(HoleComparison, ListedTwiceIsDoubleAndAThroughHoleIsMetAtEitherEnd) {
  Hole through = hole_at(0, 0, 6, "a");
  through.through = true;
  through.exit = gp_Pnt(0, 0, -30);
  const auto rows =
      compare_holes({through}, {listed_at(0, 0.02, -30, 6), listed_at(0.1, 0, 0, 6), listed_at(40, 0, 0, 6)});
  ASSERT_EQ(rows.size(), 3u);
  EXPECT_EQ(rows[0].state, State::kPass);
  EXPECT_NEAR(rows[0].true_position_mm, 0.04, 1e-12);
  EXPECT_NEAR(rows[0].deviation.Z(), 0, 1e-12);
  EXPECT_EQ(rows[1].state, State::kDouble);
  EXPECT_EQ(rows[1].found, "a");
  EXPECT_EQ(rows[2].state, State::kMissing);
}

// Taken one by one, the nearest first, A would get the hole in the middle and leave B without.
TEST(HoleComparison, OneAssignmentForAll) {
  const std::vector<Hole> found{hole_at(0, 0, 6, "left"), hole_at(4, 0, 6, "middle")};
  const auto rows = compare_holes(found, {listed_at(3, 0, 0, 6), listed_at(7, 0, 0, 6)});
  EXPECT_EQ(rows[0].found, "left");
  EXPECT_EQ(rows[1].found, "middle");
  // Sizes weigh: two that stand nearly at one place go to the listed ones of their size.
  const auto sized = compare_holes({hole_at(0, 0, 4, "small"), hole_at(1, 0, 8, "large")},
                                   {listed_at(0, 0, 0, 8), listed_at(1, 0, 0, 4)});
  EXPECT_EQ(sized[0].found, "large");
  EXPECT_EQ(sized[1].found, "small");
}

TEST(HoleComparison, BestShiftIsShownBesideAndAppliedToNothing) {
  const std::vector<Hole> found{hole_at(0.3, 0.1, 6, "a"), hole_at(20.3, 0.1, 6, "b"),
                                hole_at(40.3, 0.1, 6, "c")};
  const auto rows =
      compare_holes(found, {listed_at(0, 0, 0, 6), listed_at(20, 0, 0, 6), listed_at(40, 0, 0, 6)});
  EXPECT_EQ(rows[0].state, State::kFail);
  const auto best = best_shift(rows, found);
  ASSERT_TRUE(best);
  EXPECT_NEAR(best->shift.X(), 0.3, 1e-9);
  EXPECT_NEAR(best->shift.Y(), 0.1, 1e-9);
  EXPECT_NEAR(best->shift.Z(), 0, 1e-6);
  EXPECT_NEAR(best->largest_true_position_mm, 0, 1e-9);
}

// Against all permutations.
TEST(Assignment, IsTheLeastOfAll) {
  constexpr unsigned kSeed = 20261128;
  std::cout << "seed " << kSeed << '\n';
  test::Random random(kSeed);
  for (int round = 0; round < 300; ++round) {
    const int lefts = random.whole(1, 5), rights = random.whole(1, 6);
    const double alone = random.between(3, 12);
    std::vector<Pairing> pairs;
    std::vector<std::vector<double>> cost(lefts, std::vector<double>(rights + lefts, alone));
    for (int i = 0; i < lefts; ++i)
      for (int j = 0; j < rights; ++j) {
        cost[i][j] = 1e9;
        if (random.whole(0, 2) == 0) continue;
        cost[i][j] = random.between(0, 10);
        pairs.push_back({i, j, cost[i][j]});
      }
    std::vector<int> places(rights + lefts);
    std::iota(places.begin(), places.end(), 0);
    double least = 1e18;
    std::vector<bool> taken(places.size(), false);
    const auto search = [&](auto&& self, int left, double sum) -> void {
      if (sum >= least) return;
      if (left == lefts) {
        least = sum;
        return;
      }
      for (size_t j = 0; j < places.size(); ++j) {
        if (taken[j]) continue;
        taken[j] = true;
        self(self, left + 1, sum + cost[left][j]);
        taken[j] = false;
      }
    };
    search(search, 0, 0);
    double total = 0;
    const std::vector<int> found = least_assignment(lefts, rights, pairs, alone);
    std::vector<int> used(rights, 0);
    for (int i = 0; i < lefts; ++i) {
      total += found[i] < 0 ? alone : cost[i][found[i]];
      if (found[i] >= 0) ++used[found[i]];
    }
    for (const int times : used) EXPECT_LE(times, 1);
    EXPECT_NEAR(total, least, 1e-9) << "round " << round;
  }
}

}  // namespace
}  // namespace anvil
