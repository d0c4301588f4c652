// What people click, clicked: every button, chip, row, eye, cell, field and menu entry that can be seen, by
// its place on the screen. The window outlives all of it, and nothing is told in the words of a library.
#include <QAbstractButton>
#include <QAbstractItemView>
#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QProcess>
#include <QTimer>
#include <QTreeView>

#include <gtest/gtest.h>

#include <iostream>
#include <set>

#include "app/notice_bar.h"
#include "app/panels/drawer.h"
#include "app/view/view_pane.h"
#include "app/window_driver.h"
#include "demo/demo_part.h"

namespace anvil {
namespace {

using test::WindowDriver;

// A place that can be clicked, with a name that stays when the panels are built anew.
struct Spot {
  QString key;
  QWidget* widget = nullptr;
  QPoint at;
};

QString name_of(const QWidget* widget) {
  QStringList names;
  for (const QWidget* up = widget; up && !up->isWindow(); up = up->parentWidget())
    names.prepend(up->objectName().isEmpty() ? QString::fromLatin1(up->metaObject()->className())
                                             : up->objectName());
  const auto* button = qobject_cast<const QAbstractButton*>(widget);
  return names.join(QLatin1Char('/')) +
         (button ? QLatin1Char(':') + button->text() + button->toolTip() : QString());
}

void add_cells(QAbstractItemView* view, std::vector<Spot>& spots) {
  constexpr int kMostRows = 8;  // of one view that can be seen; each kind of row is among them
  const QAbstractItemModel* model = view->model();
  const auto add = [&](const QModelIndex& index, const QString& row) {
    const QRect cell = view->visualRect(index);
    if (cell.isEmpty() || !view->viewport()->rect().contains(cell.center())) return;
    spots.push_back({name_of(view) + QStringLiteral("[%1,%2]").arg(row).arg(index.column()), view->viewport(),
                     cell.center()});
  };
  for (int row = 0; row < std::min(kMostRows, model->rowCount()); ++row)
    for (int column = 0; column < model->columnCount(); ++column) {
      const QModelIndex index = model->index(row, column);
      add(index, QString::number(row));
      for (int inside = 0; column == 0 && inside < std::min(kMostRows, model->rowCount(index)); ++inside)
        for (int inner = 0; inner < model->columnCount(index); ++inner)
          add(model->index(inside, inner, index), QStringLiteral("%1.%2").arg(row).arg(inside));
    }
}

std::vector<Spot> spots_in(QWidget& top) {
  std::vector<Spot> spots;
  for (QWidget* widget : top.findChildren<QWidget*>()) {
    if (!widget->isVisible() || !widget->isEnabled() || widget->visibleRegion().isEmpty()) continue;
    if (widget->window() != &top) continue;
    if (auto* view = qobject_cast<QAbstractItemView*>(widget))
      add_cells(view, spots);
    else if (qobject_cast<QAbstractButton*>(widget) || qobject_cast<QComboBox*>(widget) ||
             qobject_cast<QLineEdit*>(widget))
      spots.push_back({name_of(widget), widget, widget->visibleRegion().boundingRect().center()});
  }
  return spots;
}

class EveryClick : public testing::Test {
 protected:
  EveryClick() {
    QObject::connect(&dismiss_, &QTimer::timeout, [this] { dismiss(); });
    dismiss_.start(120);
  }

  void open_demo_job() { ASSERT_TRUE(driver.open(driver.demo_job_file())); }

  // Escapes a dialog or a list that came of a click and has stood for a while.
  void dismiss() {
    QWidget* const above = QApplication::activePopupWidget() ? QApplication::activePopupWidget()
                                                             : QApplication::activeModalWidget();
    seen_for_ = above && above == seen_ ? seen_for_ + 1 : 0;
    seen_ = above;
    if (above && may_dismiss_ && seen_for_ >= 2)
      QProcess::startDetached(QStringLiteral("xdotool"), {QStringLiteral("key"), QStringLiteral("Escape")});
  }

  void click(const Spot& spot) {
    driver.click_widget(spot.widget, spot.at);
    driver.wait([] { return !QApplication::activeModalWidget() && !QApplication::activePopupWidget(); }, 10);
    const QString told = driver.window().notice().text();
    EXPECT_FALSE(told.contains(QStringLiteral(" failed: ")))
        << spot.key.toStdString() << ": " << told.toStdString();
  }

  // Until nothing is left that was not clicked; what a click brings is clicked as well.
  void click_all(size_t most) {
    while (clicked_.size() < most) {
      const std::vector<Spot> spots = spots_in(driver.window());
      const auto next = std::find_if(spots.begin(), spots.end(),
                                     [&](const Spot& spot) { return !clicked_.count(spot.key); });
      if (next == spots.end()) return;
      clicked_.insert(next->key);
      click(*next);
      ASSERT_TRUE(driver.window().isVisible()) << next->key.toStdString();
    }
  }

  WindowDriver driver;
  std::set<QString> clicked_;
  bool may_dismiss_ = true;

 private:
  QTimer dismiss_;
  QWidget* seen_ = nullptr;
  int seen_for_ = 0;
};

TEST_F(EveryClick, OnEveryPanelWithTheDemoJob) {
  open_demo_job();
  for (const auto table :
       {app::Drawer::Table::kHoles, app::Drawer::Table::kCorners, app::Drawer::Table::kSoundness}) {
    driver.window().drawer().open(table);
    driver.settle();
    click_all(clicked_.size() + 90);
  }
  std::cout << clicked_.size() << " places\n";
  EXPECT_GT(clicked_.size(), 120u);
  EXPECT_TRUE(driver.session().document().part());
}

TEST_F(EveryClick, OnASetupAndWhatIsPicked) {
  open_demo_job();
  for (const Entry& entry : driver.session().document().job().entries)
    if (entry.setup()) driver.session().desk().open_setup(entry.id);
  driver.settle();
  click_all(60);
  driver.click_view(QPointF(driver.window().view_pane().view().rect().center()));
  driver.settle();
  click_all(clicked_.size() + 60);
  EXPECT_GT(clicked_.size(), 60u);
}

TEST_F(EveryClick, OnEveryEntryOfEveryMenu) {
  open_demo_job();
  QMenuBar* bar = driver.window().menuBar();
  int entries = 0;
  for (QAction* title : bar->actions()) {
    QMenu* menu = title->menu();
    if (!menu) continue;
    for (int i = 0; i < menu->actions().size(); ++i) {
      may_dismiss_ = false;
      driver.click_widget(bar, bar->actionGeometry(title).center());
      ASSERT_TRUE(driver.wait([&] { return menu->isVisible(); }, 5)) << title->text().toStdString();
      QAction* entry = menu->actions().value(i);  // some are made as the menu opens
      const bool ends = entry && entry->objectName().contains(QStringLiteral("quit"));
      if (!entry || !entry->isEnabled() || entry->isSeparator() || ends) {
        driver.key(QStringLiteral("Escape"));
        driver.wait([&] { return !menu->isVisible(); }, 5);
        continue;
      }
      may_dismiss_ = true;
      ++entries;
      click({title->text() + QLatin1Char('/') + entry->text(), menu, menu->actionGeometry(entry).center()});
      driver.wait([&] { return !driver.session().document().evaluating().is_busy(); }, 20);
      ASSERT_TRUE(driver.window().isVisible()) << title->text().toStdString() << i;
      if (!driver.session().document().part()) open_demo_job();  // "New job"
    }
  }
  std::cout << entries << " entries\n";
  EXPECT_GT(entries, 60);
}

}  // namespace
}  // namespace anvil
