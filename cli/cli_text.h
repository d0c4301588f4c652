// The same reports for people: plain tables.
#pragma once

#include <string>

#include "report/json_reports.h"
#include "setup/proposals.h"

namespace anvil::cli {

std::string info_text(const Part& part, const Display& display, double tolerance_mm);
std::string holes_text(const HoleReport& report, size_t faces, const std::string& frame,
                       const Display& display, const HoleAnswers& answers);
std::string corners_text(const CornerReport& report, size_t faces, const Display& display,
                         const CornerAnswers& answers);
std::string hollows_text(const HollowReport& report, const Display& display);
std::string proposals_text(const Proposals& proposals);
// The entries that are not current, a line each with the reason.
std::string problems_text(const Job& job, const Evaluation& evaluation);
std::string job_text(const Job& job, const Evaluation& evaluation);

}  // namespace anvil::cli
