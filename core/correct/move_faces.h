// Faces moved, and their neighbours lengthened or cut back to meet them where they come to lie.
//
// The part keeps its faces and edges: every edge between a moved face and one that stays is where their
// surfaces meet now, every edge that ends there ends where its own curve does. So holes that open in a moved
// face stay open, walls keep their draft, and nothing but the faces beside what moved is touched.
#pragma once

#include <gp_Vec.hxx>

#include "correct/body_change.h"
#include "part/topology_index.h"

namespace anvil {

struct MovedFaces {
  std::vector<int> faces;  // of one body, by their numbers
  gp_Vec by;
};

// Refuses (kGeometry) where a neighbour does not reach what was
// moved, where an edge would vanish or turn round, and whatever judged() refuses.
Result<BodyChange> with_faces_moved(const TopoDS_Shape& body, const TopologyIndex& topology,
                                    const std::vector<MovedFaces>& sets);

// Faces laid onto the surface of another: what is left of each is where its neighbours meet that surface.
// Faces that hang together cannot be laid onto one. Refuses as moving does.
Result<BodyChange> with_faces_laid(const TopoDS_Shape& body, const TopologyIndex& topology,
                                   const std::vector<int>& faces, const TopoDS_Face& onto);

}  // namespace anvil
