// true-anvil-import: reads or writes a foreign file in a process of its own, so that a bad file, a crash in a
// library or a cancel never touches the application. Speaks the protocol of exchange/worker_protocol.h.
#include <sys/prctl.h>
#include <unistd.h>

#include <fmt/format.h>

#include <BRepTools.hxx>
#include <CLI/CLI.hpp>
#include <STEPControl_Controller.hxx>
#include <Standard_OutOfMemory.hxx>
#include <TopExp_Explorer.hxx>
#include <csignal>
#include <cstdio>
#include <new>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "base/memory.h"
#include "correct/correct_worker.h"
#include "exchange/heal_worker.h"
#include "exchange/part_file.h"
#include "exchange/read_here.h"
#include "exchange/step_format.h"
#include "exchange/worker_protocol.h"
#include "geom/quiet.h"
#include "part/mesh.h"

namespace {

using namespace anvil;
namespace fs = std::filesystem;

int g_answers = STDOUT_FILENO;

void say(const WorkerMessage& message) {
  const std::string line = encode(message) + "\n";
  if (::write(g_answers, line.data(), line.size()) < 0) ::_exit(1);  // nobody listens any more
}

WorkerMessage phase(const std::string& text, double share) {
  WorkerMessage message;
  message.phase = text;
  message.share = share;
  return message;
}

WorkerMessage refusal(Refusal why) {
  WorkerMessage message;
  message.refusal = std::move(why);
  return message;
}

const Progress kProgress{[](const std::string& text, double share) { say(phase(text, share)); }, {}};

// Libraries print to standard output; the protocol keeps the real one for itself.
void keep_answers_apart() {
  g_answers = ::dup(STDOUT_FILENO);
  ::dup2(STDERR_FILENO, STDOUT_FILENO);
  quiet_kernel();
}

Result<void> hand_over(const ImportedBodies& bodies, const fs::path& folder) {
  std::error_code error;
  fs::create_directories(folder, error);
  return write_part_folder(bodies, folder);
}

bool is_large(const TopoDS_Shape& shape) {
  constexpr int kLarge_faces = 1000;
  int faces = 0;
  for (TopExp_Explorer ex(shape, TopAbs_FACE); ex.More() && faces <= kLarge_faces; ex.Next()) ++faces;
  return faces > kLarge_faces;
}

// Nearly always of more than a thousand faces.
bool is_large_file(const fs::path& file) {
  constexpr std::uintmax_t kLarge_bytes = 4 << 20;
  std::error_code error;
  const std::uintmax_t size = fs::file_size(file, error);
  return !error && size > kLarge_bytes;
}

void mesh_anew(const std::vector<Body>& bodies) {
  for (const Body& body : bodies)
    if (body.kind != BodyKind::kMesh) BRepTools::Clean(body.shape);
  mesh_shape(compound_of(bodies));
}

struct Orders {
  std::string from, to, format = "step";
  double scale = 1.0;
  ProcessLimits limits;
  bool text = false;
  ReadingWay way = ReadingWay::kUsual;
  WriteOptions options;
};

HereRequest request_by(const Orders& orders, const fs::path& folder) {
  HereRequest request{orders.from, folder, orders.scale, false, {kProgress}};
  request.reading.way = orders.way;
  return request;
}

// Whoever waits puts it in words: it knows what was being done.
Refusal too_much_memory() {
  return {RefusalCode::kLimit, "there is not enough memory"};
}

void say_no_memory() {
  if (::write(g_answers, kNoMemoryLine.data(), kNoMemoryLine.size()) < 0) ::_exit(1);
}

WorkerMessage done(bool changed) {
  WorkerMessage message;
  message.done = true;
  message.changed = changed;
  return message;
}

void say_picture() {
  WorkerMessage picture;
  picture.picture = true;
  say(picture);
}

// The picture first, then what is checked and mended.
Result<WorkerMessage> read_for_picture(const Orders& orders, const fs::path& folder) {
  HereRequest request = request_by(orders, folder);
  if (orders.scale == 1.0 && orders.way == ReadingWay::kUsual && is_large_file(orders.from))
    request.reading.mesh_ahead = kCoarseMesh;
  auto bodies = read_bodies(request);
  if (!bodies) return refuse(bodies);
  kProgress.say("meshing", 0.7);
  const bool coarse = request.reading.mesh_ahead || is_large(compound_of(bodies->bodies));
  mesh_with_note(*bodies, coarse ? kCoarseMesh : MeshQuality());
  kProgress.say("handing over", 0.85);
  if (auto handed = hand_over(*bodies, folder / "first"); !handed) return refuse(handed);
  say_picture();
  const std::vector<int> mended = mend_with_notes(*bodies, kProgress);
  if (mended.empty() && !coarse) return done(false);
  if (coarse) {
    kProgress.say("meshing finely", -1);
    mesh_anew(bodies->bodies);
  } else {
    mesh_shape(compound_of(bodies->bodies));
  }
  if (auto handed = hand_over(*bodies, folder / "last"); !handed) return refuse(handed);
  return done(true);
}

Result<WorkerMessage> write(const fs::path& folder, const fs::path& out, const std::string& format_id,
                            WriteOptions options) {
  ::setenv("TMPDIR", folder.c_str(), 1);
  leave_out_fixing(folder);
  auto bodies = read_part_folder(folder);
  if (!bodies) return refuse(bodies);
  const Format* format = format_by_id(format_id);
  if (!format) return refuse(RefusalCode::kBadInput, format_id + " is no format that can be written");
  kProgress.say("writing and reading back", 0.3);
  options.product = bodies->source.file_name;
  auto report = write_part_file(bodies->bodies, {}, *format, options, out);
  if (!report) return refuse(report);
  const nlohmann::json text{{"bodies", report->bodies},
                            {"faces", report->faces},
                            {"volume", report->volume_mm3},
                            {"volume_difference", report->volume_difference_mm3},
                            {"box_difference", report->box_difference_mm}};
  if (auto told = write_file_atomically(folder / "report.json", text.dump()); !told) return refuse(told);
  WorkerMessage done;
  done.done = true;
  return done;
}

Result<WorkerMessage> heal(const fs::path& folder, const std::string& options_text) {
  auto options = heal_options_from(options_text);
  if (!options) return refuse(options);
  auto bodies = read_part_folder(folder);
  if (!bodies) return refuse(bodies);
  auto healed = heal_bodies(bodies->bodies, *options, kProgress);
  if (!healed) return refuse(healed);
  if (auto told = write_file_atomically(folder / "report.json", to_json_text(healed->report)); !told)
    return refuse(told);
  if (auto told = write_file_atomically(folder / "maps.json", to_json_text(healed->maps)); !told)
    return refuse(told);
  if (auto handed = hand_over({bodies->source, healed->bodies}, folder / "last"); !handed)
    return refuse(handed);
  WorkerMessage done;
  done.done = true;
  return done;
}

Result<WorkerMessage> correct(const fs::path& folder, const std::string& step) {
  if (auto done_so = carry_out_in(folder, step, kProgress); !done_so) return refuse(done_so);
  return done(true);
}

// Shapes from a job somebody sent: what they do to their reader they do here.
Result<WorkerMessage> read_stored(const fs::path& folder, const fs::path& to) {
  auto bodies = read_part_folder(folder);
  if (!bodies) return refuse(bodies);
  mesh_shape(compound_of(bodies->bodies));  // a job that no window has seen comes without
  if (auto handed = hand_over(*bodies, to); !handed) return refuse(handed);
  return done(false);
}

// What is thrown where nobody can catch it, in a library's own threads or its destructors, is told as well.
void tell_and_end() {
  Refusal why{RefusalCode::kInternal, "it was stopped by an error that nobody handled"};
  try {
    if (const auto thrown = std::current_exception()) std::rethrow_exception(thrown);
  } catch (const std::bad_alloc&) {
    why = too_much_memory();
  } catch (const Standard_OutOfMemory&) {
    why = too_much_memory();
  } catch (...) {  // the sentence stands
  }
  say(refusal(why));
  ::_exit(1);
}

// Everything up to the last zero byte before the input ends; meanwhile the libraries are loaded and set up.
std::vector<std::string> wait_for_orders() {
  STEPControl_Controller::Init();
  std::string text;
  char bytes[4096];
  for (ssize_t n; (n = ::read(STDIN_FILENO, bytes, sizeof bytes)) > 0;)
    text.append(bytes, static_cast<size_t>(n));
  return decode_order(text);
}

enum class Order { kRead, kWrite, kHeal, kCorrect, kStored };

Result<WorkerMessage> obey(Order order, const Orders& orders) {
  limit_this_process(orders.limits);
  try {
    if (order == Order::kRead) return read_for_picture(orders, orders.to);
    if (order == Order::kHeal) return heal(orders.from, orders.to);
    if (order == Order::kCorrect) return correct(orders.from, orders.to);
    if (order == Order::kStored) return read_stored(orders.from, orders.to);
    WriteOptions options = orders.options;
    options.binary = !orders.text;
    return write(orders.from, orders.to, orders.format, options);
  } catch (const std::bad_alloc&) {
    return refuse(too_much_memory());
  }
}

}  // namespace

int main(int argc, char** argv) {
  ::prctl(PR_SET_PDEATHSIG, SIGKILL);  // never outlive the application
  keep_answers_apart();
  watch_memory(say_no_memory);
  std::set_terminate(tell_and_end);
  std::vector<std::string> arguments(argv + 1, argv + argc);
  if (argc == 2 && arguments.front() == "serve") arguments = wait_for_orders();
  if (arguments.empty()) return 0;  // the application ended without wanting anything
  CLI::App app("Reads and writes foreign part files for True Anvil");
  app.require_subcommand(1);
  Orders orders;
  auto* reading = app.add_subcommand("read", "FILE into a hand-over FOLDER");
  auto* writing = app.add_subcommand("write", "hand-over FOLDER into a file");
  auto* healing = app.add_subcommand("heal", "the part in a hand-over FOLDER, with OPTIONS as JSON");
  auto* correcting = app.add_subcommand("correct", "the body in a hand-over FOLDER, by a STEP as JSON");
  auto* storing = app.add_subcommand("stored", "hand-over FOLDER from a job into another");
  for (auto* command : {reading, writing, healing, correcting, storing}) {
    command->add_option("from", orders.from)->required();
    command->add_option("to", orders.to)->required();
    command->add_option("--memory-mb", orders.limits.memory_mb);
    command->add_option("--cpu-seconds", orders.limits.cpu_seconds);
  }
  reading->add_option("--scale", orders.scale);
  reading->add_flag_callback("--carefully", [&orders] { orders.way = ReadingWay::kCarefully; });
  reading->add_flag_callback("--plainly", [&orders] { orders.way = ReadingWay::kPlainly; });
  writing->add_option("--format", orders.format);
  writing->add_option("--unit", orders.options.unit);
  writing->add_option("--schema", orders.options.schema);
  writing->add_option("--deviation", orders.options.mesh_deviation_mm);
  writing->add_option("--angle", orders.options.mesh_angle_rad);
  writing->add_flag("--text,!--binary", orders.text);
  std::reverse(arguments.begin(), arguments.end());  // as CLI11 wants them
  try {
    app.parse(arguments);
  } catch (const CLI::ParseError& error) {
    return app.exit(error);
  }
  const Result<WorkerMessage> result = obey(reading->parsed()      ? Order::kRead
                                            : writing->parsed()    ? Order::kWrite
                                            : storing->parsed()    ? Order::kStored
                                            : correcting->parsed() ? Order::kCorrect
                                                                   : Order::kHeal,
                                            orders);
  say(result ? *result : refusal(result.error()));
  ::_exit(result ? 0 : 1);  // tearing the kernel's data down would only cost time
}
