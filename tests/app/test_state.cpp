// The window's state: one act is one event, and tables touch only the rows that are others now.
#include <QStandardItemModel>
#include <QTreeView>

#include <gtest/gtest.h>
#include <stdexcept>

#include "app/panels/drawer.h"
#include "app/panels/row_merge.h"
#include "app/window_driver.h"
#include "demo/demo_part.h"
#include "job/edits.h"

namespace anvil {
namespace {

using app::Change;
using app::Changes;
using test::WindowDriver;

TEST(ChangeBus, AnnouncesOnceForAllThatHappensWhileItIsHeld) {
  app::ChangeBus bus;
  std::vector<Changes> heard;
  QObject::connect(&bus, &app::ChangeBus::changed, [&](Changes what) { heard.push_back(what); });
  {
    const app::ChangeBus::Hold act(bus);
    bus.announce(Change::kJob);
    {
      const app::ChangeBus::Hold inner(bus);
      bus.announce(Change::kPicks | Change::kJob);
    }
    EXPECT_TRUE(heard.empty());
  }
  ASSERT_EQ(heard.size(), 1u);
  EXPECT_EQ(heard.front(), Change::kJob | Change::kPicks);
  { const app::ChangeBus::Hold nothing(bus); }
  bus.announce(Change::kShown);
  ASSERT_EQ(heard.size(), 2u);
  EXPECT_EQ(heard.back(), Changes(Change::kShown));
}

TEST(ChangeBus, WhatAListenerThrowsAtTheEndOfAHoldIsTold) {
  app::ChangeBus bus;
  QStringList told;
  QObject::connect(&bus, &app::ChangeBus::told, [&](const QString& sentence) { told << sentence; });
  QObject::connect(&bus, &app::ChangeBus::changed, [] { throw std::runtime_error("no camera"); });
  {
    const app::ChangeBus::Hold act(bus);
    bus.announce(Change::kPart);
  }
  ASSERT_EQ(told.size(), 1);
  EXPECT_TRUE(told.front().contains(QStringLiteral("no camera"))) << told.front().toStdString();
  EXPECT_NO_THROW(bus.announce(Change::kPart));
}

class Rows : public testing::Test {
 protected:
  Rows() {
    QObject::connect(&shown, &QAbstractItemModel::rowsRemoved,
                     [this](const QModelIndex&, int first, int last) {
                       for (int row = first; row <= last; ++row) removed.push_back(row);
                     });
  }
  // "a", "b(1,2)": with rows under it.
  static void fill(QStandardItemModel& model, const QStringList& rows) {
    for (const QString& text : rows) {
      auto* item = new QStandardItem(text.section(QLatin1Char('('), 0, 0));
      for (const QString& child : text.section(QLatin1Char('('), 1)
                                      .chopped(text.contains(QLatin1Char('(')))
                                      .split(QLatin1Char(','), Qt::SkipEmptyParts))
        item->appendRow(new QStandardItem(child.trimmed()));
      model.appendRow(item);
    }
  }
  bool merge(const QStringList& rows) {
    removed.clear();
    QStandardItemModel made;
    fill(made, rows);
    return app::merge_rows(shown, made);
  }
  [[nodiscard]] QStringList now() const {
    QStringList rows;
    for (int row = 0; row < shown.rowCount(); ++row) {
      QStringList under;
      for (int child = 0; child < shown.item(row)->rowCount(); ++child)
        under << shown.item(row)->child(child)->text();
      rows << shown.item(row)->text() +
                  (under.isEmpty() ? QString()
                                   : QLatin1Char('(') + under.join(QLatin1Char(',')) + QLatin1Char(')'));
    }
    return rows;
  }
  QStandardItemModel shown;
  std::vector<int> removed;
};

TEST_F(Rows, ThatAreAlikeAreNotTouched) {
  const QStringList rows{QStringLiteral("a"), QStringLiteral("b(1,2)"), QStringLiteral("c"),
                         QStringLiteral("d")};
  EXPECT_TRUE(merge(rows));
  EXPECT_EQ(now(), rows);
  EXPECT_FALSE(merge(rows));
  EXPECT_TRUE(removed.empty());
  // One in the middle, and one under another.
  const QStringList other{QStringLiteral("a"), QStringLiteral("b(1,3)"), QStringLiteral("c"),
                          QStringLiteral("D")};
  EXPECT_TRUE(merge(other));
  EXPECT_EQ(now(), other);
  EXPECT_EQ(removed, (std::vector<int>{3, 1}));
  // Fewer and more.
  for (const QStringList& next : {QStringList{QStringLiteral("a"), QStringLiteral("D")}, QStringList{}, rows,
                                  QStringList{QStringLiteral("x")} + rows, rows + rows}) {
    merge(next);
    EXPECT_EQ(now(), next);
  }
}

TEST_F(Rows, UnderAnotherAreMadeWhenTheyAreAskedFor) {
  app::TableRows table(0, 1);
  int times = 0;
  const auto become = [&](const QString& under) {
    QStandardItemModel made;
    auto* row = new QStandardItem(QStringLiteral("a"));
    app::make_rows_later(row, [under, &times](QStandardItem& asked) {
      ++times;
      asked.appendRow(new QStandardItem(under));
    });
    made.appendRow(row);
    return table.become(made);
  };
  EXPECT_TRUE(become(QStringLiteral("1")));
  const auto first = [&] { return table.index(0, 0); };
  EXPECT_TRUE(table.hasChildren(first()));
  EXPECT_EQ(table.rowCount(first()), 0);
  EXPECT_FALSE(become(QStringLiteral("2")));  // nobody has looked under it
  EXPECT_EQ(times, 0);
  table.fetchMore(first());
  EXPECT_EQ(times, 1);
  EXPECT_EQ(table.index(0, 0, first()).data().toString(), QStringLiteral("2"));
  EXPECT_FALSE(become(QStringLiteral("2")));
  EXPECT_EQ(table.rowCount(first()), 1);
  EXPECT_TRUE(become(QStringLiteral("3")));
  table.fetchMore(first());
  ASSERT_EQ(table.rowCount(first()), 1);
  EXPECT_EQ(table.index(0, 0, first()).data().toString(), QStringLiteral("3"));
}

class State : public testing::Test {
 protected:
  void SetUp() override {
    ASSERT_TRUE(driver.open(driver.demo_job_file()));
    ASSERT_TRUE(driver.wait([&] { return session().checks().corners() && session().checks().soundness(); }));
  }
  app::Session& session() { return driver.session(); }
  [[nodiscard]] int a_datum() {
    int id = 0;
    for (const Entry& entry : session().document().job().entries)
      if (entry.datum()) id = entry.id;
    return id;
  }
  WindowDriver driver;
};

TEST_F(State, AnActIsOneEventAndLeavesRowsThatAreAsTheyWere) {
  auto& drawer = driver.window().drawer();
  drawer.open(app::Drawer::Table::kHoles);
  QTreeView* holes = drawer.table(app::Drawer::Table::kHoles);
  ASSERT_GT(holes->model()->rowCount(), 5);
  ASSERT_TRUE(driver.wait([&] { return session().checks().survey() != nullptr; }));
  EXPECT_EQ(drawer.table(app::Drawer::Table::kSoundness)->model()->rowCount(), 0);  // closed: not filled
  EXPECT_EQ(drawer.table(app::Drawer::Table::kCorners)->model()->rowCount(), 0);
  holes->setCurrentIndex(holes->model()->index(3, 0));
  holes->expand(holes->model()->index(1, 0));
  const int details = holes->model()->rowCount(holes->model()->index(1, 0));
  EXPECT_GT(details, 2);
  int events = 0, touched = 0;
  QObject::connect(&session().bus(), &app::ChangeBus::changed, &driver.window(), [&] { ++events; });
  QObject::connect(holes->model(), &QAbstractItemModel::rowsAboutToBeRemoved, &driver.window(),
                   [&] { ++touched; });
  const int id = a_datum();
  session().document().act(QStringLiteral("Hide"), with_visible(session().document().job(), id, false));
  EXPECT_EQ(events, 1);
  session().document().act(QStringLiteral("Name"), with_name(session().document().job(), id, "Renamed"));
  EXPECT_EQ(events, 2);
  session().document().undo();
  EXPECT_EQ(events, 3);
  EXPECT_EQ(touched, 0);
  EXPECT_TRUE(holes->selectionModel()->isRowSelected(3));
  EXPECT_TRUE(holes->isExpanded(holes->model()->index(1, 0)));
  EXPECT_EQ(holes->model()->rowCount(holes->model()->index(1, 0)), details);
  // Another unit is other rows, and what was open is open again.
  const QString before = holes->model()->index(0, 1).data().toString();
  Display inches = session().document().job().display;
  inches.unit = Unit::kInch;
  session().document().act(QStringLiteral("Inches"), with_display(session().document().job(), inches));
  EXPECT_GT(touched, 0);
  EXPECT_NE(holes->model()->index(0, 1).data().toString(), before);
  EXPECT_TRUE(holes->isExpanded(holes->model()->index(1, 0)));
}

TEST_F(State, WhatIsTypedIsSolvedOnceWhenTheWindowIsIdleAndKeptAsItStands) {
  session().tray().start("point.typed");
  ASSERT_TRUE(session().tray().draft());
  const size_t entries = session().document().job().entries.size();
  int drafts = 0;
  QObject::connect(&session().bus(), &app::ChangeBus::changed, &driver.window(),
                   [&](Changes what) { drafts += bool(what & Change::kDraft); });
  for (const char* text : {"1", "12", "12.", "12.5"}) session().tray().set_parameter("x", text);
  EXPECT_EQ(drafts, 0);
  driver.settle();
  EXPECT_EQ(drafts, 1);
  const auto x_of = [](const DatumValue& value) { return std::get<PointDatum>(value).point; };
  const gp_Pnt settled = x_of(session().tray().draft()->solutions.front().value);
  session().tray().set_parameter("x", "20.5");
  session().tray().keep();  // before the window was idle
  ASSERT_TRUE(driver.wait([&] { return !session().document().evaluating().is_busy(); }));
  ASSERT_EQ(session().document().job().entries.size(), entries + 1);
  const Entry& kept = session().document().job().entries.back();
  EXPECT_NEAR(x_of(*session().document().evaluation().entries.at(kept.id).value).Distance(settled), 8, 1e-9);
}

}  // namespace
}  // namespace anvil
