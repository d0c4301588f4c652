// Running one order in a worker process. Internal to core/exchange.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "exchange/worker_client.h"

namespace anvil {

struct WorkerAnswer {
  bool changed = false;
};

// `file` names what is worked on in the sentence of a refusal. Blocking; a cancel ends the worker.
Result<WorkerAnswer> run_worker(std::vector<std::string> arguments, const std::string& file,
                                const Progress& progress, const WorkerLimits& limits,
                                const std::function<void()>& picture = {});

}  // namespace anvil
