// Solids raised from closed lines: along a direction, between two levels or up to a surface, with draft.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pln.hxx>
#include <vector>

#include "base/refusal.h"

namespace anvil {

// What lines in one plane enclose, outlines within outlines being holes. They may cross. Refuses (kGeometry)
// lines that enclose nothing, with where they end, or lie in several planes.
Result<std::vector<TopoDS_Face>> areas_within(const std::vector<TopoDS_Edge>& lines);

// Without the outlines inside.
TopoDS_Face filled(const TopoDS_Face& area);

// Square to the area: from `from_mm` to `to_mm` along its plane's normal, which may be below and above it.
// With draft the sides lean inwards away from the area, by as much to both sides of it. Refuses (kBadInput)
// no height, (kGeometry) a draft that leaves nothing of the area.
Result<TopoDS_Shape> raised(const TopoDS_Face& area, const gp_Dir& normal, double from_mm, double to_mm,
                            double draft_rad);

// From the area to where the surface of `end` is met; `reach_mm` is farther than it can be. Refuses
// (kGeometry) when that does not lie over the whole area, or crosses it.
Result<TopoDS_Shape> raised_to(const TopoDS_Face& area, const gp_Dir& normal, const TopoDS_Face& end,
                               double reach_mm, double draft_rad);

}  // namespace anvil
