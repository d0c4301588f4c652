#include "app/forms/tray_form.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace anvil::app {

TrayForm::TrayForm(const char* name, const QString& heading, QWidget* parent) : QWidget(parent) {
  setObjectName(QLatin1String(name));
  setAccessibleName(heading);
  layout_ = new QVBoxLayout(this);
  layout_->setContentsMargins(0, 0, 0, 0);
  layout_->setSpacing(6);
  auto* title = new QLabel(heading.toUpper(), this);
  title->setObjectName(QStringLiteral("heading"));
  layout_->addWidget(title);
  rows_ = new QFormLayout;
  rows_->setRowWrapPolicy(QFormLayout::WrapLongRows);
  rows_->setVerticalSpacing(5);
  layout_->addLayout(rows_);
  wrong_ = new QLabel(this);
  wrong_->setObjectName(QStringLiteral("warning"));
  wrong_->setWordWrap(true);
  wrong_->hide();
  layout_->addWidget(wrong_);
  buttons_ = new QWidget(this);
  auto* row = new QHBoxLayout(buttons_);
  row->setContentsMargins(0, 2, 0, 0);
  layout_->addWidget(buttons_);
}

QLabel* TrayForm::say(const QString& text) {
  auto* label = new QLabel(text, this);
  label->setObjectName(QStringLiteral("quiet"));
  label->setWordWrap(true);
  rows_->addRow(label);
  return label;
}

void TrayForm::add_row(const QString& label, QWidget* row) {
  row->setAccessibleName(label);
  rows_->addRow(label, row);
}

void TrayForm::show_row(QWidget* row, bool shown) {
  rows_->setRowVisible(row, shown);
}

QLineEdit* TrayForm::field(const QString& label, const QString& text, const char* name) {
  auto* made = new QLineEdit(text, this);
  made->setObjectName(QLatin1String(name));
  add_row(label, made);
  return made;
}

QComboBox* TrayForm::choice(const QString& label, const QStringList& items, const char* name) {
  auto* made = new QComboBox(this);
  made->setObjectName(QLatin1String(name));
  made->addItems(items);
  made->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  made->setMinimumContentsLength(8);
  add_row(label, made);
  return made;
}

// A long text wraps beside its box, which the box itself cannot do.
QCheckBox* TrayForm::tick(const QString& text, bool on, const char* name) {
  auto* made = new QCheckBox(this);
  made->setObjectName(QLatin1String(name));
  made->setAccessibleName(text);
  made->setChecked(on);
  auto* words = new QLabel(text, this);
  words->setWordWrap(true);
  words->setBuddy(made);
  auto* row = new QWidget(this);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  line->addWidget(made, 0, Qt::AlignTop);
  line->addWidget(words, 1);
  rows_->addRow(row);
  return made;
}

QPushButton* TrayForm::add_button(const QString& text, const char* name, std::function<void()> run) {
  auto* button = new QPushButton(text, buttons_);
  button->setObjectName(QLatin1String(name));
  connect(button, &QPushButton::clicked, this, std::move(run));
  buttons_->layout()->addWidget(button);
  return button;
}

void TrayForm::ends_with(const QString& act, std::function<QString()> run) {
  run_ = std::move(run);
  add_button(act, "primary", [this] { do_it(); });
  add_button(tr("Leave"), "form.leave", [this] { Q_EMIT left(); });
  static_cast<QHBoxLayout*>(buttons_->layout())->addStretch(1);
}

void TrayForm::do_it() {
  const QString wrong = run_ ? run_() : QString();
  wrong_->setText(wrong);
  wrong_->setVisible(!wrong.isEmpty());
  if (wrong.isEmpty()) Q_EMIT left();
}

void TrayForm::focus_first() {
  for (int row = 0; row < rows_->rowCount(); ++row) {
    const QLayoutItem* item = rows_->itemAt(row, QFormLayout::FieldRole);
    QWidget* widget = item ? item->widget() : nullptr;
    if (!widget || !widget->isVisibleTo(this) || widget->focusPolicy() == Qt::NoFocus) continue;
    widget->setFocus(Qt::OtherFocusReason);
    if (auto* text = qobject_cast<QLineEdit*>(widget)) text->selectAll();
    return;
  }
  if (auto* first = findChild<QCheckBox*>()) return first->setFocus(Qt::OtherFocusReason);
  setFocusPolicy(Qt::StrongFocus);
  setFocus(Qt::OtherFocusReason);
}

void TrayForm::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) return Q_EMIT left();
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return do_it();
  QWidget::keyPressEvent(event);
}

}  // namespace anvil::app
