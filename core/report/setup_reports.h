// Setups, tool planes and proposals as JSON and as a line of text.
#pragma once

#include <nlohmann/json.hpp>
#include <string>

#include "job/evaluate.h"
#include "setup/proposals.h"

namespace anvil {

// Tool axes that reach all features, in part coordinates. `machine`, where there is one, tells the angles;
// `placed` turns part coordinates into the machine's.
std::string proposals_json(const Proposals& proposals, const Machine* machine, const gp_Trsf& placed,
                           Unit unit);

// All setups with their tool planes, poses and indexed offsets.
std::string setups_json(const Job& job, const Evaluation& evaluation, Unit unit);

// Of one setup, told in its own coordinates but for its zero, which is told in the placed part's.
nlohmann::ordered_json setup_value_json(const Job& job, const Evaluation& evaluation, const Entry& entry,
                                        Unit unit);

// "Cradle A with rotary table C, stock 120.000 × 80.000 × 40.000"
std::string setup_text(const Job& job, const Setup& setup, const Evaluated& evaluated);

}  // namespace anvil
