// Does what a plan says, and tells what came of it.
#pragma once

#include <optional>

#include "base/progress.h"
#include "correct/plan.h"
#include "part/shape_map.h"

namespace anvil {

// Of one body. Faces painted over the part before it is kept: what bounds material that is added, and what
// bounds material that is removed.
struct CorrectedBody {
  TopoDS_Shape shape;
  BodyMap map;
  double added_mm3 = 0, removed_mm3 = 0;
  TopoDS_Shape added, removed;  // compounds of faces
};

// Refuses what is no closed solid to begin with, and whatever the guard of body_change.h refuses. The faces
// that are new are meshed. Blocking; the kernel heeds no cancel inside a step.
Result<CorrectedBody> carry_out(const Part& part, const PlanStep& step, const Progress& progress = {});

// The same for what can be done quickly and without the parts of the kernel that fail: outlines lifted off
// faces and laid into them. Nothing where the step wants more than that. The body itself is left alone, edges
// and their triangles too, so that it may be on the screen meanwhile.
std::optional<CorrectedBody> carry_out_directly(const Part& part, const PlanStep& step,
                                                const Progress& progress = {});

}  // namespace anvil
