// The solid that a hole is cut with: revolved from its steps.
#pragma once

#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Ax2.hxx>
#include <vector>

#include "base/refusal.h"
#include "inspect/holes.h"

namespace anvil {

// A hole by its numbers, wherever it is.
struct HoleForm {
  std::vector<HoleStep> steps;  // from the opening down
  bool through = false;
};
HoleForm form_of(const Hole& hole);

// A face of a hole: of which step, from 0, and whether it is its shoulder. The flat bottom is the shoulder of
// a step after the last. -1: of none, as the end of an overrun.
struct StepFace {
  int step = -1;
  bool is_shoulder = false;
  bool operator==(const StepFace&) const = default;
};

struct HoleTool {
  TopoDS_Shape solid;
  // By the place of a face in the solid (TopExp::MapShapes).
  std::vector<StepFace> step_of_face;
};

// Where the faces of a hole that is there belong; a shoulder to the step below it.
StepFace step_face_of(const HoleForm& form, const gp_Ax2& at, const TopoDS_Face& face, bool is_flat);

double depth_of(const HoleForm& form);  // of all steps

// What the steps enclose, between flat ends.
double volume_of(const HoleForm& form);

// With Z out of the material and its origin in the opening. The first step reaches `above_mm` over the
// opening, the last of a through hole `below_mm` beyond its end. Refuses (kBadInput) forms without a size,
// steps without depth, and (kGeometry) steps that are of no known form.
Result<HoleTool> hole_tool(const HoleForm& form, const gp_Ax2& at, double above_mm, double below_mm);

}  // namespace anvil
