// Nothing is lost: bad files, saving, safety copies, recovery.
#include <QFile>
#include <QLabel>
#include <QPushButton>
#include <QStandardPaths>
#include <QTimer>

#include <gtest/gtest.h>

#include "app/application.h"
#include "app/notice_bar.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/shapes.h"
#include "geom/coordinate.h"
#include "job/edits.h"
#include "store/job_file.h"
#include "store/safety_copy.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {
namespace {

using test::WindowDriver;

std::filesystem::path state_folder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation).toStdString();
}

QString plate_file(const WindowDriver& driver) {
  return driver.step_file("saddle-plate.step", test::plate().bodies);
}

TEST(Safety, BadFileGetsASentenceAndTheJobStays) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  const PartPtr before = driver.session().document().part();
  QFile bad(driver.folder() + QStringLiteral("/bad.step"));
  ASSERT_TRUE(bad.open(QIODevice::WriteOnly));
  bad.write("a letter, not a part");
  bad.close();
  driver.window().keeper().open(bad.fileName());
  ASSERT_TRUE(driver.wait([&] { return !driver.window().notice().text().isEmpty(); }));
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("not a STEP file")));
  EXPECT_EQ(driver.session().document().part(), before);
}

TEST(Safety, SavedJobOpensAgainAsItWas) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  driver.key(QStringLiteral("ctrl+alt+z"));
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] { return driver.session().document().history().is_saved(); }));
  EXPECT_FALSE(driver.window().isWindowModified());
  const gp_Trsf placement = driver.session().document().evaluation().placement;
  driver.window().keeper().new_job();
  EXPECT_EQ(driver.session().document().part(), nullptr);
  ASSERT_TRUE(driver.open(path));
  EXPECT_EQ(driver.session().document().job().entries.size(), 2u);
  const auto rows = rows_of(driver.session().document().evaluation().placement);
  for (size_t i = 0; i < rows.size(); ++i) EXPECT_NEAR(rows[i], rows_of(placement)[i], 1e-9);
}

TEST(Safety, JobOfARunThatWasKilledIsOfferedAndRecovered) {
  WindowDriver driver;
  // Another run of the program works on the job and is killed before it saves.
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  auto part = test::part_of(test::plate());
  const QString step = plate_file(driver);
  QFile file(step);
  ASSERT_TRUE(file.open(QIODevice::ReadOnly));
  const auto bytes = std::make_shared<const std::string>(file.readAll().toStdString());
  const Job saved = with_part({}, part, bytes, "plate");
  ASSERT_TRUE(save_job(saved, path.toStdString()));
  Recipe turn;
  turn.construction = "place.quarter-turn";
  turn.parameters = {{"about", "X"}, {"sense", "forward"}};
  ASSERT_TRUE(
      SafetyCopy(path.toStdString(), state_folder()).write(with_placement_step(saved, turn)));  // and no more

  driver.window().keeper().open(path);
  ASSERT_TRUE(
      driver.wait([&] { return driver.window().notice().text().contains(QStringLiteral("safety copy")); }));
  EXPECT_EQ(driver.session().document().job().placement(), nullptr);
  QPushButton* recover = nullptr;
  for (QPushButton* button : driver.window().notice().findChildren<QPushButton*>())
    if (button->text() == QStringLiteral("Recover")) recover = button;
  ASSERT_NE(recover, nullptr);
  driver.click_widget(recover);
  ASSERT_TRUE(driver.wait([&] { return driver.session().document().job().placement() != nullptr; }));
  EXPECT_FALSE(driver.session().document().history().is_saved());
}

TEST(Safety, FindingsOfAPartDoNotOutliveIt) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of corners")));
  driver.session().document().act(
      QStringLiteral("delete"),
      without(driver.session().document().job(), driver.session().document().part_entry()));
  driver.settle();
  EXPECT_EQ(driver.session().checks().corners(), nullptr);
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_TRUE(driver.wait([&] { return driver.session().checks().corners() != nullptr; }));
}

TEST(Safety, ChangesAreCopiedWithoutBeingAsked) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  auto& keeper = driver.window().keeper();
  keeper.save_to(path);
  ASSERT_TRUE(driver.wait(
      [&] { return driver.session().document().history().is_saved() && !keeper.saving().is_busy(); }));
  driver.key(QStringLiteral("ctrl+alt+z"));
  ASSERT_TRUE(driver.wait([&] { return !keeper.safety_copy().folder().empty(); }, 10));
  const std::filesystem::path copy = keeper.safety_copy().folder() / "job.json";
  ASSERT_TRUE(driver.wait([&] { return std::filesystem::exists(copy); }, 10));
  keeper.save_to(path);
  ASSERT_TRUE(driver.wait([&] { return driver.session().document().history().is_saved(); }));
  EXPECT_FALSE(std::filesystem::exists(copy));
}

// Every long work is bound to the job, and the value of it, that it began with.
TEST(Safety, WhatIsChangedWhileASaveRunsIsNotMarkedSaved) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  driver.key(QStringLiteral("ctrl+alt+z"));
  auto& keeper = driver.window().keeper();
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  bool then_ran = false;
  keeper.save_to(path, [&] { then_ran = true; });
  ASSERT_TRUE(keeper.saving().is_busy());
  driver.session().document().act(QStringLiteral("turn"),
                                  with_placement_steps(driver.session().document().job(), {}));
  ASSERT_TRUE(driver.wait([&] { return !keeper.saving().is_busy(); }));
  EXPECT_FALSE(driver.session().document().history().is_saved());
  EXPECT_FALSE(then_ran);
  EXPECT_TRUE(driver.wait(
      [&] {
        return !keeper.safety_copy().folder().empty() &&
               std::filesystem::exists(keeper.safety_copy().folder() / "job.json");
      },
      10));
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_TRUE(driver.session().document().history().is_saved());
}

TEST(Safety, ASaveThatEndsAfterAnotherJobWasOpenedIsNotOfThatOne) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  driver.key(QStringLiteral("ctrl+alt+z"));
  auto& keeper = driver.window().keeper();
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  keeper.save_to(path);
  keeper.new_job();
  ASSERT_TRUE(driver.wait([&] { return !keeper.saving().is_busy(); }));
  EXPECT_TRUE(keeper.path().isEmpty());
  const auto saved = load_job(path.toStdString(), {});
  ASSERT_TRUE(saved);
  EXPECT_NE(saved->job.placement(), nullptr);
}

TEST(Safety, SavesThatFollowEachOtherAreAllDone) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  auto& keeper = driver.window().keeper();
  const QString first = driver.folder() + QStringLiteral("/a.anvil"),
                second = driver.folder() + QStringLiteral("/b.anvil");
  for (const QString& path : {first, first, second, second}) {
    driver.key(QStringLiteral("ctrl+alt+z"));
    keeper.save_to(path);
  }
  ASSERT_TRUE(driver.wait(
      [&] { return driver.session().document().history().is_saved() && keeper.path() == second; }));
  EXPECT_EQ(load_job(first.toStdString(), {})->job.placement()->placement()->steps.size(), 2u);
  EXPECT_EQ(load_job(second.toStdString(), {})->job.placement()->placement()->steps.size(), 4u);
  EXPECT_FALSE(driver.window().notice().text().contains(QStringLiteral("someone else")));
}

TEST(Safety, AHealThatEndsLateLeavesTheOtherJobAlone) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  auto& keeper = driver.window().keeper();
  keeper.heal({});
  ASSERT_TRUE(keeper.healing().is_busy());
  ASSERT_TRUE(driver.open(
      driver.step_file("block.step", test::part_of(demo::block({0, 0, 0}, {5, 6, 7}))->bodies())));
  ASSERT_TRUE(driver.wait([&] { return !keeper.healing().is_busy(); }));
  driver.settle();
  EXPECT_EQ(driver.session().document().job().healing(), nullptr);
}

TEST(Safety, OfFilesOpenedTogetherTheFirstThatCanBeReadMakesTheJob) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  const QString bad = driver.folder() + QStringLiteral("/bad.step"),
                block = driver.step_file("block.step",
                                         test::part_of(demo::block({0, 0, 0}, {5, 6, 7}))->bodies()),
                job = driver.folder() + QStringLiteral("/saved.anvil");
  QFile file(bad);
  ASSERT_TRUE(file.open(QIODevice::WriteOnly));
  file.write("a letter, not a part");
  file.close();
  auto& keeper = driver.window().keeper();
  const auto bodies = [&] {
    return driver.session().document().part() ? driver.session().document().part()->bodies().size() : 0;
  };
  keeper.save_to(job);
  ASSERT_TRUE(driver.wait(
      [&] { return driver.session().document().history().is_saved() && !keeper.saving().is_busy(); }));
  const size_t of_plate = bodies();

  keeper.open(QStringList{bad, block});
  ASSERT_TRUE(driver.wait([&] { return !keeper.work().is_busy() && keeper.path().isEmpty(); }));
  ASSERT_TRUE(driver.wait([&] { return bodies() == 1; }));
  EXPECT_EQ(driver.session().document().part()->source().file_name, "block.step");

  keeper.open(QStringList{job, block});  // the part joins the job
  ASSERT_TRUE(driver.wait([&] { return !keeper.work().is_busy() && bodies() == of_plate + 1; }));
  EXPECT_EQ(keeper.path(), job);

  keeper.open(
      QStringList{block, job, job});  // a job comes first wherever it stands, and one is open at a time
  ASSERT_TRUE(
      driver.wait([&] { return driver.window().notice().text().contains(QStringLiteral("One job")); }));
  ASSERT_TRUE(driver.wait([&] { return !keeper.work().is_busy() && bodies() == of_plate + 1; }));
}

// The next step is taken from the point that was kept, however long it takes until that is there.
TEST(Safety, GoingOnFromTheNewPointWaitsUntilItIsThere) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  app::Session& session = driver.session();
  session.tray().add_pick(
      {describe(*session.document().part(), session.document().part_entry(), TopologyKind::kVertex, 0), {}});
  session.tray().start("point.stepped");
  session.tray().set_parameter("x", "5");
  ASSERT_TRUE(session.tray().can_go_on());
  const int kept = session.document().job().next_id;
  session.document().set_patience(std::chrono::milliseconds(0));
  session.tray().keep_and_go_on();
  ASSERT_TRUE(driver.wait([&] { return session.tray().draft() && !session.tray().picks().empty(); }, 10));
  ASSERT_EQ(session.tray().picks().size(), 1u);
  const auto* from = std::get_if<EntryReference>(&session.tray().picks().front().reference.target);
  ASSERT_TRUE(from);
  EXPECT_EQ(from->entry, kept);
  EXPECT_TRUE(driver.wait([&] { return session.tray().can_keep(); }, 10));
}

// An edit that nobody could open again is refused, and what was typed and picked stays in the tray.
TEST(Safety, ARefusedEditLosesNothing) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  app::Session& session = driver.session();
  Recipe offset;
  offset.construction = "plane.offset";
  offset.inputs = {
      {describe(*session.document().part(), session.document().part_entry(), TopologyKind::kFace, 0), {}}};
  offset.parameters = {{"distance", "3"}};
  int first = 0, second = 0;
  Job job = with_datum(session.document().job(), offset, &first);
  offset.inputs = {{EntryReference{first}, {}}};
  job = with_datum(std::move(job), offset, &second);
  ASSERT_TRUE(session.document().act(QStringLiteral("planes"), std::move(job)));
  const int revision = session.document().ticket().revision;
  session.tray().edit(first);
  session.tray().remove_pick(0);
  session.tray().add_pick({EntryReference{second}, {}});
  session.tray().set_parameter("distance", "7");
  ASSERT_TRUE(session.tray().can_keep());
  session.tray().keep();
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("made from")));
  EXPECT_EQ(session.document().ticket().revision, revision);
  ASSERT_TRUE(session.tray().draft());
  EXPECT_EQ(session.tray().draft()->parameters.at("distance"), "7");
  EXPECT_EQ(session.tray().picks().size(), 1u);
}

// What a thread throws becomes a sentence.
TEST(Safety, WhateverLongWorkThrowsIsTold) {
  WindowDriver driver;
  app::Background background;
  QString told;
  QObject::connect(&background, &app::Background::failed, [&](const QString& sentence) { told = sentence; });
  background.start<int>(
      QStringLiteral("Counting"), [](const Progress&) -> int { throw 7; }, [](int) {});
  ASSERT_TRUE(driver.wait([&] { return !told.isEmpty(); }));
  EXPECT_TRUE(told.contains(QStringLiteral("Counting")));
  EXPECT_FALSE(background.is_busy());
  Result<int> refused = 1;
  background.start<Result<int>>(
      QStringLiteral("Counting"), [](const Progress&) -> Result<int> { throw std::bad_alloc(); },
      [&](const Result<int>& result) { refused = result; });
  ASSERT_TRUE(driver.wait([&] { return !refused; }));
  told.clear();
  background.start_patiently<int>(
      QStringLiteral("Counting"), std::chrono::seconds(5),
      [](const Progress&) -> int { throw std::runtime_error("no more fingers"); }, [](int) {});
  EXPECT_TRUE(told.contains(QStringLiteral("no more fingers")));
}

// And what an act throws on the interface thread: the window stays, with its job.
TEST(Safety, WhateverAnActThrowsIsTold) {
  WindowDriver driver;
  auto* application = dynamic_cast<app::Application*>(qApp);
  ASSERT_TRUE(application);
  application->set_teller([&](const QString& sentence) { driver.window().notice().tell(sentence); });
  QTimer::singleShot(0, [] { throw std::runtime_error("no more fingers"); });
  QTimer::singleShot(0, [] { throw Standard_Failure("no more toes"); });
  EXPECT_TRUE(
      driver.wait([&] { return driver.window().notice().text().contains(QStringLiteral("toes")); }, 5));
  EXPECT_TRUE(driver.open(plate_file(driver)));
  application->set_teller({});
}

// The finer mesh and what was mended come later; whoever has turned the part by then goes on looking as he
// did.
TEST(Safety, TheCameraStaysWhenTheFinerPartArrives) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(plate_file(driver)));
  driver.key(QStringLiteral("alt+8"));
  driver.settle();
  const KeptView before = driver.window().view_pane().present_view("");
  const PartPtr shown = driver.session().document().part();
  const auto finer = std::make_shared<const Part>(shown->sources(), shown->bodies());
  driver.session().document().exchange_part(shown, finer);
  driver.settle();
  ASSERT_EQ(driver.session().document().part(), finer);
  const KeptView after = driver.window().view_pane().present_view("");
  EXPECT_LT(before.eye.Distance(after.eye), 1e-9);
  EXPECT_EQ(before.scale_mm, after.scale_mm);
}

}  // namespace
}  // namespace anvil
