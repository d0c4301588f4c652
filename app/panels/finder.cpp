#include "app/panels/finder.h"

#include <QAction>
#include <QKeyEvent>
#include <QListWidget>

#include "app/theme.h"

namespace anvil::app {

Finder::Finder(QWidget* parent) : QLineEdit(parent), list_(new QListWidget(parent->window())) {
  setObjectName(QStringLiteral("finder"));
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

// All typed words must occur, in any order; actions that cannot be used now are left out.
void Finder::list_matches() {
  list_->clear();
  const QStringList words = text().toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
  for (QAction* action : actions_) {
    const QString name = action->text().remove(QLatin1Char('&')).remove(QStringLiteral(" …"));
    const QString searched = (name + QLatin1Char(' ') + action->data().toString()).toLower();
    if (!action->isEnabled() ||
        !std::all_of(words.begin(), words.end(), [&](const QString& w) { return searched.contains(w); }))
      continue;
    const QString keys = action->shortcut().toString(QKeySequence::NativeText);
    auto* item = new QListWidgetItem(keys.isEmpty() ? name : name + QStringLiteral("    ") + keys);
    item->setData(Qt::UserRole, QVariant::fromValue(static_cast<void*>(action)));
    list_->addItem(item);
  }
  list_->setCurrentRow(0);
  const QPoint at = mapTo(list_->parentWidget(), QPoint(0, height() + 2));
  const int wide = std::max(width(), 340);
  list_->setGeometry(at.x() + width() - wide, at.y(), wide, std::min(360, 8 + list_->count() * 28));
  list_->setVisible(list_->count() > 0 && hasFocus());
  list_->raise();
}

void Finder::run_current() {
  QListWidgetItem* item = list_->currentItem();
  auto* action = item ? static_cast<QAction*>(item->data(Qt::UserRole).value<void*>()) : nullptr;
  end();
  if (action) action->trigger();
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
