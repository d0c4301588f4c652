// true-anvil-control: the simulated control on a TCP port of the loopback address.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <QCoreApplication>
#include <QTcpServer>
#include <QTcpSocket>
#include <clocale>
#include <cstdio>

#include "geom/primitives.h"
#include "geom/quiet.h"
#include "job/evaluate.h"
#include "job/setup_on_machine.h"
#include "setup/shipped_machines.h"
#include "stand-ins/control/control.h"
#include "store/job_file.h"

namespace {

using namespace anvil;

struct Options {
  std::string machine = "cradle-ac", job, setup;
  unsigned short port = 0;
  unsigned seed = 1;
  double spread_mm = 0.002, most_mm = 0.8, most_deg = 0.2;
};

Result<Machine> machine_of(const Options& options) {
  for (const Machine& machine : shipped_machines())
    if (machine.id == options.machine) return machine;
  return read_machine(options.machine);
}

// The part of a job, lying in the machine as its setup says, but put down by hand.
Result<std::unique_ptr<control::Probe>> probe_of(const Options& options) {
  if (options.job.empty()) return std::unique_ptr<control::Probe>();
  auto loaded = load_job(options.job, {});
  if (!loaded) return refuse(loaded);
  const Evaluation evaluation = evaluate(loaded->job);
  for (const Entry& entry : loaded->job.entries) {
    if (!entry.setup() || (!options.setup.empty() && entry.name != options.setup)) continue;
    const auto at = evaluation.entries.find(entry.id);
    const auto place = place_in_machine(loaded->job, evaluation, entry);
    if (!place) return refuse(place);
    if (!evaluation.part || !at->second.setup) break;
    const gp_Trsf nominal = place->from_setup() * into_frame(at->second.setup->frame) * evaluation.placement;
    const gp_Trsf by_hand =
        control::put_down_by_hand(place->zero, options.most_mm, radians(options.most_deg), options.seed);
    return std::make_unique<control::Probe>(evaluation.part->shape(), by_hand * nominal, options.spread_mm,
                                            options.seed);
  }
  return refuse(RefusalCode::kUnknownName, "the job has no such setup to lie in the machine");
}

int fail(const std::string& sentence) {
  std::fprintf(stderr, "true-anvil-control: %s\n", sentence.c_str());
  return 1;
}

// One line at a time, each connection on its own; a line that never ends is cut off.
void serve(QTcpSocket* socket, control::Control& control) {
  constexpr qint64 kLongestLine = 4096;
  QObject::connect(socket, &QTcpSocket::disconnected, socket, &QObject::deleteLater);
  const auto said = std::make_shared<control::Conversation>(control);
  QObject::connect(socket, &QTcpSocket::readyRead, socket, [socket, said] {
    while (!said->is_leaving() && socket->canReadLine()) {
      const QByteArray line = socket->readLine(kLongestLine);
      if (!line.endsWith('\n')) return socket->abort();
      const std::string answer = said->answer(line.toStdString());
      socket->write(answer.data(), static_cast<qint64>(answer.size()));
      if (said->is_leaving()) socket->disconnectFromHost();
    }
    if (socket->bytesAvailable() > kLongestLine) socket->abort();
  });
}

}  // namespace

int main(int argc, char** argv) {
  anvil::quiet_kernel();
  QCoreApplication app(argc, argv);
  // Qt takes the user's locale over; options and everything else are read with a point.
  std::setlocale(LC_NUMERIC, "C");
  Options options;
  CLI::App cli{
      "A simulated machine control on the loopback address; docs/control-protocol.md tells its lines."};
  cli.add_option("--machine", options.machine, "a shipped machine's name, or a file");
  cli.add_option("--job", options.job, "a job whose part lies in the machine, to be probed");
  cli.add_option("--setup", options.setup, "which of its setups; the first one when not said");
  cli.add_option("--port", options.port, "0: any free one, printed");
  cli.add_option("--seed", options.seed, "of where the part lies, and of the probe's spread");
  cli.add_option("--spread", options.spread_mm, "standard deviation of a touch, mm")
      ->check(CLI::Range(0.0, 1.0));
  cli.add_option("--off", options.most_mm, "how far off the part lies at most, mm")
      ->check(CLI::Range(0.0, 4.0));
  cli.add_option("--turned", options.most_deg, "how far it is turned at most, degrees")
      ->check(CLI::Range(0.0, 5.0));
  CLI11_PARSE(cli, argc, argv);
  auto machine = machine_of(options);
  if (!machine) return fail(machine.error().sentence);
  auto probe = probe_of(options);
  if (!probe) return fail(probe.error().sentence);
  anvil::control::Control control(std::move(*machine), std::move(*probe));
  QTcpServer server;
  QObject::connect(&server, &QTcpServer::newConnection,
                   [&] { serve(server.nextPendingConnection(), control); });
  if (!server.listen(QHostAddress::LocalHost, options.port))
    return fail(
        fmt::format("port {} cannot be opened: {}", options.port, server.errorString().toStdString()));
  std::printf("listening on port %d\n", server.serverPort());
  std::fflush(stdout);
  return QCoreApplication::exec();
}
