// The drill drawing: the part's visible edges seen along an axis, every hole and slot that opens that way or
// goes through that way with its name, and a table of them in the reading frame.
//
//   auto drawing = drill_drawing(part, holes, view, progress);
//   drawing_svg(*drawing), drawing_dxf(*drawing)
#pragma once

#include "base/progress.h"
#include "inspect/holes.h"
#include "report/drawing.h"

namespace anvil {

struct DrillView {
  gp_Dir towards_eye{0, 0, 1};  // in the coordinates that the placement leads to
  gp_Trsf placement;            // from the part's coordinates to those
  gp_Ax2 frame;                 // the reading frame, in those too
  std::string frame_name, part_name;
  Display display;
};

// The drawing's origin is the frame's zero and its X the frame's, as far as the view allows. Circles are
// exact; the part's edges are those of its display mesh. Holes that run otherwise are named beneath, not
// drawn. Refuses a report without holes and slots, and when cancelled.
Result<Drawing> drill_drawing(const Part& part, const HoleReport& report, const DrillView& view,
                              const Progress& progress = {});

}  // namespace anvil
