// A part healed, known by its content and the options it was healed with: done once, then taken from the
// cache.
#pragma once

#include "exchange/heal_worker.h"
#include "job/result_cache.h"

namespace anvil {

ContentKey healing_key(const Part& part, const HealOptions& options);

// Null when it is not known.
std::shared_ptr<const Result<HealedPart>> known_healing(ResultCache& cache, const Part& part,
                                                        const HealOptions& options);
void keep_healing(ResultCache& cache, const ContentKey& key, Result<HealedPart> healed);

// Known, or made by the worker and kept, also that it is refused. Blocking.
Result<HealedPart> heal_once(ResultCache& cache, const Part& part, const HealOptions& options,
                             const Progress& progress);

// The healed bodies, called and numbered as those of `before` are now.
PartState healed_state(const PartPtr& before, const HealedPart& healed, int entry);

}  // namespace anvil
