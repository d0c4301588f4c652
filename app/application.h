// The edge of the interface thread: what an act throws becomes a sentence, and the window stays.
#pragma once

#include <QApplication>
#include <functional>

namespace anvil::app {

class Application : public QApplication {
 public:
  using QApplication::QApplication;

  // Who tells the user; without one it goes to standard error.
  void set_teller(std::function<void(const QString& sentence)> tell) { tell_ = std::move(tell); }
  bool notify(QObject* receiver, QEvent* event) override;

 private:
  std::function<void(const QString&)> tell_;
};

}  // namespace anvil::app
