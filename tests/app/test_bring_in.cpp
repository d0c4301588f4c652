// Bringing in, knowing what came, seating it: the window with files of all kinds.
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTimer>
#include <QTreeView>
#include <QTreeWidget>

#include <gtest/gtest.h>
#include <TopExp_Explorer.hxx>

#include "app/dialogs/preferences.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/panels/ledger.h"
#include "app/panels/ledger_roles.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/shapes.h"
#include "exchange/step_format.h"
#include "part/measure.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::WindowDriver;

Body solid_body(const std::string& name, const TopoDS_Shape& shape) {
  Body body;
  body.name = name;
  body.shape = shape;
  for (TopExp_Explorer ex(shape, TopAbs_SOLID); ex.More(); ex.Next()) body.shape = ex.Current();
  return body;
}

class BringIn : public testing::Test {
 protected:
  app::Session& session() { return driver.session(); }
  QString torn() { return driver.step_file("torn-bracket.step", demo::torn_bracket().bodies); }
  QString two() {
    return driver.step_file("two.step", {solid_body("left", demo::block({0, 0, 0}, {40, 30, 20})),
                                         solid_body("right", demo::block({100, 0, 0}, {140, 30, 20}))});
  }
  QTreeWidgetItem* body_row(int delivered) {
    for (QTreeWidgetItemIterator it(&driver.window().ledger()); *it; ++it)
      if ((*it)->data(app::kName, app::kBodyRole).isValid() &&
          (*it)->data(app::kName, app::kBodyRole).toInt() == delivered)
        return *it;
    return nullptr;
  }

  WindowDriver driver;
};

TEST_F(BringIn, TornPartIsFoundUnsoundHealedSeatedCutAndWritten) {
  ASSERT_TRUE(driver.open(torn()));
  ASSERT_TRUE(driver.wait([&] { return session().checks().soundness() != nullptr; }));
  const size_t found = session().checks().soundness()->size();
  EXPECT_GT(found, 4u);

  // A row of the table leads to its place.
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of soundness")));
  QTreeView* table = driver.window().drawer().table(app::Drawer::Table::kSoundness);
  ASSERT_EQ(table->model()->rowCount(), static_cast<int>(found));
  const double scale = driver.window().view_pane().view().mm_per_pixel();
  driver.click_widget(table->viewport(), table->visualRect(table->model()->index(1, 0)).center());
  ASSERT_TRUE(session().checks().shown_place());
  EXPECT_LT(driver.window().view_pane().view().mm_per_pixel(), scale);

  // Healing closes the gap; the face that is gone stays gone, and the table says so.
  driver.click_widget(driver.child(QStringLiteral("soundness.heal")));
  QWidget* form = driver.child(QStringLiteral("heal_form"));
  ASSERT_TRUE(form && form->isVisible());
  driver.click_widget(form->findChild<QWidget*>(QStringLiteral("heal.unify")));
  driver.click_widget(form->findChild<QWidget*>(QStringLiteral("primary")));
  ASSERT_TRUE(driver.wait([&] { return session().document().job().healing() != nullptr; }))
      << driver.window().notice().text().toStdString();
  ASSERT_TRUE(driver.wait(
      [&] { return session().checks().soundness() != nullptr && session().checks().holes() != nullptr; }));
  EXPECT_LT(session().checks().soundness()->size(), found);
  const auto& healed =
      session().document().evaluation().entries.at(session().document().job().healing()->id).healed;
  ASSERT_TRUE(healed);
  EXPECT_LT(healed->largest_movement_mm, 0.1);
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("largest movement")));

  // The likeliest seat: one click.
  ASSERT_TRUE(driver.run_command(QStringLiteral("suggest seats")));
  ASSERT_FALSE(session().checks().seats().empty());
  ASSERT_TRUE(driver.click_row("tray.first_look", QStringLiteral("On ")));
  ASSERT_NE(session().document().job().placement(), nullptr);
  EXPECT_EQ(session().document().job().placement()->placement()->steps.size(), 2u);
  EXPECT_NEAR(
      exact_box(session().document().part()->shape(), session().document().evaluation().placement).min.Z(), 0,
      1e-6);

  // A section, dragged by its handle.
  ASSERT_TRUE(driver.run_command(QStringLiteral("section at the pick")));
  EXPECT_TRUE(driver.window().view_pane().has_section());
  driver.key(QStringLiteral("alt+7"));
  driver.run_command(QStringLiteral("end the section"));
  EXPECT_FALSE(driver.window().view_pane().has_section());

  // Written as a mesh, read back, compared.
  ExportRequest request;
  request.format = "stl";
  request.file = (driver.folder() + QStringLiteral("/bracket.stl")).toStdString();
  driver.window().keeper().export_part(request);
  ASSERT_TRUE(driver.wait([&] { return !driver.window().keeper().output().is_busy(); }));
  const auto mesh = read_part_file(request.file, {});
  ASSERT_TRUE(mesh) << mesh.error().sentence;
  EXPECT_NEAR(exact_box(mesh->bodies[0].shape).min.Z(), 0, 1e-4);

  // All the way back.
  for (int i = 0; i < 4 && session().document().history().can_undo(); ++i)
    driver.key(QStringLiteral("ctrl+z"));
  EXPECT_EQ(session().document().job().healing(), nullptr);
  ASSERT_TRUE(driver.wait([&] { return session().checks().soundness() != nullptr; }));
  EXPECT_EQ(session().checks().soundness()->size(), found);
}

TEST_F(BringIn, SectionHandleIsDraggedAndItsFieldTyped) {
  ASSERT_TRUE(driver.open(two()));
  driver.key(QStringLiteral(
      "alt+5"));  // front: the section is square to the line of sight, so turn to see its handle move
  ASSERT_TRUE(driver.run_command(QStringLiteral("section at the pick")));
  driver.key(QStringLiteral("alt+8"));
  const QPointF at = driver.on_screen({70, 15, 10});
  driver.drag_view(at,
                   at + QPointF(0, 60));  // downwards on the screen is towards -Y, the way the section looks
  const double dragged = driver.window().view_pane().section_offset_mm();
  EXPECT_NEAR(dragged, 60 * driver.window().view_pane().view().mm_per_pixel(), 1.0);
  auto* field = static_cast<QLineEdit*>(driver.child(QStringLiteral("section.offset")));
  driver.click_widget(field);
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("1/4in"));
  driver.key(QStringLiteral("Return"));
  EXPECT_NEAR(driver.window().view_pane().section_offset_mm(), 6.35, 1e-9);
}

TEST_F(BringIn, BodiesAreHiddenLeftOutAndMovedOneByOne) {
  ASSERT_TRUE(driver.open(two()));
  app::Ledger& ledger = driver.window().ledger();
  ASSERT_NE(body_row(1), nullptr);
  const QRect row = ledger.visualItemRect(body_row(1));
  driver.click_widget(ledger.viewport(), QPoint(ledger.viewport()->width() - 12, row.center().y()));
  EXPECT_FALSE(session().document().job().body(1).visible);
  EXPECT_TRUE(driver.window().view_pane().finder().at(driver.on_screen({120, 15, 20})).empty());
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_TRUE(session().document().job().body(1).visible);

  ledger.setCurrentItem(body_row(1));
  driver.key(QStringLiteral("Delete"));
  EXPECT_EQ(session().document().part()->bodies().size(), 1u);
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_EQ(session().document().part()->bodies().size(), 2u);

  // One body against the other.
  driver.key(QStringLiteral("Escape"));
  ASSERT_TRUE(driver.run_command(QStringLiteral("by typed amounts")));
  auto* moves = static_cast<QComboBox*>(driver.child(QStringLiteral("parameter.moves")));
  ASSERT_NE(moves, nullptr);
  moves->setCurrentIndex(2);
  session().tray().set_parameter("dz", "50");
  session().tray().keep();
  EXPECT_NEAR(
      exact_box(session().document().part()->bodies()[1].shape, session().document().evaluation().placement)
          .min.Z(),
      50, 1e-9);
  EXPECT_NEAR(
      exact_box(session().document().part()->bodies()[0].shape, session().document().evaluation().placement)
          .min.Z(),
      0, 1e-9);
}

TEST_F(BringIn, SecondFileJoinsTheJobAndPicksMadeBeforeStay) {
  ASSERT_TRUE(driver.open(
      driver.step_file("first.step", {solid_body("first", demo::block({0, 0, 0}, {40, 30, 20}))})));
  driver.key(QStringLiteral("alt+8"));
  driver.click_part({20, 15, 20});
  ASSERT_EQ(session().tray().picks().size(), 1u);
  driver.window().keeper().add_part(
      driver.step_file("second.step", {solid_body("second", demo::block({60, 0, 0}, {80, 30, 20}))}));
  ASSERT_TRUE(driver.wait([&] {
    return session().document().part() && session().document().part()->bodies().size() == 2 &&
           !driver.window().keeper().work().is_busy();
  }));
  EXPECT_EQ(session().tray().picks().size(), 1u);
  // Saved and opened again without an import: both files are in the job.
  const QString path = driver.folder() + QStringLiteral("/both.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] { return session().document().history().is_saved(); }));
  driver.window().keeper().new_job();
  ASSERT_TRUE(driver.open(path));
  EXPECT_EQ(session().document().part()->bodies().size(), 2u);
  EXPECT_EQ(session().document().job().first_part()->part()->sources.size(), 2u);
}

TEST_F(BringIn, PartInTheWrongUnitIsNoticedAndResizedOnAClick) {
  gp_Trsf inches;
  inches.SetScale(gp_Pnt(), 25.4);
  const auto big = moved_bodies(
      {solid_body("big", demo::cut(demo::block({0, 0, 0}, {120, 80, 15.5}),
                                   {demo::rod(gp_Ax2(gp_Pnt(20, 20, 16), gp_Dir(0, 0, -1)), 10.3, 40)}))},
      inches);
  ASSERT_TRUE(driver.open(driver.step_file("big.step", big)));
  ASSERT_TRUE(
      driver.wait([&] { return driver.window().notice().text().contains(QStringLiteral("wrong unit")); }));
  QPushButton* resize = nullptr;
  for (QPushButton* button : driver.window().notice().findChildren<QPushButton*>())
    if (button->text().startsWith(QStringLiteral("Resize"))) resize = button;
  ASSERT_NE(resize, nullptr);
  driver.click_widget(resize);
  ASSERT_TRUE(driver.wait([&] {
    return session().document().part() && exact_box(session().document().part()->shape()).max.X() < 121;
  }));
  EXPECT_NEAR(exact_box(session().document().part()->shape()).max.X(), 120, 1e-6);
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_NEAR(exact_box(session().document().part()->shape()).max.X(), 120 * 25.4, 1e-5);
}

TEST_F(BringIn, MeshIsShownAndMeasured) {
  const QString path = driver.folder() + QStringLiteral("/casting.stl");
  ASSERT_TRUE(write_part_file({solid_body("casting", demo::block({0, 0, 0}, {40, 30, 20}))}, {},
                              *format_by_id("stl"), {}, path.toStdString()));
  ASSERT_TRUE(driver.open(path));
  EXPECT_EQ(session().document().part()->bodies().front().kind, BodyKind::kMesh);
  ASSERT_TRUE(driver.wait([&] { return session().checks().box().has_value(); }));
  EXPECT_LT(session().checks().box()->max.Distance(gp_Pnt(40, 30, 20)), 1e-5);
  driver.key(QStringLiteral("alt+8"));
  EXPECT_FALSE(driver.window().view_pane().finder().at(driver.on_screen({20, 15, 20})).empty());
}

TEST_F(BringIn, ViewIsKeptTurnedByKeysAndComeBackTo) {
  ASSERT_TRUE(driver.open(two()));
  driver.key(QStringLiteral("alt+8"));
  const auto looking = [&] {
    return driver.window().view_pane().view().camera_view()->Camera()->Direction();
  };
  const KeptView kept = driver.window().view_pane().present_view("top");
  const gp_Dir before = looking();
  driver.key(QStringLiteral("alt+Up"));
  EXPECT_NEAR(before.Angle(looking()), radians(15), 1e-6);
  driver.key(QStringLiteral("alt+shift+Right"));
  driver.window().view_pane().go_to(kept);
  EXPECT_NEAR(before.Angle(looking()), 0, 1e-9);
  driver.click_part({20, 15, 20});
  driver.run_command(QStringLiteral("zoom to the picks"));
  EXPECT_LT(driver.on_screen({0, 0, 20}).x(), driver.window().view_pane().view().width());
  EXPECT_GT(driver.on_screen({140, 0, 20}).x(), driver.window().view_pane().view().width());
}

TEST_F(BringIn, PreferencesOutliveTheWindow) {
  app::Preferences p;
  p.right_button_turns = true;
  p.decimals = 2;
  p.save();
  const app::Preferences again = app::Preferences::load();
  EXPECT_TRUE(again.right_button_turns);
  EXPECT_EQ(again.decimals, 2);
  driver.window().apply(again);
  EXPECT_EQ(driver.window().view_pane().view().buttons(), app::OccView::Buttons::kRightTurns);
  app::Preferences().save();
}

}  // namespace
}  // namespace anvil
