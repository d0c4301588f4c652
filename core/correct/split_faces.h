// Faces divided where a plane crosses them, so that their parts can be picked and moved alone.
#pragma once

#include <gp_Pln.hxx>

#include "correct/body_change.h"
#include "part/topology_index.h"

namespace anvil {

// Neighbours keep their surfaces; the edges that the cut ends on are divided there. Refuses (kGeometry) when
// the plane crosses none of the faces, and whatever judged() refuses.
Result<BodyChange> with_faces_split(const TopoDS_Shape& body, const TopologyIndex& topology,
                                    const std::vector<int>& faces, const gp_Pln& at);

}  // namespace anvil
