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

#include "app/mailbox.h"
#include "base/progress.h"
#include "geom/guard.h"

namespace anvil::app {

class Background : public QObject {
  Q_OBJECT
 public:
  explicit Background(QObject* parent = nullptr);
  ~Background() override;

  // Starts `work` (called with a Progress on another thread) and hands its result to `done`. Work under way
  // is cancelled first: the newest question is the one that counts. What `work` throws becomes a refusal:
  // handed to `done` where a Result is awaited, else told by failed().
  template <class Value>
  void start(const QString& title, std::function<Value(const Progress&)> work,
             std::function<void(Value)> done) {
    cancel();
    const auto stop = std::make_shared<std::atomic<bool>>(false);
    begin(title, stop);
    pool_.start([this, stop, title, work = std::move(work), done = std::move(done)] {
      auto value = std::make_shared<Caught<Value>>(caught<Value>(title, work, progress_for(stop)));
      mailbox_.post([this, stop, value, done] {
        if (end(stop)) hand_over(std::move(*value), done);
      });
    });
  }

  // The same for work that mostly is quick: waits for so long, and hands over at once when it is done by
  // then. Only after that it counts as begun.
  template <class Value>
  void start_patiently(const QString& title, std::chrono::milliseconds patience,
                       std::function<Value(const Progress&)> work, std::function<void(Value)> done) {
    cancel();
    const auto stop = std::make_shared<std::atomic<bool>>(false);
    const auto handed = std::make_shared<std::promise<Caught<Value>>>();
    std::shared_future<Caught<Value>> result = handed->get_future().share();
    const auto late = std::make_shared<std::atomic<bool>>(false);
    stop_ = stop;
    title_ = title;
    pool_.start([this, stop, title, handed, result, late, work = std::move(work), done] {
      handed->set_value(caught<Value>(title, work, progress_for(stop)));
      mailbox_.post([this, stop, result, late, done] {
        if (late->load() && end(stop)) hand_over(result.get(), done);
      });
    });
    if (result.wait_for(patience) == std::future_status::ready) {
      stop_.reset();
      return hand_over(result.get(), done);
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
            mailbox_.post([stop = progress.cancelled, stage, value = std::move(value)] {
              if (!stop()) stage(value);
            });
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
  void failed(const QString& sentence);  // the work threw, and nobody was handed anything

 private:
  // A Result as it is; anything else with the refusal that may stand in its place.
  template <class Value>
  struct CaughtAs {
    using type = Result<Value>;
  };
  template <class Value>
  struct CaughtAs<Result<Value>> {
    using type = Result<Value>;
  };
  template <class Value>
  using Caught = typename CaughtAs<Value>::type;

  template <class Value>
  static Caught<Value> caught(const QString& title, const std::function<Value(const Progress&)>& work,
                              const Progress& progress) {
    return guarded(title.toStdString().c_str(), [&]() -> Caught<Value> { return work(progress); });
  }

  template <class Value, class Wanted>
  void hand_over(Result<Value> value, const std::function<void(Wanted)>& done) {
    if constexpr (std::is_convertible_v<Result<Value>, Wanted>)
      done(std::move(value));
    else if (value)
      done(std::move(*value));
    else
      Q_EMIT failed(QString::fromStdString(value.error().sentence));
  }
  using Stop = std::shared_ptr<std::atomic<bool>>;
  void begin(const QString& title, const Stop& stop);
  bool end(const Stop& stop);  // false when it was cancelled or replaced
  Progress progress_for(const Stop& stop);

  Mailbox mailbox_;
  QThreadPool pool_;
  Stop stop_;
  QString title_;
};

}  // namespace anvil::app
