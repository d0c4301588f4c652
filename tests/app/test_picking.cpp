// Pointing: hover, click, walking through what lies behind, rectangles both ways, filters, keys.
#include <QLineEdit>
#include <QToolButton>
#include <QTreeView>

#include <gtest/gtest.h>
#include <TopExp_Explorer.hxx>
#include <set>

#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/panels/ledger.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/shapes.h"
#include "job/edits.h"

namespace anvil {
namespace {

using test::WindowDriver;

// A block 60 x 40 x 20 with a hole of 10 through (20, 20), opened and seen from above.
class Picking : public testing::Test {
 protected:
  void SetUp() override {
    Body body;
    body.name = "block";
    body.shape = demo::cut(demo::block({0, 0, 0}, {60, 40, 20}),
                           {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20)});
    for (TopExp_Explorer ex(body.shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
    ASSERT_TRUE(driver.open(driver.step_file("block.step", {body})));
    driver.key(QStringLiteral("alt+8"));
  }

  app::Session& session() { return driver.session(); }
  const TopologyReference& pick(size_t index) {
    return std::get<TopologyReference>(session().tray().picks().at(index).reference.target);
  }

  WindowDriver driver;
};

// Bars stand over the view: one that appears moves it under the pointer.
TEST_F(Picking, AClickStaysOneWhenABarAppearsMeanwhile) {
  const double before = driver.window().view_pane().view().mapToGlobal(QPoint(0, 0)).y();
  driver.press_view(driver.on_screen({45, 12, 20}));
  driver.window().notice().tell(QStringLiteral("Something to read."));
  driver.settle();
  ASSERT_GT(driver.window().view_pane().view().mapToGlobal(QPoint(0, 0)).y(), before + 10);
  driver.release();
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_EQ(pick(0).kind, TopologyKind::kFace);
}

TEST_F(Picking, ClickTakesFaceEdgeVertexMiddleAndCentre) {
  driver.click_part({45, 12, 20});
  driver.click_part({10, 40, 20});
  driver.click_part({60, 0, 20});
  driver.click_part({60, 20, 20});
  driver.click_part({20, 20, 20});
  ASSERT_EQ(session().tray().picks().size(), 5u);
  EXPECT_EQ(pick(0).kind, TopologyKind::kFace);
  EXPECT_EQ(pick(1).kind, TopologyKind::kEdge);
  EXPECT_EQ(pick(2).kind, TopologyKind::kVertex);
  EXPECT_EQ(pick(3).snap, Snap::kMiddle);
  EXPECT_LT(session().tray().picks()[3].given.point->Distance(gp_Pnt(60, 20, 20)), 1e-9);
  EXPECT_EQ(pick(4).snap, Snap::kCentre);
  EXPECT_LT(session().tray().picks()[4].given.point->Distance(gp_Pnt(20, 20, 20)), 1e-9);
}

TEST_F(Picking, ClickingElsewhereOnAPickLetsGoAndBackspaceTakesTheLast) {
  driver.click_part({45, 12, 20});
  driver.click_part({10, 40, 20});
  driver.click_part({50, 30, 20});  // the top face again, at another place
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_EQ(pick(0).kind, TopologyKind::kEdge);
  driver.key(QStringLiteral("BackSpace"));
  EXPECT_TRUE(session().tray().picks().empty());
}

TEST_F(Picking, RepeatedClicksWalkThroughWhatLiesBehind) {
  const QPointF at = driver.on_screen({45, 12, 20});
  driver.click_view(at);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  const gp_Dir up = *session().tray().picks().front().given.direction;
  EXPECT_TRUE(up.IsEqual(gp_Dir(0, 0, 1), 1e-9));
  driver.click_view(at);
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_TRUE(session().tray().picks().front().given.direction->IsEqual(gp_Dir(0, 0, -1), 1e-9));
  driver.click_view(at);  // nothing lies behind the bottom
  EXPECT_TRUE(session().tray().picks().empty());
}

TEST_F(Picking, RectangleToTheRightTakesWhatIsInsideToTheLeftWhatItTouches) {
  const QPointF a = driver.on_screen({12, 12, 20}), b = driver.on_screen({28, 28, 20});
  driver.drag_view({a.x(), b.y()}, {b.x(), a.y()});
  ASSERT_FALSE(session().tray().picks().empty());
  for (size_t i = 0; i < session().tray().picks().size(); ++i)
    EXPECT_NE(session().tray().picks()[i].text, QStringLiteral("flat face"));
  const size_t inside = session().tray().picks().size();
  driver.key(QStringLiteral("Escape"));
  EXPECT_TRUE(session().tray().picks().empty());
  driver.drag_view({b.x(), a.y()}, {a.x(), b.y()});
  EXPECT_GT(session().tray().picks().size(), inside);  // the top and the bottom are touched as well
}

TEST_F(Picking, FilterLeavesEdgesAlone) {
  driver.click_widget(driver.child(QStringLiteral("filter.edges")));
  driver.click_widget(driver.child(QStringLiteral("filter.middles")));
  driver.click_part({10, 39.8, 20});
  ASSERT_EQ(session().tray().picks().size(), 1u);
  EXPECT_EQ(pick(0).kind, TopologyKind::kFace);
}

TEST_F(Picking, WheelKeepsWhatIsUnderTheCursorAndMiddleDragTurns) {
  const gp_Pnt corner(60, 40, 20);
  const QPointF before = driver.on_screen(corner);
  const double scale = driver.window().view_pane().view().mm_per_pixel();
  driver.wheel_view(before, 3);
  EXPECT_LT(driver.window().view_pane().view().mm_per_pixel(), scale);
  EXPECT_LT((driver.on_screen(corner) - before).manhattanLength(), 2.5);
  const gp_Dir looking = driver.window().view_pane().view().camera_view()->Camera()->Direction();
  driver.drag_view({300, 300}, {380, 340}, 2);
  EXPECT_GT(looking.Angle(driver.window().view_pane().view().camera_view()->Camera()->Direction()), 0.1);
}

TEST_F(Picking, OffsetIsTypedAsAnExpressionAndKeptWithEnter) {
  driver.click_part({45, 12, 20});
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Plane offset from ①")));
  auto* field = static_cast<QLineEdit*>(driver.child(QStringLiteral("parameter.distance")));
  ASSERT_NE(field, nullptr);
  EXPECT_TRUE(field->hasFocus());
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("1/4in + nonsense"));
  EXPECT_FALSE(session().tray().draft()->reason.isEmpty());
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().entries.size(), 1u);  // refused in place, nothing lost
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("1/4in + 2"));
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session().document().job().entries.size(), 2u);
  const int id = session().document().job().entries.back().id;
  EXPECT_NEAR(
      std::get<PlaneDatum>(*session().document().evaluation().entries.at(id).value).plane.Location().Z(),
      28.35, 1e-9);

  // Double-click in the ledger edits it with its pick restored.
  app::Ledger& ledger = driver.window().ledger();
  QTreeWidgetItem* item = nullptr;
  for (QTreeWidgetItemIterator it(&ledger); *it; ++it)
    if ((*it)->data(0, Qt::UserRole).toInt() == id) item = *it;
  ASSERT_NE(item, nullptr);
  driver.click_widget(ledger.viewport(), ledger.visualItemRect(item).center(), 1, 2);
  ASSERT_TRUE(session().tray().draft());
  EXPECT_EQ(session().tray().draft()->editing_entry, id);
  EXPECT_EQ(session().tray().picks().size(), 1u);
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("-5"));
  driver.key(QStringLiteral("Return"));
  EXPECT_NEAR(
      std::get<PlaneDatum>(*session().document().evaluation().entries.at(id).value).plane.Location().Z(), 15,
      1e-9);
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_NEAR(
      std::get<PlaneDatum>(*session().document().evaluation().entries.at(id).value).plane.Location().Z(),
      28.35, 1e-9);
}

TEST_F(Picking, FrameFromTwoLinesTurnsByKeyThroughAllEightArrangements) {
  driver.click_part({10, 40, 20});
  driver.click_part({60, 10, 20});
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Frame: zero where ① and ② cross")));
  std::set<std::string> seen;
  const auto note = [&] {
    seen.insert(session().tray().draft()->solutions[session().tray().draft()->solution].key);
  };
  for (int i = 0; i < 4; ++i) {
    note();
    driver.key(QStringLiteral("q"));
  }
  EXPECT_EQ(seen.size(), 4u);
  for (int i = 0; i < 8; ++i) {
    note();
    driver.key(QStringLiteral("n"));
  }
  EXPECT_EQ(seen.size(), 8u);
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session().document().job().entries.size(), 2u);
  const auto& frame =
      std::get<FrameDatum>(
          *session().document().evaluation().entries.at(session().document().job().entries.back().id).value)
          .frame;
  EXPECT_LT(frame.Location().Distance(gp_Pnt(60, 40, 20)), 1e-9);
}

TEST_F(Picking, TableAndPartFollowEachOther) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of holes")));
  QTreeView* table = driver.window().drawer().table(app::Drawer::Table::kHoles);
  driver.click_widget(table->viewport(), table->visualRect(table->model()->index(0, 0)).center());
  EXPECT_FALSE(session().checks().shown_faces().empty());
  table->clearSelection();
  driver.window().view_pane().look_from(app::ViewPane::Side::kIso);
  const int bore = session().checks().holes()->holes.front().faces.front();
  session().tray().add_pick(Reference{
      describe(*session().document().part(), session().document().part_entry(), TopologyKind::kFace, bore),
      {}});
  driver.settle();
  EXPECT_EQ(table->selectionModel()->selectedRows().size(), 1);
}

// Points are projected many at a time for hovering; each must land where the kernel itself would put it.
TEST_F(Picking, ProjectedPointsLieWhereTheKernelDrawsThem) {
  const app::OccView& view = driver.window().view_pane().view();
  for (const auto side : {app::ViewPane::Side::kTop, app::ViewPane::Side::kIso, app::ViewPane::Side::kLeft}) {
    driver.window().view_pane().look_from(side);
    const auto& camera = view.camera_view()->Camera();
    const app::Projector projector = view.projector();
    for (const gp_Pnt& p : {gp_Pnt(0, 0, 0), gp_Pnt(60, 40, 20), gp_Pnt(-500, 20, 7), gp_Pnt(31, 900, -80)}) {
      const gp_Pnt ndc = camera->Project(p);
      double depth = 0;
      const auto at = projector.to_screen(p, &depth);
      ASSERT_TRUE(at);
      EXPECT_NEAR(at->x(), (ndc.X() + 1) / 2 * view.width(), 1e-6);
      EXPECT_NEAR(at->y(), (1 - ndc.Y()) / 2 * view.height(), 1e-6);
      EXPECT_NEAR(depth, gp_Vec(camera->Eye(), p).Dot(gp_Vec(camera->Direction())), 1e-9);
    }
  }
}

}  // namespace
}  // namespace anvil
