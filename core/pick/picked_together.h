// More picks from one place: what goes on smoothly from a face or an edge, and the hole, pocket or boss it is
// part of.
#pragma once

#include <vector>

#include "part/topology_index.h"
#include "pick/reference.h"

namespace anvil {

// Faces: all that are reached over smooth edges. Edges: those that leave its ends in its direction, within
// kSmoothEdge_rad, of one or the other of its faces before others, and so on. With the one itself, in order;
// of a vertex, itself alone.
std::vector<int> tangent_chain(const TopologyIndex& topology, TopologyKind kind, int index);

// Of an edge the smaller of those that its two faces are part of. Empty where there is none: a face of the
// outside, a vertex.
std::vector<int> faces_of_feature(const TopologyIndex& topology, TopologyKind kind, int index);

}  // namespace anvil
