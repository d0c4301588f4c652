// Talks to a control on this computer, a question at a time (docs/control-protocol.md). Nothing waits: every
// answer comes to its callback, and so does every trouble: refused, cut, silent for too long, not understood.
#pragma once

#include <QObject>
#include <QTcpSocket>
#include <QTimer>
#include <deque>
#include <functional>

#include "base/refusal.h"

namespace anvil::app {

class ControlClient : public QObject {
  Q_OBJECT
 public:
  using Answer = std::function<void(const Result<QString>&)>;

  explicit ControlClient(QObject* parent = nullptr);
  ~ControlClient() override;  // says nothing more to anybody

  void connect_to(quint16 port);  // of the loopback address
  void leave();
  [[nodiscard]] bool is_connected() const { return ready_; }
  [[nodiscard]] bool is_busy() const { return !questions_.empty(); }
  // `lines` are sent together; one line comes back. A line that begins with REFUSED is a refusal.
  void ask(const QString& lines, Answer answer);
  void set_patience(int ms) { patience_ms_ = ms; }

 Q_SIGNALS:
  void changed();  // connected or not
  void trouble(const QString& sentence);

 private:
  void send_next();
  void on_line();
  void fail(const QString& sentence);

  QTcpSocket socket_;
  QTimer silence_;
  std::deque<std::pair<QString, Answer>> questions_;
  bool ready_ = false;
  bool sent_ = false;  // a question is under way: its answer comes before the next is sent
  quint16 port_ = 0;
  int patience_ms_ = 3000;
};

}  // namespace anvil::app
