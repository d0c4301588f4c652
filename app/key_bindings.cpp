#include "app/key_bindings.h"

#include <QAction>
#include <QSettings>

#include "app/actions.h"

namespace anvil::app {
namespace {

constexpr const char* kCameWith = "came_with_keys";

QString setting_of(const QAction& action) {
  return QStringLiteral("keys/") + action.objectName();
}

}  // namespace

void apply_own_keys(const Actions& actions) {
  const QSettings settings;
  for (QAction* action : actions.all()) {
    action->setProperty(kCameWith, QVariant::fromValue(action->shortcuts()));
    const QString setting = setting_of(*action);
    if (settings.contains(setting))
      action->setShortcut(QKeySequence(settings.value(setting).toString(), QKeySequence::PortableText));
  }
}

QAction* action_with_key(const Actions& actions, const QKeySequence& key) {
  if (key.isEmpty()) return nullptr;
  for (QAction* action : actions.all())
    if (action->shortcuts().contains(key)) return action;
  return nullptr;
}

void give_key(const Actions& actions, QAction& action, const QKeySequence& key) {
  QSettings settings;
  if (QAction* before = action_with_key(actions, key); before && before != &action) {
    before->setShortcut(QKeySequence());
    settings.setValue(setting_of(*before), QString());
  }
  action.setShortcut(key);
  settings.setValue(setting_of(action), key.toString(QKeySequence::PortableText));
}

void give_back_key(QAction& action) {
  action.setShortcuts(action.property(kCameWith).value<QList<QKeySequence>>());
  QSettings().remove(setting_of(action));
}

QString plain_text(const QAction& action) {
  return action.text().remove(QLatin1Char('&'));
}

QString keys_text(const QAction& action) {
  QStringList keys;
  for (const QKeySequence& one : action.shortcuts()) keys << one.toString(QKeySequence::NativeText);
  return keys.join(QStringLiteral(", "));
}

}  // namespace anvil::app
