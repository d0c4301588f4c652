// true-anvil-import: reads or writes a foreign file in a process of its own, so that a bad file, a crash in a
// library or a cancel never touches the application. Speaks the protocol of exchange/worker_protocol.h.
#include <sys/prctl.h>
#include <sys/resource.h>
#include <unistd.h>

#include <fmt/format.h>

#include <BRep_Builder.hxx>
#include <CLI/CLI.hpp>
#include <TopoDS_Compound.hxx>
#include <csignal>
#include <cstdio>
#include <new>

#include "exchange/part_file.h"
#include "exchange/step_writer.h"
#include "exchange/worker_protocol.h"
#include "geom/quiet.h"
#include "part/mesh.h"

namespace {

using namespace anvil;

int g_answers = STDOUT_FILENO;

void say(const WorkerMessage& message) {
  const std::string line = encode(message) + "\n";
  if (::write(g_answers, line.data(), line.size()) < 0) ::_exit(1);  // nobody listens any more
}

// Libraries print to standard output; the protocol keeps the real one for itself.
void keep_answers_apart() {
  g_answers = ::dup(STDOUT_FILENO);
  ::dup2(STDERR_FILENO, STDOUT_FILENO);
  quiet_kernel();
}

void limit(__rlimit_resource resource, rlim_t value) {
  const rlimit bounds{value, value};
  ::setrlimit(resource, &bounds);
}

Result<void> read(const std::string& file, const std::string& folder) {
  const Progress progress{[](const std::string& phase, double share) { say({phase, share, {}, false}); }, {}};
  auto bodies = read_step(file, progress);
  if (!bodies) return refuse(bodies);
  progress.say("meshing", 0.8);
  BRep_Builder builder;
  TopoDS_Compound all;
  builder.MakeCompound(all);
  for (const Body& body : bodies->bodies) builder.Add(all, body.shape);
  if (const int empty = mesh_shape(all); empty > 0)
    bodies->source.warnings.push_back(
        fmt::format("{} faces could not be drawn; they are there but invisible.", empty));
  progress.say("handing over", 0.9);
  return write_part_folder(*bodies, folder);
}

Result<void> write(const std::string& folder, const std::string& out) {
  auto bodies = read_part_folder(folder);
  if (!bodies) return refuse(bodies);
  say({"writing", 0.3, {}, false});
  StepWriteOptions options;
  options.product = bodies->source.file_name;
  return write_step(bodies->bodies, options, out);
}

}  // namespace

int main(int argc, char** argv) {
  ::prctl(PR_SET_PDEATHSIG, SIGKILL);  // never outlive the application
  CLI::App app("Reads and writes foreign part files for True Anvil");
  app.require_subcommand(1);
  std::string from, to;
  size_t memory_mb = 8192, cpu_seconds = 2400;
  auto* reading = app.add_subcommand("read", "FILE into a hand-over FOLDER");
  auto* writing = app.add_subcommand("write-step", "hand-over FOLDER into a STEP file");
  for (auto* command : {reading, writing}) {
    command->add_option("from", from)->required();
    command->add_option("to", to)->required();
    command->add_option("--memory-mb", memory_mb);
    command->add_option("--cpu-seconds", cpu_seconds);
  }
  CLI11_PARSE(app, argc, argv);
  keep_answers_apart();
#ifndef __SANITIZE_ADDRESS__
  limit(RLIMIT_AS, static_cast<rlim_t>(memory_mb) << 20);
#endif
  limit(RLIMIT_CPU, cpu_seconds);
  limit(RLIMIT_CORE, 0);
  try {
    const Result<void> result = reading->parsed() ? read(from, to) : write(from, to);
    if (!result) {
      say({{}, -1, result.error(), false});
      return 1;
    }
  } catch (const std::bad_alloc&) {
    say({{}, -1, Refusal{RefusalCode::kLimit, from + " needs more memory than the limit allows."}, false});
    return 1;
  }
  say({{}, -1, {}, true});
  ::_exit(0);  // tearing the kernel's data down would only cost time
}
