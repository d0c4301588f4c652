#include "app/mailbox.h"

#include <QCoreApplication>
#include <QEvent>
#include <utility>

namespace anvil::app {
namespace {

constexpr QEvent::Type kPosted = QEvent::User;

}  // namespace

void Mailbox::post(std::function<void()> call) {
  {
    const std::lock_guard held(lock_);
    calls_.push_back(std::move(call));
  }
  QCoreApplication::postEvent(this, new QEvent(kPosted));
}

bool Mailbox::event(QEvent* event) {
  if (event->type() != kPosted) return QObject::event(event);
  std::function<void()> call;
  {
    const std::lock_guard held(lock_);
    call = std::move(calls_.front());
    calls_.pop_front();
  }
  call();
  return true;
}

}  // namespace anvil::app
