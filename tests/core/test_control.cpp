// The simulated control, line by line; and probing: what is found from touches is where the part was put.
#include "stand-ins/control/control.h"

#include <gtest/gtest.h>

#include <fmt/format.h>

#include "base/units.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "setup/probing.h"
#include "setup/shipped_machines.h"
#include "support/fixtures.h"
#include "support/random.h"

namespace anvil {
namespace {

using control::Control;
using control::Conversation;
using control::Probe;

Machine cradle() {
  for (const Machine& machine : shipped_machines())
    if (machine.id == "cradle-ac") return machine;
  return {};
}

std::string program(Conversation& control, const std::vector<std::string>& lines) {
  std::string answer = control.answer(fmt::format("PROGRAM {}", lines.size()));
  for (const std::string& line : lines) answer += control.answer(line);
  return answer;
}

TEST(Control, TakesOffsetProgramsAndTellsThemBack) {
  Control machine(cradle());
  Conversation control(machine);
  EXPECT_EQ(control.answer("HELLO true-anvil 1"), "OK control 1 Cradle A with rotary table C\n");
  EXPECT_EQ(program(control, {"%", "(OP10)", "G21 G90", "G10 L2 P1 X1.5 Y-2 Z-300",
                              "G10 L20 P7 X.25 (X ONLY)", "M30", "%"}),
            "OK 7 lines\n");
  EXPECT_EQ(control.answer("OFFSET G54"), "OFFSET G54 X1.500000 Y-2.000000 Z-300.000000\n");
  EXPECT_EQ(control.answer("OFFSET G54.1 P7"), "OFFSET G54.1 P7 X0.250000 Y0.000000 Z0.000000\n");
  EXPECT_EQ(
      control.answer("OFFSETS"),
      "OFFSET G54 X1.500000 Y-2.000000 Z-300.000000\nOFFSET G54.1 P7 X0.250000 Y0.000000 Z0.000000\nEND\n");
  EXPECT_EQ(program(control, {"G20", "G10 L2 P2 X1 Y0 Z-1"}), "OK 2 lines\n");
  EXPECT_EQ(control.answer("OFFSET G55"), "OFFSET G55 X25.400000 Y0.000000 Z-25.400000\n");
}

TEST(Control, WhoTalksToItAtOnceDoesNotDisturbTheOther) {
  Control machine(cradle());
  Conversation one(machine), other(machine);
  EXPECT_EQ(one.answer("PROGRAM 2"), "");
  EXPECT_EQ(one.answer("G10 L2 P1 X1 Y2 Z-3"), "");
  EXPECT_EQ(other.answer("OFFSET G54"), "OFFSET G54 X0.000000 Y0.000000 Z0.000000\n");
  EXPECT_EQ(other.answer("BYE"), "OK\n");
  EXPECT_TRUE(other.is_leaving());
  EXPECT_FALSE(one.is_leaving());
  EXPECT_EQ(one.answer("M30"), "OK 2 lines\n");
  EXPECT_EQ(one.answer("OFFSET G54"), "OFFSET G54 X1.000000 Y2.000000 Z-3.000000\n");
  EXPECT_EQ(one.answer("PROBE " + std::string(400, '9')).rfind("REFUSED ", 0), 0u);
}

TEST(Control, RefusesAWholeProgramForOneBadLineAndKeepsItsTable) {
  Control machine(cradle());
  Conversation control(machine);
  program(control, {"G10 L2 P1 X1 Y2 Z-3"});
  const std::pair<const char*, const char*> bad[] = {{"G10 L2 P1 X401", "G54 X 401.000 is beyond -400...400"},
                                                     {"G10 L2 P7 X0", "P7 is none of 1 to 6"},
                                                     {"G10 L3 P1", "L2 or L20"},
                                                     {"G1 X5", "G1 is not taken"},
                                                     {"X5", "a G word is wanted"},
                                                     {"G10 L2 P1 X--5", "cannot be read"}};
  for (const auto& [line, why] : bad) {
    const std::string answer = program(control, {"G10 L2 P1 X9 Y9 Z-9", line});
    EXPECT_EQ(answer.rfind("REFUSED line 2: ", 0), 0u) << answer;
    EXPECT_NE(answer.find(why), std::string::npos) << answer;
    EXPECT_EQ(control.answer("OFFSET G54"), "OFFSET G54 X1.000000 Y2.000000 Z-3.000000\n");
  }
}

TEST(Control, TurnsWithinItsLimitsOnly) {
  Control machine(cradle());
  Conversation control(machine);
  EXPECT_EQ(control.answer("PLANE G55 A-90 C180"), "AT G55 A-90.000000 C180.000000\n");
  EXPECT_EQ(control.answer("ROTARY A45"), "REFUSED A 45.000 is beyond -120...30\n");
  EXPECT_EQ(control.answer("ROTARY B1").rfind("REFUSED ", 0), 0u);
  EXPECT_EQ(control.answer("PLANE G99 A0").rfind("REFUSED ", 0), 0u);
  EXPECT_EQ(control.answer("WHERE"), "AT G55 A-90.000000 C180.000000\n");
  EXPECT_EQ(control.answer("PLANE G54.1 P3 A0 C0"), "AT G54.1 P3 A0.000000 C0.000000\n");
}

// Nothing that comes over the line takes it down or leaves it waiting for ever.
TEST(Control, AnswersNonsenseWithARefusal) {
  Control machine(cradle());
  Conversation control(machine);
  for (const char* line : {"", "hello", "PROGRAM", "PROGRAM -1", "PROGRAM 99999999999", "PROGRAM 0", "OFFSET",
                           "PROBE 1 2", "PROBE nan 0 0 0 0 1 5", "ROTARY A", "ROTARY Ainf", "\x01\x02\xff"})
    EXPECT_EQ(control.answer(line).rfind("REFUSED ", 0), 0u) << line;
  test::Random random(20261202);
  for (int i = 0; i < 2000; ++i) {
    std::string line;
    for (int k = random.whole(0, 30); k > 0; --k) line += static_cast<char>(random.whole(1, 255));
    const std::string answer = control.answer(line);
    EXPECT_TRUE(answer.empty() || answer.back() == '\n');
    if (answer.empty()) control.answer("");  // a program of one line
  }
  EXPECT_EQ(control.answer("OFFSET G54").rfind("OFFSET G54 ", 0), 0u);
}

class Probing : public testing::Test {
 protected:
  PartPtr part = test::part_of(demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                                         {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20)}));
  gp_Trsf lies = [] {
    gp_Trsf turn, shift;
    turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(1, 2, 3)), 1.1);
    shift.SetTranslation(gp_Vec(100, -50, -300));
    return shift * turn;
  }();
  int face(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) const {
    return test::face_at(*part, at, kind);
  }

  std::vector<Touch> touch(Probe& probe, const std::vector<int>& faces) const {
    std::vector<Touch> touched;
    for (const int f : faces) {
      const auto moves = probe_moves(*part, f, lies, 6);
      EXPECT_TRUE(moves) << moves.error().sentence;
      for (const ProbeMove& move : *moves)
        if (const auto at = probe.touch(move.start, move.along, move.reach_mm)) touched.push_back({f, *at});
    }
    return touched;
  }
};

TEST_F(Probing, TouchesLieOnTheFaceClearOfItsEdges) {
  const auto moves = probe_moves(*part, face({60, 20, 20}), lies, 4);
  ASSERT_TRUE(moves);
  ASSERT_EQ(moves->size(), 4u);
  for (const ProbeMove& move : *moves) {
    const gp_Pnt at = move.target.Transformed(lies.Inverted());
    EXPECT_NEAR(at.Z(), 20, 1e-9);
    EXPECT_GT(at.X(), 5);
    EXPECT_LT(at.X(), 75);
    EXPECT_GT(std::hypot(at.X() - 20, at.Y() - 20), 5);  // not into the hole
    EXPECT_TRUE(move.along.IsEqual(gp_Dir(0, 0, -1).Transformed(lies), 1e-12));
  }
  const auto bore = probe_moves(*part, face({15, 20, 10}, SurfaceKind::kCylinder), lies, 6);
  ASSERT_TRUE(bore);
  for (const ProbeMove& move : *bore) {
    const gp_Pnt start = move.start.Transformed(lies.Inverted());
    EXPECT_LT(std::hypot(start.X() - 20, start.Y() - 20), 5);
  }
}

// Three faces that meet in a corner fix all six freedoms: the part is found wherever it was put.
TEST_F(Probing, CornerIsFoundWhereThePartWasPut) {
  for (unsigned seed = 1; seed <= 12; ++seed) {
    const gp_Trsf by_hand = control::put_down_by_hand(gp_Pnt(100, -50, -300), 2, radians(1), seed);
    Probe probe(part->shape(), by_hand * lies, 0, seed);
    const auto place =
        probed_place(*part, lies, touch(probe, {face({60, 20, 20}), face({40, 0, 10}), face({0, 20, 10})}));
    ASSERT_TRUE(place) << place.error().sentence;
    EXPECT_EQ(place->freedoms_fixed, 6);
    EXPECT_LT(place->quality.largest_mm, 1e-6);
    for (const gp_Pnt& corner : {gp_Pnt(0, 0, 0), gp_Pnt(80, 40, 20)}) {
      const gp_Pnt nominal = corner.Transformed(lies);
      EXPECT_LT(nominal.Transformed(place->motion).Distance(nominal.Transformed(by_hand)), 1e-5) << seed;
    }
  }
}

TEST_F(Probing, BoreFixesItsAxisAndAPlaneOnlyWhatItCan) {
  const gp_Trsf by_hand = control::put_down_by_hand(gp_Pnt(100, -50, -300), 1, radians(0.5), 5);
  Probe probe(part->shape(), by_hand * lies, 0, 1);
  const auto bore = probed_place(*part, lies, touch(probe, {face({15, 20, 10}, SurfaceKind::kCylinder)}));
  ASSERT_TRUE(bore);
  EXPECT_EQ(bore->freedoms_fixed, 4);
  const gp_Ax1 axis = gp_Ax1(gp_Pnt(20, 20, 0), gp_Dir(0, 0, 1)).Transformed(lies);
  const gp_Ax1 found = axis.Transformed(bore->motion), truth = axis.Transformed(by_hand);
  EXPECT_LT(found.Direction().Angle(truth.Direction()), 1e-6);
  EXPECT_LT(distance(found, truth.Location()), 1e-5);
  const auto top = probed_place(*part, lies, touch(probe, {face({60, 20, 20})}));
  ASSERT_TRUE(top);
  EXPECT_EQ(top->freedoms_fixed, 3);
}

// With a spread the residuals have it, less what the fit takes up: chi squared with touches less freedoms.
TEST_F(Probing, SpreadShowsInTheResiduals) {
  constexpr double kSpread = 0.01;
  double sum = 0;
  int freedoms = 0;
  for (unsigned seed = 1; seed <= 40; ++seed) {
    Probe probe(part->shape(), lies, kSpread, seed);
    const auto touched = touch(probe, {face({60, 20, 20}), face({40, 0, 10}), face({0, 20, 10})});
    const auto place = probed_place(*part, lies, touched);
    ASSERT_TRUE(place);
    for (const double r : place->residuals_mm) sum += r * r;
    freedoms += static_cast<int>(touched.size()) - place->freedoms_fixed;
  }
  EXPECT_NEAR(std::sqrt(sum / freedoms) / kSpread, 1, 0.15);
}

TEST_F(Probing, RefusesWhatCannotBeTouched) {
  const auto ball = test::part_of(demo::taper(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), 20, 10, 10));
  for (size_t i = 0; i < ball->topology().faces.size(); ++i) {
    if (ball->topology().faces[i].surface.kind == SurfaceKind::kCone) {
      EXPECT_FALSE(probe_moves(*ball, static_cast<int>(i), lies, 4));
    }
  }
  EXPECT_FALSE(probed_place(*part, lies, {}));
}

}  // namespace
}  // namespace anvil
