// Healing in the worker process: it can take long, and can be ended at once.
#pragma once

#include "base/progress.h"
#include "exchange/worker_client.h"
#include "part/heal.h"

namespace anvil {

struct HealedPart {
  PartPtr part;
  HealReport report;
};

// Refuses as heal_bodies() does. Blocking.
Result<HealedPart> heal_part(const Part& part, const HealOptions& options, const Progress& progress,
                             const WorkerLimits& limits = {});

// Options and reports as JSON texts, for the hand-over and the job file. Reading refuses (kUnreadable) what
// it does not understand.
std::string to_json_text(const HealOptions& options);
std::string to_json_text(const HealReport& report);
Result<HealOptions> heal_options_from(const std::string& text);
Result<HealReport> heal_report_from(const std::string& text);

}  // namespace anvil
