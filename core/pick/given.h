// What a pick gives: a point, an axis, a direction, a plane, a frame, a face or an edge. Constructions are
// matched on this, so they need no list of special cases.
#pragma once

#include <BRepAdaptor_Curve.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Ax1.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/units.h"
#include "inspect/hole_ends.h"
#include "part/part.h"
#include "pick/reference.h"

namespace anvil {

struct Plan;  // correct/plan.h

// What was picked of a part: for corrections, which change it.
struct PartPick {
  PartPtr part;
  TopologyKind kind = TopologyKind::kFace;
  int index = -1;     // in the part's topology
  gp_Trsf placement;  // from part coordinates to placed ones
};

// A correction that was picked, to be repeated: what it does.
struct CorrectionPick {
  std::shared_ptr<const Plan> plan;
  gp_Trsf placement;  // from part coordinates to placed ones
};

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
  bool is_on_part = false;       // picked on the part itself, not a datum
  TopoDS_Shape body;             // the whole body it lies on; null for datums
  std::optional<HoleEnds> hole;  // of the hole a picked face belongs to
  double deviation_mm = 0;       // how far the B-spline it is stored as lies off what it gives
  std::vector<gp_Pnt> extent;    // points it spans, for drawing only
  std::optional<gp_Pnt> clicked;
  std::optional<PartPick> picked;
  std::vector<TopoDS_Edge> drawn;  // of a whole figure: its lines
  std::optional<gp_Pln> drawn_on;  // and their plane
  std::optional<CorrectionPick> correction;
  RegionPtr region;  // of a picked region of a scan; `surface` and `shape` are then what was fitted to it
};

Given given_by_face(const Part& part, int face, const gp_Trsf& placement);
Given given_by_edge(const Part& part, int edge, Snap snap, const gp_Trsf& placement);
// The quadrant of a circle, by its number from 0, and whether the arc reaches it.
std::pair<gp_Pnt, bool> quadrant_of(const BRepAdaptor_Curve& circle, int number);

// Of an edge that is part of no body, as it lies.
Given given_by_curve(const TopoDS_Edge& edge, Snap snap);
Given given_by_vertex(const Part& part, int vertex, const gp_Trsf& placement);
// Any of the three.
Given given_at(const Part& part, TopologyKind kind, int index, Snap snap, const gp_Trsf& placement);
// Its surface cut to the region as `shape`, and what that gives as any face does.
Given given_by_region(const Part& part, int body, const RegionPtr& region, const gp_Trsf& placement);
Result<Given> given_by(const Part& part, const RegionReference& reference, const gp_Trsf& placement);
// Resolves and gives; refuses as resolve() does.
Result<Given> given_by(const Part& part, const TopologyReference& reference, const gp_Trsf& placement);

// One line for the tray: "cylinder, Ø12.000, inside, depth 18.000".
std::string pick_text(const Part& part, TopologyKind kind, int index, Snap snap, const Display& display);
// "scan region, cylinder Ø24.031, inside, RMS 0.021"
std::string region_text(const Region& region, const Display& display);
// "RMS 0.021, largest 0.083, 2314 points"
std::string region_quality_text(const Region& region, const FitQuality& quality, const Display& display);

}  // namespace anvil
