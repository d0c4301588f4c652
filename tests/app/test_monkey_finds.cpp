// What random acts brought down once: short, and by the mouse.
#include <QListWidget>
#include <QTreeWidget>

#include <gtest/gtest.h>

#include <TopExp_Explorer.hxx>

#include "app/panels/drawer.h"
#include "app/panels/ledger.h"
#include "app/panels/ledger_roles.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/demo_job.h"
#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "store/job_file.h"

namespace anvil {
namespace {

using test::WindowDriver;

class MonkeyFinds : public testing::Test {
 protected:
  QString block() {
    Body body;
    body.name = "block";
    for (TopExp_Explorer ex(demo::block({0, 0, 0}, {60, 40, 20}), TopAbs_SOLID); ex.More(); ex.Next())
      body.shape = ex.Current();
    return driver.step_file("block.step", {body});
  }
  WindowDriver driver;
};

// The rows are built anew by the act that a click on one of them sets off.
TEST_F(MonkeyFinds, EveryEyeOfTheLedgerIsClickedAndEveryEntryShowsAndHides) {
  const QString plate = driver.step_file("plate.step", demo::saddle_plate().bodies);
  const auto job = demo::saddle_plate_job(plate.toStdString());
  ASSERT_TRUE(job) << job.error().sentence;
  const QString path = driver.folder() + QStringLiteral("/demo.anvil");
  ASSERT_TRUE(save_job(*job, path.toStdString()));
  ASSERT_TRUE(driver.open(path));
  auto* ledger = driver.window().findChild<app::Ledger*>();
  std::vector<int> ids;
  for (QTreeWidgetItemIterator it(ledger); *it; ++it)
    if (const app::LedgerRow row = app::LedgerRow::of(*it);
        row.is_entry() && !(*it)->icon(app::kEye).isNull())
      ids.push_back(row.entry);
  ASSERT_GT(ids.size(), 4u);
  for (const int id : ids)
    for (int twice = 0; twice < 2; ++twice) {
      const bool before = driver.session().document().job().find(id)->visible;
      driver.settle();
      QTreeWidgetItem* item = nullptr;  // until the next event
      for (QTreeWidgetItemIterator it(ledger); *it; ++it)
        if (const app::LedgerRow row = app::LedgerRow::of(*it); row.is_entry() && row.entry == id) item = *it;
      ASSERT_TRUE(item);
      ledger->scrollToItem(item);
      const QRect row = ledger->visualItemRect(item);
      driver.click_widget(ledger->viewport(),
                          QPoint(ledger->columnViewportPosition(app::kEye) + 12, row.center().y()));
      ASSERT_TRUE(
          driver.wait([&] { return driver.session().document().job().find(id)->visible != before; }, 5))
          << id;
    }
}

// Findings name faces by number: of the part they were found on.
TEST_F(MonkeyFinds, FindingsGoWithTheirPart) {
  ASSERT_TRUE(driver.open(driver.step_file("torn.step", demo::torn_bracket().bodies)));
  ASSERT_TRUE(driver.wait([&] { return driver.session().checks().soundness() != nullptr; }));
  ASSERT_FALSE(driver.session().checks().soundness()->empty());
  driver.window().findChild<app::Drawer*>()->setVisible(true);
  const PartPtr torn = driver.session().document().part();
  bool mixed = false;
  QObject::connect(&driver.session().bus(), &app::ChangeBus::changed, &driver.window(), [&] {
    mixed = mixed || (driver.session().document().part() != torn && driver.session().checks().soundness() &&
                      !driver.session().checks().soundness()->empty());
  });
  ASSERT_TRUE(driver.open(block()));
  EXPECT_FALSE(mixed);
}

TEST_F(MonkeyFinds, APickThatWaitsForItsPlaceTakerGoesWithItsPart) {
  ASSERT_TRUE(driver.open(driver.step_file("plate.step", demo::saddle_plate().bodies)));
  const TopologyReference face =
      describe(*driver.session().document().part(), driver.session().document().job().first_part()->id,
               TopologyKind::kFace, 40);
  driver.session().tray().add_pick(Reference{face, {}});
  driver.session().tray().replace_pick_next(0);
  ASSERT_EQ(driver.session().tray().replacing(), 0);
  ASSERT_TRUE(driver.open(block()));
  EXPECT_TRUE(driver.session().tray().picks().empty());
  EXPECT_EQ(driver.session().tray().replacing(), -1);
}

// One by one, a hundred picks asked for their offers a hundred times.
TEST_F(MonkeyFinds, ARectangleOverEverythingAsksForItsOffersOnce) {
  ASSERT_TRUE(driver.open(driver.step_file("plate.step", demo::saddle_plate().bodies)));
  int asked = 0;
  QObject::connect(&driver.session().bus(), &app::ChangeBus::changed, &driver.window(),
                   [&](app::Changes what) { asked += bool(what & app::Change::kPicks); });
  const QWidget& view = driver.window().view_pane().view();
  driver.drag_view(QPointF(view.width() - 30, view.height() - 30), QPointF(20, 40));
  ASSERT_TRUE(driver.wait([&] { return driver.session().tray().picks().size() > 20; }, 5));
  EXPECT_LE(asked, 2);
}

}  // namespace
}  // namespace anvil
