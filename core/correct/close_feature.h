// Takes faces off a solid and lets the faces around them close: holes, pockets, bosses, fillets.
#pragma once

#include "correct/body_change.h"
#include "correct/feature_faces.h"

namespace anvil {

// Two ways, the first that gives a sound solid: inner outlines lifted off their faces (exact, and costs
// what those faces cost), or the faces around extended until they meet. Refuses with
// why the last of them does not.
Result<BodyChange> without_feature(const TopoDS_Shape& body, const TopologyIndex& topology,
                                   const Feature& feature, Expected expected);

// The first way alone.
Result<BodyChange> with_feature_lifted(const TopoDS_Shape& body, const TopologyIndex& topology,
                                       const Feature& feature, Expected expected);

}  // namespace anvil
