// The same reports for people: plain tables.
#pragma once

#include <string>

#include "report/json_reports.h"

namespace anvil::cli {

std::string info_text(const Part& part, const Display& display, double tolerance_mm);
std::string holes_text(const HoleReport& report, const std::vector<ComparedHole>& comparison,
                       const std::string& frame, const Display& display);
std::string corners_text(const CornerReport& report, const Display& display);
std::string job_text(const Job& job, const Evaluation& evaluation);

}  // namespace anvil::cli
