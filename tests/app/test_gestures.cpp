// Quick clicks, walking by wheel and key, turning about a pick, zooming by a rectangle, gliding; forms beside
// the work, and what the finder finds beside acts.
#include <gtest/gtest.h>

#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QRegularExpression>
#include <QTextBrowser>
#include <TopExp_Explorer.hxx>

#include "app/forms/form_place.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/shapes.h"
#include "job/edits.h"

namespace anvil {
namespace {

using test::WindowDriver;

// A block 60 x 40 x 20 with a pocket of 30 x 20 x 8 about (25, 20), corners of 4; seen from above.
class Gestures : public testing::Test {
 protected:
  void SetUp() override {
    Body body;
    body.name = "block";
    body.shape = demo::cut(demo::block({0, 0, 0}, {60, 40, 20}),
                           {demo::pocket(gp_Ax2(gp_Pnt(25, 20, 20), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)),
                                         {30, 20, 8, {4, 4, 4, 4}, 0})});
    for (TopExp_Explorer ex(body.shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
    path = driver.step_file("block.step", {body});
    ASSERT_TRUE(driver.open(path));
    driver.key(QStringLiteral("alt+8"));
  }

  app::Session& session() { return driver.session(); }
  app::ViewPane& pane() { return driver.window().view_pane(); }
  app::OccView& view() { return driver.window().view_pane().view(); }
  size_t picked(TopologyKind kind) {
    size_t count = 0;
    for (const app::Pick& pick : session().tray().picks())
      count += std::get<TopologyReference>(pick.reference.target).kind == kind;
    return count;
  }
  gp_Dir picked_direction() { return *session().tray().picks().front().given.direction; }
  template <typename Widget>
  Widget* part_of(const char* form, const char* name) {
    QWidget* shown = driver.child(QLatin1String(form));
    return shown && shown->isVisible() ? shown->findChild<Widget*>(QLatin1String(name)) : nullptr;
  }

  WindowDriver driver;
  QString path;
};

TEST_F(Gestures, TwoQuickClicksTakeTheRimAndThreeThePocket) {
  driver.click_part({20, 30, 20}, 2);
  EXPECT_EQ(picked(TopologyKind::kEdge), 8u);  // four sides, four arcs
  EXPECT_EQ(session().tray().picks().size(), 8u);
  driver.key(QStringLiteral("Escape"));
  driver.click_part({20, 10, 20}, 3);
  EXPECT_EQ(picked(TopologyKind::kEdge), 0u);
  EXPECT_EQ(picked(TopologyKind::kFace), 9u);  // eight walls and the floor
}

TEST_F(Gestures, ThreeQuickClicksOnTheOutsideSayWhyNothingIsTaken) {
  driver.click_part({50, 5, 20}, 3);
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("no hole, pocket or boss")));
}

TEST_F(Gestures, WhatLiesUnderThePointerIsNotToldWhileTheViewTurnsAwayFromIt) {
  const QPointF top = driver.on_screen({50, 10, 20});
  driver.wheel_view(top, 0);
  ASSERT_TRUE(driver.wait([&] { return !pane().under_cursor().empty(); }));
  std::vector<bool> aims;  // as turning begins and as it ends
  QObject::connect(&view(), &app::OccView::being_turned, &view(),
                   [&](bool) { aims.push_back(!pane().under_cursor().empty()); });
  driver.drag_view(top, top + QPointF(40, 20), 2);
  ASSERT_TRUE(driver.wait([&] { return aims.size() == 2; }));
  EXPECT_EQ(aims, std::vector<bool>(2, false));
  EXPECT_TRUE(driver.wait([&] { return !pane().under_cursor().empty(); }));
}

TEST_F(Gestures, SlowClicksGoOnWalking) {
  for (int i = 0; i < 2; ++i) driver.click_part({20, 30, 20});
  ASSERT_EQ(session().tray().picks().size(), 1u);
}

TEST_F(Gestures, CtrlAndTheWheelOrAKeyWalkAndAClickTakesWhatWasComeTo) {
  const QPointF top = driver.on_screen({50, 10, 20});
  driver.wheel_view(top, 0);                          // the pointer goes there
  for (int i = 0; i < 2 && pane().aimed() == 0; ++i)  // the first may only name what lies there
    driver.key(QStringLiteral("ctrl+Down"));
  driver.click_view(top);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_TRUE(picked_direction().IsEqual(gp_Dir(0, 0, -1), 1e-9));
  driver.key(QStringLiteral("Escape"));
  const double scale = view().mm_per_pixel();
  for (int i = 0; i < 2 && pane().aimed() == 0; ++i) driver.wheel_view(top, -1, QStringLiteral("ctrl"));
  EXPECT_EQ(view().mm_per_pixel(), scale);
  driver.click_view(top);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_TRUE(picked_direction().IsEqual(gp_Dir(0, 0, -1), 1e-9));
}

TEST_F(Gestures, TurnedAboutWhatWasPickedItStaysWhereItIs) {
  const gp_Pnt corner(60, 40, 20);
  driver.click_part(corner);
  ASSERT_EQ(picked(TopologyKind::kVertex), 1u);
  const QPointF before = driver.on_screen(corner);
  const gp_Dir looking = view().camera_view()->Camera()->Direction();
  driver.drag_view({300, 300}, {380, 350}, 2);
  EXPECT_GT(looking.Angle(view().camera_view()->Camera()->Direction()), 0.1);
  EXPECT_LT((driver.on_screen(corner) - before).manhattanLength(), 1.0);
  EXPECT_GT((driver.on_screen({0, 0, 20}) - before).manhattanLength(), 20);
}

TEST_F(Gestures, ADraggedRectangleFillsTheView) {
  const QPointF a = driver.on_screen({10, 30, 20}), b = driver.on_screen({40, 10, 20});
  ASSERT_TRUE(driver.run_command(QStringLiteral("zoom to a dragged rectangle")));
  const double scale = view().mm_per_pixel();
  driver.drag_view(a, b);
  EXPECT_TRUE(session().tray().picks().empty());
  EXPECT_LT((driver.on_screen({25, 20, 20}) - QPointF(view().width(), view().height()) / 2).manhattanLength(),
            3);
  const double share =
      std::max(std::abs(b.x() - a.x()) / view().width(), std::abs(b.y() - a.y()) / view().height());
  EXPECT_NEAR(view().mm_per_pixel(), scale * share, 0.01 * scale);
  driver.drag_view({420, 380}, {200, 200});  // once: the next one picks
  EXPECT_FALSE(session().tray().picks().empty());
}

TEST_F(Gestures, AGlideEndsWhereAJumpDoes) {
  driver.key(QStringLiteral("alt+5"));
  const Handle(Graphic3d_Camera) jumped = new Graphic3d_Camera(view().camera_view()->Camera());
  driver.key(QStringLiteral("alt+8"));
  view().set_smooth(true);
  driver.key(QStringLiteral("alt+5"));
  ASSERT_TRUE(driver.wait(
      [&] {
        return view().camera_view()->Camera()->Eye().Distance(jumped->Eye()) < 1e-9 * jumped->Distance();
      },
      5));
  driver.key(QStringLiteral("alt+8"));
  driver.wheel_view({300, 300}, 1);  // in the middle of it: it is there at once
  const Handle(Graphic3d_Camera)& camera = view().camera_view()->Camera();
  EXPECT_LT(camera->Direction().Angle(gp_Dir(0, 0, -1)), 1e-9);
}

TEST_F(Gestures, FormsLeaveTheWindowFreeAndEnterAndEscAreTheirs) {
  driver.click_part({50, 5, 20});
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Plane offset from ①")));
  ASSERT_TRUE(driver.run_command(QStringLiteral("unit of the file")));
  auto* factor = part_of<QLineEdit>("unit_form", "unit.factor");
  ASSERT_TRUE(factor && factor->hasFocus());
  driver.type(QStringLiteral("nonsense"));
  driver.key(QStringLiteral("Return"));
  EXPECT_TRUE(driver.window().forms().isVisible());  // told there, and it stays
  EXPECT_EQ(session().document().job().entries.size(), 1u) << "the draft below was kept";
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("25.4"));
  driver.key(QStringLiteral("Return"));
  ASSERT_TRUE(driver.wait([&] {
    return session().document().part() && !driver.window().keeper().work().is_busy() &&
           std::abs(session().document().job().first_part()->part()->sources[0].scale - 25.4) < 1e-12;
  }));
  EXPECT_FALSE(driver.window().forms().isVisible());
  ASSERT_TRUE(driver.run_command(QStringLiteral("heal the part")));
  ASSERT_TRUE(driver.window().forms().isVisible());
  driver.key(QStringLiteral("Escape"));
  ASSERT_TRUE(driver.wait([&] { return !driver.window().forms().isVisible(); }, 5));
  EXPECT_TRUE(session().document().job().healing() == nullptr);
}

TEST_F(Gestures, AFormGoesWithTheJobItAsksAbout) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("keep this view")));
  ASSERT_TRUE(part_of<QLineEdit>("choice_form", "choice.answer"));
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session().document().job().views.size(), 1u);
  EXPECT_EQ(session().document().job().views[0].name, "View 1");
  ASSERT_TRUE(driver.run_command(QStringLiteral("heal the part")));
  driver.window().keeper().new_job();
  EXPECT_TRUE(driver.wait([&] { return !driver.window().forms().isVisible(); }, 5));
}

TEST_F(Gestures, TheFinderFindsCornersEntriesAndSettings) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("setting inch")));
  EXPECT_EQ(session().document().job().display.unit, Unit::kInch);
  ASSERT_TRUE(driver.run_command(QStringLiteral("show in mm")));
  EXPECT_EQ(session().document().job().display.unit, Unit::kMillimetre);
  ASSERT_TRUE(driver.run_command(QStringLiteral("corner r 4.000")));
  EXPECT_FALSE(session().checks().shown_faces().empty());
  driver.key(QStringLiteral("alt+8"));
  driver.click_part({50, 5, 20});
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Plane offset from ①")));
  driver.type(QStringLiteral("7"));
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session().document().job().entries.size(), 2u);
  const Entry& kept = session().document().job().entries.back();
  ASSERT_TRUE(driver.run_command(QStringLiteral("edit ") + QString::fromStdString(kept.name)));
  ASSERT_TRUE(session().tray().draft());
  EXPECT_EQ(session().tray().draft()->editing_entry, kept.id);
}

// Where the guide speaks of an act there is one, and a click on it opens the menus down to it.
TEST_F(Gestures, EveryActTheGuideSpeaksOfIsInTheMenus) {
  int links = 0;
  for (const QString& page : QDir(QStringLiteral(":/guide")).entryList({QStringLiteral("*.md")})) {
    QFile file(QStringLiteral(":/guide/") + page);
    ASSERT_TRUE(file.open(QIODevice::ReadOnly));
    static const QRegularExpression link(QStringLiteral("\\(act:([^)]*)\\)"));
    for (auto it = link.globalMatch(QString::fromUtf8(file.readAll())); it.hasNext(); ++links) {
      const QString act = it.next().captured(1);
      EXPECT_TRUE(driver.window().actions().find(act)) << page.toStdString() << ": " << act.toStdString();
    }
  }
  EXPECT_GE(links, 40);
  ASSERT_TRUE(driver.run_command(QStringLiteral("guide")));
  auto* text = driver.window().findChild<QTextBrowser*>(QStringLiteral("guide.text"));
  ASSERT_TRUE(text && text->isVisible());
  Q_EMIT text->anchorClicked(QUrl(QStringLiteral("act:correct.line-up")));
  auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
  ASSERT_TRUE(menu);
  ASSERT_TRUE(menu->activeAction());
  EXPECT_EQ(menu->activeAction()->objectName(), QStringLiteral("correct.line-up"));
  while (QWidget* open = QApplication::activePopupWidget()) open->close();
}

}  // namespace
}  // namespace anvil
