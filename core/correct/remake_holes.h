// Holes moved, given another form, or added: closed where they were, cut where they are to be.
#pragma once

#include <optional>

#include "correct/plan.h"

namespace anvil {

// The faces of a hole that is there go to those of the one that takes its place, step by step. Refuses
// (kGeometry) a hole whose steps do not tell all of its form, by comparing volumes.
Result<BodyChange> remade_holes(const TopoDS_Shape& body, const TopologyIndex& topology,
                                const RemakeHoles& step);

// The same without a Boolean on the body: outlines lifted off flat faces and laid into them. Nothing where
// that does not do.
std::optional<BodyChange> remade_holes_directly(const TopoDS_Shape& body, const TopologyIndex& topology,
                                                const RemakeHoles& step);

}  // namespace anvil
