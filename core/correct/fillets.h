// Another radius for roundings: taken off, so that the faces beside them meet sharply, and made anew on the
// edge where they do.
#pragma once

#include "correct/body_change.h"
#include "part/topology_index.h"

namespace anvil {

// The roundings that go on smoothly from the picked ones: same radius, end to end.
std::vector<int> rounding_chain(const TopologyIndex& topology, const std::vector<int>& faces);

// `faces`: cylinders or tori that meet the faces on both their sides smoothly. Refuses (kGeometry) others,
// and where no rounding of that radius fits, with what the kernel says.
Result<BodyChange> with_radius(const TopoDS_Shape& body, const TopologyIndex& topology,
                               const std::vector<int>& faces, double radius_mm);

}  // namespace anvil
