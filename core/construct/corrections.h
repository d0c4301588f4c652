// What corrections share: from picks to what is to be done with the part. Internal to core/construct.
#pragma once

#include <map>
#include <set>

#include "construct/construction.h"
#include "correct/plan.h"
#include "inspect/holes.h"

namespace anvil {

// How far cutters reach over an opening and beyond an end, so that no skin is left.
inline constexpr double kOverrun_mm = 1.0;

// A correction: its entries are called `kept_as`.
Construction correcting(const char* id, const char* kept_as, const char* sentence, std::vector<Need> roles,
                        int rank, std::function<Solutions(const Inputs&)> solve,
                        std::vector<Parameter> parameters = {});

// The part the picks are on. Refuses picks of entries, which are on none.
Result<PartPick> part_of(const Inputs& in, size_t role);

// The hole that was picked, in part coordinates.
struct PickedHole {
  PartPick pick;
  Hole hole;
  HoleThere there;
};
// Refuses what is no hole with a whole turn, and holes that do not tell where they are picked.
Result<PickedHole> hole_of(const Inputs& in, size_t role);

// Of several roles, each hole once.
Result<std::vector<PickedHole>> holes_from(const Inputs& in, size_t first, size_t end);

// The faces of a hole with its floor and shoulders.
Feature feature_of_hole(const TopologyIndex& topology, const Hole& hole);

// The body that was picked on.
int body_of(const PartPick& pick);

// Faces, each with those an exporter split off it, by body.
struct PickedFaces {
  PartPick pick;
  std::map<int, std::set<int>> by_body;
};
Result<PickedFaces> faces_from(const Inputs& in, size_t first, size_t end);

// A solid joined with bodies, cut from them, or a body of its own: "joined", "cut away", "kept in common".
Parameter joins();
Combining combining(const Inputs& in);
// `role` tells the body.
Solutions with_tool(const Inputs& in, size_t role, const TopoDS_Shape& placed_tool, std::string note);
Solutions as_own_body(const TopoDS_Shape& placed, std::string note);

// From placed coordinates into those of the part.
gp_Vec in_part(const PartPick& pick, const gp_Vec& placed);
gp_Pnt in_part(const PartPick& pick, const gp_Pnt& placed);
gp_Dir in_part(const PartPick& pick, const gp_Dir& placed);

// Holes given another place or form. One step for each body they are in.
struct HoleChange {
  PickedHole hole;
  HoleForm form;
  gp_Ax2 at;
};
HoleChange moved_by(const PickedHole& hole, const gp_Vec& placed);
Plan plan_of(const std::vector<HoleChange>& changes);
// What of a way lies across a hole: it keeps its level.
gp_Vec across(const gp_Vec& way, const gp_Dir& axis);
// Where holes are in the plane through the first one's opening, square to its axis; placed. Refuses holes
// that do not run the same way.
Result<std::vector<gp_Pnt>> places_across(const std::vector<PickedHole>& holes);
// Each by its own way (placed), told: "② moves 0.350; ①, ③ stay", where the first hole is the pick `first`.
// Nothing to do when none moves.
Solution each_moved(const std::vector<PickedHole>& holes, const std::vector<gp_Vec>& moves, std::string key,
                    const Display& display, size_t first = 0);
Plan plan_of_copies(const std::vector<HoleChange>& copies);  // the holes they are of stay

// `placement` brings the plan's places to where they are placed.
Solution planned(Plan plan, const gp_Trsf& placement, std::string key, std::string note);

}  // namespace anvil
