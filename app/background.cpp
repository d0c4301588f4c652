#include "app/background.h"

namespace anvil::app {

Background::Background(QObject* parent) : QObject(parent) {
  pool_.setMaxThreadCount(2);
}

Background::~Background() {
  cancel();
  pool_.waitForDone();
}

void Background::cancel() {
  if (!stop_) return;
  stop_->store(true);
  stop_.reset();
  Q_EMIT ended();
}

void Background::cancel_by_user() {
  if (!stop_) return;
  cancel();
  Q_EMIT cancelled();
}

void Background::begin(const QString& title, const Stop& stop) {
  stop_ = stop;
  title_ = title;
  Q_EMIT started(title);
}

bool Background::end(const Stop& stop) {
  if (stop_ != stop || stop->load()) return false;
  stop_.reset();
  Q_EMIT ended();
  return true;
}

Progress Background::progress_for(const Stop& stop) {
  return {[this, stop](const std::string& phase, double share) {
            mailbox_.post([this, stop, phase, share] {
              if (stop_ == stop) Q_EMIT progressed(QString::fromStdString(phase), share);
            });
          },
          [stop] { return stop->load(); }};
}

}  // namespace anvil::app
