// What a pick gives: a point, an axis, a direction, a plane, a frame, a face or an edge. Constructions are
// matched on this, so they need no list of special cases.
#pragma once

#include <TopoDS_Shape.hxx>
#include <gp_Ax1.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>
#include <optional>
#include <string>
#include <vector>

#include "base/units.h"
#include "part/part.h"
#include "pick/reference.h"

namespace anvil {

// All in placed coordinates: as the part stands after its placement.
struct Given {
  std::optional<gp_Pnt> point;
  std::optional<gp_Ax1> axis;
  std::optional<gp_Dir> direction;
  std::optional<gp_Pln> plane;
  std::optional<gp_Ax2> frame;
  std::optional<Surface> surface;  // of a picked face
  TopoDS_Shape shape;              // the picked face, edge or vertex; null for datums
  bool is_straight_edge = false;
  bool is_circular_edge = false;
  bool is_on_part = false;     // picked on the part itself, not a datum
  std::vector<gp_Pnt> extent;  // points it spans, for drawing only
  std::optional<gp_Pnt> clicked;
};

Given given_by_face(const Part& part, int face, const gp_Trsf& placement);
Given given_by_edge(const Part& part, int edge, Snap snap, const gp_Trsf& placement);
Given given_by_vertex(const Part& part, int vertex, const gp_Trsf& placement);
// Resolves and gives; refuses as resolve() does.
Result<Given> given_by(const Part& part, const TopologyReference& reference, const gp_Trsf& placement);

// One line for the tray: "cylinder, Ø12.000, inside, depth 18.000".
std::string pick_text(const Part& part, TopologyKind kind, int index, Snap snap, const Display& display);

}  // namespace anvil
