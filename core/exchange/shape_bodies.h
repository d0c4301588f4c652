// From one shape, without names, to bodies. Internal to core/exchange.
#pragma once

#include "exchange/format.h"

namespace anvil {

// Faces that belong to no shell, as one shape; null when there are none.
TopoDS_Shape loose_faces(const TopoDS_Shape& shape);

// Each solid, each shell of no solid, and the faces of no shell as one: all called `name`, numbered where
// they are several. May be empty.
std::vector<Body> bodies_of_shape(const TopoDS_Shape& shape, const std::string& name);

// The name of a file without its folder and suffixes (.gz too): what bodies are called when nothing better is
// known.
std::string stem_of(const std::string& file_name);

}  // namespace anvil
