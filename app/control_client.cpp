#include "app/control_client.h"

#include <QHostAddress>

namespace anvil::app {
namespace {

constexpr qint64 kLongestLine = 4096;

bool is_understood(const QString& line) {
  for (const char* word : {"OK", "OFFSET ", "AT ", "TOUCH ", "MISS", "REFUSED "})
    if (line.startsWith(QLatin1String(word))) return true;
  return false;
}

}  // namespace

ControlClient::ControlClient(QObject* parent) : QObject(parent) {
  silence_.setSingleShot(true);
  connect(&silence_, &QTimer::timeout, this, [this] {
    fail(socket_.state() == QAbstractSocket::ConnectedState
             ? tr("The control has not answered for %1 s: it was let go.").arg(patience_ms_ / 1000.0)
             : tr("No control answers on port %1.").arg(port_));
  });
  connect(&socket_, &QTcpSocket::connected, this, [this] {
    questions_.emplace_front(QStringLiteral("HELLO true-anvil 1"), [this](const Result<QString>& answer) {
      if (!answer)
        return fail(
            tr("That is no control for True Anvil: %1").arg(QString::fromStdString(answer.error().sentence)));
      if (!answer->startsWith(QLatin1String("OK control 1")))
        return fail(tr("That is no control for True Anvil: it said \"%1\".").arg(answer->left(60)));
      ready_ = true;
      Q_EMIT changed();
    });
    send_next();
  });
  connect(&socket_, &QTcpSocket::readyRead, this, &ControlClient::on_line);
  connect(&socket_, &QTcpSocket::disconnected, this, [this] {
    if (ready_ || !questions_.empty()) fail(tr("The control has cut the line."));
  });
  connect(&socket_, &QTcpSocket::errorOccurred, this, [this](QAbstractSocket::SocketError error) {
    if (error == QAbstractSocket::ConnectionRefusedError)
      fail(tr("Nothing listens on port %1: is the control running?").arg(port_));
    else if (error != QAbstractSocket::RemoteHostClosedError)
      fail(tr("The line to the control failed: %1.").arg(socket_.errorString()));
  });
}

ControlClient::~ControlClient() {
  socket_.disconnect(this);
  socket_.abort();
}

void ControlClient::connect_to(quint16 port) {
  leave();
  port_ = port;
  silence_.start(patience_ms_);
  socket_.connectToHost(QHostAddress(QHostAddress::LocalHost), port);
}

void ControlClient::leave() {
  ready_ = sent_ = false;
  silence_.stop();
  questions_.clear();
  const QSignalBlocker quiet(socket_);
  socket_.abort();
  Q_EMIT changed();
}

void ControlClient::ask(const QString& lines, Answer answer) {
  questions_.emplace_back(lines, std::move(answer));
  send_next();
}

void ControlClient::send_next() {
  if (sent_ || questions_.empty() || socket_.state() != QAbstractSocket::ConnectedState) return;
  sent_ = true;
  silence_.start(patience_ms_);
  socket_.write(questions_.front().first.toUtf8() + '\n');
}

void ControlClient::on_line() {
  while (socket_.canReadLine()) {
    const QByteArray bytes = socket_.readLine(kLongestLine);
    if (!bytes.endsWith('\n')) return fail(tr("The control says a line that does not end: it was let go."));
    const QString line = QString::fromUtf8(bytes).trimmed();
    if (questions_.empty()) continue;  // nobody asked
    silence_.stop();
    sent_ = false;
    if (!is_understood(line))
      return fail(tr("The control said something that is not understood: \"%1\".").arg(line.left(60)));
    const Answer answer = std::move(questions_.front().second);
    questions_.pop_front();
    if (line.startsWith(QLatin1String("REFUSED ")))
      answer(refuse(RefusalCode::kBadInput, line.mid(8).toStdString()));
    else
      answer(line);
    send_next();
  }
  if (socket_.bytesAvailable() > kLongestLine)
    fail(tr("The control says a line that does not end: it was let go."));
}

void ControlClient::fail(const QString& sentence) {
  const auto waiting = std::move(questions_);
  leave();
  Q_EMIT trouble(sentence);
  for (const auto& [lines, answer] : waiting)
    answer(refuse(RefusalCode::kCannotWrite, sentence.toStdString()));
}

}  // namespace anvil::app
