// Which faces make up the hole, pocket or boss that a picked face belongs to.
//
// A feature stands in its host face by an inner outline: to come from the feature into the host one crosses
// one, so whatever can be reached from a picked face without that belongs to it, with the holes in its floor.
#pragma once

#include <optional>
#include <vector>

#include "part/topology_index.h"

namespace anvil {

struct Feature {
  std::vector<int> faces;    // of the part's topology, in order
  bool stands_free = false;  // every neighbour holds it by whole inner outlines: it can be taken out as it is
};

// Around the picked faces (of one body). Nothing when that is the whole body, as from a face of its outside.
std::optional<Feature> feature_around(const TopologyIndex& topology, const std::vector<int>& picked);

// Those faces and no others.
Feature feature_of(const TopologyIndex& topology, const std::vector<int>& faces);

// The faces of whatever stands in the faces by whole inner outlines of theirs: holes, pockets, bosses.
std::vector<int> standing_in(const TopologyIndex& topology, const std::vector<int>& faces);

// With what is round and runs smoothly into the faces, or into what is taken along so: corners, fillets.
std::vector<int> with_roundings(const TopologyIndex& topology, const std::vector<int>& faces);

// With the faces that all of whose neighbours are among them: floors, shoulders.
std::vector<int> with_enclosed(const TopologyIndex& topology, std::vector<int> faces);

}  // namespace anvil
