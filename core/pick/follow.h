// Where a pick stands now, on a part that went through several states: found on the state it was made on,
// then taken along by what each step says it did with faces, edges and vertices.
//
//   const auto now = follow(evaluation.states, pick, clicked);
#pragma once

#include "pick/reference.h"

namespace anvil {

// The entry whose state picks made now are on: the last one that changed faces.
int made_on(const std::vector<PartState>& states);

// Of one element left: how it was found on the state it was made on. Of several pieces: any, where all lie on
// one surface or curve; else the one nearest to `clicked` (in part coordinates). A step that does not tell is
// passed by what the element looks like, and so is a pick that does not say what it was made on.
// Refuses as locate(), kAmbiguous when there are pieces and nothing tells which is meant, and kUnknownName
// when a step took it away, with the fact "gone_with": the entry.
Result<Located> follow(const std::vector<PartState>& states, const TopologyReference& pick,
                       const std::optional<gp_Pnt>& clicked = {});

}  // namespace anvil
