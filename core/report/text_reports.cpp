#include "report/text_reports.h"

#include <algorithm>

#include "job/setup_on_machine.h"
#include "report/setup_reports.h"
#include "report/setup_sheet.h"
#include "setup/orientation.h"

namespace anvil {

#define TEXT_REPORT(name) TextReport name();
#include "report/text_reports.def"
#undef TEXT_REPORT

namespace {

// Every tool plane of the setup in one of the neutral forms, each under its name.
template <OrientationForm form>
Result<std::string> planes_text(const ReportInput& input) {
  const Entry* entry = input.job.find(input.setup);
  const auto at = input.evaluation.entries.find(input.setup);
  if (!entry || !entry->setup() || at == input.evaluation.entries.end() || !at->second.setup)
    return refuse(RefusalCode::kBadInput, "tool planes belong to a setup: read in one first");
  std::string text;
  const Machine* machine = machine_of(input.job, *entry->setup());
  for (const PlaneValue& plane : at->second.setup->planes) {
    const auto told = orientation_text(form, plane, machine, nullptr, {input.unit});
    if (!told) return refuse(told.error().code, plane.name + ": " + told.error().sentence);
    text += orientation_heading(form, plane.name) + *told;
  }
  return text;
}

}  // namespace

TextReport offsets_report() {
  return {"offsets",
          "Work offsets as a program",
          "nc",
          true,
          false,
          false,
          [](const ReportInput& input) -> Result<std::string> {
            const auto on = setup_on_machine(input.job, input.evaluation, input.setup);
            if (!on) return refuse(on);
            return offsets_program(on->entry->name, *on->machine, on->place, on->offsets, input.unit);
          }};
}

TextReport setups_report() {
  return {"setups",
          "Setups and tool planes as JSON",
          "json",
          false,
          false,
          false,
          [](const ReportInput& input) -> Result<std::string> {
            return setups_json(input.job, input.evaluation, input.unit);
          }};
}

TextReport sheets_report() {
  return {"sheets",
          "Setup sheets",
          "html",
          false,
          true,
          true,
          [](const ReportInput& input) -> Result<std::string> {
            const auto sheets =
                make_setup_sheets(input.job, input.evaluation, *input.holes, input.date, input.progress);
            if (!sheets) return refuse(sheets);
            return setup_sheets_html(*sheets, {}, 0);
          }};
}

TextReport matrix_report() {
  return {
      "matrix", "Tool planes as matrices", "txt", true, false, false, planes_text<OrientationForm::kMatrix>};
}

TextReport vectors_report() {
  return {"vectors", "Tool planes as vectors and angles",   "txt", true, false,
          false,     planes_text<OrientationForm::kVectors>};
}

TextReport rotary_report() {
  return {"rotary", "Tool planes as rotary words",        "txt", true, false,
          false,    planes_text<OrientationForm::kRotary>};
}

const std::vector<TextReport>& text_reports() {
  static const std::vector<TextReport> all{
#define TEXT_REPORT(name) name(),
#include "report/text_reports.def"
#undef TEXT_REPORT
  };
  return all;
}

const TextReport* text_report(const std::string& id) {
  const auto& all = text_reports();
  const auto found = std::find_if(all.begin(), all.end(), [&](const TextReport& r) { return id == r.id; });
  return found == all.end() ? nullptr : &*found;
}

}  // namespace anvil
