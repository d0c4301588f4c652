// Holes whose mouths lie whole in flat faces, laid into a body without a Boolean: the faces get one outline
// more each, the hole's own faces come between them, and nothing else is looked at twice.
#pragma once

#include <optional>
#include <vector>

#include "correct/combine.h"
#include "correct/hole_tool.h"

namespace anvil {

// A hole as a solid without overrun, as hole_tool(form, at, 0, 0) makes it.
struct HoleToLay {
  HoleTool tool;
  gp_Ax2 at;
  double depth_mm = 0;
  bool through = false;
};

// Nothing where one of them has a mouth that is not flat, meets anything else of the body or another of them,
// or leads into a void, and where what came of it is not sound: a Boolean does those.
std::optional<Combined> with_holes_laid(const TopoDS_Shape& body, const std::vector<HoleToLay>& holes);

}  // namespace anvil
