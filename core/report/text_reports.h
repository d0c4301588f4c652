// What is handed over as one text file that job and part alone determine, one row each in text_reports.def:
// the command line and the window list them from here.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "inspect/holes.h"
#include "job/evaluate.h"

namespace anvil {

struct ReportInput {
  const Job& job;
  const Evaluation& evaluation;
  int setup = 0;                      // the one it is about, where `of_one_setup`
  const HoleReport* holes = nullptr;  // named, where `of_holes`
  Unit unit = Unit::kMillimetre;
  std::string date;  // ISO 8601
  Progress progress;
};

struct TextReport {
  const char* id;      // "offsets": --export of the command line, hand-over.offsets in the window
  const char* name;    // as the menu says it
  const char* suffix;  // "nc"
  bool of_one_setup = false, of_holes = false;
  bool window_has_its_own = false;  // with pictures, which only it can take
  // Refuses what it needs and the job lacks.
  Result<std::string> (*write)(const ReportInput& input);
};

const std::vector<TextReport>& text_reports();
const TextReport* text_report(const std::string& id);  // null: no such

}  // namespace anvil
