// What comes of a setup entry. Internal to core/job.
#pragma once

#include "job/evaluate.h"

namespace anvil {

// `so_far` holds everything before the entry, and the cache; `last` its value from the evaluation before,
// told where it cannot be built now. With `only_known` nothing is computed: it is marked as stopped.
Evaluated evaluate_setup(const Job& job, const Evaluation& so_far, const Entry& entry, const Evaluated* last,
                         bool only_known = false);

// A stock's points (1 to 27) and sides (28 to 33) as picks.
Result<Given> given_by_stock(const SetupValue& value, int element, const std::string& name);
inline constexpr int kStockPoints = 27, kStockSides = 6;
std::string stock_element_name(int element);

}  // namespace anvil
