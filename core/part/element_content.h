// What faces, edges and vertices are made of, added to a key: kind, geometry and border as they lie, nothing
// of their neighbours, so that an element that a change did not touch keeps its key.
#pragma once

#include <gp_Pnt.hxx>
#include <gp_Trsf.hxx>

#include "base/content_key.h"
#include "part/topology_index.h"

namespace anvil {

void add_to(KeyMaker& maker, const gp_XYZ& xyz);
void add_to(KeyMaker& maker, const gp_Trsf& motion);
void add_face(KeyMaker& maker, const TopologyIndex& topology, int face);
void add_edge(KeyMaker& maker, const TopologyIndex& topology, int edge);
void add_vertex(KeyMaker& maker, const TopologyIndex& topology, int vertex);

}  // namespace anvil
