// All constructions, in the order they were registered.
#pragma once

#include "construct/construction.h"

namespace anvil {

const std::vector<Construction>& constructions();
const Construction* find_construction(const std::string& id);  // null when there is none

}  // namespace anvil
