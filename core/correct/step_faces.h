// Flat faces moved away from others of the same plane that stay: walls come up between them.
#pragma once

#include "correct/move_faces.h"

namespace anvil {

// Whether a border of the faces runs to another face of the same plane, so that no neighbour can meet them
// where they go.
bool leave_their_plane(const TopologyIndex& topology, const std::vector<int>& faces);

// Material is added or cut away square to the faces. Refuses (kGeometry) faces that are not flat, and as
// combining does.
Result<BodyChange> with_faces_stepped(const TopoDS_Shape& body, const TopologyIndex& topology,
                                      const MovedFaces& set);

}  // namespace anvil
