#include "app/panels/guide_pane.h"

#include <QFile>
#include <QHBoxLayout>
#include <QLabel>
#include <QTextBrowser>
#include <QToolButton>
#include <QVBoxLayout>

namespace anvil::app {

GuidePane::GuidePane(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("panel"));
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(10, 8, 10, 8);
  auto* top = new QHBoxLayout;
  auto* heading = new QLabel(tr("GUIDE"), this);
  heading->setObjectName(QStringLiteral("heading"));
  top->addWidget(heading);
  top->addStretch(1);
  text_ = new QTextBrowser(this);
  text_->setObjectName(QStringLiteral("guide.text"));
  text_->setAccessibleName(tr("Guide"));
  text_->setOpenLinks(false);
  text_->setFrameShape(QFrame::NoFrame);
  const auto add = [&](const QString& text, const char* name, auto&& run) {
    auto* button = new QToolButton(this);
    button->setObjectName(QLatin1String(name));
    button->setText(text);
    connect(button, &QToolButton::clicked, this, run);
    top->addWidget(button);
  };
  add(tr("All pages"), "guide.index", [this] { open(); });
  add(tr("Close"), "guide.close", [this] { Q_EMIT closed(); });
  layout->addLayout(top);
  layout->addWidget(text_, 1);
  connect(text_, &QTextBrowser::anchorClicked, this, [this](const QUrl& link) {
    if (link.scheme() == QLatin1String("act")) return Q_EMIT act_spoken_of(link.path());
    if (link.path().endsWith(QLatin1String(".md"))) open(link.path());
  });
}

void GuidePane::open(const QString& page) {
  QFile file(QStringLiteral(":/guide/") + page.section(QLatin1Char('/'), -1));
  if (!file.open(QIODevice::ReadOnly | QIODevice::Text)) return;
  show_text(QString::fromUtf8(file.readAll()));
}

void GuidePane::show_text(const QString& markdown) {
  text_->setMarkdown(markdown);
  show();
}

}  // namespace anvil::app
