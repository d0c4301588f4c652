#include "app/application.h"

#include <QLabel>
#include <cstdio>

#include "geom/guard.h"

namespace anvil::app {

namespace {

// Names and sentences hold what strangers wrote: none of it is markup, also in tips, which are labels. What
// is meant as markup says so itself.
void take_as_plain_text(QObject* receiver) {
  auto* label = qobject_cast<QLabel*>(receiver);
  if (label && label->textFormat() == Qt::AutoText) label->setTextFormat(Qt::PlainText);
}

}  // namespace

bool Application::notify(QObject* receiver, QEvent* event) {
  if (event->type() == QEvent::Polish) take_as_plain_text(receiver);
  const auto taken = guarded("This", [&]() -> Result<bool> { return QApplication::notify(receiver, event); });
  if (taken) return *taken;
  const QString sentence = tr("%1. Nothing was changed by it; what is open can be saved.")
                               .arg(QString::fromStdString(taken.error().sentence));
  if (tell_)
    tell_(sentence);
  else
    std::fprintf(stderr, "true-anvil: %s\n", qPrintable(sentence));
  return false;
}

}  // namespace anvil::app
