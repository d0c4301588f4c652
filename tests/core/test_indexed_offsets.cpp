// Work offsets of indexed positions, against homogeneous transforms composed step by step; work offset codes;
// and tool planes told in other forms.
#include <gtest/gtest.h>

#include <array>
#include <sstream>

#include "base/units.h"
#include "geom/primitives.h"
#include "setup/orientation.h"
#include "setup/shipped_machines.h"
#include "support/random.h"

namespace anvil {
namespace {

using Matrix = std::array<std::array<double, 4>, 4>;

Matrix product(const Matrix& a, const Matrix& b) {
  Matrix c{};
  for (int i = 0; i < 4; ++i)
    for (int j = 0; j < 4; ++j)
      for (int k = 0; k < 4; ++k) c[i][j] += a[i][k] * b[k][j];
  return c;
}
Matrix shift(double x, double y, double z) {
  return {{{1, 0, 0, x}, {0, 1, 0, y}, {0, 0, 1, z}, {0, 0, 0, 1}}};
}
Matrix about_x(double a) {
  return {{{1, 0, 0, 0}, {0, std::cos(a), -std::sin(a), 0}, {0, std::sin(a), std::cos(a), 0}, {0, 0, 0, 1}}};
}
Matrix about_y(double a) {
  return {{{std::cos(a), 0, std::sin(a), 0}, {0, 1, 0, 0}, {-std::sin(a), 0, std::cos(a), 0}, {0, 0, 0, 1}}};
}
Matrix about_z(double a) {
  return {{{std::cos(a), -std::sin(a), 0, 0}, {std::sin(a), std::cos(a), 0, 0}, {0, 0, 1, 0}, {0, 0, 0, 1}}};
}
gp_Pnt moved(const Matrix& m, const gp_Pnt& p) {
  const auto row = [&](int i) { return m[i][0] * p.X() + m[i][1] * p.Y() + m[i][2] * p.Z() + m[i][3]; };
  return gp_Pnt(row(0), row(1), row(2));
}

Machine machine_of(const char* id) {
  for (const Machine& machine : shipped_machines())
    if (machine.id == id) return machine;
  return {};
}

// A setup of two planes: its own, and one with zero `at` and the tool along `towards`.
struct Planned {
  Setup setup;
  SetupValue value;
  PlaceInMachine place;

  Planned(const gp_Pnt& at, const gp_Dir& towards) {
    setup.planes = {{"TP1", {}}};
    PlaneValue own{"OP10", world_frame(), world_frame(), {}, 0, {}}, plane = own;
    plane.name = "TP1";
    plane.frame = plane.in_setup = make_frame(at, towards, gp_Dir(1, 0.2, 0));
    value.frame = world_frame();
    value.planes = {own, plane};
  }
  std::vector<IndexedOffset> on(const Machine& machine) {
    reach_planes(machine, setup, place, value.planes);
    const auto offsets = indexed_offsets(machine, setup, value, place);
    EXPECT_TRUE(offsets) << (offsets ? "" : offsets.error().sentence);
    return *offsets;
  }
};

TEST(IndexedOffsets, OfATableTableMachineAreWhatTheTransformsSay) {
  const Machine cradle = machine_of("cradle-ac");
  test::Random random(20261129, 60);
  for (int i = 0; i < 200; ++i) {
    Planned p(random.point(), gp_Dir(random.between(-1, 1), random.between(-1, 1), 1.2));
    p.place = {random.point(), random.between(-1, 1), 0};
    const auto offsets = p.on(cradle);
    ASSERT_EQ(offsets.size(), 2u);
    // A turns left-handed about X at Z −420, C left-handed about Z: their axes are written −X and −Z.
    const double a = offsets[1].angles[0], c = offsets[1].angles[1];
    const Matrix place =
        product(shift(p.place.zero.X(), p.place.zero.Y(), p.place.zero.Z()), about_z(p.place.turn_rad));
    const Matrix cradled = product(shift(0, 0, -420), product(about_x(-a), shift(0, 0, 420)));
    const Matrix all = product(cradled, product(about_z(-c), place));
    EXPECT_LT(moved(all, offsets[1].in_setup).Distance(offsets[1].in_machine), 1e-9);
    EXPECT_LT(moved(place, offsets[1].in_setup).Distance(offsets[1].at_zero), 1e-9);
    // The plane's Z stands up in the machine, and its X lies at the angle that is told.
    const gp_Ax2& plane = p.value.planes[1].in_setup;
    const auto direction = [&](const gp_Dir& d) {
      return gp_Vec(moved(all, gp_Pnt(0, 0, 0)), moved(all, gp_Pnt(d.XYZ())));
    };
    EXPECT_LT((direction(plane.Direction()) - gp_Vec(0, 0, 1)).Magnitude(), 1e-9);
    EXPECT_LT((direction(plane.XDirection()) -
               gp_Vec(std::cos(offsets[1].turn_rad), std::sin(offsets[1].turn_rad), 0))
                  .Magnitude(),
              1e-9);
    EXPECT_LT(offsets[0].in_machine.Distance(p.place.zero), 1e-9);
  }
}

TEST(IndexedOffsets, OfAHeadTakeBackWhatTheTipMoves) {
  const Machine fork = machine_of("head-bc");
  Planned p(gp_Pnt(10, 20, 30), gp_Dir(std::sin(0.5), 0, std::cos(0.5)));
  p.place = {gp_Pnt(100, 200, -400), 0, 250};
  const auto offsets = p.on(fork);
  ASSERT_EQ(offsets.size(), 2u);
  const double c = offsets[1].angles[0], b = offsets[1].angles[1];
  const Matrix head = product(about_z(c), product(shift(0, 0, 180), product(about_y(b), shift(0, 0, -180))));
  const gp_Pnt tip = moved(head, gp_Pnt(0, 0, -250));
  const gp_Pnt expected = gp_Pnt(110, 220, -370).Translated(-gp_Vec(gp_Pnt(0, 0, -250), tip));
  EXPECT_LT(offsets[1].in_machine.Distance(expected), 1e-9);
}

TEST(IndexedOffsets, OfAMixedMachineMoveThePartByTheTableAlone) {
  const Machine nutating = machine_of("nutating-bc");
  Planned p(gp_Pnt(10, 20, 30), gp_Dir(0.3, 0.2, 1));
  p.place = {gp_Pnt(5, 6, -500), 0.3, 0};
  const auto offsets = p.on(nutating);
  ASSERT_EQ(offsets.size(), 2u);
  const Matrix all = product(about_z(-offsets[1].angles[1]), product(shift(5, 6, -500), about_z(0.3)));
  const gp_Pnt tip_at_zero(0, 0, 0), pivot(0, 0, 150);
  gp_Trsf head;
  head.SetRotation(gp_Ax1(pivot, gp_Dir(0, 1, 1)), offsets[1].angles[0]);
  const gp_Vec tip_moved(tip_at_zero, tip_at_zero.Transformed(head));
  EXPECT_LT(moved(all, gp_Pnt(10, 20, 30)).Translated(-tip_moved).Distance(offsets[1].in_machine), 1e-9);
}

TEST(IndexedOffsets, ProgramWritesThemWithTheirArithmetic) {
  Planned p(gp_Pnt(10, 20, 30), gp_Dir(0, 1, 0));
  p.place = {gp_Pnt(50, 60, -470), 0, 0};
  const Machine cradle = machine_of("cradle-ac");
  const auto offsets = p.on(cradle);
  const std::string program = offsets_program("OP10", cradle, p.place, offsets, Unit::kMillimetre);
  EXPECT_NE(program.find("G21 G90\n"), std::string::npos);
  EXPECT_NE(program.find("G10 L2 P1 X50.000 Y60.000 Z-470.000\n"), std::string::npos) << program;
  // (60, 80, −440): C 0, then a quarter turn about X through Z −420 brings Y up: y → −(z + 420), z → y − 420.
  EXPECT_NE(program.find("G10 L2 P2 X60.000 Y20.000 Z-340.000\n"), std::string::npos) << program;
  EXPECT_NE(program.find("(PLANE TP1: G55, ROTARY A-90.000 C0.000)"), std::string::npos) << program;
  const std::string inch = offsets_program("OP10", cradle, p.place, offsets, Unit::kInch);
  EXPECT_NE(inch.find("G20 G90\n"), std::string::npos);
  EXPECT_NE(inch.find("G10 L2 P2 X2.3622 Y0.7874 Z-13.3858\n"), std::string::npos) << inch;
  for (const char c : program) EXPECT_TRUE(c == '\n' || (c >= ' ' && c < 0x7f));
}

TEST(IndexedOffsets, NextFreeOnesAreTakenAndDoublesRefused) {
  Planned p(gp_Pnt(0, 0, 0), gp_Dir(0, 1, 1));
  p.setup.offset = "G59";
  p.setup.planes.push_back({"TP2", {}});
  p.setup.planes.push_back({"TP3", {}, "", "G54.1 P1"});
  p.value.planes.resize(4, p.value.planes[1]);
  const Machine cradle = machine_of("cradle-ac");
  const auto offsets = p.on(cradle);
  ASSERT_EQ(offsets.size(), 4u);
  EXPECT_EQ(work_offset_text(offsets[1].offset), "G54.1 P2");
  EXPECT_EQ(work_offset_text(offsets[2].offset), "G54.1 P3");
  EXPECT_EQ(work_offset_text(offsets[3].offset), "G54.1 P1");
  p.setup.planes[0].offset = "G59";
  EXPECT_FALSE(indexed_offsets(cradle, p.setup, p.value, p.place));
}

// Compared by what is written: a number is the place of a G code, and after the last there is none.
TEST(IndexedOffsets, NoTwoPlanesAreWrittenToOnePlace) {
  const Machine cradle = machine_of("cradle-ac");
  const auto refusal = [&](const char* own, const char* first, int planes) {
    Planned p(gp_Pnt(0, 0, 0), gp_Dir(0, 1, 1));
    p.setup.offset = own;
    p.setup.planes[0].offset = first;
    for (int i = 1; i < planes; ++i) p.setup.planes.push_back({"TP" + std::to_string(i + 1), {}});
    p.value.planes.resize(static_cast<size_t>(planes) + 1, p.value.planes[1]);
    reach_planes(cradle, p.setup, p.place, p.value.planes);
    const auto offsets = indexed_offsets(cradle, p.setup, p.value, p.place);
    return offsets ? std::string() : offsets.error().sentence;
  };
  EXPECT_EQ(refusal("G54", "1", 1), "OP10 and TP1 would both be written to 1");
  EXPECT_EQ(refusal("G54.1 P299", "", 1), "");
  EXPECT_EQ(refusal("G54.1 P299", "", 2),
            "there is no free work offset after G54.1 P300 for TP2: give it one of its own");
  EXPECT_EQ(refusal("G54.1 P300", "", 1),
            "there is no free work offset after G54.1 P300 for TP1: give it one of its own");
  EXPECT_TRUE(
      same_offset(*work_offset_from("G54.1 P1"), *work_offset_from("7"), FurtherOffsets::kG10L2OnFrom7));
  EXPECT_FALSE(same_offset(*work_offset_from("G54.1 P1"), *work_offset_from("1"), FurtherOffsets::kG10L20));
}

// Whatever a name holds, it stays in its comment.
TEST(IndexedOffsets, NamesNeverBecomeLinesOfTheProgram) {
  Planned p(gp_Pnt(10, 20, 30), gp_Dir(0, 1, 0));
  p.setup.offset = "G54.1 P1";
  p.value.planes[1].name = "side\r\n) G10 L2 P1 X2 (\x7f\xc3\xa4\x01";
  Machine cradle = machine_of("cradle-ac");
  const auto offsets = p.on(cradle);
  const std::string program =
      offsets_program("OP\nG10 L2 P1 X1", cradle, p.place, offsets, Unit::kMillimetre);
  std::istringstream lines(program);
  int words = 0;
  for (std::string line; std::getline(lines, line);) {
    for (const char c : line) EXPECT_TRUE(c >= ' ' && c < 0x7f) << line;
    const bool comment = line.front() == '(' && line.find(')') == line.size() - 1;
    if (!comment && line.rfind("G10", 0) == 0) ++words;
    EXPECT_TRUE(comment || line.find("X1") != 0) << line;
  }
  EXPECT_EQ(words, 2);  // one for each plane
  // Without a word of the machine file nothing is written that a control may read in two ways.
  cradle.further_offsets = FurtherOffsets::kUnwritten;
  const std::string careful = offsets_program("OP10", cradle, p.place, offsets, Unit::kMillimetre);
  EXPECT_EQ(careful.find("\nG10"), std::string::npos) << careful;
  EXPECT_NE(careful.find("(NOT WRITTEN: G54.1 P1 X"), std::string::npos) << careful;
  EXPECT_NE(unwritten_text(cradle, offsets).find("G54.1 P1 of OP10"), std::string::npos);
}

TEST(WorkOffsets, AreReadInAllTheirForms) {
  const std::tuple<const char*, const char*, const char*> good[] = {
      {"G54", "G10 L2 P1", "G10 L2 P1"},
      {"g59", "G10 L2 P6", "G10 L2 P6"},
      {"G54.1 P1", "G10 L20 P1", "G10 L2 P7"},
      {"g54.1p300", "G10 L20 P300", "G10 L2 P306"},
      {" G54.1  P12 ", "G10 L20 P12", "G10 L2 P18"},
      {"7", "G10 L2 P7", "G10 L2 P7"}};
  for (const auto& [text, as_l20, as_l2] : good) {
    const auto offset = work_offset_from(text);
    ASSERT_TRUE(offset) << text;
    EXPECT_EQ(work_offset_write(*offset, FurtherOffsets::kG10L20), as_l20);
    EXPECT_EQ(work_offset_write(*offset, FurtherOffsets::kG10L2OnFrom7), as_l2);
    EXPECT_EQ(work_offset_write(*offset, FurtherOffsets::kUnwritten).has_value(),
              offset->kind != WorkOffset::Kind::kFurther);
    EXPECT_TRUE(*work_offset_from(work_offset_text(*offset)) == *offset);
  }
  for (const char* bad :
       {"", "G53", "G60", "G54.1", "G54.1 P0", "G54.1 P301", "0", "G5", "P1", "G54 G55", "-3"})
    EXPECT_FALSE(work_offset_from(bad)) << bad;
}

// Put together again from their angles, turn by turn.
TEST(EulerAngles, GiveTheFrameBack) {
  test::Random random(20261130, 10);
  for (int i = 0; i < 2000; ++i) {
    gp_Ax2 frame = make_frame(gp_Pnt(), random.direction(), random.direction());
    if (i % 10 == 0) frame = make_frame(gp_Pnt(), gp_Dir(0, 0, i % 20 ? 1 : -1), random.direction());
    if (i % 10 == 1) frame = make_frame(gp_Pnt(), random.direction(), gp_Dir(0, 0, i % 20 ? 1 : -1));
    const EulerAngles e = euler_angles(frame);
    const Matrix zxz = product(about_z(e.zxz[0]), product(about_x(e.zxz[1]), about_z(e.zxz[2])));
    const Matrix fixed =
        product(about_z(e.fixed_xyz[2]), product(about_y(e.fixed_xyz[1]), about_x(e.fixed_xyz[0])));
    for (const Matrix& m : {zxz, fixed}) {
      EXPECT_LT(moved(m, gp_Pnt(1, 0, 0)).Distance(gp_Pnt(frame.XDirection().XYZ())), 1e-9) << i;
      EXPECT_LT(moved(m, gp_Pnt(0, 0, 1)).Distance(gp_Pnt(frame.Direction().XYZ())), 1e-9) << i;
    }
  }
}

TEST(OrientationTexts, HoldTheNumbersOfThePlane) {
  Planned p(gp_Pnt(10, 20, 30), gp_Dir(0, 1, 0));
  p.value.planes[1].in_setup = make_frame(gp_Pnt(10, 20, 30), gp_Dir(0, 1, 0), gp_Dir(1, 0, 0));
  const Machine cradle = machine_of("cradle-ac");
  const auto offsets = p.on(cradle);
  const auto text = [&](OrientationForm form) {
    const auto t = orientation_text(form, p.value.planes[1], &cradle, &offsets[1], {});
    return t ? *t : t.error().sentence;
  };
  EXPECT_EQ(text(OrientationForm::kMatrix),
            "1.000000000 0.000000000 0.000000000 10.000000000\n"
            "0.000000000 0.000000000 1.000000000 20.000000000\n"
            "0.000000000 -1.000000000 0.000000000 30.000000000\n0 0 0 1\n");
  EXPECT_EQ(text(OrientationForm::kRotary), "G0 A-90.0000 C0.0000\n");
  EXPECT_NE(text(OrientationForm::kVectors).find("IJK 0.000000000 1.000000000 0.000000000"),
            std::string::npos);
  EXPECT_NE(text(OrientationForm::kJson).find("\"euler_zxz\""), std::string::npos);
  EXPECT_FALSE(orientation_text(OrientationForm::kRotary, p.value.planes[1], nullptr, nullptr, {}));
  EXPECT_FALSE(orientation_text(OrientationForm::kOffset, p.value.planes[1], nullptr, nullptr, {}));
}

}  // namespace
}  // namespace anvil
