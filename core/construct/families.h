// The functions that describe each construction; called once, by the registry.
#pragma once

#include "construct/construction.h"

namespace anvil {

#define CONSTRUCTION(name) Construction name();
#include "construct/constructions.def"
#undef CONSTRUCTION

}  // namespace anvil
