#include "app/actions.h"

#include <QWidget>

namespace anvil::app {

QAction* Actions::make(const QString& id, const QString& text, const QKeySequence& keys) {
  auto* action = new QAction(text, window_);
  action->setObjectName(id);
  action->setData(id);
  action->setShortcut(keys);
  window_->addAction(action);
  by_id_.insert(id, action);
  in_order_ << action;
  return action;
}

QAction* Actions::add(const QString& id, const QString& text, const QKeySequence& keys,
                      std::function<void()> run) {
  QAction* action = make(id, text, keys);
  QObject::connect(action, &QAction::triggered, window_, [run = std::move(run)] { run(); });
  return action;
}

QAction* Actions::checkable(const QString& id, const QString& text, const QKeySequence& keys,
                            std::function<void(bool)> run) {
  QAction* action = make(id, text, keys);
  action->setCheckable(true);
  QObject::connect(action, &QAction::triggered, window_, [run = std::move(run)](bool on) { run(on); });
  return action;
}

}  // namespace anvil::app
