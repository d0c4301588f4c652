// Finding what a reference means on a part that has changed. Internal to core/pick.
#pragma once

#include "pick/reference.h"

namespace anvil {

// When nothing fits the description any more: the same surface or curve where it was, else by intent.
Result<Located> locate_changed(const Part& part, const TopologyReference& reference);

Refusal several(const TopologyReference& reference);

}  // namespace anvil
