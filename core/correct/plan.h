// What a correction will do, worked out from its picks and numbers and not done yet: cheap, so that every
// offer can be judged. carry_out.h does it.
#pragma once

#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/content_key.h"
#include "correct/body_change.h"
#include "correct/combine.h"
#include "correct/feature_faces.h"
#include "correct/hole_tool.h"
#include "correct/move_faces.h"
#include "part/part.h"

namespace anvil {

// Everything is in part coordinates; bodies and faces are those of the part the plan was made on.

struct CloseFeature {
  std::vector<Feature> tries;  // the first of them that can be taken off
  Expected expected = Expected::kEither;
};

// A hole that is there.
struct HoleThere {
  HoleForm form;
  gp_Ax2 at;  // Z out of the material, in the opening
  std::vector<int> faces;
};

struct HoleToMake {
  HoleForm form;
  gp_Ax2 at;
  double above_mm = 0, below_mm = 0;  // overrun: over the opening, and beyond the end of a through hole
  std::optional<HoleThere> instead_of = {};  // what its faces take the place of
};

// Closes `closed` (where there is something to close) and cuts what is made.
struct RemakeHoles {
  Feature closed;
  std::vector<HoleToMake> made;
};

// Faces moved, each set by a vector of its own; what is beside them follows, or stays with walls between.
struct MoveFaces {
  std::vector<MovedFaces> sets;
  bool with_walls = false;
};

struct RoundAnew {
  std::vector<int> faces;  // roundings
  double radius_mm = 0;
};

// Joined with solids, or cut by them.
struct CombineWith {
  std::vector<TopoDS_Shape> tools;  // in part coordinates
  Combining how = Combining::kJoin;
};

// Faces laid onto a surface; what is beside them is lengthened or cut back to meet it.
struct LayFaces {
  std::vector<int> faces;
  TopoDS_Face onto;  // its surface counts, not its outline
};

// Faces divided where a plane crosses them; the body stays as it is.
struct SplitFaces {
  std::vector<int> faces;
  gp_Pln at;
};

struct PlanStep {
  int body = -1;
  std::variant<CloseFeature, RemakeHoles, MoveFaces, RoundAnew, CombineWith, LayFaces, SplitFaces> what;
};

struct Plan {
  std::vector<PlanStep> steps;            // at most one a body
  std::vector<TopoDS_Shape> bodies = {};  // solids that become bodies of their own: as placed, meshed
};
using PlanPtr = std::shared_ptr<const Plan>;

// The places of a body's faces as the kernel lists them (TopExp::MapShapes), by their numbers in the part.
class FacePlaces {
 public:
  FacePlaces(const Part& part, int body);
  [[nodiscard]] int of(int face) const { return faces_.FindIndex(topology_.faces[face].face) - 1; }

 private:
  const TopologyIndex& topology_;
  TopTools_IndexedMapOfShape faces_;
};

// A tool in as many digits as there are. A half-space has no face with bounds: its plane tells it, and on
// which side it lies.
std::string text_of(const TopoDS_Shape& shape);

// Over what the step does, with faces by their place in the body, so that it is the same whatever other
// bodies there are.
void add_step(KeyMaker& maker, const Part& part, const PlanStep& step);

}  // namespace anvil
