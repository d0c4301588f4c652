// Corrections, each on a part whose every number is known, against the same part built directly.
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeWedge.hxx>

#include "support/correction_case.h"

namespace anvil::test {
namespace {

// A block of that height, 80 x 40 at the bottom, whose side at high X leans inward by one in two.
TopoDS_Shape wedge(double height) {
  return BRepPrimAPI_MakeWedge(gp_Ax2(gp_Pnt(0, 40, 0), gp_Dir(0, -1, 0), gp_Dir(1, 0, 0)), 80, height, 40, 0,
                               0, 80 - height / 2, 40)
      .Shape();
}

// Three holes of 6 at X 10, 40 and 70, the middle one at its own Y.
TopoDS_Shape in_row(double middle_y) {
  return drilled(drilled(drilled(plain(), {10, 20, 20}, 6, 20), {40, middle_y, 20}, 6, 20), {70, 20, 20}, 6,
                 20);
}

gp_Pnt corner_of_pocket(double x, double y) {
  const double r = 3 * std::sqrt(0.5);
  return {60 + x * (7 + r), 20 + y * (4 + r), 16};
}

std::vector<CorrectionCase> cases_of_holes_and_faces() {
  const gp_Pnt top(20, 20, 20), far(60, 20, 20);
  const TopoDS_Shape one = drilled(plain(), top, 10, 20), blind = drilled(plain(), top, 10, 12);
  const TopoDS_Shape boss = join(plain(), {rod(gp_Ax2(far, gp_Dir(0, 0, 1)), 16, 6)});
  const TopoDS_Shape pocketed = cut(one, {pocket(gp_Ax2(far, gp_Dir(0, 0, 1)), small_pocket())});
  const ParameterTexts by{{"dx", "12.5"}, {"dy", "-3"}};
  return {
      {"through hole closed",
       one,
       "correct.close",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 10})};
       },
       {},
       plain()},
      {"blind hole closed by its floor",
       blind,
       "correct.close",
       [](const Mending& m) {
         return Picks{m.face({20, 20, 8})};
       },
       {},
       plain()},
      {"counterbored hole closed by its head",
       counterbored(plain(), top),
       "correct.close",
       [](const Mending& m) {
         return Picks{m.bore({25.5, 20, 17})};
       },
       {},
       plain()},
      {"pocket closed by a wall",
       pocketed,
       "correct.close",
       [](const Mending& m) {
         return Picks{m.face({60, 13, 16})};
       },
       {},
       one},
      {"boss taken off",
       boss,
       "correct.close",
       [](const Mending& m) {
         return Picks{m.bore({68, 20, 23})};
       },
       {},
       plain()},
      {"two holes closed at once",
       drilled(one, far, 8, 20),
       "correct.close",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 10}), m.bore({64, 20, 10})};
       },
       {},
       plain()},
      {"moved by numbers", one, "correct.move-by",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.bore({25, 20, 10})};
       },
       by, drilled(plain(), {32.5, 17, 20}, 10, 20)},
      {"moved over where it was",
       one,
       "correct.move-by",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.bore({25, 20, 10})};
       },
       {{"dx", "0.35"}},
       drilled(plain(), {20.35, 20, 20}, 10, 20)},
      {"counterbored hole moved", counterbored(plain(), top), "correct.move-by",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.bore({25.5, 20, 17})};
       },
       by, counterbored(plain(), {32.5, 17, 20})},
      {"through hole moved to where the part is thicker",
       cut(one, {block({0, 0, 0}, {40, 40, 5})}),
       "correct.move-by",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.bore({25, 20, 10})};
       },
       {{"dx", "40"}},
       drilled(cut(plain(), {block({0, 0, 0}, {40, 40, 5})}), far, 10, 20)},
      {"two holes keep their pattern",
       drilled(one, far, 8, 20),
       "correct.move-by",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.bore({25, 20, 10}), m.bore({64, 20, 10})};
       },
       {{"dy", "5"}},
       drilled(drilled(plain(), {20, 25, 20}, 10, 20), {60, 25, 20}, 8, 20)},
      {"moved onto a circle's centre, over a hole that was there",
       drilled(one, far, 8, 3),
       "correct.move-to",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 10}), m.centre({60, 24, 20})};
       },
       {},
       drilled(plain(), far, 10, 20)},
      {"wider",
       one,
       "correct.resize",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 10})};
       },
       {{"diameter", "12"}},
       drilled(plain(), top, 12, 20)},
      {"narrower",
       one,
       "correct.resize",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 10})};
       },
       {{"diameter", "8"}},
       drilled(plain(), top, 8, 20)},
      {"through made blind and flat",
       one,
       "correct.resize",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 10})};
       },
       {{"end", "blind"}, {"depth", "12"}, {"tip", "flat"}},
       blind},
      {"blind made through",
       blind,
       "correct.resize",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 14})};
       },
       {{"end", "through"}},
       one},
      {"given a counterbore",
       drilled(plain(), top, 6, 20),
       "correct.resize",
       [](const Mending& m) {
         return Picks{m.bore({23, 20, 10})};
       },
       {{"head", "counterbore"}, {"head_diameter", "11"}, {"head_depth", "5"}},
       counterbored(plain(), top)},
      {"its counterbore taken away",
       counterbored(plain(), top),
       "correct.resize",
       [](const Mending& m) {
         return Picks{m.bore({25.5, 20, 17})};
       },
       {{"head", "none"}},
       drilled(plain(), top, 6, 20)},
      {"added at a circle's centre",
       boss,
       "correct.add-at",
       [](const Mending& m) {
         return Picks{m.face({60, 20, 26}), m.edge({52, 20, 26})};
       },
       {{"diameter", "5"}},
       drilled(boss, {60, 20, 26}, 5, 26)},
      {"added by distances from two sides",
       plain(),
       "correct.add-by-distances",
       [](const Mending& m) {
         return Picks{m.face({40, 20, 20}), m.face({0, 20, 10}), m.face({40, 0, 10})};
       },
       {{"from_first", "20"}, {"from_second", "20"}, {"diameter", "10"}},
       one},
      {"a side pushed, a hole across it stays open",
       drilled(plain(), far, 10, 20),
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({40, 20, 20})};
       },
       {{"distance", "5"}},
       drilled(block({0, 0, 0}, {80, 40, 25}), {60, 20, 25}, 10, 25)},
      {"a side pushed in",
       drilled(plain(), far, 10, 20),
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({0, 20, 10})};
       },
       {{"distance", "-7.5"}},
       drilled(block({7.5, 0, 0}, {80, 40, 20}), far, 10, 20)},
      {"the top of a boss pushed",
       boss,
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({60, 20, 26})};
       },
       {{"distance", "2"}},
       join(plain(), {rod(gp_Ax2(far, gp_Dir(0, 0, 1)), 16, 8)})},
      {"a boss moved as a whole",
       boss,
       "correct.face-along",
       [](const Mending& m) {
         return Picks{m.edge({40, 0, 20}), m.bore({68, 20, 23})};
       },
       {{"distance", "-5"}, {"with", "all that it is part of"}},
       join(plain(), {rod(gp_Ax2(gp_Pnt(55, 20, 20), gp_Dir(0, 0, 1)), 16, 6)})},
      {"a pocket moved as a whole",
       pocketed,
       "correct.face-along",
       [](const Mending& m) {
         return Picks{m.edge({80, 20, 20}), m.face({60, 20, 12})};
       },
       {{"distance", "4"}, {"with", "all that it is part of"}},
       cut(one, {pocket(gp_Ax2(gp_Pnt(60, 24, 20), gp_Dir(0, 0, 1)), small_pocket())})},
      {"a pocket made deeper by its floor",
       pocketed,
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({60, 20, 12})};
       },
       {{"distance", "-3"}},
       cut(one, {pocket(gp_Ax2(far, gp_Dir(0, 0, 1)), {20, 14, 11, {3, 3, 3, 3}})})},
      {"a width set, both sides by half",
       one,
       "correct.face-distance",
       [](const Mending& m) {
         return Picks{m.face({40, 0, 10}), m.face({40, 40, 10})};
       },
       {{"distance", "46"}, {"moves", "both by half"}},
       drilled(block({0, -3, 0}, {80, 43, 20}), top, 10, 20)},
      {"a round-cornered side pushed with its corners",
       round_edges(plain(), gp_Dir(0, 0, 1), 5),
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({80, 20, 10}), m.bore({75 + 5 * std::sqrt(0.5), 5 - 5 * std::sqrt(0.5), 10}),
                      m.bore({75 + 5 * std::sqrt(0.5), 35 + 5 * std::sqrt(0.5), 10})};
       },
       {{"distance", "5"}},
       round_edges(block({0, 0, 0}, {85, 40, 20}), gp_Dir(0, 0, 1), 5)},
      {"a round-cornered top pushed",
       round_edges(plain(), gp_Dir(0, 0, 1), 5),
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({40, 20, 20})};
       },
       {{"distance", "5"}},
       round_edges(block({0, 0, 0}, {80, 40, 25}), gp_Dir(0, 0, 1), 5)},
      {"a leaning wall keeps its lean",
       wedge(20),
       "correct.face-push",
       [](const Mending& m) {
         return Picks{m.face({20, 20, 20})};
       },
       {{"distance", "4"}},
       wedge(24)},
      {"a drilled point moved with its hole",
       cut(plain(), {rod(gp_Ax2(top, kDown), 10, 10), taper(gp_Ax2(gp_Pnt(20, 20, 10), kDown), 10, 0, 3)}),
       "correct.face-along",
       [](const Mending& m) {
         return Picks{m.edge({40, 0, 20}), m.bore({25, 20, 15})};
       },
       {{"distance", "6"}, {"with", "all that it is part of"}},
       cut(plain(), {rod(gp_Ax2(gp_Pnt(26, 20, 20), kDown), 10, 10),
                     taper(gp_Ax2(gp_Pnt(26, 20, 10), kDown), 10, 0, 3)})},
      {"the one that missed its row comes into line",
       in_row(20.35),
       "correct.line-up",
       [](const Mending& m) {
         return Picks{m.bore({13, 20, 10}), m.bore({43, 20.35, 10}), m.bore({73, 20, 10})};
       },
       {},
       in_row(20)},
      {"onto the line between two",
       in_row(24),
       "correct.move-onto",
       [](const Mending& m) {
         return Picks{m.bore({43, 24, 10}), m.bore({13, 20, 10}), m.bore({73, 20, 10})};
       },
       {},
       in_row(20)},
      {"along an edge",
       one,
       "correct.move-along",
       [](const Mending& m) {
         return Picks{m.edge({40, 0, 20}), m.bore({25, 20, 10})};
       },
       {{"distance", "15"}},
       drilled(plain(), {35, 20, 20}, 10, 20)},
      {"along the axis of another hole",
       drilled(plain(), top, 10, 4),
       "correct.add-along",
       [](const Mending& m) {
         return Picks{m.bore({25, 20, 18}), m.face({60, 20, 0})};
       },
       {{"diameter", "4"}},
       drilled(drilled(plain(), top, 10, 4), top, 4, 20)},
      {"where the face was clicked, with a countersink",
       plain(),
       "correct.add-clicked",
       [](const Mending& m) {
         return Picks{m.clicked(m.face({40, 20, 20}), {30, 15, 20})};
       },
       {{"diameter", "4"}, {"head", "countersink"}, {"head_diameter", "8"}},
       cut(plain(), {rod(gp_Ax2(gp_Pnt(30, 15, 20), kDown), 4, 20),
                     taper(gp_Ax2(gp_Pnt(30, 15, 20), kDown), 8, 4, 2)})},
      {"repeated along an edge, one left out",
       drilled(plain(), {10, 20, 20}, 6, 20),
       "correct.repeat-along",
       [](const Mending& m) {
         return Picks{m.edge({40, 0, 20}), m.bore({13, 20, 10})};
       },
       {{"places", "4"}, {"length", "20"}, {"skip", "3"}},
       drilled(drilled(drilled(plain(), {10, 20, 20}, 6, 20), {30, 20, 20}, 6, 20), {70, 20, 20}, 6, 20)},
      {"four round an axis",
       drilled(drilled(plain(), {40, 20, 20}, 10, 20), {52, 20, 20}, 4, 20),
       "correct.repeat-about",
       [](const Mending& m) {
         return Picks{m.bore({45, 20, 10}), m.bore({54, 20, 10})};
       },
       {},
       drilled(drilled(drilled(drilled(drilled(plain(), {40, 20, 20}, 10, 20), {52, 20, 20}, 4, 20),
                               {28, 20, 20}, 4, 20),
                       {40, 32, 20}, 4, 20),
               {40, 8, 20}, 4, 20)},
      {"mirrored at a side",
       drilled(plain(), {10, 20, 20}, 6, 20),
       "correct.repeat-mirrored",
       [](const Mending& m) {
         return Picks{{EntryReference{m.middle}, {}}, m.bore({13, 20, 10})};
       },
       {},
       drilled(drilled(plain(), {10, 20, 20}, 6, 20), {70, 20, 20}, 6, 20)},
      {"another radius for all corners of a pocket",
       pocketed,
       "correct.radius",
       [](const Mending& m) {
         return Picks{m.bore(corner_of_pocket(1, 1)), m.bore(corner_of_pocket(1, -1)),
                      m.bore(corner_of_pocket(-1, 1)), m.bore(corner_of_pocket(-1, -1))};
       },
       {{"radius", "5"}},
       cut(one, {pocket(gp_Ax2(far, gp_Dir(0, 0, 1)), {20, 14, 8, {5, 5, 5, 5}})})},
      {"a block joined",
       plain(),
       "correct.body-block",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.face({40, 20, 20})};
       },
       {{"x", "20"}, {"y", "10"}, {"z", "30"}, {"zero", "its corner"}},
       join(plain(), {block({0, 0, 0}, {20, 10, 30})})},
      {"a cylinder cut away",
       plain(),
       "correct.body-cylinder",
       [](const Mending& m) {
         return Picks{Mending::reading(), m.face({40, 20, 20})};
       },
       {{"diameter", "20"}, {"height", "5"}, {"how", "cut away"}},
       cut(plain(), {rod(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), 20, 5)})},
      {"a ball cut away",
       plain(),
       "correct.body-ball",
       [](const Mending& m) {
         return Picks{m.vertex({80, 40, 20}), m.face({40, 20, 20})};
       },
       {{"diameter", "12"}, {"how", "cut away"}},
       cut(plain(), {BRepPrimAPI_MakeSphere(gp_Pnt(80, 40, 20), 6).Shape()})},
      {"cut in the middle",
       one,
       "correct.cut-at-plane",
       [](const Mending& m) {
         return Picks{{EntryReference{m.middle}, {}}, m.face({40, 20, 0})};
       },
       {},
       block({40, 0, 0}, {80, 40, 20})},
      {"trimmed by a notch that ends halfway",
       cut(plain(), {rod(gp_Ax2(gp_Pnt(0, 0, 20), kDown), 20, 10)}),
       "correct.trim",
       [](const Mending& m) {
         return Picks{m.bore({10 * std::sqrt(0.5), 10 * std::sqrt(0.5), 15}), m.face({40, 20, 0})};
       },
       {},
       cut(plain(), {rod(gp_Ax2(gp_Pnt(0, 0, 20), kDown), 20, 20)})},
      {"trimmed by a tapered notch",
       cut(plain(), {taper(gp_Ax2(gp_Pnt(0, 0, 20), kDown), 20, 16, 10)}),
       "correct.trim",
       [](const Mending& m) {
         return Picks{m.face({9 * std::sqrt(0.5), 9 * std::sqrt(0.5), 15}, SurfaceKind::kCone),
                      m.face({40, 20, 0})};
       },
       {},
       cut(plain(), {taper(gp_Ax2(gp_Pnt(0, 0, 20), kDown), 20, 12, 20)})},
  };
}

// Made once: their names are asked for one by one.
const std::vector<CorrectionCase>& cases() {
  static const std::vector<CorrectionCase> all = [] {
    auto some = cases_of_holes_and_faces();
    for (CorrectionCase& c : cases_of_raised_and_repeated()) some.push_back(std::move(c));
    return some;
  }();
  return all;
}

class CorrectionCases : public testing::TestWithParam<size_t> {};

TEST_P(CorrectionCases, GiveThePartThatIsMadeDirectly) {
  const CorrectionCase& c = cases()[GetParam()];
  SCOPED_TRACE(c.name);
  Mending m(c.start);
  const int id = m.keep(c.id, c.picks(m), c.numbers);
  const Evaluation now = evaluate(m.job);
  const Evaluated& entry = current(now, id);
  if (entry.state != EntryState::kCurrent) return;
  expect_same_part(now.part, c.made);
  ASSERT_TRUE(entry.corrected);
  const TopoDS_Shape& before = c.before.IsNull() ? c.start : c.before;
  const double whole = volume_properties(before).volume_mm3;
  const double gained = volume_properties(c.made).volume_mm3 - whole;
  // Told is what really comes and goes, not what is closed and cut again on the way.
  const double added = c.adds_mm3.value_or(volume_properties(cut(c.made, {before})).volume_mm3);
  EXPECT_NEAR(entry.corrected->added_mm3, added, 1e-6 * whole);
  EXPECT_NEAR(entry.corrected->added_mm3 - entry.corrected->removed_mm3, gained, 1e-6 * whole);
}

INSTANTIATE_TEST_SUITE_P(All, CorrectionCases, testing::Range<size_t>(0, cases().size()),
                         [](const auto& given) {
                           std::string name = cases()[given.param].name;
                           for (char& c : name)
                             if (!std::isalnum(static_cast<unsigned char>(c))) c = '_';
                           return name;
                         });

// Of two bodies, or of faces that are split, in tests of their own.
TEST(Corrections, EveryOneHasItsCase) {
  std::set<std::string> tried{"correct.cut-by-body", "correct.face-split"};
  for (const CorrectionCase& c : cases()) tried.insert(c.id);
  for (const Construction& c : constructions())
    EXPECT_TRUE(c.makes != Makes::kCorrection || tried.count(c.id)) << c.id;
}

}  // namespace
}  // namespace anvil::test
