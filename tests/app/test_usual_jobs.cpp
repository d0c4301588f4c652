// Twelve usual jobs from the first click to the last, with real mouse and keyboard: what they come to, in how
// many acts. Prints a row of a table for each; docs/guide/usual-jobs.md has them.
#include <QComboBox>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>

#include <gtest/gtest.h>
#include <cstdio>

#include "app/notice_bar.h"
#include "app/panels/first_look_card.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/shapes.h"
#include "exchange/read_here.h"
#include "geom/primitives.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::WindowDriver;

// Block 120 × 80 × 30 with a pocket (corners of 4) from above, a boss of 20 beside it, two holes of 8
// through, and a hole of 6 down its front edge at 45 degrees.
TopoDS_Shape part_of_the_day() {
  using namespace demo;  // NOLINT: shapes
  const gp_Dir down(0, 0, -1), up(0, 0, 1);
  const TopoDS_Shape block_and_boss =
      join(block({0, 0, 0}, {120, 80, 30}), {rod(gp_Ax2(gp_Pnt(85, 40, 30), up), 20, 15)});
  gp_Trsf lean;
  lean.SetRotation(gp_Ax1(gp_Pnt(0, 0, 20), gp_Dir(1, 0, 0)), -kPi / 4);
  const TopoDS_Shape edge = block({-10, -40, 0}, {130, 0, 40}).Moved(TopLoc_Location(lean));
  const gp_Ax2 tilted(gp_Pnt(60, 5, 25), gp_Dir(0, 1, -1));
  return cut(block_and_boss, {edge, pocket(gp_Ax2(gp_Pnt(35, 45, 30), up), {50, 40, 12, {4, 4, 4, 4}}),
                              rod(gp_Ax2(gp_Pnt(110, 20, 30), down), 8, 30),
                              rod(gp_Ax2(gp_Pnt(110, 60, 30), down), 8, 30), rod(tilted, 6, 15)});
}

class UsualJobs : public testing::Test {
 protected:
  void open(bool turned = false) {
    Body body;
    body.name = "part of the day";
    body.shape = part_of_the_day();
    if (turned) {
      gp_Trsf away;
      away.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0)), -kPi / 2);
      body.shape = body.shape.Moved(TopLoc_Location(away));
    }
    ASSERT_TRUE(driver.open(driver.step_file("part.step", {body})));
    ASSERT_TRUE(driver.wait([&] { return session().checks().directions() != nullptr; }));
    driver.settle();
    clock.start();
  }

  void TearDown() override {
    if (!HasFailure() && acts > 0)
      std::printf("| %s | %d | %.1f |\n", told, acts, static_cast<double>(clock.elapsed()) / 1000);
  }

  app::Session& session() { return driver.session(); }
  const Job& job() { return session().document().job(); }
  void pick(const gp_Pnt& at) { driver.click_part(at), ++acts; }
  void key(const char* keys) { driver.key(QLatin1String(keys)), ++acts; }
  void number(const char* text) { driver.type(QLatin1String(text)), ++acts; }
  void offer(const char* beginning) {
    EXPECT_TRUE(driver.choose_offer(QString::fromUtf8(beginning)))
        << beginning
        << (session().tray().picks().empty() ? "" : session().tray().picks().back().text.toStdString());
    ++acts;
  }
  void row(const char* beginning) {
    EXPECT_TRUE(driver.click_row("tray.first_look", QString::fromUtf8(beginning))) << beginning;
    ++acts;
  }
  void command(const char* words) {
    EXPECT_TRUE(driver.run_command(QLatin1String(words))) << words;
    ++acts;
  }
  // The next file dialog is answered with the name; one act, with Enter.
  void answer(const QString& path) {
    auto* look = new QTimer(&driver.window());
    QObject::connect(look, &QTimer::timeout, look, [this, look, path] {
      auto* dialog = driver.window().findChild<QFileDialog*>();
      if (!dialog || !dialog->isVisible()) return;
      look->deleteLater();
      look->stop();
      auto* name = dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
      driver.click_widget(name);
      name->selectAll();
      driver.type(path);
      driver.key(QStringLiteral("Return"));
    });
    look->start(50);
    ++acts;
  }
  template <class Datum>
  Datum kept() {
    EXPECT_FALSE(job().entries.empty());
    const auto& value = session().document().evaluation().entries.at(job().entries.back().id).value;
    EXPECT_TRUE(value && std::holds_alternative<Datum>(*value));
    return value && std::holds_alternative<Datum>(*value) ? std::get<Datum>(*value) : Datum{};
  }
  void zero_at_the_corner() {
    pick({110, 70, 30});
    offer("Frame on ①, Z out of it");
    key("Return");
  }

  WindowDriver driver;
  QElapsedTimer clock;
  const char* told = "";
  int acts = 0;
  const gp_Pnt left{0, 60, 10}, right{120, 30, 10}, top{110, 70, 30}, front{20, 0, 4};
};

TEST_F(UsualJobs, BringInAndSeat) {
  told = "Bring in a part and seat it";
  open(true);
  ++acts;  // dropping it
  row("On its largest flat side");
  EXPECT_NEAR(
      exact_box(session().document().part()->shape(), session().document().evaluation().placement).min.Z(), 0,
      1e-6);
  EXPECT_LE(acts, 2);
}

TEST_F(UsualJobs, ZeroOnACornerOfTheStock) {
  told = "Zero on a corner of the box around the part";
  open();
  pick(top);
  offer("Frame at a point of the box");
  key("Return");
  const gp_Pnt zero = kept<FrameDatum>().frame.Location();
  EXPECT_TRUE(std::abs(zero.X()) < 1e-6 || std::abs(zero.X() - 120) < 1e-6 || std::abs(zero.X() - 60) < 1e-6);
  EXPECT_LE(acts, 3);
}

TEST_F(UsualJobs, PlaneMidwayBetweenTwoSides) {
  told = "The middle between two sides";
  open();
  pick(right);
  key("alt+4");
  pick(left);
  key("Return");
  EXPECT_NEAR(kept<PlaneDatum>().plane.Location().X(), 60, 1e-9);
  EXPECT_LE(acts, 4);
}

TEST_F(UsualJobs, ToolPlaneDownATiltedHole) {
  told = "A setup down a tilted hole";
  open();
  pick({57, 6.5, 23.5});  // its wall
  offer("Frame at the opening of hole");
  command("setup on a frame");
  ASSERT_TRUE(job().entries.back().setup());
  EXPECT_LE(acts, 3);
}

TEST_F(UsualJobs, SmallestCornerInAPocket) {
  told = "The smallest corner, and the largest cutter";
  open();
  row("Along +Z: smallest corner R 4.000");
  EXPECT_FALSE(session().checks().shown_faces().empty());
  EXPECT_LE(acts, 1);
}

TEST_F(UsualJobs, HolesAgainstTheList) {
  told = "The holes against their list";
  open();
  const QString list = driver.folder() + QStringLiteral("/holes.csv");
  QFile file(list);
  ASSERT_TRUE(file.open(QIODevice::WriteOnly));
  file.write("Name;X;Y;Z;Diameter\nA;110;20;30;8\nB;110;60.5;30;8\n");
  file.close();
  answer(list);
  row("Compare the holes with a list");
  ASSERT_TRUE(driver.wait([&] { return !session().checks().comparison().rows.empty(); }));
  EXPECT_LE(acts, 2);
}

TEST_F(UsualJobs, PlaneAtAnAngleAboutAnEdge) {
  told = "A plane at 30° about an edge";
  open();
  pick(top);
  pick({120, 70, 30});
  number("30");
  key("Return");
  EXPECT_NEAR(degrees(kept<PlaneDatum>().plane.Axis().Direction().Angle(gp_Dir(0, 0, 1))), 30, 1e-6);
  EXPECT_LE(acts, 4);
}

TEST_F(UsualJobs, TangentPlaneParallelToAFace) {
  told = "A plane touching a boss, parallel to a face";
  open();
  const double half = 10 / std::sqrt(2.0);
  pick({85 + half, 40 - half, 38});
  pick(right);
  offer("Plane touching ①, parallel to ②");
  key("Return");
  EXPECT_NEAR(std::abs(kept<PlaneDatum>().plane.Location().X() - 85), 10, 1e-6);
  EXPECT_LE(acts, 4);
}

TEST_F(UsualJobs, PlaneOfThreePoints) {
  told = "A plane through three points";
  open();
  for (const gp_Pnt& corner : {gp_Pnt(120, 80, 30), gp_Pnt(0, 80, 30), gp_Pnt(120, 0, 0)}) pick(corner);
  key("Return");
  EXPECT_EQ(job().entries.back().datum()->recipe.construction, "plane.three-points");
  EXPECT_LE(acts, 4);
}

TEST_F(UsualJobs, ExportInAFrame) {
  told = "The part written in a frame of its own";
  open();
  zero_at_the_corner();
  const QString file = driver.folder() + QStringLiteral("/out.step");
  answer(file);
  key("ctrl+e");
  key("Return");
  ASSERT_TRUE(
      driver.wait([&] { return QFileInfo::exists(file) && !driver.window().keeper().output().is_busy(); }));
  EXPECT_LE(acts, 6);
}

TEST_F(UsualJobs, OffsetsOut) {
  told = "Zero on a face, and its offset as a program";
  open();
  pick(top);
  offer("Frame on ①, Z out of it");
  command("setup on a frame");
  auto* machine = driver.window().findChild<QComboBox*>(QStringLiteral("setup.machine"));
  machine->setFocus();  // as Tab does
  key("Down");
  const QString file = driver.folder() + QStringLiteral("/offsets.nc");
  answer(file);
  command("work offsets as a program");
  ASSERT_TRUE(driver.wait([&] { return QFileInfo(file).size() > 0; }))
      << driver.window().notice().text().toStdString();
  EXPECT_LE(acts, 6);
}

TEST_F(UsualJobs, SetupSheet) {
  told = "Zero on a face, and the setup sheet";
  open();
  pick(top);
  offer("Frame on ①, Z out of it");
  command("setup on a frame");
  const QString file = driver.folder() + QStringLiteral("/sheet.pdf");
  answer(file);
  key("ctrl+p");
  ASSERT_TRUE(driver.wait([&] { return QFileInfo(file).size() > 0; }));
  EXPECT_LE(acts, 5);
}

// Another part comes while seats of the first are offered: its own take their place, and nothing is told.
TEST_F(UsualJobs, SeatsGoWithTheirPart) {
  open(true);
  ASSERT_FALSE(session().checks().seats().empty());
  Body body;
  body.shape = demo::block({0, 0, 0}, {40, 30, 20});
  ASSERT_TRUE(driver.open(driver.step_file("block.step", {body})));
  ASSERT_TRUE(driver.wait([&] { return session().checks().directions() != nullptr; }));
  EXPECT_EQ(driver.window().notice().text(), QString());
  ASSERT_FALSE(session().checks().seats().empty());
  for (const Seat& seat : session().checks().seats()) EXPECT_LT(seat.down_face, 6);
  EXPECT_NEAR(session().checks().seats().front().face_area_mm2, 1200, 1e-6);
}

}  // namespace
}  // namespace anvil
