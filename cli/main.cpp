// true-anvil-cli: the core without a window, for scripts. Exit status: 0 done, 1 a check failed, 2 wrong
// usage, 3 the file cannot be read or holds no usable body, 4 asked for something this file does not have, 5
// cannot write.
#include <fmt/format.h>
#include <unistd.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <functional>

#include "base/expression.h"
#include "base/file.h"
#include "cli/cli_input.h"
#include "cli/commands.h"
#include "cli/supervised.h"
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

void add_common(CLI::App* command, cli::Common& common, std::string& unit) {
  command->add_option("file", common.file, "part file or job")->required();
  command->add_flag("--json", common.json, "one JSON document on standard output");
  command->add_option("--unit", unit, "mm or inch")->check(CLI::IsMember({"mm", "inch"}));
}

using Command = std::function<Result<int>(const cli::Common&)>;

int tell(const Result<int>& result) {
  if (::isatty(STDERR_FILENO)) std::fprintf(stderr, "\r\033[K");
  if (result) return *result;
  std::fprintf(stderr, "true-anvil-cli: %s\n", result.error().sentence.c_str());
  return status_of(result.error().code);
}

// What the process says when its reader gave up without a reason of the file's: no exit status of ours.
constexpr int kAnotherWay = 100;

// In a process of its own: when that dies or its reader fails, once more with a reader that takes more, as
// import_part() does.
int run(const Command& command, cli::Common common) {
  const TemporaryFolder scratch;
  common.scratch = scratch.path();
  cli::Ended ended;
  for (const ReadingWay way : {ReadingWay::kUsual, ReadingWay::kCarefully, ReadingWay::kPlainly}) {
    common.way = way;
    ended = cli::supervised([&] {
      cli::keep_answers_apart();
      const Result<int> result = command(common);
      const bool reader_failed = !result && result.error().code == RefusalCode::kInternal;
      return reader_failed && way != ReadingWay::kPlainly ? kAnotherWay : tell(result);
    });
    if (ended.status == kAnotherWay) continue;
    if (ended.died.empty()) return ended.status;
    if (ended.over_limit)
      return tell(refuse(RefusalCode::kLimit, common.file + " took more time than the limit allows."));
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

int parse_and_run(int argc, char** argv) {
  CLI::App app("True Anvil on the command line");
  app.set_version_flag("--version", "true-anvil-cli " TRUE_ANVIL_VERSION);
  app.require_subcommand(1);
  cli::Common common;
  std::string unit = "mm", tolerance;
  cli::HolesRequest about_holes;
  cli::CornersRequest looked_for;
  bool any_axis = false;
  cli::OrientRequest orient;
  auto* info = app.add_subcommand("info", "what came in: bodies, size, soundness");
  auto* holes = app.add_subcommand("holes", "every hole with its steps, position and group");
  auto* corners = app.add_subcommand("corners", "interior corners for a tool axis");
  auto* orienting = app.add_subcommand("orient", "write the part turned or moved");
  auto* converting = app.add_subcommand("convert", "write the part in another format, told by the suffix");
  auto* job = app.add_subcommand("job", "look into a job");
  auto* proposing = app.add_subcommand("proposals", "tool axes that reach every hole and wall corner");
  for (auto* command : {info, holes, corners, orienting, converting, job, proposing})
    add_common(command, common, unit);
  info->add_option("--tolerance", tolerance, "length: wider gaps are findings");
  holes->add_option("--frame", about_holes.frame, "origin=x,y,z;z=x,y,z;x=x,y,z or a frame of the job");
  holes->add_option("--compare", about_holes.compare, "CSV list of what should be there");
  holes->add_flag("--surroundings", about_holes.surroundings,
                  "of each hole the next one, the nearest edge, the thinnest wall and what crosses it");
  auto* drawing = holes->add_option("--drawing", about_holes.drawing, "drill drawing to write: .svg or .dxf");
  holes->add_option("--axis", about_holes.axis, "that the drawing is seen along; the frame's Z if not told")
      ->needs(drawing);
  auto* which = corners->add_option_group("which");
  auto* axis = which->add_option("--axis", looked_for.axis, "tool axis, from the part to the spindle");
  which->add_flag("--any-axis", any_axis, "every hollow and sharp inner edge, whichever way a tool comes");
  which->require_option(1);
  corners->add_option("--margin", looked_for.margin, "largest cutter = margin x 2 x radius")
      ->check(CLI::Range(0.01, 1.0))
      ->needs(axis);
  corners->add_option("--cutters", looked_for.cutters, "CSV or JSON list: which of them fits each pocket")
      ->needs(axis);
  corners->add_option("--cutter", looked_for.cutter, "a diameter: where such a cutter does not go")
      ->needs(axis);
  orienting->add_option("--out", orient.out, "STEP file to write")->required();
  auto* how = orienting->add_option_group("how");
  how->add_option("--up", orient.up, "this direction becomes +Z");
  how->add_option("--frame", orient.frame, "this frame becomes the origin");
  how->add_option("--matrix", orient.matrix, "16 numbers, row by row");
  how->require_option(1);
  std::string converted;
  converting->add_option("--out", converted, "file to write: .step, .igs, .brep or .stl")->required();
  std::string machine;
  proposing->add_option("--machine", machine, "a machine: its file, or the name of a shipped one");
  bool list = false, check = false;
  cli::JobExport exported;
  auto* what = job->add_option_group("what");
  what->add_flag("--list", list, "the entries with their values and states");
  what->add_flag("--check", check,
                 "the entries that are not as they were meant; status 1 when there are any");
  auto* kind = what->add_option("--export", exported.kind, "one of " + cli::all_export_kinds())
                   ->check(CLI::IsMember(cli::export_kinds()));
  what->require_option(1);
  auto* to = job->add_option("--out", exported.out, "file to write");
  job->add_option("--setup", exported.setup, "which setup, by its name")->needs(kind);
  kind->needs(to);
  to->needs(kind);
  try {
    app.parse(arguments_of(argc, argv));
  } catch (const CLI::Success& asked_for_help) {
    return app.exit(asked_for_help);
  } catch (const CLI::ParseError& error) {
    std::fprintf(stderr, "true-anvil-cli: %s; run it with --help\n", error.what());
    return 2;
  }
  common.unit = *unit_from_name(unit);
  if (!tolerance.empty()) {
    auto length = evaluate_length(tolerance, common.unit, {});
    if (!length || *length <= 0) {
      std::fprintf(stderr, "true-anvil-cli: --tolerance \"%s\" is not a length above zero\n",
                   tolerance.c_str());
      return 2;
    }
    common.tolerance_mm = *length;
  }
  const Command command = [&](const cli::Common& with) -> Result<int> {
    if (info->parsed()) return cli::info(with);
    if (holes->parsed()) return cli::holes(with, about_holes);
    if (corners->parsed()) return cli::corners(with, looked_for);
    if (orienting->parsed()) return cli::orient(with, orient);
    if (converting->parsed()) return cli::convert(with, converted);
    if (proposing->parsed()) return cli::proposals(with, machine);
    if (check) return cli::check_job(with);
    return exported.kind.empty() ? cli::list_job(with) : cli::export_job(with, exported);
  };
  const int status = run(command, common);
  remove_abandoned_folders();
  return status;
}

}  // namespace

int main(int argc, char** argv) {
  anvil::quiet_kernel();
  return parse_and_run(argc, argv);
}
