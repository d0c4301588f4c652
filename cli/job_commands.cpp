// What is asked of jobs and setups: proposals, check, exports.
#include <fmt/format.h>

#include <ctime>

#include "base/file.h"
#include "cli/cli_input.h"
#include "cli/cli_text.h"
#include "cli/commands.h"
#include "job/hole_names.h"
#include "job/setup_on_machine.h"
#include "report/json_reports.h"
#include "report/setup_reports.h"
#include "report/setup_sheet.h"
#include "setup/orientation.h"
#include "setup/shipped_machines.h"

namespace anvil::cli {
namespace {

Result<Machine> machine_named(const std::string& name) {
  for (const Machine& machine : shipped_machines())
    if (machine.id == name) return machine;
  if (name.find('.') != std::string::npos || name.find('/') != std::string::npos) return read_machine(name);
  std::string shipped;
  for (const Machine& machine : shipped_machines()) shipped += (shipped.empty() ? "" : ", ") + machine.id;
  return refuse(RefusalCode::kUnknownName,
                fmt::format("there is no machine \"{}\": a JSON file, or one of {}", name, shipped));
}

Result<const Entry*> chosen_setup(const Input& input, const std::string& name) {
  const Entry* chosen = nullptr;
  for (const Entry& entry : input.job.entries) {
    if (!entry.setup() || (!name.empty() && entry.name != name)) continue;
    if (chosen)
      return refuse(RefusalCode::kBadInput, "the job has several setups: say which one with --setup");
    chosen = &entry;
  }
  if (!chosen)
    return refuse(RefusalCode::kUnknownName,
                  name.empty() ? "the job has no setup" : "the job has no setup \"" + name + "\"");
  const Evaluated& evaluated = input.evaluation.entries.at(chosen->id);
  if (!evaluated.setup)
    return refuse(RefusalCode::kGeometry, chosen->name + " cannot be built: " + evaluated.reason);
  return chosen;
}

Result<std::string> offsets_text(const Input& input, const JobExport& request, Unit unit) {
  const auto chosen = chosen_setup(input, request.setup);
  if (!chosen) return refuse(chosen);
  const auto on = setup_on_machine(input.job, input.evaluation, (*chosen)->id);
  if (!on) return refuse(on);
  return offsets_program(on->entry->name, *on->machine, on->place, on->offsets, unit);
}

Result<std::string> sheets_text(const Input& input) {
  auto holes = find_holes(*input.part, terminal_progress());
  if (!holes) return refuse(holes);
  give_names(input.job, input.evaluation.states, *holes);
  char date[16] = {};
  const std::time_t now = std::time(nullptr);
  std::strftime(date, sizeof date, "%Y-%m-%d", std::localtime(&now));
  const auto sheets = make_setup_sheets(input.job, input.evaluation, *holes, date, terminal_progress());
  if (!sheets) return refuse(sheets);
  return setup_sheets_html(*sheets, {}, 0);
}

// Every tool plane in one of the neutral forms, each under its name.
Result<std::string> orientations_text(const Input& input, const JobExport& request, const NamedForm& form,
                                      Unit unit) {
  const auto chosen = chosen_setup(input, request.setup);
  if (!chosen) return refuse(chosen);
  std::string text;
  const Machine* machine = machine_of(input.job, *(*chosen)->setup());
  for (const PlaneValue& plane : input.evaluation.entries.at((*chosen)->id).setup->planes) {
    const auto told = orientation_text(form.form, plane, machine, nullptr, {unit});
    if (!told) return refuse(told.error().code, plane.name + ": " + told.error().sentence);
    text += "# " + plane.name + "\n" + *told;
  }
  return text;
}

}  // namespace

const std::vector<std::string>& export_kinds() {
  static const std::vector<std::string> all{"offsets", "setups", "sheets", "matrix", "vectors", "rotary"};
  return all;
}

Result<int> proposals(const Common& common, const std::string& machine_file) {
  auto input = load_with_part(common);
  if (!input) return refuse(input);
  std::optional<Machine> machine;
  if (!machine_file.empty()) {
    auto read = machine_named(machine_file);
    if (!read) return refuse(read);
    machine = std::move(*read);
  }
  const auto holes = find_holes(*input->part, terminal_progress());
  if (!holes) return refuse(holes);
  ProposalOptions options;
  if (machine)
    options.machine_reaches = [&](const gp_Dir& d) {
      return reaches(*machine, d.Transformed(input->evaluation.placement));
    };
  const auto found = propose_axes(*input->part, *holes, options, terminal_progress());
  if (!found) return refuse(found);
  return print(common.json ? proposals_json(*found, machine ? &*machine : nullptr,
                                            input->evaluation.placement, common.unit)
                           : proposals_text(*found));
}

Result<int> check_job(const Common& common) {
  auto input = load_input(common);
  if (!input) return refuse(input);
  bool good = true;
  for (const auto& [id, evaluated] : input->evaluation.entries)
    good = good && (evaluated.state == EntryState::kCurrent || evaluated.state == EntryState::kSuppressed);
  if (const auto printed = print(common.json ? job_list_json(input->job, input->evaluation, common.unit)
                                             : problems_text(input->job, input->evaluation));
      !printed)
    return printed;
  return good ? kDone : kCheckFailed;
}

Result<int> export_job(const Common& common, const JobExport& request) {
  auto input = load_input(common);
  if (!input) return refuse(input);
  if (!input->part) return refuse(RefusalCode::kNoBody, common.file + " holds no part");
  Result<std::string> text = refuse(RefusalCode::kBadInput, "nothing to export");
  if (request.kind == "offsets") text = offsets_text(*input, request, common.unit);
  if (request.kind == "setups") text = setups_json(input->job, input->evaluation, common.unit);
  if (request.kind == "sheets") text = sheets_text(*input);
  for (const NamedForm& form : orientation_forms())
    if (request.kind == form.id) text = orientations_text(*input, request, form, common.unit);
  if (!text) return refuse(text);
  const auto written = write_file_atomically(request.out, *text);
  if (!written) return refuse(written);
  return kDone;
}

}  // namespace anvil::cli
