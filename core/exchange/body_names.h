// Which names of a file are none. Internal to core/exchange.
#pragma once

#include <string>
#include <vector>

#include "part/part.h"

namespace anvil {

// Writers put the word for what a thing is, a number or their own label where a name was not given: "SOLID",
// "1", "COMPOUND", "Body 3", "NONE".
bool says_nothing(const std::string& name);

// Bodies whose name says nothing are called `name`, numbered where they are several.
void name_nameless(std::vector<Body>& bodies, const std::string& name);

// Single faces without a name, each a body of its own, as one body: surface models come so, face by face.
void join_single_faces(std::vector<Body>& bodies, const std::string& name);

}  // namespace anvil
