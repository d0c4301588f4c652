// Places of a pattern that stay empty, as typed: "2, 5". The first place is what is repeated.
#pragma once

#include <set>
#include <string>

#include "base/refusal.h"

namespace anvil {

// Refuses (kBadInput) what is no whole number from 2.
Result<std::set<int>> skipped_places(const std::string& text);

}  // namespace anvil
