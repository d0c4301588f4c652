// Calls handed to the interface thread from any other, and made there in the order they were posted. What
// lies in it when it goes is never made.
//
// The calls lie in a list of ours, behind a lock of ours: the thread sanitizer sees how they are handed on,
// which it does not where the toolkit's queue carries them.
#pragma once

#include <QObject>
#include <deque>
#include <functional>
#include <mutex>

namespace anvil::app {

class Mailbox : public QObject {
 public:
  void post(std::function<void()> call);

 protected:
  bool event(QEvent* event) override;

 private:
  std::mutex lock_;
  std::deque<std::function<void()>> calls_;
};

}  // namespace anvil::app
