// Nothing is lost: bad files, saving, safety copies, recovery.
#include <QFile>
#include <QLabel>
#include <QPushButton>
#include <QStandardPaths>

#include <gtest/gtest.h>

#include "app/notice_bar.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "exchange/step_format.h"
#include "job/autosave.h"
#include "job/edits.h"
#include "job/job_file.h"
#include "support/fixtures.h"
#include "support/process.h"

namespace anvil {
namespace {

using test::WindowDriver;

QString write_plate(const WindowDriver& driver) {
  const QString path = driver.folder() + QStringLiteral("/saddle-plate.step");
  EXPECT_TRUE(write_step(test::plate().bodies, {}, path.toStdString()));
  return path;
}

TEST(Safety, BadFileGetsASentenceAndTheJobStays) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(write_plate(driver)));
  const PartPtr before = driver.session().part();
  QFile bad(driver.folder() + QStringLiteral("/bad.step"));
  ASSERT_TRUE(bad.open(QIODevice::WriteOnly));
  bad.write("a letter, not a part");
  bad.close();
  driver.window().keeper().open(bad.fileName());
  ASSERT_TRUE(driver.wait([&] { return !driver.window().notice().text().isEmpty(); }));
  EXPECT_TRUE(driver.window().notice().text().contains(QStringLiteral("not a STEP file")));
  EXPECT_EQ(driver.session().part(), before);
}

TEST(Safety, SavedJobOpensAgainAsItWas) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(write_plate(driver)));
  driver.key(QStringLiteral("ctrl+alt+z"));
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait([&] { return driver.session().history().is_saved(); }));
  EXPECT_FALSE(driver.window().isWindowModified());
  const gp_Trsf placement = driver.session().evaluation().placement;
  driver.window().keeper().new_job();
  EXPECT_EQ(driver.session().part(), nullptr);
  ASSERT_TRUE(driver.open(path));
  EXPECT_EQ(driver.session().job().entries.size(), 2u);
  for (int row = 1; row <= 3; ++row)
    for (int column = 1; column <= 4; ++column)
      EXPECT_NEAR(driver.session().evaluation().placement.Value(row, column), placement.Value(row, column),
                  1e-9);
}

TEST(Safety, JobOfARunThatWasKilledIsOfferedAndRecovered) {
  WindowDriver driver;
  // Another run of the program works on the job and is killed before it saves.
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  auto part = test::part_of(test::plate());
  const QString step = write_plate(driver);
  QFile file(step);
  ASSERT_TRUE(file.open(QIODevice::ReadOnly));
  const auto bytes = std::make_shared<const std::string>(file.readAll().toStdString());
  const Job saved = with_part({}, part, bytes, "plate");
  ASSERT_TRUE(save_job(saved, path.toStdString()));
  Recipe turn;
  turn.construction = "place.quarter-turn";
  turn.parameters = {{"about", "X"}, {"sense", "forward"}};
  ASSERT_TRUE(save_job(with_placement_step(saved, turn),
                       (driver.folder() + QStringLiteral("/.plate.anvil.autosave-999999999")).toStdString()));

  driver.window().keeper().open(path);
  ASSERT_TRUE(
      driver.wait([&] { return driver.window().notice().text().contains(QStringLiteral("safety copy")); }));
  EXPECT_EQ(driver.session().job().placement(), nullptr);
  QPushButton* recover = nullptr;
  for (QPushButton* button : driver.window().notice().findChildren<QPushButton*>())
    if (button->text() == QStringLiteral("Recover")) recover = button;
  ASSERT_NE(recover, nullptr);
  driver.click_widget(recover);
  ASSERT_TRUE(driver.wait([&] { return driver.session().job().placement() != nullptr; }));
  EXPECT_FALSE(driver.session().history().is_saved());
}

TEST(Safety, FindingsOfAPartDoNotOutliveIt) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(write_plate(driver)));
  ASSERT_TRUE(driver.run_command(QStringLiteral("table of corners")));
  driver.session().act(QStringLiteral("delete"),
                       without(driver.session().job(), driver.session().part_entry()));
  driver.settle();
  EXPECT_EQ(driver.session().corners(), nullptr);
  driver.key(QStringLiteral("ctrl+z"));
  EXPECT_TRUE(driver.wait([&] { return driver.session().corners() != nullptr; }));
}

TEST(Safety, ChangesAreCopiedBesideTheJobWithoutBeingAsked) {
  WindowDriver driver;
  ASSERT_TRUE(driver.open(write_plate(driver)));
  const QString path = driver.folder() + QStringLiteral("/plate.anvil");
  driver.window().keeper().save_to(path);
  ASSERT_TRUE(driver.wait(
      [&] { return driver.session().history().is_saved() && !driver.window().keeper().output().is_busy(); }));
  driver.key(QStringLiteral("ctrl+alt+z"));
  const std::filesystem::path copy = Autosave(path.toStdString(), "").path();
  ASSERT_TRUE(driver.wait([&] { return std::filesystem::exists(copy); }, 10));
  driver.window().keeper().discard_safety_copy();
  EXPECT_FALSE(std::filesystem::exists(copy));
}

}  // namespace
}  // namespace anvil
