// Which names of a file are none. Internal to core/exchange.
#pragma once

#include <string>

namespace anvil {

// Writers put the word for what a thing is, a number or their own label where a name was not given: "SOLID",
// "1", "COMPOUND", "Body 3", "NONE".
bool says_nothing(const std::string& name);

}  // namespace anvil
