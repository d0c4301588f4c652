// Every action of the window under a stable text id ("edit.undo", "define.plane.midway"), used by menus,
// shortcuts, the finder and the tests.
#pragma once

#include <QAction>
#include <QKeySequence>
#include <QMap>
#include <functional>

class QWidget;

namespace anvil::app {

class Actions {
 public:
  explicit Actions(QWidget* window) : window_(window) {}

  QAction* add(const QString& id, const QString& text, const QKeySequence& keys, std::function<void()> run);
  QAction* checkable(const QString& id, const QString& text, const QKeySequence& keys,
                     std::function<void(bool)> run);
  [[nodiscard]] QAction* find(const QString& id) const { return by_id_.value(id); }
  [[nodiscard]] QList<QAction*> all() const { return in_order_; }

 private:
  QAction* make(const QString& id, const QString& text, const QKeySequence& keys);
  QWidget* window_;
  QMap<QString, QAction*> by_id_;
  QList<QAction*> in_order_;
};

}  // namespace anvil::app
