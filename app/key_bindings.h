// Keys that the user gave to acts, over those they come with; kept with the user's preferences.
#pragma once

#include <QKeySequence>
#include <QString>

class QAction;

namespace anvil::app {

class Actions;

// Gives every action the user's key, where there is one. Before that it remembers the key it came with.
void apply_own_keys(const Actions& actions);

// Empty: no key at all. The action that has the key so far loses it.
void give_key(const Actions& actions, QAction& action, const QKeySequence& key);
void give_back_key(QAction& action);  // the one it came with
[[nodiscard]] QAction* action_with_key(const Actions& actions, const QKeySequence& key);

// As they are told: without the mark of the menu's letter; "Alt+8, Num+8".
[[nodiscard]] QString plain_text(const QAction& action);
[[nodiscard]] QString keys_text(const QAction& action);

}  // namespace anvil::app
