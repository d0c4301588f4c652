// Whatever takes a key or a click has a name that a screen reader can say.
#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAccessible>
#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QSlider>

#include <gtest/gtest.h>

#include "app/panels/drawer.h"
#include "app/window_driver.h"
#include "job/edits.h"

namespace anvil {
namespace {

bool takes_input(const QWidget* widget) {
  return qobject_cast<const QAbstractButton*>(widget) || qobject_cast<const QLineEdit*>(widget) ||
         qobject_cast<const QComboBox*>(widget) || qobject_cast<const QSlider*>(widget) ||
         qobject_cast<const QAbstractItemView*>(widget);
}

// Parts of one widget that Qt makes for itself are named by the whole.
bool is_part_of_another(const QWidget* widget) {
  const QWidget* parent = widget->parentWidget();
  return widget->objectName().startsWith(QLatin1String("qt_")) || (parent && takes_input(parent)) ||
         widget->inherits("QComboBoxListView") || widget->inherits("QLineEditIconButton") ||
         widget->inherits("QMenuBarExtension") || widget->inherits("QTableCornerButton");
}

std::vector<std::string> without_name(QWidget& window) {
  std::vector<std::string> found;
  for (QWidget* widget : window.findChildren<QWidget*>()) {
    if (!takes_input(widget) || is_part_of_another(widget)) continue;
    QAccessibleInterface* told = QAccessible::queryAccessibleInterface(widget);
    const QString name = told ? told->text(QAccessible::Name) : QString();
    if (name.trimmed().isEmpty() && widget->toolTip().isEmpty())
      found.push_back(std::string(widget->metaObject()->className()) + " " +
                      widget->objectName().toStdString() + " in " +
                      widget->parentWidget()->objectName().toStdString());
  }
  return found;
}

TEST(Names, EverythingThatTakesInputHasOne) {
  test::WindowDriver driver;
  driver.window().actions().find(QStringLiteral("help.demo"))->trigger();
  ASSERT_TRUE(driver.wait([&] { return driver.session().checks().corners() != nullptr; }, 60));
  const Entry& setup = *std::find_if(driver.session().document().job().entries.begin(),
                                     driver.session().document().job().entries.end(),
                                     [](const Entry& entry) { return entry.setup() != nullptr; });
  driver.session().desk().open_setup(setup.id);
  for (int table = 0; table < 6; ++table)
    driver.window().drawer().open(static_cast<app::Drawer::Table>(table));
  driver.session().tray().start("plane.offset");
  driver.settle();
  for (const std::string& unnamed : without_name(driver.window())) ADD_FAILURE() << unnamed;
}

// And every act can be reached by its key or through a menu, which Alt opens.
TEST(Names, EveryActHasAKeyOrStandsInAMenu) {
  test::WindowDriver driver;
  QSet<QAction*> in_menus;
  for (QMenu* menu : driver.window().findChildren<QMenu*>())
    for (QAction* action : menu->actions()) in_menus.insert(action);
  for (QAction* action : driver.window().actions().all())
    EXPECT_TRUE(!action->shortcut().isEmpty() || in_menus.contains(action))
        << action->objectName().toStdString();
}

}  // namespace
}  // namespace anvil
