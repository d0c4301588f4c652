// Long work off the interface thread: one piece at a time, with its phase, a way to cancel, and the result
// delivered back on the interface thread. Nothing is delivered after a cancel.
#pragma once

#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <atomic>
#include <chrono>
#include <functional>
#include <future>
#include <memory>

#include "base/progress.h"

namespace anvil::app {

class Background : public QObject {
  Q_OBJECT
 public:
  explicit Background(QObject* parent = nullptr);
  ~Background() override;

  // Starts `work` (called with a Progress on another thread) and hands its result to `done`. Work under way
  // is cancelled first: the newest question is the one that counts.
  template <class Value>
  void start(const QString& title, std::function<Value(const Progress&)> work,
             std::function<void(Value)> done) {
    cancel();
    const auto stop = std::make_shared<std::atomic<bool>>(false);
    begin(title, stop);
    pool_.start([this, stop, work = std::move(work), done = std::move(done)] {
      auto value = std::make_shared<Value>(work(progress_for(stop)));
      QMetaObject::invokeMethod(
          this,
          [this, stop, value, done] {
            if (!end(stop)) return;
            done(std::move(*value));
          },
          Qt::QueuedConnection);
    });
  }

  // The same for work that mostly is quick: waits for so long, and hands over at once when it is done by
  // then. Only after that it counts as begun.
  template <class Value>
  void start_patiently(const QString& title, std::chrono::milliseconds patience,
                       std::function<Value(const Progress&)> work, std::function<void(Value)> done) {
    cancel();
    const auto stop = std::make_shared<std::atomic<bool>>(false);
    const auto handed = std::make_shared<std::promise<Value>>();
    std::shared_future<Value> result = handed->get_future().share();
    const auto late = std::make_shared<std::atomic<bool>>(false);
    stop_ = stop;
    title_ = title;
    pool_.start([this, stop, handed, result, late, work = std::move(work), done] {
      handed->set_value(work(progress_for(stop)));
      QMetaObject::invokeMethod(
          this,
          [this, stop, result, late, done] {
            if (late->load() && end(stop)) done(result.get());
          },
          Qt::QueuedConnection);
    });
    if (result.wait_for(patience) == std::future_status::ready) {
      stop_.reset();
      return done(result.get());
    }
    late->store(true);
    Q_EMIT started(title);
  }

  // The same for work that has something to show before it is done: `work` may call its second argument, from
  // its own thread, and `stage` then runs on the interface thread, unless cancelled meanwhile.
  template <class Value, class Stage>
  void start_staged(const QString& title,
                    std::function<Value(const Progress&, const std::function<void(Stage)>&)> work,
                    std::function<void(Stage)> stage, std::function<void(Value)> done) {
    start<Value>(
        title,
        [this, work = std::move(work), stage = std::move(stage)](const Progress& progress) {
          return work(progress, [&](Stage value) {
            QMetaObject::invokeMethod(
                this,
                [stop = progress.cancelled, stage, value = std::move(value)] {
                  if (!stop()) stage(value);
                },
                Qt::QueuedConnection);
          });
        },
        std::move(done));
  }

  void cancel();
  void cancel_by_user();  // tells cancelled() besides
  [[nodiscard]] bool is_busy() const { return stop_ != nullptr; }
  [[nodiscard]] QString title() const { return title_; }

 Q_SIGNALS:
  void started(const QString& title);
  void progressed(const QString& phase, double share);
  void ended();
  void cancelled();

 private:
  using Stop = std::shared_ptr<std::atomic<bool>>;
  void begin(const QString& title, const Stop& stop);
  bool end(const Stop& stop);  // false when it was cancelled or replaced
  Progress progress_for(const Stop& stop);

  QThreadPool pool_;
  Stop stop_;
  QString title_;
};

}  // namespace anvil::app
