// Healing in the worker process: it can take long, and can be ended at once.
#pragma once

#include "base/progress.h"
#include "exchange/worker_client.h"
#include "part/heal.h"

namespace anvil {

struct HealedPart {
  PartPtr part;
  HealReport report;
  std::vector<BodyMap> maps;  // a body
};

// Refuses as heal_bodies() does. Blocking.
Result<HealedPart> heal_part(const Part& part, const HealOptions& options, const Progress& progress,
                             const WorkerLimits& limits = {});

// Options, reports and maps as JSON texts, for the hand-over and the job file. Reading refuses (kUnreadable)
// what it does not understand.
std::string to_json_text(const HealOptions& options);
std::string to_json_text(const HealReport& report);
Result<HealOptions> heal_options_from(const std::string& text);
std::string to_json_text(const std::vector<BodyMap>& maps);
Result<std::vector<BodyMap>> body_maps_from(const std::string& text);
Result<HealReport> heal_report_from(const std::string& text);

}  // namespace anvil
