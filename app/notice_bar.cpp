#include "app/notice_bar.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/work_bar.h"

namespace anvil::app {

NoticeBar::NoticeBar(QWidget* parent)
    : QFrame(parent), text_(new QLabel(this)), layout_(new QHBoxLayout(this)) {
  setObjectName(QStringLiteral("notice"));
  layout_->setContentsMargins(10, 6, 6, 6);
  text_->setWordWrap(true);
  text_->setObjectName(QStringLiteral("notice.text"));
  layout_->addWidget(text_, 1);
  auto* close = new QToolButton(this);
  close->setIcon(icon(QStringLiteral("close"), theme().quiet_ink));
  close->setToolTip(tr("Dismiss"));
  connect(close, &QToolButton::clicked, this, &QWidget::hide);
  layout_->addWidget(close);
  hide();
  leaving_.setSingleShot(true);
  leaving_.setInterval(6000);
  connect(&leaving_, &QTimer::timeout, this, &QWidget::hide);
}

void NoticeBar::confirm(const QString& sentence) {
  tell(sentence);
  if (buttons_.empty()) leaving_.start();
}

void NoticeBar::tell(const QString& sentence, const std::vector<Act>& acts) {
  leaving_.stop();
  // A question that was not answered yet stays, with what is new below it.
  if (isVisible() && !buttons_.empty() && acts.empty()) {
    text_->setText(question_ + QLatin1Char('\n') + sentence);
    return;
  }
  question_ = sentence;
  for (QWidget* button : buttons_) button->deleteLater();
  buttons_.clear();
  text_->setText(sentence);
  for (const Act& act : acts) {
    auto* button = new QPushButton(act.label, this);
    connect(button, &QPushButton::clicked, this, [this, run = act.run] {
      hide();
      run();
    });
    layout_->insertWidget(layout_->count() - 1, button);
    buttons_.push_back(button);
  }
  show();
}

QString NoticeBar::text() const {
  return isVisible() ? text_->text() : QString();
}

ProgressLine::ProgressLine(Background& background, QWidget* parent)
    : QFrame(parent), background_(background), text_(new QLabel(this)), bar_(new WorkBar(this)) {
  setObjectName(QStringLiteral("notice"));
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(10, 5, 6, 5);
  layout->addWidget(text_);
  layout->addWidget(bar_);
  layout->addStretch(1);
  auto* cancel = new QPushButton(tr("Cancel"), this);
  cancel->setObjectName(QStringLiteral("progress.cancel"));
  cancel->setToolTip(tr("Esc, once nothing is picked"));
  layout->addWidget(cancel);
  hide();
  delay_.setSingleShot(true);
  delay_.setInterval(300);
  showing_.setInterval(WorkBar::kBetweenPaints_ms);
  connect(&delay_, &QTimer::timeout, this, [this] {
    show_where();
    show();
    showing_.start();
  });
  connect(&showing_, &QTimer::timeout, this, &ProgressLine::show_where);
  connect(cancel, &QPushButton::clicked, &background, &Background::cancel_by_user);
  connect(&background, &Background::started, this, [this](const QString& title) {
    where_ = {title, -1};
    since_.start();
    delay_.start();
  });
  connect(&background, &Background::progressed, this,
          [this, &background](const QString& phase, double share) {
            where_ = {background.title() + QStringLiteral(": ") + phase, share};
          });
  connect(&background, &Background::ended, this, [this] {
    delay_.stop();
    showing_.stop();
    hide();
  });
}

// The kernel may be long inside one step; seconds that count tell that it is not over.
void ProgressLine::show_where() {
  constexpr qint64 kTellTimeFrom_s = 3;
  const qint64 seconds = since_.elapsed() / 1000;
  text_->setText(seconds < kTellTimeFrom_s ? where_.text
                                           : tr("%1, %2 s").arg(where_.text, QString::number(seconds)));
  bar_->set_share(where_.share);
}

ProgressStack::ProgressStack(const std::vector<ProgressLine*>& lines, QWidget* over)
    : QWidget(over), lines_(lines) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(2);
  for (ProgressLine* line : lines) layout->addWidget(line);
  over->installEventFilter(this);
  place();
}

void ProgressStack::cancel_newest() {
  ProgressLine* newest = nullptr;
  for (ProgressLine* line : lines_)
    if (line->isVisible() && (!newest || line->runs_for_ms() < newest->runs_for_ms())) newest = line;
  if (newest) newest->cancel();
}

bool ProgressStack::event(QEvent* event) {
  const bool handled = QWidget::event(event);
  if (event->type() == QEvent::LayoutRequest) place();
  return handled;
}

bool ProgressStack::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::Resize) place();
  return QWidget::eventFilter(watched, event);
}

void ProgressStack::place() {
  constexpr int kAbove = 70;  // the coordinates under the pointer stay readable
  const QSize size = layout()->sizeHint();
  setGeometry((parentWidget()->width() - size.width()) / 2, parentWidget()->height() - size.height() - kAbove,
              size.width(), size.height());
  raise();
}

}  // namespace anvil::app
