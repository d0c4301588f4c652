// true-anvil-cli: the core without a window, for scripts. Exit status: 0 done, 1 a check failed, 2 wrong
// usage, 3 the file cannot be read or holds no usable body, 4 asked for something this file does not have, 5
// cannot write.
#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <filesystem>
#include <functional>

#include "base/expression.h"
#include "base/file.h"
#include "base/memory.h"
#include "cli/cli_input.h"
#include "cli/commands.h"
#include "cli/console.h"
#include "cli/supervised.h"
#include "exchange/format.h"
#include "geom/quiet.h"

namespace {

using namespace anvil;

int status_of(RefusalCode code) {
  switch (code) {
    case RefusalCode::kBadInput:
      return 2;
    case RefusalCode::kUnknownName:
      return 4;
    case RefusalCode::kCannotWrite:
      return 5;
    default:
      return 3;
  }
}

// run() says so when nobody reads the answer any more.
constexpr int kClosedPipe = -1;

using Command = std::function<Result<int>(const cli::Common&)>;

int tell(const Result<int>& result) {
  if (result) return *result;
  cli::say("true-anvil-cli: " + result.error().sentence);
  return status_of(result.error().code);
}

// What the process says when its reader gave up without a reason of the file's: no exit status of ours.
constexpr int kAnotherWay = 100;

// Without memory libraries find faults where there are none, or leave out what they could not hold.
Result<int> with_memory(Result<int> result, const cli::Common& common) {
  if (!memory_ran_out()) return result;
  return refuse(out_of_memory("reading", common.file));
}

// In a process of its own: when that dies or its reader fails, once more with a reader that takes more, as
// import_part() does.
int run(const Command& command, cli::Common common) {
  const TemporaryFolder scratch;
  common.scratch = scratch.path();
  cli::Ended ended;
  for (const ReadingWay way : {ReadingWay::kUsual, ReadingWay::kCarefully, ReadingWay::kPlainly}) {
    common.way = way;
    ended = cli::supervised(
        [&] {
          cli::keep_libraries_quiet();
          const Result<int> result = with_memory(command(common), common);
          const bool reader_failed = !result && result.error().code == RefusalCode::kInternal;
          return reader_failed && way != ReadingWay::kPlainly ? kAnotherWay : tell(result);
        },
        common.only_answers);
    if (ended.closed_pipe) return kClosedPipe;
    if (ended.died.empty() && ended.status != kAnotherWay) return ended.status;
    if (memory_ran_out()) return tell(with_memory(cli::kDone, common));
    if (ended.over_limit)
      return tell(refuse(RefusalCode::kLimit, common.file + " took more time than the limit allows."));
    if (ended.from_outside)
      return tell(
          refuse(RefusalCode::kLimit,
                 fmt::format("reading {} was ended from outside ({}), by somebody or because the machine's "
                             "memory ran out; try it again.",
                             common.file, ended.died)));
  }
  return tell(
      refuse(RefusalCode::kReaderDied,
             fmt::format("{} made every way of reading it fail ({}): the file is damaged; ask for it again.",
                         common.file, ended.died)));
}

// A file whose name begins with a dash is no option: "-plate.step", where it is there.
std::vector<std::string> arguments_of(int argc, char** argv) {
  std::vector<std::string> arguments(argv + 1, argv + argc);
  for (std::string& argument : arguments) {
    const bool may_be_file = argument.size() > 2 && argument[0] == '-' && argument[1] != '-';
    std::error_code error;
    if (may_be_file && std::filesystem::is_regular_file(argument, error)) argument.insert(0, "./");
  }
  std::reverse(arguments.begin(), arguments.end());  // as CLI11 wants them
  return arguments;
}

// What was typed, and what it asks for.
struct Asked {
  cli::Common common;
  std::string unit = "mm", tolerance;
  cli::HolesRequest holes;
  cli::CornersRequest corners;
  cli::OrientRequest orient;
  cli::JobExport exported;
  std::string converted, machine;
  bool list = false, check = false;
  Command command;
};

CLI::App* add_command(CLI::App& app, const char* name, const char* about, Asked& asked, Command command) {
  CLI::App* added = app.add_subcommand(name, about);
  added->add_option("file", asked.common.file, "part file or job")->required();
  added->add_flag("--json", asked.common.json, "one JSON document on standard output");
  added->add_option("--unit", asked.unit, "mm or inch")->check(CLI::IsMember({"mm", "inch"}));
  added->final_callback([&asked, command = std::move(command)] { asked.command = command; });
  return added;
}

void add_info(CLI::App& app, Asked& asked) {
  auto* info = add_command(app, "info", "what came in: bodies, size, soundness", asked, cli::info);
  info->add_option("--tolerance", asked.tolerance, "length: wider gaps are findings");
}

void add_holes(CLI::App& app, Asked& asked) {
  cli::HolesRequest& about = asked.holes;
  auto* holes = add_command(app, "holes", "every hole with its steps, position and group", asked,
                            [&about](const cli::Common& with) { return cli::holes(with, about); });
  holes->add_option("--frame", about.frame, "origin=x,y,z;z=x,y,z;x=x,y,z or a frame of the job");
  holes->add_option("--compare", about.compare, "CSV list of what should be there");
  holes->add_flag("--surroundings", about.surroundings,
                  "of each hole the next one, the nearest edge, the thinnest wall and what crosses it");
  auto* drawing = holes->add_option("--drawing", about.drawing, "drill drawing to write: .svg or .dxf");
  holes->add_option("--axis", about.axis, "that the drawing is seen along; the frame's Z if not told")
      ->needs(drawing);
}

void add_corners(CLI::App& app, Asked& asked) {
  cli::CornersRequest& wanted = asked.corners;
  auto* corners = add_command(app, "corners", "interior corners for a tool axis", asked,
                              [&wanted](const cli::Common& with) { return cli::corners(with, wanted); });
  auto* which = corners->add_option_group("which");
  auto* axis = which->add_option("--axis", wanted.axis, "tool axis, from the part to the spindle");
  which->add_flag("--any-axis")->description("every hollow and sharp inner edge, whichever way a tool comes");
  which->require_option(1);
  corners->add_option("--margin", wanted.margin, "largest cutter = margin x 2 x radius")
      ->check(CLI::Range(0.01, 1.0))
      ->needs(axis);
  corners->add_option("--cutters", wanted.cutters, "CSV or JSON list: which of them fits each pocket")
      ->needs(axis);
  corners->add_option("--cutter", wanted.cutter, "a diameter: where such a cutter does not go")->needs(axis);
}

void add_orient(CLI::App& app, Asked& asked) {
  cli::OrientRequest& wanted = asked.orient;
  auto* orient = add_command(app, "orient", "write the part turned or moved", asked,
                             [&wanted](const cli::Common& with) { return cli::orient(with, wanted); });
  orient->add_option("--out", wanted.out, "STEP file to write")->required();
  auto* how = orient->add_option_group("how");
  how->add_option("--up", wanted.up, "this direction becomes +Z");
  how->add_option("--frame", wanted.frame, "this frame becomes the origin");
  how->add_option("--matrix", wanted.matrix, "16 numbers, row by row");
  how->require_option(1);
}

void add_convert(CLI::App& app, Asked& asked) {
  std::string suffixes;
  for (const Format& format : formats())
    if (format.write) suffixes += (suffixes.empty() ? "." : ", .") + format.suffixes.front();
  auto* convert =
      add_command(app, "convert", "write the part in another format, told by the suffix", asked,
                  [&asked](const cli::Common& with) { return cli::convert(with, asked.converted); });
  convert->add_option("--out", asked.converted, "file to write, one of " + suffixes)->required();
}

void add_proposals(CLI::App& app, Asked& asked) {
  auto* proposals =
      add_command(app, "proposals", "tool axes that reach every hole and wall corner", asked,
                  [&asked](const cli::Common& with) { return cli::proposals(with, asked.machine); });
  proposals->add_option("--machine", asked.machine, "a machine: its file, or the name of a shipped one");
}

void add_job(CLI::App& app, Asked& asked) {
  cli::JobExport& exported = asked.exported;
  auto* job = add_command(app, "job", "look into a job", asked, [&asked](const cli::Common& with) {
    if (asked.check) return cli::check_job(with);
    return asked.list ? cli::list_job(with) : cli::export_job(with, asked.exported);
  });
  auto* what = job->add_option_group("what");
  what->add_flag("--list", asked.list, "the entries with their values and states");
  what->add_flag("--check", asked.check,
                 "the entries that are not as they were meant; status 1 when there are any");
  auto* kind = what->add_option("--export", exported.kind, "one of " + cli::all_export_kinds())
                   ->check(CLI::IsMember(cli::export_kinds()));
  what->require_option(1);
  auto* to = job->add_option("--out", exported.out, "file to write");
  job->add_option("--setup", exported.setup, "which setup, by its name")->needs(kind);
  kind->needs(to);
  to->needs(kind);
}

// Lengths are in the unit that stands beside them, wherever it stands.
Result<void> take_units(Asked& asked) {
  asked.common.unit = *unit_from_name(asked.unit);
  if (asked.tolerance.empty()) return {};
  const auto length = evaluate_length(asked.tolerance, asked.common.unit, {});
  if (!length || *length <= 0)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("--tolerance \"{}\" is not a length above zero", asked.tolerance));
  asked.common.tolerance_mm = *length;
  return {};
}

int parse_and_run(int argc, char** argv) {
  CLI::App app("True Anvil on the command line");
  app.set_version_flag("--version", "true-anvil-cli " TRUE_ANVIL_VERSION);
  app.require_subcommand(1);
  Asked asked;
  for (const auto add : {add_info, add_holes, add_corners, add_orient, add_convert, add_job, add_proposals})
    add(app, asked);
  try {
    app.parse(arguments_of(argc, argv));
  } catch (const CLI::Success& asked_for_help) {
    return app.exit(asked_for_help);
  } catch (const CLI::ParseError& error) {
    cli::say(fmt::format("true-anvil-cli: {}; run it with --help", error.what()));
    return 2;
  }
  if (const auto taken = take_units(asked); !taken) return tell(refuse(taken));
  asked.common.only_answers = asked.orient.out.empty() && asked.converted.empty() &&
                              asked.exported.out.empty() && asked.holes.drawing.empty();
  const int status = run(asked.command, asked.common);
  remove_abandoned_folders();
  if (status == kClosedPipe) cli::end_for_closed_pipe();
  return status;
}

}  // namespace

int main(int argc, char** argv) {
  anvil::quiet_kernel();
  anvil::watch_memory();
  return parse_and_run(argc, argv);
}
