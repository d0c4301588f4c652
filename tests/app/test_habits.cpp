// What users do without thinking: forms, tables, the ledger, files that others touch too.
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QTimer>
#include <QToolButton>
#include <QTreeView>
#include <QTreeWidget>

#include <gtest/gtest.h>
#include <unistd.h>
#include <TopExp_Explorer.hxx>
#include <thread>

#include "app/dialogs/preferences.h"
#include "app/forms/export_form.h"
#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/panels/ledger.h"
#include "app/panels/ledger_roles.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "base/file.h"
#include "demo/shapes.h"
#include "job/edits.h"
#include "store/job_file.h"

namespace anvil {
namespace {

using test::WindowDriver;

// A block 60 x 40 x 20 with three holes of different size, and a second block beside it.
class Habits : public testing::Test {
 protected:
  void SetUp() override {
    app::Preferences().save();
    Body drilled, plain;
    drilled.name = "drilled";
    const auto hole = [](double x, double diameter) {
      return demo::rod(gp_Ax2(gp_Pnt(x, 20, 20), gp_Dir(0, 0, -1)), diameter, 20);
    };
    drilled.shape =
        solid(demo::cut(demo::block({0, 0, 0}, {60, 40, 20}), {hole(12, 9), hole(30, 5), hole(48, 7)}));
    plain.name = "plain";
    plain.shape = solid(demo::block({100, 0, 0}, {130, 40, 20}));
    step = driver.step_file("blocks.step", {drilled, plain});
    ASSERT_TRUE(driver.open(step));
    driver.key(QStringLiteral("alt+8"));
  }
  void TearDown() override { app::Preferences().save(); }

  static TopoDS_Shape solid(const TopoDS_Shape& shape) {
    TopExp_Explorer ex(shape, TopAbs_SOLID);
    return ex.Current();
  }
  app::Session& session() { return driver.session(); }
  QString notice() { return driver.window().notice().text(); }
  QTreeWidgetItem* row_of(int entry) {
    for (QTreeWidgetItemIterator it(&driver.window().ledger()); *it; ++it)
      if ((*it)->data(0, Qt::UserRole).toInt() == entry) return *it;
    return nullptr;
  }
  int keep_offset_plane() {
    driver.click_part({30, 35, 20});
    EXPECT_TRUE(driver.choose_offer(QStringLiteral("Plane offset from ①")));
    driver.key(QStringLiteral("Return"));
    return session().document().job().entries.back().id;
  }
  void focus_again() {  // there is no window manager to give it back after a form
    driver.window().activateWindow();
    ASSERT_TRUE(driver.wait([&] { return driver.window().isActiveWindow(); }));
  }
  QStringList column(QTreeView* table, int index) {
    QStringList texts;
    for (int row = 0; row < table->model()->rowCount(); ++row)
      texts << table->model()->index(row, index).data().toString();
    return texts;
  }

  WindowDriver driver;
  QString step;
};

TEST_F(Habits, TablesSortByNumbersFilterAndAreCopiedAsText) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of holes")));
  QTreeView* table = driver.window().drawer().table(app::Drawer::Table::kHoles);
  table->sortByColumn(1, Qt::AscendingOrder);
  EXPECT_EQ(column(table, 1), (QStringList{"5.000", "7.000", "9.000"}));
  table->sortByColumn(1, Qt::DescendingOrder);
  EXPECT_EQ(column(table, 1), (QStringList{"9.000", "7.000", "5.000"}));
  driver.click_widget(driver.child(QStringLiteral("drawer.filter")));
  driver.type(QStringLiteral("7.000"));
  EXPECT_EQ(column(table, 1), QStringList{"7.000"});
  driver.window().drawer().copy();
  const QStringList lines = QApplication::clipboard()->text().trimmed().split(QLatin1Char('\n'));
  ASSERT_EQ(lines.size(), 2);
  EXPECT_TRUE(lines[0].startsWith(QStringLiteral("Hole\tDiameter\tDepth")));
  EXPECT_TRUE(lines[1].contains(QStringLiteral("7.000\t20.000\t48.000\t20.000\t20.000")));
  const QString csv = driver.folder() + QStringLiteral("/holes.csv");
  ASSERT_TRUE(driver.window().drawer().write_csv(csv));
  const auto written = read_file(csv.toStdString());
  ASSERT_TRUE(written);
  EXPECT_EQ(written->substr(0, 19), "Hole,Diameter,Depth");
  EXPECT_NE(written->find(",7.000,20.000,48.000,20.000,20.000,"), std::string::npos) << *written;
  driver.key(QStringLiteral("ctrl+a"));
  driver.key(QStringLiteral("BackSpace"));
  EXPECT_EQ(table->model()->rowCount(), 3);
}

TEST_F(Habits, TablesFollowTheUnitOnTheScreen) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of holes")));
  QTreeView* table = driver.window().drawer().table(app::Drawer::Table::kHoles);
  auto* unit = static_cast<QComboBox*>(driver.child(QStringLiteral("unit")));
  ASSERT_NE(unit, nullptr);
  driver.click_widget(unit);
  driver.key(QStringLiteral("Down"));
  driver.key(QStringLiteral("Return"));
  ASSERT_EQ(session().document().job().display.unit, Unit::kInch);
  table->sortByColumn(1, Qt::AscendingOrder);
  EXPECT_EQ(column(table, 1).front(), QStringLiteral("0.1969"));
  focus_again();
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_EQ(column(table, 1).front(), QStringLiteral("5.000"));
}

TEST_F(Habits, EntriesAreRenamedInPlaceHiddenAndDeletedWithTheirDependents) {
  const int plane = keep_offset_plane();
  Recipe on_it;
  on_it.construction = "plane.offset";
  on_it.inputs = {{EntryReference{plane}, {}}};
  session().document().act(QStringLiteral("another"), with_datum(session().document().job(), on_it));
  app::Ledger& ledger = driver.window().ledger();
  driver.click_widget(ledger.viewport(), ledger.visualItemRect(row_of(plane)).center());
  driver.key(QStringLiteral("F2"));
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("Clearance"));
  driver.key(QStringLiteral("Return"));
  EXPECT_EQ(session().document().job().find(plane)->name, "Clearance");
  ledger.setCurrentItem(row_of(plane));
  driver.key(QStringLiteral("ctrl+h"));
  EXPECT_FALSE(session().document().job().find(plane)->visible);
  ledger.setCurrentItem(row_of(plane));
  driver.key(QStringLiteral("ctrl+h"));
  EXPECT_TRUE(session().document().job().find(plane)->visible);

  // Asked, and left: nothing happens. Asked, and meant: both go; undo brings both back.
  for (const bool meant : {false, true}) {
    ledger.setCurrentItem(row_of(plane));
    driver.in_the_form("delete_dependents", [&](QWidget* box) {
      EXPECT_TRUE(box->findChild<QLabel*>(QStringLiteral("qt_msgbox_label"))
                      ->text()
                      .contains("Clearance is used by: Plane 2"));
      for (QPushButton* button : box->findChildren<QPushButton*>())
        if (button->text().startsWith(meant ? QStringLiteral("Delete") : QStringLiteral("Leave"))) {
          driver.click_widget(button);
          break;
        }
    });
    driver.key(QStringLiteral("Delete"));
    ASSERT_TRUE(driver.wait([&] { return driver.child(QStringLiteral("delete_dependents")) == nullptr; }));
    EXPECT_EQ(session().document().job().find(plane) == nullptr, meant);
    focus_again();
  }
  EXPECT_EQ(session().document().job().entries.size(), 1u);
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_EQ(session().document().job().entries.size(), 3u);
}

TEST_F(Habits, CommandFirstAsksForItsPicksAndEscapeLetsGo) {
  ASSERT_TRUE(driver.run_command(QStringLiteral("distance")));
  ASSERT_TRUE(session().tray().draft());
  EXPECT_TRUE(session().still_needed_text().contains(QStringLiteral("①")));
  driver.click_part({0, 0, 20});
  EXPECT_TRUE(session().still_needed_text().contains(QStringLiteral("②")));
  driver.click_part({60, 40, 20});
  ASSERT_FALSE(session().tray().draft()->solutions.empty());
  EXPECT_NEAR(std::get<Measurement>(session().tray().draft()->solutions.front().value).value,
              std::hypot(60, 40), 1e-9);
  driver.key(QStringLiteral("Escape"));
  EXPECT_FALSE(session().tray().draft());
  EXPECT_EQ(session().tray().picks().size(), 2u);
  driver.key(QStringLiteral("Escape"));
  EXPECT_TRUE(session().tray().picks().empty());
  EXPECT_EQ(session().document().job().entries.size(), 1u);
}

TEST_F(Habits, FinderListsByAnyWordAndRefusesNothingSilently) {
  driver.key(QStringLiteral("ctrl+k"));
  driver.type(QStringLiteral("MIDWAY"));
  auto* list = driver.window().findChild<QListWidget*>(QStringLiteral("finder.list"));
  ASSERT_GE(list->count(), 1);
  EXPECT_TRUE(list->item(0)->text().contains(QStringLiteral("midway")));
  driver.key(QStringLiteral("ctrl+a"));
  driver.type(QStringLiteral("zzzz"));
  EXPECT_EQ(session().tray().draft(), std::nullopt);
  driver.key(QStringLiteral("Escape"));
  EXPECT_FALSE(list->isVisible());
}

TEST_F(Habits, BodiesAreLookedAtAloneAndTogetherAgain) {
  driver.click_part({115, 20, 20});
  driver.key(QStringLiteral("ctrl+i"));
  EXPECT_EQ(session().document().isolated(), std::set<int>{1});
  EXPECT_TRUE(driver.window().view_pane().finder().at(driver.on_screen({30, 35, 20})).empty());
  EXPECT_FALSE(driver.window().view_pane().finder().at(driver.on_screen({115, 20, 20})).empty());
  driver.key(QStringLiteral("ctrl+shift+i"));
  EXPECT_FALSE(driver.window().view_pane().finder().at(driver.on_screen({30, 35, 20})).empty());
  EXPECT_TRUE(session().document().history().can_undo() == false) << "looking is no change of the job";
}

TEST_F(Habits, ExportFormOffersWhatTheKindNeedsAndTakesWhatIsTicked) {
  app::ExportForm form(
      session(), [](const ExportRequest&, const Format&) { return true; }, nullptr);
  form.show();
  auto* kind = form.findChild<QComboBox*>(QStringLiteral("export.format"));
  auto* deviation = form.findChild<QLineEdit*>(QStringLiteral("export.deviation"));
  auto* bodies = form.findChild<QListWidget*>(QStringLiteral("export.bodies"));
  ASSERT_TRUE(kind && deviation && bodies);
  EXPECT_FALSE(deviation->isVisible());
  kind->setCurrentIndex(kind->findData(QStringLiteral("stl")));
  EXPECT_TRUE(deviation->isVisible());
  deviation->setText(QStringLiteral("1/64in"));
  bodies->item(0)->setCheckState(Qt::Unchecked);
  const ExportRequest request = form.request();
  EXPECT_EQ(request.format, "stl");
  EXPECT_NEAR(request.options.mesh_deviation_mm, 25.4 / 64, 1e-12);
  EXPECT_EQ(request.bodies, std::vector<int>{1});
  deviation->setText(QStringLiteral("nonsense"));
  EXPECT_DOUBLE_EQ(form.request().options.mesh_deviation_mm, WriteOptions().mesh_deviation_mm);
}

TEST_F(Habits, ExportThatCannotBeWrittenIsToldAndLeavesNothing) {
  ExportRequest request;
  request.file = "/no/such/folder/blocks.step";
  driver.window().keeper().export_part(request);
  ASSERT_TRUE(driver.wait([&] { return notice().contains(QStringLiteral("/no/such/folder")); }));
  request.file = (driver.folder() + QStringLiteral("/one.step")).toStdString();
  request.bodies = {1};
  driver.window().keeper().export_part(request);
  ASSERT_TRUE(driver.wait([&] { return notice().contains(QStringLiteral("read back: 6 faces")); }));
}

TEST_F(Habits, PreferencesActAtOnceAndOnTheNextJob) {
  driver.key(QStringLiteral("ctrl+comma"));
  QWidget* form = driver.child(QStringLiteral("preferences"));
  if (!form) {
    ASSERT_TRUE(driver.run_command(QStringLiteral("preferences")));
    form = driver.child(QStringLiteral("preferences"));
  }
  ASSERT_NE(form, nullptr);
  form->findChild<QSpinBox*>(QStringLiteral("preferences.decimals"))->setValue(2);
  form->findChild<QComboBox*>(QStringLiteral("preferences.unit"))->setCurrentIndex(2);
  form->findChild<QComboBox*>(QStringLiteral("preferences.mouse"))->setCurrentIndex(1);
  EXPECT_EQ(session().document().job().display.decimals, 2);
  EXPECT_EQ(driver.window().view_pane().view().buttons(), app::OccView::Buttons::kRightTurns);
  form->close();
  ASSERT_TRUE(driver.open(step));
  EXPECT_EQ(session().document().job().display.unit, Unit::kInch);
  EXPECT_EQ(session().document().job().display.decimals, 2);
}

TEST_F(Habits, RecentFilesNameWhatWasOpenedNewestFirstAndOnce) {
  const QString job = driver.folder() + QStringLiteral("/blocks.anvil");
  driver.window().keeper().save_to(job);
  ASSERT_TRUE(driver.wait([&] { return session().document().history().is_saved(); }));
  ASSERT_TRUE(driver.open(step));
  const QStringList recent = app::JobKeeper::recent_files();
  ASSERT_GE(recent.size(), 2);
  EXPECT_EQ(recent[0], step);
  EXPECT_EQ(recent[1], job);
  EXPECT_EQ(recent.count(step), 1);
  QFile::remove(job);
  QMenu* menu = nullptr;
  for (QMenu* each : driver.window().findChildren<QMenu*>())
    if (each->title() == QStringLiteral("Recent")) menu = each;
  ASSERT_NE(menu, nullptr);
  Q_EMIT menu->aboutToShow();
  for (QAction* action : menu->actions())
    EXPECT_EQ(action->isEnabled(), QFile::exists(action->toolTip())) << action->toolTip().toStdString();
}

TEST_F(Habits, JobChangedBySomeoneElseIsKeptBesideOurs) {
  const QString path = driver.folder() + QStringLiteral("/blocks.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] {
    return session().document().history().is_saved() && !driver.window().keeper().saving().is_busy();
  }));
  std::this_thread::sleep_for(std::chrono::milliseconds(20));
  ASSERT_TRUE(save_job(with_name(session().document().job(), session().document().part_entry(), "theirs"),
                       path.toStdString()));
  keep_offset_plane();
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] {
    return session().document().history().is_saved() && !driver.window().keeper().saving().is_busy();
  }));
  EXPECT_TRUE(notice().contains(QStringLiteral("changed by someone else")));
  int ours = 0, theirs = 0;
  for (const auto& file : std::filesystem::directory_iterator(driver.folder().toStdString())) {
    const std::string name = file.path().filename().string();
    if (name.find("blocks.anvil") != 0) continue;
    const std::string bytes = *read_file(file.path());
    const auto copy = file.path().parent_path() / "copy.anvil";
    ASSERT_TRUE(write_file_atomically(copy, bytes));
    const auto job = load_job(copy, {});
    ASSERT_TRUE(job) << name << ": " << job.error().sentence;
    (job->job.first_part()->name == "theirs" ? theirs : ours)++;
  }
  EXPECT_EQ(ours, 1);
  EXPECT_EQ(theirs, 1);
}

TEST_F(Habits, JobFileThatWasTakenAwayIsWrittenAgain) {
  const QString path = driver.folder() + QStringLiteral("/blocks.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] {
    return session().document().history().is_saved() && !driver.window().keeper().saving().is_busy();
  }));
  QFile::remove(path);
  keep_offset_plane();
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] { return session().document().history().is_saved(); }));
  EXPECT_TRUE(load_job(path.toStdString(), {}));
}

TEST_F(Habits, SavingWhereItCannotBeKeepsTheJobUnsavedAndSaysWhy) {
  keep_offset_plane();
  driver.window().keeper().save_to(QStringLiteral("/no/such/folder/blocks.anvil"));
  ASSERT_TRUE(driver.wait([&] { return notice().contains(QStringLiteral("/no/such/folder")); }));
  EXPECT_FALSE(session().document().history().is_saved());
  EXPECT_EQ(session().document().job().entries.size(), 2u);
}

}  // namespace
}  // namespace anvil
