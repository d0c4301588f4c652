// Every construction of points, axes, planes and measurements on a part of simple numbers: the result worked
// out by hand, and the same wherever the part lies, mirrored, small, and stored as B-splines.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "support/construction_cases.h"
#include "support/givens.h"
#include "support/pieces.h"

namespace anvil {
namespace {

using test::Case;
using test::Fact;

struct Setting {
  const char* name;
  gp_Trsf motion;
  double bound_mm;
  bool mirrored = false;
  bool as_splines = false;
};
std::ostream& operator<<(std::ostream& out, const Setting& s) {
  return out << s.name;
}

gp_Trsf away(double mm) {
  gp_Trsf shift;
  shift.SetTranslation(gp_Vec(gp_Dir(0.6, -0.64, 0.48)) * mm);
  return shift;
}

std::vector<Setting> settings() {
  gp_Trsf turned, mirror, small;
  turned.SetRotation(gp_Ax1(gp_Pnt(3, 4, 5), gp_Dir(1, 2, 3)), 1.234);
  mirror.SetMirror(gp_Ax2(gp_Pnt(3, 4, 5), gp_Dir(3, -1, 2)));
  small.SetScale(gp_Pnt(0, 0, 0), 0.002);  // holes of a hundredth across the radius
  return {{"as drawn", {}, 1e-7},           {"turned in space", turned, 1e-7},
          {"mirrored", mirror, 1e-7, true}, {"ten kilometres away", away(1e7) * turned, 2e-5},
          {"small", turned * small, 1e-7},  {"as B-splines", turned, 1e-4, false, true}};
}

class ConstructionCases : public testing::TestWithParam<Setting> {
 protected:
  void try_all(const std::vector<Case>& cases) {
    const test::Pieces pieces(GetParam().motion, GetParam().as_splines);
    for (const Case& c : cases) {
      if (!c.mirrors && GetParam().mirrored) continue;
      // Which way the axis of a spline looks is nobody's choice, and frames stand on it.
      if (GetParam().as_splines && std::string(c.id).rfind("frame.", 0) == 0) continue;
      std::string about = std::string(c.id) + ":";
      for (const std::string& pick : c.picks) about += " " + pick;
      SCOPED_TRACE(about);
      try_one(c, pieces);
    }
  }

 private:
  [[nodiscard]] double scale() const { return std::abs(GetParam().motion.ScaleFactor()); }

  void try_one(const Case& c, const test::Pieces& pieces) {
    std::vector<Given> givens;
    for (const std::string& pick : c.picks) {
      givens.push_back(pieces(pick));
      // Results are kept by the element alone where the role asks for nothing of its body: none may look.
      const Construction* construction = find_construction(c.id);
      if (construction && need_of(*construction, givens.size() - 1) != Need::kOfBody)
        givens.back().body.Nullify();
    }
    ParameterTexts texts = c.parameters;
    for (auto& [id, text] : texts)
      if (const size_t at = text.find("*s"); at != std::string::npos)
        text = text.substr(0, at) + fmt::format("*{:.17g}", scale());
    const auto made = test::run(c.id, givens, texts);
    if (c.refused) return expect_refusal(made, *c.refused);
    ASSERT_TRUE(made) << made.error().sentence;
    ASSERT_EQ(made->size(), c.expected.size());
    for (const std::vector<double>& expected : c.expected)
      EXPECT_TRUE(
          std::any_of(made->begin(), made->end(), [&](const Solution& s) { return agrees(s, expected); }))
          << made->front().note << "; " << testing::PrintToString(expected) << " is not among the solutions";
  }

  void expect_refusal(const Solutions& made, const Fact& fact) const {
    ASSERT_FALSE(made);
    EXPECT_EQ(made.error().code, RefusalCode::kGeometry);
    EXPECT_TRUE(made.error().instead.empty() || find_construction(made.error().instead))
        << made.error().instead;
    const std::string name = fact.name;
    if (name.empty()) return;
    const bool is_length = name.size() > 3 && name.substr(name.size() - 3) == "_mm";
    ASSERT_TRUE(made.error().facts.count(name)) << made.error().sentence;
    EXPECT_NEAR(made.error().facts.at(name), fact.value * (is_length ? scale() : 1), GetParam().bound_mm);
  }

  [[nodiscard]] gp_Pnt moved(const std::vector<double>& e) const {
    return gp_Pnt(e[0], e[1], e[2]).Transformed(GetParam().motion);
  }
  [[nodiscard]] gp_Dir turned(const std::vector<double>& e) const {
    return gp_Dir(e[3], e[4], e[5]).Transformed(GetParam().motion);
  }

  [[nodiscard]] bool agrees(const Solution& solution, const std::vector<double>& e) const {
    const double bound = GetParam().bound_mm, angular = std::max(1e-9, bound / 100 / scale());
    if (const auto* p = std::get_if<PointDatum>(&solution.value)) return p->point.Distance(moved(e)) < bound;
    if (const auto* a = std::get_if<AxisDatum>(&solution.value))
      return parallel(a->axis.Direction(), turned(e), angular) && distance(a->axis, moved(e)) < bound;
    if (const auto* p = std::get_if<PlaneDatum>(&solution.value))
      return parallel(p->plane.Axis().Direction(), turned(e), angular) &&
             std::abs(height_over(p->plane, moved(e))) < bound;
    if (const auto* frame = std::get_if<FrameDatum>(&solution.value))
      return frame->frame.Location().Distance(moved(e)) < bound &&
             frame->frame.Direction().Angle(turned(e)) < angular &&
             frame->frame.XDirection().Angle(gp_Dir(e[6], e[7], e[8]).Transformed(GetParam().motion)) <
                 angular;
    if (const auto* figure = std::get_if<FigureDatum>(&solution.value)) return agrees(*figure, e);
    const auto& m = std::get<Measurement>(solution.value);
    bool good = e.size() == 1 + m.details.size() && near(m.kind, m.value, e[0]);
    for (size_t i = 0; i < m.details.size() && good; ++i)
      good = near(m.details[i].kind, m.details[i].value, e[i + 1]);
    return good;
  }

  [[nodiscard]] bool agrees(const FigureDatum& figure, const std::vector<double>& e) const {
    bool good = e.size() == figure.edges.size() * 6;
    for (size_t i = 0; i < figure.edges.size() && good; ++i) {
      const auto from = e.begin() + static_cast<long>(6 * i);
      const gp_Pnt start = *given_by_curve(figure.edges[i], Snap::kStart).point,
                   middle = *given_by_curve(figure.edges[i], Snap::kMiddle).point;
      good = start.Distance(moved({from, from + 3})) < GetParam().bound_mm &&
             middle.Distance(moved({from + 3, from + 6})) < GetParam().bound_mm;
    }
    return good;
  }

  [[nodiscard]] bool near(Measurement::Kind kind, double value, double expected) const {
    const int power = kind == Measurement::Kind::kAngle      ? 0
                      : kind == Measurement::Kind::kDistance ? 1
                      : kind == Measurement::Kind::kArea     ? 2
                                                             : 3;
    // Areas and volumes are integrated by the kernel, to a few digits less.
    const double wanted = expected * std::pow(scale(), power);
    return std::abs(value - wanted) < GetParam().bound_mm + (power > 1 ? 1e-6 * std::abs(wanted) : 0);
  }
};

TEST_P(ConstructionCases, Points) {
  try_all(test::point_cases());
}
TEST_P(ConstructionCases, Axes) {
  try_all(test::axis_cases());
}
TEST_P(ConstructionCases, Planes) {
  try_all(test::plane_cases());
}
TEST_P(ConstructionCases, Figures) {
  try_all(test::figure_cases());
}
TEST_P(ConstructionCases, Frames) {
  try_all(test::frame_cases());
}
TEST_P(ConstructionCases, Scans) {
  try_all(test::scan_cases());
}
TEST_P(ConstructionCases, Measurements) {
  try_all(test::measure_cases());
}

INSTANTIATE_TEST_SUITE_P(Everywhere, ConstructionCases, testing::ValuesIn(settings()));

// No construction is left without a case.
TEST(ConstructionCoverage, EveryConstructionHasItsCase) {
  std::set<std::string> tried{"point.of-box", "plane.as-seen", "frame.of-box", "frame.paired",
                              "frame.as-seen"};  // below
  for (const Case& c : test::all_cases()) tried.insert(c.id);
  for (const Construction& c : constructions())
    if (c.makes != Makes::kPlacement && c.makes != Makes::kCorrection) {  // test_correction_cases.cpp
      EXPECT_TRUE(tried.count(c.id)) << c.id;
    }
}

TEST(BoxPoints, AreTheTwentySevenOfTheBodyInTheFrame) {
  const test::Pieces pieces;
  const auto made = test::run("point.of-box", {pieces("top"), pieces("frame 5 0 0")});
  ASSERT_TRUE(made);
  ASSERT_EQ(made->size(), 27u);
  const auto at = [&](const char* key) {
    return std::get<PointDatum>((*made)[chosen(*made, key)].value).point;
  };
  EXPECT_LT(at("x-.y-.z-").Distance(gp_Pnt(0, 0, 0)), 1e-6);
  EXPECT_LT(at("x0.y0.z+").Distance(gp_Pnt(40, 20, 20)), 1e-6);
  EXPECT_LT(at("x+.y0.z0").Distance(gp_Pnt(80, 20, 10)), 1e-6);
}

TEST(BoxFrames, StandAtTheTwentySevenWithZOutOfAnySide) {
  const test::Pieces pieces;
  for (const auto& [side, z] :
       {std::pair{"+Z", gp_Dir(0, 0, 1)}, {"-X", gp_Dir(-1, 0, 0)}, {"+Y", gp_Dir(0, 1, 0)}}) {
    const auto made = test::run("frame.of-box", {pieces("top"), pieces("frame 5 0 0")}, {{"z", side}});
    ASSERT_TRUE(made);
    ASSERT_EQ(made->size(), 27u);
    const gp_Ax2 frame = std::get<FrameDatum>((*made)[chosen(*made, "x+.y0.z+")].value).frame;
    EXPECT_LT(frame.Location().Distance(gp_Pnt(80, 20, 20)), 1e-6);
    EXPECT_TRUE(frame.Direction().IsEqual(z, 1e-12));
  }
}

TEST(PairedFrame, ReadsThePointsAsTheyWereMeasured) {
  const test::Pieces pieces;
  const std::vector<Given> corners{pieces("corner"), pieces("corner2"), pieces("corner3"), pieces("corner4")};
  const gp_Ax2 truth = make_frame(gp_Pnt(30, -20, 10), gp_Dir(1, 2, 3), gp_Dir(1, 0, 0));
  std::string measured;
  for (const Given& corner : corners) {
    const gp_Pnt p = read_in(truth, *corner.point);
    measured += fmt::format("{:.12f}, {:.12f} {:.12f};\n", p.X(), p.Y(), p.Z());
  }
  const auto exact = test::run("frame.paired", corners, {{"measured", measured}});
  ASSERT_TRUE(exact) << exact.error().sentence;
  const gp_Ax2 found = std::get<FrameDatum>(exact->front().value).frame;
  EXPECT_LT(found.Location().Distance(truth.Location()), 1e-7);
  EXPECT_LT(found.Direction().Angle(truth.Direction()), 1e-9);
  EXPECT_LT(found.XDirection().Angle(truth.XDirection()), 1e-9);
  // One corner of a rectangle lifted by 0.04: a hundredth is left at each, as a plane through them has it.
  const auto lifted = test::run(
      "frame.paired",
      {pieces("point 0 0 0"), pieces("point 80 0 0"), pieces("point 80 40 0"), pieces("point 0 40 0")},
      {{"measured", "0 0 0; 80 0 0; 80 40 0; 0 40 0.04"}});
  ASSERT_TRUE(lifted);
  EXPECT_EQ(lifted->front().note.rfind("RMS 0.010, largest 0.010", 0), 0u) << lifted->front().note;
  for (const char* bad :
       {"", "1 2 3; 4 5 6; 7 8 9", "1 2; 3 4 5; 6 7 8; 9 9 9", "0 0 0; 0 0 0; 0 0 0; 0 0 0"})
    EXPECT_FALSE(test::run("frame.paired", corners, {{"measured", bad}})) << bad;
}

TEST(PlaneAsSeen, KeepsTheDirectionItWasSeenFrom) {
  const test::Pieces pieces;
  const auto made = test::run("plane.as-seen", {pieces("corner")}, {{"towards", "1, 0, 1"}});
  ASSERT_TRUE(made);
  const gp_Pln plane = std::get<PlaneDatum>(made->front().value).plane;
  EXPECT_TRUE(plane.Axis().Direction().IsEqual(gp_Dir(1, 0, 1), 1e-12));
  EXPECT_NEAR(height_over(plane, gp_Pnt(0, 0, 20)), 0, 1e-12);
  const auto seen =
      test::run("frame.as-seen", {pieces("corner")}, {{"towards", "0, 2, 0"}, {"right", "0, 0, 1"}});
  ASSERT_TRUE(seen);
  const gp_Ax2 frame = std::get<FrameDatum>(seen->front().value).frame;
  EXPECT_TRUE(frame.Direction().IsEqual(gp_Dir(0, 1, 0), 1e-12));
  EXPECT_TRUE(frame.XDirection().IsEqual(gp_Dir(0, 0, 1), 1e-12));
  for (const char* bad : {"", "1, 0", "0, 0, 0", "a, b, c", "1, 2, 3, 4"})
    EXPECT_FALSE(test::run("plane.as-seen", {pieces("corner")}, {{"towards", bad}})) << bad;
}

}  // namespace
}  // namespace anvil
