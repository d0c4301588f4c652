// A scan in the window: regions picked by mouse, their tolerance typed, slid and their surface chosen, and
// datums from them that are kept and come back.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QSlider>
#include <QTimer>
#include <QTreeWidget>

#include "app/notice_bar.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/demo_part.h"
#include "exchange/mesh_formats.h"
#include "geom/primitives.h"
#include "job/edits.h"

namespace anvil {
namespace {

class Scans : public testing::Test {
 protected:
  void SetUp() override {
    const QString path = driver.folder() + QStringLiteral("/casting.stl");
    ASSERT_TRUE(write_stl(demo::counterweight_scan().bodies, {}, path.toStdString()));
    ASSERT_TRUE(driver.open(path));
    session().document().set_patience(std::chrono::seconds(10));
    session().document().act(QStringLiteral("Place"), with_drawing_axes());
    driver.settle();
    driver.window().view_pane().look_from(app::ViewPane::Side::kIso);
    driver.settle();
  }
  // Placed by its drawing, so that places have simple numbers.
  Job with_drawing_axes() {
    Recipe recipe;
    recipe.construction = "place.by-matrix";
    recipe.parameters = {{"matrix", matrix_text(demo::counterweight_scan().placement.Inverted())}};
    return with_placement_step(session().document().job(), recipe);
  }
  app::Session& session() { return driver.session(); }
  QString chip(int row) {
    return dynamic_cast<QListWidget*>(driver.child(QStringLiteral("tray.picks")))->item(row)->text();
  }
  const Region& region(size_t pick = 0) { return *session().tray().picks().at(pick).given.region; }

  test::WindowDriver driver;
  // Of the cylinder and the pad, seen from the corner between X and Y.
  const gp_Pnt side{45 * std::cos(radians(-70)), 45 * std::sin(radians(-70)), 20},
      side_too{45 * std::cos(radians(-110)), 45 * std::sin(radians(-110)), 15}, pad_top{50, 0, 32},
      ball{18 * std::cos(radians(-50)), 18 * std::sin(radians(-50)), 50 + std::sqrt(26 * 26 - 18 * 18)};
};

TEST_F(Scans, ClickGrowsARegionAndEnterKeepsItsAxis) {
  driver.click_part(side);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_EQ(region().surface.kind, SurfaceKind::kCylinder);
  EXPECT_TRUE(chip(0).startsWith(QStringLiteral("scan region, cylinder Ø"))) << chip(0).toStdString();
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session().document().job().entries.size(), 3u);
  const int id = session().document().job().entries.back().id;
  const auto axis = [&] {
    return std::get<AxisDatum>(*session().document().evaluation().entries.at(id).value).axis;
  };
  EXPECT_LT(distance(axis(), gp_Pnt(0, 0, 20)), 0.02);
  EXPECT_LT(acute_angle(axis().Direction(), gp_Dir(0, 0, 1)), 0.0025);
  // What it is made from lights up.
  auto* tree = driver.window().findChild<QTreeWidget*>();
  QTreeWidgetItem* row = nullptr;
  for (QTreeWidgetItem* item :
       tree->findItems(QStringLiteral("Axis 1"), Qt::MatchStartsWith | Qt::MatchRecursive))
    row = item;
  ASSERT_NE(row, nullptr);
  QTimer::singleShot(700, [] {
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    if (!menu) return;
    for (QAction* action : menu->actions())
      if (action->text() == QStringLiteral("Show what it is made from")) action->trigger();
    menu->close();
  });
  driver.click_widget(tree->viewport(), tree->visualItemRect(row).center(), 3);
  ASSERT_TRUE(driver.wait([&] { return session().checks().shown_regions().size() == 1; }, 10));
  EXPECT_EQ(session().checks().shown_regions().front()->surface.kind, SurfaceKind::kCylinder);
  // It comes back with the job, and opens with its region.
  const gp_Ax1 before = axis();
  const QString path = driver.folder() + QStringLiteral("/casting.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] { return session().document().history().is_saved(); }));
  driver.window().keeper().new_job();
  ASSERT_TRUE(driver.open(path));
  driver.settle();
  EXPECT_LT(distance(axis(), before.Location()), 1e-9);
  session().tray().edit(id);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_NE(session().tray().picks().front().given.region, nullptr);
  EXPECT_TRUE(driver.child(QStringLiteral("region.within"))->isVisible());
}

TEST_F(Scans, AnotherClickOnARegionLetsItGoAndTheSamePlaceWalksToTheWholeMesh) {
  driver.click_part(side);
  driver.click_part(side_too);
  EXPECT_TRUE(session().tray().picks().empty());
  EXPECT_FALSE(driver.child(QStringLiteral("region.within"))->isVisible());
  driver.click_part(side);
  driver.click_part(side);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_EQ(session().tray().picks().front().given.region, nullptr);
  EXPECT_EQ(chip(0), QStringLiteral("mesh"));
}

TEST_F(Scans, ToleranceIsTypedOrSlidAndTheSurfaceIsChosen) {
  driver.click_part(side);
  const size_t all = region().triangles.size();
  auto* within = dynamic_cast<QLineEdit*>(driver.child(QStringLiteral("region.within")));
  const auto type = [&](const char* text) {
    driver.click_widget(within);
    driver.key(QStringLiteral("ctrl+a"));
    driver.type(QString::fromUtf8(text));
    driver.key(QStringLiteral("Tab"));
  };
  type("0.002in");
  EXPECT_NEAR(region().within_mm, 0.0508, 1e-12);
  EXPECT_LT(region().triangles.size(), all);
  const size_t few = region().triangles.size();
  auto* slider = driver.child(QStringLiteral("region.slider"));
  driver.click_widget(slider, QPoint(slider->width() - 10, slider->height() / 2));
  ASSERT_TRUE(driver.wait([&] { return region().triangles.size() > few; }));
  EXPECT_GT(region().within_mm, 0.0508);
  driver.window().view_pane().view().setFocus();  // in the list of surfaces letters search
  driver.key(QStringLiteral("ctrl+r"));
  driver.type(QStringLiteral("0.3"));
  driver.key(QStringLiteral("Return"));
  EXPECT_NEAR(region().within_mm, 0.3, 1e-12);
  EXPECT_EQ(session().tray().picks().size(), 1u);  // taken as the tolerance, not to keep an offer
  // As a plane it is a strip; within less than the scan scatters it is none, which is told, and the pick
  // stays.
  auto* as = dynamic_cast<QComboBox*>(driver.child(QStringLiteral("region.as")));
  as->setCurrentIndex(as->findText(QStringLiteral("plane")));
  ASSERT_TRUE(driver.wait([&] { return !session().tray().growing().is_busy(); }));
  EXPECT_EQ(region().surface.kind, SurfaceKind::kPlane);
  EXPECT_LT(region().triangles.size() * 2, all);
  type("0.005");
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("no plane fits there within 0.005 mm")))
      << driver.window().notice().text().toStdString();
  EXPECT_NEAR(region().within_mm, 0.3, 1e-12);
  EXPECT_EQ(within->text(), QStringLiteral("0.300"));
  within->setText(QStringLiteral("teapot"));
  within->setModified(true);
  Q_EMIT within->editingFinished();
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("teapot")))
      << driver.window().notice().text().toStdString();
  EXPECT_EQ(session().tray().picks().size(), 1u);
}

TEST_F(Scans, WhatTakesTimeGrowsBehindTheWindowAndSeveralWaitTogether) {
  session().document().set_patience(std::chrono::milliseconds(0));
  driver.click_part(side);
  driver.click_part(ball);
  ASSERT_TRUE(driver.wait([&] { return session().tray().picks().size() == 2; }));
  EXPECT_EQ(region(0).surface.kind, SurfaceKind::kCylinder);
  EXPECT_EQ(region(1).surface.kind, SurfaceKind::kSphere);
  EXPECT_FALSE(session().tray().growing().is_busy());
  // What is wished last counts, although what was wished before is not known yet and this is.
  const double first_mm = region(1).within_mm;
  session().tray().regrow(1, first_mm * 1.7, std::nullopt);
  session().tray().regrow(1, 0, std::nullopt);
  ASSERT_TRUE(driver.wait([&] { return !session().tray().growing().is_busy(); }));
  driver.settle();
  EXPECT_EQ(region(1).within_mm, first_mm);
  // Given up: nothing is picked, and the next click works.
  driver.key(QStringLiteral("Escape"));
  session().tray().add_pick(
      driver.window().view_pane().finder().at(driver.on_screen(pad_top)).front().reference);
  if (session().tray().growing().is_busy()) {
    session().tray().growing().cancel_by_user();
    EXPECT_TRUE(session().tray().picks().empty());
  }
  session().document().set_patience(std::chrono::milliseconds(5000));
  session().tray().clear_picks();
  driver.click_part(pad_top);
  ASSERT_TRUE(driver.wait([&] { return session().tray().picks().size() == 1; }));
  EXPECT_EQ(region().surface.kind, SurfaceKind::kPlane);
}

}  // namespace
}  // namespace anvil
