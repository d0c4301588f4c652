// Running one order in a worker process. Internal to core/exchange.
#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "exchange/worker_client.h"

namespace anvil {

struct WorkerAnswer {
  bool changed = false;
};

// What is being done and to what, for the sentence of a refusal: "healing", "plate.step".
struct WorkerTask {
  const char* doing = "reading";
  std::string what;
  [[nodiscard]] bool is_reading() const { return std::string_view(doing) == "reading"; }
};

// Blocking; a cancel ends the worker.
Result<WorkerAnswer> run_worker(std::vector<std::string> arguments, const WorkerTask& task,
                                const Progress& progress, const WorkerLimits& limits,
                                const std::function<void()>& picture = {});

}  // namespace anvil
