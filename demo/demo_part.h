// The demo parts of the Tarn Hollow Observatory mount, made by code, and what must be found on them, written
// down from the numbers they are constructed with.
#pragma once

#include <gp_Trsf.hxx>
#include <string>
#include <vector>

#include "part/part.h"

namespace anvil::demo {

struct ExpectedStep {
  std::string kind;  // as in the hole report
  double diameter, end_diameter, depth, angle_deg;
};

struct ExpectedHole {
  gp_Pnt entry;  // part coordinates
  gp_Dir axis;   // out of the material
  double diameter, depth;
  bool through;
  std::vector<ExpectedStep> steps;  // from the opening down
  bool either_end = false;          // both ends look alike: the entry may be told at the other one
};

struct ExpectedSlot {
  gp_Pnt centre_a, centre_b;
  double width, depth;
  bool through;
};

struct ExpectedCorner {
  std::string kind;  // as in the corner report
  double radius;
  gp_Pnt centre;       // on the corner's axis (round) or edge (sharp), at any level
  double top, bottom;  // along the tool axis, from the origin of the file
};

struct DemoPart {
  std::string file_name;
  std::vector<Body> bodies;
  gp_Dir tool_axis;  // the one the corners are written down for
  std::vector<ExpectedHole> holes;
  std::vector<ExpectedSlot> slots;
  std::vector<ExpectedCorner> wall_corners;  // all of them, for tool_axis
  std::vector<double> floor_radii;           // the different ones
  gp_Pnt box_min, box_max;                   // before `placement`
  gp_Trsf placement;                         // from the numbers of the drawing to the file
};

DemoPart saddle_plate();
DemoPart declination_housing();
// One part in two revisions: b is wider, a hole of its base is moved, one is gone, and one face is.
DemoPart worm_yoke_a();
DemoPart worm_yoke_b();
// Every surface stored as a B-spline. Its three radial holes are not written down: they end in curved faces.
DemoPart finder_ring();

// An open shell with a gap, a sliver face and a missing face.
struct TornBracket {
  static constexpr double kGap_mm = 0.012, kSliver_mm = 0.01;
  std::vector<Body> bodies;
  TopoDS_Shape whole;  // as it was before it was torn, slivers and all
};
TornBracket torn_bracket();

// A noisy scan of a casting, aligned to nothing.
struct DemoScan {
  static constexpr double kNoise_mm = 0.04;  // of each node, in each direction
  std::vector<Body> bodies;
  gp_Trsf placement;  // from the numbers of the drawing to the file
};
DemoScan counterweight_scan(double triangle_mm = 1.6);

// Pieces to tear solids with.
std::vector<TopoDS_Face> faces_of(const TopoDS_Shape& shape);
TopoDS_Shape shell_of(const std::vector<TopoDS_Face>& faces);
TopoDS_Face lifted(const TopoDS_Face& face, const gp_Vec& by);

// A plate with `rows` x `columns` through holes and as many pockets as asked, for measuring at scale.
TopoDS_Shape plate_of_holes(int rows, int columns);

// Saddle plates side by side, each with geometry of its own.
std::vector<Body> stack_of_plates(int count);

// What is expected, as JSON, to lie beside the STEP file.
std::string expected_json(const DemoPart& part);

// The list of the saddle plate's holes as it was designed: one stands off its row, one is not as deep, one is
// not there.
std::string saddle_plate_holes_csv();
std::string cutters_csv();

}  // namespace anvil::demo
