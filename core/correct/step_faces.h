// Flat faces moved away from neighbours that stay as they are, being of the same plane or running on smoothly
// from it: walls come up between them.
#pragma once

#include "correct/move_faces.h"

namespace anvil {

// Whether a border of the faces runs to another face of the same plane, so that no neighbour can meet them
// where they go.
bool leave_their_plane(const TopologyIndex& topology, const std::vector<int>& faces);

// Material is added or cut away over the faces. Refuses (kGeometry) faces that are not flat, some that go out
// while others go in, and as combining does.
Result<BodyChange> with_faces_stepped(const TopoDS_Shape& body, const TopologyIndex& topology,
                                      const std::vector<MovedFaces>& sets);

}  // namespace anvil
