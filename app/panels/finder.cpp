#include "app/panels/finder.h"

#include <QAction>
#include <QKeyEvent>
#include <QListWidget>
#include <algorithm>

#include "app/key_bindings.h"
#include "app/panels/search_words.h"
#include "app/theme.h"

namespace anvil::app {

Finder::Finder(QWidget* parent) : QLineEdit(parent), list_(new QListWidget(parent->window())) {
  setObjectName(QStringLiteral("finder"));
  setAccessibleName(tr("Find a command"));
  list_->setAccessibleName(tr("What was found"));
  setPlaceholderText(tr("find a command   Ctrl+K"));
  list_->setObjectName(QStringLiteral("finder.list"));
  list_->setFocusPolicy(Qt::NoFocus);
  list_->setFrameShape(QFrame::Box);
  list_->hide();
  connect(this, &QLineEdit::textEdited, this, &Finder::list_matches);
  connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem*) { run_current(); });
}

void Finder::begin() {
  setFocus(Qt::ShortcutFocusReason);
  selectAll();
  list_matches();
}

// Actions that cannot be used now are left out.
std::vector<Findable> Finder::matches() const {
  const QString typed = text().trimmed();
  std::vector<std::pair<int, Findable>> ranked;
  const auto add = [&](const QString& name, const QString& synonyms, Findable findable) {
    if (const int rank = search_rank(typed, name, synonyms); rank >= 0)
      ranked.emplace_back(rank, std::move(findable));
  };
  for (QAction* action : actions_) {
    if (!action->isEnabled()) continue;
    const QString name = plain_text(*action).remove(QStringLiteral(" …"));
    add(name, synonyms_of(action->objectName()) + action->data().toString(),
        {name, {}, action->shortcut().toString(QKeySequence::NativeText), [action] { action->trigger(); }});
  }
  if (named_ && !typed.isEmpty())
    for (Findable& findable : named_()) {
      const QString name = findable.text, also = findable.also;
      add(name, also, std::move(findable));
    }
  std::stable_sort(ranked.begin(), ranked.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<Findable> found;
  found.reserve(ranked.size());
  for (auto& [rank, findable] : ranked) found.push_back(std::move(findable));
  return found;
}

void Finder::list_matches() {
  list_->clear();
  found_ = matches();
  for (const Findable& findable : found_)
    list_->addItem(findable.keys.isEmpty() ? findable.text
                                           : findable.text + QStringLiteral("    ") + findable.keys);
  list_->setCurrentRow(0);
  const QPoint at = mapTo(list_->parentWidget(), QPoint(0, height() + 2));
  const int wide = std::max(width(), 340);
  list_->setGeometry(at.x() + width() - wide, at.y(), wide, std::min(360, 8 + list_->count() * 28));
  list_->setVisible(list_->count() > 0 && hasFocus());
  list_->raise();
}

void Finder::run_current() {
  const int row = list_->currentRow();
  const std::function<void()> run =
      row >= 0 && row < static_cast<int>(found_.size()) ? found_[static_cast<size_t>(row)].run : nullptr;
  end();
  if (run) run();
}

void Finder::end() {
  list_->hide();
  clear();
  clearFocus();
}

void Finder::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Down:
      list_->setCurrentRow(std::min(list_->currentRow() + 1, list_->count() - 1));
      return;
    case Qt::Key_Up:
      list_->setCurrentRow(std::max(list_->currentRow() - 1, 0));
      return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
      run_current();
      return;
    case Qt::Key_Escape:
      end();
      return;
    default:
      QLineEdit::keyPressEvent(event);
  }
}

void Finder::focusInEvent(QFocusEvent* event) {
  QLineEdit::focusInEvent(event);
  list_matches();
}

void Finder::focusOutEvent(QFocusEvent* event) {
  QLineEdit::focusOutEvent(event);
  list_->hide();
}

}  // namespace anvil::app
