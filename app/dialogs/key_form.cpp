#include "app/dialogs/key_form.h"

#include <QAction>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "app/actions.h"
#include "app/key_bindings.h"
#include "app/panels/search_words.h"

namespace anvil::app {
namespace {

constexpr int kActionRole = Qt::UserRole;

}  // namespace

KeyForm::KeyForm(const Actions& actions, QWidget* parent) : QDialog(parent), actions_(actions) {
  setObjectName(QStringLiteral("key_form"));
  setWindowTitle(tr("Keys"));
  setAttribute(Qt::WA_DeleteOnClose);
  resize(520, 560);
  auto* layout = new QVBoxLayout(this);
  filter_ = new QLineEdit(this);
  filter_->setObjectName(QStringLiteral("keys.filter"));
  filter_->setPlaceholderText(tr("find an act"));
  layout->addWidget(filter_);
  list_ = new QTreeWidget(this);
  list_->setObjectName(QStringLiteral("keys.list"));
  list_->setColumnCount(2);
  list_->setHeaderLabels({tr("Act"), tr("Key")});
  list_->setRootIsDecorated(false);
  list_->header()->setStretchLastSection(false);
  list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  layout->addWidget(list_, 1);
  auto* row = new QHBoxLayout;
  key_ = new QKeySequenceEdit(this);
  key_->setObjectName(QStringLiteral("keys.key"));
  auto* give_it = new QPushButton(tr("Give this key"), this);
  give_it->setObjectName(QStringLiteral("primary"));
  auto* back = new QPushButton(tr("As it came"), this);
  back->setObjectName(QStringLiteral("keys.back"));
  for (QWidget* widget : std::initializer_list<QWidget*>{key_, give_it, back}) row->addWidget(widget);
  layout->addLayout(row);
  told_ = new QLabel(this);
  told_->setWordWrap(true);
  layout->addWidget(told_);
  connect(filter_, &QLineEdit::textChanged, this, &KeyForm::fill);
  connect(list_, &QTreeWidget::currentItemChanged, this, &KeyForm::show_current);
  connect(key_, &QKeySequenceEdit::keySequenceChanged, this, [this](const QKeySequence& key) {
    const QAction* has = action_with_key(actions_, key);
    told_->setText(has && has != current()
                       ? tr("%1 is the key of \"%2\", which would lose it.")
                             .arg(key.toString(QKeySequence::NativeText), plain_text(*has))
                       : QString());
  });
  connect(give_it, &QPushButton::clicked, this, &KeyForm::give);
  connect(back, &QPushButton::clicked, this, [this] {
    if (QAction* action = current()) give_back_key(*action);
    fill();
  });
  fill();
}

QAction* KeyForm::current() const {
  return list_->currentItem() ? actions_.find(list_->currentItem()->data(0, kActionRole).toString())
                              : nullptr;
}

void KeyForm::fill() {
  const QAction* before = current();
  list_->clear();
  for (const QAction* action : actions_.all()) {
    if (search_rank(filter_->text(), plain_text(*action), synonyms_of(action->objectName())) < 0) continue;
    auto* item = new QTreeWidgetItem(list_, {plain_text(*action), keys_text(*action)});
    item->setData(0, kActionRole, action->objectName());
    if (action == before) list_->setCurrentItem(item);
  }
}

void KeyForm::show_current() {
  const QAction* action = current();
  key_->setKeySequence(action ? action->shortcut() : QKeySequence());
}

void KeyForm::give() {
  QAction* action = current();
  if (!action) return told_->setText(tr("Choose an act first."));
  give_key(actions_, *action, key_->keySequence());
  told_->setText(tr("Given."));
  fill();
}

}  // namespace anvil::app
