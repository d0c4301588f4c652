// What is asked of jobs and setups: proposals, check, exports.
#include <fmt/format.h>

#include <ctime>

#include "base/file.h"
#include "cli/cli_input.h"
#include "cli/cli_text.h"
#include "cli/commands.h"
#include "cli/console.h"
#include "job/hole_names.h"
#include "report/json_reports.h"
#include "report/setup_reports.h"
#include "report/text_reports.h"
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

std::string today() {
  char date[16] = {};
  const std::time_t now = std::time(nullptr);
  std::strftime(date, sizeof date, "%Y-%m-%d", std::localtime(&now));
  return date;
}

Result<std::string> report_text(const Input& input, const TextReport& report, const std::string& setup,
                                Unit unit) {
  ReportInput asked{input.job, input.evaluation, 0, nullptr, unit, today(), terminal_progress()};
  if (report.of_one_setup) {
    const auto chosen = chosen_setup(input, setup);
    if (!chosen) return refuse(chosen);
    asked.setup = (*chosen)->id;
  }
  if (!report.of_holes) return report.write(asked);
  auto holes = find_holes(*input.part, terminal_progress());
  if (!holes) return refuse(holes);
  give_names(input.job, input.evaluation.states, *holes);
  asked.holes = &*holes;
  return report.write(asked);
}

}  // namespace

const std::vector<std::string>& export_kinds() {
  static const std::vector<std::string> all = [] {
    std::vector<std::string> ids;
    for (const TextReport& report : text_reports()) ids.emplace_back(report.id);
    return ids;
  }();
  return all;
}

std::string all_export_kinds() {
  return fmt::format("{}", fmt::join(export_kinds(), ", "));
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
  if (auto printed = print(common.json ? job_list_json(input->job, input->evaluation, common.unit)
                                       : problems_text(input->job, input->evaluation));
      !printed)
    return printed;
  return good ? kDone : kCheckFailed;
}

Result<int> export_job(const Common& common, const JobExport& request) {
  auto input = load_input(common);
  if (!input) return refuse(input);
  if (!input->part) return refuse(RefusalCode::kNoBody, common.file + " holds no part");
  const TextReport* report = text_report(request.kind);
  if (!report) return refuse(RefusalCode::kUnknownName, "there is no \"" + request.kind + "\" to export");
  const auto text = report_text(*input, *report, request.setup, common.unit);
  if (!text) return refuse(text);
  const auto written = write_file_atomically(request.out, *text);
  if (!written) return refuse(written);
  return kDone;
}

}  // namespace anvil::cli
