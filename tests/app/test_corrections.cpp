// Corrections made in the window with mouse and keyboard, on the saddle plate as its job holds it.
#include <QComboBox>
#include <QLineEdit>

#include <gtest/gtest.h>
#include <cmath>

#include "app/panels/ledger.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/demo_job.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"
#include "geom/primitives.h"
#include "job/correcting.h"
#include "part/measure.h"
#include "store/job_file.h"

namespace anvil {
namespace {

using test::WindowDriver;

// In the numbers of the drawing: X and Y from the corner, Z 0 at the top.
class Corrections : public testing::Test {
 protected:
  void SetUp() override {
    const auto folder = std::filesystem::path(driver.folder().toStdString());
    const demo::DemoPart plate = demo::saddle_plate();
    ASSERT_TRUE(write_step(plate.bodies, {}, folder / plate.file_name));
    const auto job = demo::saddle_plate_job(folder / plate.file_name);
    ASSERT_TRUE(job) << job.error().sentence;
    ASSERT_TRUE(save_job(*job, folder / "plate.anvil"));
    ASSERT_TRUE(driver.open(driver.folder() + QStringLiteral("/plate.anvil")));
    for (const char* filter : {"edges", "points", "middles", "centres"})
      driver.click_widget(driver.child(QStringLiteral("filter.") + QLatin1String(filter)));
    start_mm3 = volume();
  }

  app::Session& session() { return driver.session(); }
  double volume() { return volume_properties(session().document().part()->shape()).volume_mm3; }

  gp_Pnt at(double x, double y, double z) {
    const gp_Ax2 frame = session().document().frame();
    return frame.Location().Translated(gp_Vec(frame.XDirection()) * x + gp_Vec(frame.YDirection()) * y +
                                       gp_Vec(frame.Direction()) * z);
  }
  // The wall of a hole that is seen from where one looks at first: away from the eye.
  void click_wall(double x, double y, double radius, double z) {
    driver.click_part(at(x - radius * std::sqrt(0.5), y + radius * std::sqrt(0.5), z));
  }
  bool is_tried() {
    return driver.wait([&] { return session().tray().outcome() != nullptr; }) &&
           session().tray().outcome()->report != nullptr;
  }
  // Typed into the tray, or the first choice that begins so.
  void set_number(const char* parameter, const char* text) {
    driver.click_widget(driver.child(QStringLiteral("parameter.") + QLatin1String(parameter)));
    driver.key(QStringLiteral("ctrl+a"));
    driver.type(QLatin1String(text));
    driver.wait([&] {
      return session().tray().draft() && session().tray().draft()->parameters.at(parameter) == text;
    });
  }
  void choose(const char* parameter, const char* beginning) {
    QWidget* widget = driver.child(QStringLiteral("parameter.") + QLatin1String(parameter));
    auto* list = qobject_cast<QComboBox*>(widget);
    ASSERT_TRUE(list);
    const int place = list->findText(QLatin1String(beginning), Qt::MatchStartsWith);
    ASSERT_GE(place, 0);
    // By keyboard, as one comes to it with Tab: without a window manager an open list may not get the keys.
    list->setFocus();
    driver.key(QStringLiteral("Home"));
    for (int down = 0; down < place; ++down) driver.key(QStringLiteral("Down"));
    ASSERT_TRUE(driver.wait([&] {
      return session().tray().draft() &&
             session().tray().draft()->parameters.at(parameter).rfind(beginning, 0) == 0;
    }));
  }
  void keep() {
    driver.key(QStringLiteral("Return"));
    driver.wait([&] { return !session().document().evaluating().is_busy() && session().checks().holes(); });
    driver.settle();
  }
  const Evaluated& last_correction() {
    const Entry* last = nullptr;
    for (const Entry& entry : session().document().job().entries)
      if (entry.is_correction()) last = &entry;
    static const Evaluated kNone;
    return last ? session().document().evaluation().entries.at(last->id) : kNone;
  }
  std::vector<gp_Pnt> counterbored() {
    std::vector<gp_Pnt> places;
    const gp_Trsf into = session().document().part_to_reading();
    for (const Hole& hole : session().checks().holes()->holes)
      if (std::abs(hole.diameter_mm - 6.6) < 1e-6) places.push_back(hole.entry.Transformed(into));
    return places;
  }

  WindowDriver driver;
  double start_mm3 = 0;
};

TEST_F(Corrections, TheStrayCounterboreComesIntoItsRow) {
  for (const double x : {18.0, 66.0, 114.0, 162.0}) click_wall(x, x == 114 ? 82.35 : 82.0, 5.5, -2);
  ASSERT_EQ(session().tray().picks().size(), 4u);
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Line up holes")));
  ASSERT_TRUE(is_tried());
  EXPECT_GT(session().tray().outcome()->report->added_mm3, 1);
  keep();
  EXPECT_EQ(last_correction().state, EntryState::kCurrent) << last_correction().reason;
  const std::vector<gp_Pnt> row = counterbored();
  ASSERT_EQ(row.size(), 4u);
  for (const gp_Pnt& hole : row) EXPECT_NEAR(hole.Y(), 82, 1e-6);
  EXPECT_NEAR(volume(), start_mm3, 1e-6 * start_mm3);
  driver.key(QStringLiteral("ctrl+z"));
  driver.wait([&] { return session().checks().holes() != nullptr; });
  EXPECT_FALSE(last_correction().corrected);
}

TEST_F(Corrections, TheCountersunkRowIsResizedAndAPocketClosed) {
  for (const double x : {30.0, 50.0, 70.0, 90.0, 110.0}) click_wall(x, 8, 3.4, -1.1);
  ASSERT_EQ(session().tray().picks().size(), 5u);
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Change the size or form")));
  set_number("diameter", "5.5");
  ASSERT_TRUE(is_tried());
  keep();
  EXPECT_EQ(last_correction().state, EntryState::kCurrent) << last_correction().reason;
  int wider = 0;
  for (const Hole& hole : session().checks().holes()->holes) wider += std::abs(hole.diameter_mm - 5.5) < 1e-6;
  EXPECT_EQ(wider, 5);

  const double before = volume();
  driver.click_part(at(35, 66, -12));  // the floor of a pocket
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Close")));
  ASSERT_TRUE(is_tried());
  keep();
  EXPECT_EQ(last_correction().state, EntryState::kCurrent) << last_correction().reason;
  // 40 x 30 x 12 with corners of 6.
  EXPECT_NEAR(volume() - before, 12 * (40 * 30 - (4 - kPi) * 36), 1e-3);

  driver.key(QStringLiteral("ctrl+z"));
  driver.key(QStringLiteral("ctrl+z"));
  driver.wait([&] { return std::abs(volume() - start_mm3) < 1e-3; });
  EXPECT_NEAR(volume(), start_mm3, 1e-6 * start_mm3);
}

// The rib between two pockets, whose corners go along.
TEST_F(Corrections, ARibIsPushedSymmetrically) {
  // From above, leaning to one side and the other, so that each wall is seen.
  driver.key(QStringLiteral("alt+8"));
  driver.drag_view(QPointF(300, 500), QPointF(400, 500), 2);
  driver.settle();
  driver.click_part(at(55, 60, -6));
  driver.drag_view(QPointF(500, 500), QPointF(300, 500), 2);
  driver.settle();
  driver.click_part(at(72, 60, -5));
  ASSERT_EQ(session().tray().picks().size(), 2u);
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Set the distance")));
  set_number("distance", "15");
  choose("moves", "both");
  choose("with", "the r");
  ASSERT_TRUE(is_tried());
  keep();
  EXPECT_EQ(last_correction().state, EntryState::kCurrent) << last_correction().reason;
  // 1 mm of each pocket over its whole length, 12 and 10 deep.
  EXPECT_NEAR(start_mm3 - volume(), 30 * 12 + 30 * 10, 1e-3);
  driver.key(QStringLiteral("ctrl+z"));
  driver.wait([&] { return std::abs(volume() - start_mm3) < 1e-3; });
  EXPECT_NEAR(volume(), start_mm3, 1e-6 * start_mm3);
}

TEST_F(Corrections, FourHolesAreAddedRoundAnAxisAndAllIsUndone) {
  driver.wheel_view(driver.on_screen(at(14, 20, 0)), 8);  // so that a pixel is little against the holes
  driver.settle();
  driver.click_part(at(17, 20, 0));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Add a hole in ① where")));
  set_number("diameter", "5");
  ASSERT_TRUE(is_tried());
  keep();
  const double one_mm3 = start_mm3 - volume();
  EXPECT_NEAR(one_mm3, kPi * 2.5 * 2.5 * 22, 1e-3);
  click_wall(10, 20, 4, -1.5);  // of a dowel hole
  // Where a click lands is a fraction of a millimetre beside what it was aimed at.
  const gp_Vec off(at(17, 20, 0), std::get<PlannedCorrection>(*last_correction().value).places.front());
  const gp_Ax2 frame = session().document().frame();
  click_wall(17 + off.Dot(gp_Vec(frame.XDirection())), 20 + off.Dot(gp_Vec(frame.YDirection())), 2.5, -1);
  ASSERT_EQ(session().tray().picks().size(), 2u);
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Repeat hole ② about axis ①")));
  ASSERT_TRUE(is_tried());
  keep();
  EXPECT_EQ(last_correction().state, EntryState::kCurrent) << last_correction().reason;
  EXPECT_NEAR(start_mm3 - volume(), 4 * one_mm3, 1e-2);
  for (int undone = 0; undone < 2; ++undone) driver.key(QStringLiteral("ctrl+z"));
  driver.wait([&] { return std::abs(volume() - start_mm3) < 1e-3; });
  EXPECT_NEAR(volume(), start_mm3, 1e-6 * start_mm3);
  for (const Entry& entry : session().document().job().entries) EXPECT_FALSE(entry.is_correction());
}

// Taken hold of between its handles a hole goes anywhere in its plane, and onto a centre exactly.
TEST_F(Corrections, AHoleIsDraggedFreelyAndOntoACentre) {
  click_wall(114, 82.35, 5.5, -2);
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Move hole ① by numbers")));
  ASSERT_TRUE(driver.wait([&] { return session().tray().handles().size() >= 2; }));
  const auto number = [&](const char* id) {
    return session().tray().draft() ? std::atof(session().tray().draft()->parameters.at(id).c_str()) : 0.0;
  };
  const gp_Pnt place = session().tray().handles().front().at;
  const gp_Ax2 frame = session().document().frame();
  const auto moved = [&](double x, double y) {
    return place.Translated(gp_Vec(frame.XDirection()) * x + gp_Vec(frame.YDirection()) * y);
  };
  driver.drag_view(driver.on_screen(place), driver.on_screen(moved(10, -20)));
  driver.wait([&] { return number("dx") != 0 && number("dy") != 0; });
  EXPECT_NEAR(number("dx"), 10, 2);
  EXPECT_NEAR(number("dy"), -20, 2);
  driver.click_widget(driver.child(QStringLiteral("filter.centres")));
  driver.wait([&] { return !session().document().evaluating().is_busy(); });
  const gp_Pnt now = session().tray().handles().front().at;
  driver.drag_view(driver.on_screen(now), driver.on_screen(at(170, 20, 0)));
  driver.wait([&] { return std::abs(number("dx") - 56) < 1e-6; }, 3);
  EXPECT_NEAR(number("dx"), 56, 1e-6);
  EXPECT_NEAR(number("dy"), -62.35, 1e-6);
}

TEST_F(Corrections, OneThatIsEditedIsSeenOnThePartBeforeIt) {
  driver.click_part(at(35, 66, -12));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Move ① along the normal")));
  set_number("distance", "-2");
  ASSERT_TRUE(is_tried());
  keep();
  const double deeper = volume();
  EXPECT_NEAR(start_mm3 - deeper, 2 * (40 * 30 - (4 - kPi) * 36), 1e-3);
  int id = 0;
  for (const Entry& entry : session().document().job().entries)
    if (entry.is_correction()) id = entry.id;
  session().tray().edit(id);
  driver.wait([&] { return session().tray().draft() && !session().document().evaluating().is_busy(); });
  EXPECT_NEAR(volume(), start_mm3, 1e-6 * start_mm3);
  set_number("distance", "-3");
  ASSERT_TRUE(is_tried());
  keep();
  EXPECT_NEAR(start_mm3 - volume(), 3 * (40 * 30 - (4 - kPi) * 36), 1e-3);
  session().tray().edit(id);
  driver.wait([&] { return session().tray().draft().has_value(); });
  driver.key(QStringLiteral("Escape"));
  driver.wait([&] {
    return session().document().looks_before() == 0 && !session().document().evaluating().is_busy();
  });
  EXPECT_NEAR(start_mm3 - volume(), 3 * (40 * 30 - (4 - kPi) * 36), 1e-3);
}

// What cannot be done says so before it is kept, and cannot be kept.
TEST_F(Corrections, WhatCannotBeDoneCannotBeKept) {
  driver.click_part(at(35, 66, -12));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Move ① along the normal")));
  set_number("distance", "-30");
  ASSERT_TRUE(driver.wait(
      [&] { return session().tray().outcome() && !session().tray().outcome()->refused.isEmpty(); }));
  EXPECT_FALSE(session().tray().can_keep());
  driver.key(QStringLiteral("Return"));
  driver.settle();
  ASSERT_TRUE(session().tray().draft());
  EXPECT_FALSE(last_correction().value);
}

}  // namespace
}  // namespace anvil
