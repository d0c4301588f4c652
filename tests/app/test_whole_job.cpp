// The job once round, by mouse and keyboard: open, pick two opposite faces, keep the plane midway, keep a
// frame, read in it, check holes against the construction numbers, export, read the export back, compare,
// undo everything.
#include <QComboBox>
#include <QFile>
#include <QStandardItemModel>
#include <QTreeView>

#include <gtest/gtest.h>

#include "app/panels/drawer.h"
#include "app/panels/ledger.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "exchange/worker_client.h"
#include "geom/primitives.h"
#include "job/edits.h"
#include "part/measure.h"
#include "support/fixtures.h"

namespace anvil {
namespace {

using test::WindowDriver;

// A point of the drawing where it stands now.
gp_Pnt placed(WindowDriver& driver, const gp_Pnt& drawn) {
  return drawn.Transformed(driver.session().document().evaluation().placement * test::plate().placement);
}

void look_at_side(WindowDriver& driver, const gp_Dir& drawn_normal, const gp_Dir& drawn_up) {
  const gp_Trsf t = driver.session().document().evaluation().placement * test::plate().placement;
  driver.window().view_pane().view().look(drawn_normal.Transformed(t), drawn_up.Transformed(t));
  driver.window().view_pane().fit();
  driver.settle();
}

double cell(QTreeView* table, const QString& row_name, const QString& column) {
  for (int row = 0; row < table->model()->rowCount(); ++row) {
    if (table->model()->index(row, 0).data().toString() != row_name) continue;
    for (int c = 0; c < table->model()->columnCount(); ++c)
      if (table->model()->headerData(c, Qt::Horizontal).toString() == column)
        return table->model()->index(row, c).data(Qt::UserRole).toDouble();
  }
  ADD_FAILURE() << "no " << column.toStdString() << " of " << row_name.toStdString();
  return std::nan("");
}

TEST(WholeJob, FromOpeningToHandOverAndAllTheWayBack) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(driver.step_file("saddle-plate.step", test::plate().bodies)));
  app::Session& session = driver.session();

  // Two opposite long sides, from either side of the part, and the plane midway between them.
  look_at_side(driver, gp_Dir(0, -1, 0), gp_Dir(0, 0, 1));
  driver.click_part(placed(driver, {120, 0, 11}));
  look_at_side(driver, gp_Dir(0, 1, 0), gp_Dir(0, 0, 1));
  driver.click_part(placed(driver, {120, 90, 11}));
  ASSERT_EQ(session.tray().picks().size(), 2u);
  ASSERT_FALSE(session.tray().offers().empty());
  EXPECT_EQ(session.tray().offers().front().construction->id, "plane.midway");
  EXPECT_EQ(session.tray().offers().front().note, "45.000 from each");
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Plane midway between ① and ②")));
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session.document().job().entries.size(), 2u);
  const auto& plane = std::get<PlaneDatum>(
      *session.document().evaluation().entries.at(session.document().job().entries.back().id).value);
  EXPECT_NEAR(height_over(plane.plane, placed(driver, {0, 45, 0})), 0, 1e-9);

  // A frame on the top face, zero in its corner, X along the longest edge, kept as the first setup.
  look_at_side(driver, gp_Dir(0, 0, 1), gp_Dir(0, 1, 0));
  driver.click_part(placed(driver, {120, 40, 22}));
  ASSERT_EQ(session.tray().picks().size(), 1u);
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Frame on ①")));
  auto* zero = static_cast<QComboBox*>(driver.child(QStringLiteral("parameter.zero")));
  ASSERT_NE(zero, nullptr);
  zero->setFocus();
  driver.type(QStringLiteral("corner"));  // the first choice that begins so
  EXPECT_EQ(zero->currentText(), QStringLiteral("corner −X −Y"));
  driver.click_widget(driver.child(QStringLiteral("tray.as_setup")));
  ASSERT_EQ(session.document().job().entries.size(), 4u);
  EXPECT_EQ(session.document().job().entries.back().name, "OP10");
  const int frame_id = session.document().job().entries.back().id;
  session.document().act(QStringLiteral("Read in another frame"),
                         with_reading_frame(session.document().job(), kReadPlaced));

  // Read in it, chosen with the keyboard in the top strip.
  auto* frames = static_cast<QComboBox*>(driver.child(QStringLiteral("reading_frame")));
  frames->setFocus();
  driver.key(QStringLiteral("End"));
  ASSERT_TRUE(driver.wait([&] {
    return session.document().job().reading_frame == frame_id && session.checks().corners() &&
           !session.checks().checking().is_busy();
  }));
  ASSERT_TRUE(driver.wait([&] { return session.checks().holes() != nullptr; }));

  // Three holes in the table, told in that frame. The longest edge runs along the drawing's X; which way X
  // points and so which corner is zero follows from the frame itself, so the drawing's numbers are carried
  // into it.
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of holes")));
  QTreeView* table = driver.window().drawer().table(app::Drawer::Table::kHoles);
  EXPECT_TRUE(table->isVisible());
  const gp_Ax2 frame = session.document().frame();
  EXPECT_TRUE(parallel(
      frame.XDirection(),
      gp_Dir(1, 0, 0).Transformed(session.document().evaluation().placement * test::plate().placement),
      1e-9));
  const HoleReport& report = *session.checks().holes();
  int compared = 0;
  for (const demo::ExpectedHole& expected : test::plate().holes) {
    if (expected.either_end) continue;
    const auto hole = std::find_if(report.holes.begin(), report.holes.end(),
                                   [&](const Hole& h) { return h.entry.Distance(expected.entry) < 1e-6; });
    ASSERT_NE(hole, report.holes.end());
    // The coordinates by hand: the drawing's numbers from the corner that is zero, with X and Y as the frame
    // has them.
    const gp_Pnt drawn = expected.entry.Transformed(test::plate().placement.Inverted());
    const gp_Pnt zero_drawn = frame.Location().Transformed(test::plate().placement.Inverted());
    const double x_sense = zero_drawn.X() < 90 ? 1 : -1, y_sense = zero_drawn.Y() < 45 ? 1 : -1;
    EXPECT_NEAR(cell(table, QString::fromStdString(hole->name), QStringLiteral("X")),
                x_sense * (drawn.X() - zero_drawn.X()), 1e-6);
    EXPECT_NEAR(cell(table, QString::fromStdString(hole->name), QStringLiteral("Y")),
                y_sense * (drawn.Y() - zero_drawn.Y()), 1e-6);
    EXPECT_NEAR(cell(table, QString::fromStdString(hole->name), QStringLiteral("Z")), 0, 1e-6);
    ++compared;
  }
  EXPECT_GE(compared, 3);

  // Export in the frame, read it back in a fresh import, compare.
  const QString out = driver.folder() + QStringLiteral("/placed.step");
  ExportRequest request;
  request.file = out.toStdString();
  driver.window().keeper().export_part(request);
  ASSERT_TRUE(driver.wait([&] { return !driver.window().keeper().output().is_busy(); }));
  auto again = import_part(out.toStdString(), {});
  ASSERT_TRUE(again) << again.error().sentence;
  const Box box = exact_box((*again)->shape());
  EXPECT_LT(box.min.Distance(gp_Pnt(0, 0, -22)), 1e-5);
  EXPECT_LT(box.max.Distance(gp_Pnt(180, 90, 0)), 1e-5);
  EXPECT_EQ((*again)->topology().faces.size(), session.document().part()->topology().faces.size());
  EXPECT_NEAR(volume_properties((*again)->shape()).volume_mm3,
              volume_properties(session.document().part()->shape()).volume_mm3, 1e-3);
  EXPECT_EQ((*again)->bodies().front().name, "Saddle plate");
  ASSERT_TRUE((*again)->bodies().front().colour);
  EXPECT_NEAR((*again)->bodies().front().colour->r, 0.66, 0.01);

  const QString csv = driver.folder() + QStringLiteral("/holes.csv"),
                pdf = driver.folder() + QStringLiteral("/sheet.pdf");
  driver.window().write_hole_list_to(csv);
  driver.window().write_setup_sheet_to(pdf);
  QFile list(csv), sheet(pdf);
  ASSERT_TRUE(list.open(QIODevice::ReadOnly));
  EXPECT_EQ(list.readAll().count('\n'), 3 + static_cast<int>(report.holes.size()));
  ASSERT_TRUE(sheet.open(QIODevice::ReadOnly));
  EXPECT_TRUE(sheet.read(5) == QByteArray("%PDF-"));

  // All the way back.
  int steps = 0;
  while (session.document().history().can_undo() && steps++ < 20) driver.key(QStringLiteral("ctrl+z"));
  EXPECT_EQ(session.document().job().entries.size(), 1u);
  EXPECT_EQ(session.document().job().reading_frame, kReadPlaced);
  while (session.document().history().can_redo()) driver.key(QStringLiteral("ctrl+shift+z"));
  EXPECT_EQ(session.document().job().entries.size(), 4u);
  EXPECT_EQ(session.document().job().reading_frame, frame_id);
}

TEST(WholeJob, OrientingIsOneEntryWhoseStepsCanBeEdited) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(driver.step_file("saddle-plate.step", test::plate().bodies)));
  app::Session& session = driver.session();
  look_at_side(driver, gp_Dir(0, 0, -1), gp_Dir(0, 1, 0));
  driver.click_part(placed(driver, {120, 30, 0}));
  ASSERT_TRUE(driver.choose_offer(QStringLiteral("Turn the part: face ① down")));
  driver.key(QStringLiteral("Return"));
  ASSERT_NE(session.document().job().placement(), nullptr);
  const Box box = exact_box(session.document().part()->shape(), session.document().evaluation().placement);
  EXPECT_NEAR(box.min.Z(), 0, 1e-6);
  EXPECT_NEAR(box.max.Z(), 22, 1e-6);

  // Quarter turns by key, each a step of the same entry.
  driver.key(QStringLiteral("ctrl+alt+x"));
  driver.key(QStringLiteral("ctrl+alt+x"));
  EXPECT_EQ(session.document().job().entries.size(), 2u);
  EXPECT_EQ(session.document().job().placement()->placement()->steps.size(), 3u);
  EXPECT_NEAR(
      exact_box(session.document().part()->shape(), session.document().evaluation().placement).max.Z(), 0,
      1e-6);

  // An exact angle about a picked axis, edited afterwards from the ledger.
  ASSERT_TRUE(driver.run_command(QStringLiteral("turn the part about axis by an angle")));
  look_at_side(driver, gp_Dir(0, 0, 1), gp_Dir(0, 1, 0));
  driver.click_part(placed(driver, {60, 90, 22}));
  ASSERT_TRUE(session.tray().draft());
  ASSERT_EQ(session.tray().draft()->solutions.size(), 1u) << session.tray().draft()->reason.toStdString();
  const gp_Dir along = *session.tray().picks().front().given.direction;
  const gp_Dir across =
      gp_Dir(0, 0, 1).Transformed(session.document().evaluation().placement * test::plate().placement);
  driver.child(QStringLiteral("parameter.angle"))->setFocus();
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("60/2"));
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session.document().job().placement()->placement()->steps.size(), 4u);
  const auto turned_by = [&] {
    return across.AngleWithRef(
        gp_Dir(0, 0, 1).Transformed(session.document().evaluation().placement * test::plate().placement),
        along);
  };
  EXPECT_NEAR(turned_by(), M_PI / 6, 1e-9);

  session.tray().edit(session.document().job().placement()->id, 3);
  driver.child(QStringLiteral("parameter.angle"))->setFocus();
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("45"));
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session.document().job().placement()->placement()->steps.size(), 4u);
  EXPECT_NEAR(turned_by(), M_PI / 4, 1e-9);
  while (session.document().history().can_undo()) driver.key(QStringLiteral("ctrl+z"));
  EXPECT_EQ(session.document().job().placement(), nullptr);
}

}  // namespace
}  // namespace anvil
