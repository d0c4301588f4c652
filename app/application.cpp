#include "app/application.h"

#include <cstdio>

#include "geom/guard.h"

namespace anvil::app {

bool Application::notify(QObject* receiver, QEvent* event) {
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
