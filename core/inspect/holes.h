// Holes of a part, from its exact surfaces.
//
// A hole is a maximal coaxial chain of inside surfaces of revolution from an opening to a bottom: cylinders
// (also in pieces, also interrupted), cones, flat annuli, tori. Inside means that material lies outside the
// surface, decided from the solid's orientation. Positions are on the axis. Depth of a blind hole is to its
// full-diameter end, the tip is its own step; depth of a through hole is between its two openings.
#pragma once

#include <gp_Ax2.hxx>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

enum class StepKind { kBore, kCounterbore, kCountersink, kTaper, kChamfer, kGroove, kTip, kBall, kFlat };
const char* step_name(StepKind kind);  // "bore", …

struct HoleStep {
  StepKind kind = StepKind::kBore;
  double diameter_mm = 0;      // at its upper end
  double end_diameter_mm = 0;  // at its lower end
  double depth_mm = 0;         // of this step alone
  double angle_rad = 0;        // included angle of cones
};

struct Hole {
  std::string name;
  int group = -1;
  int body = -1;
  gp_Pnt entry;                               // centre of the opening
  gp_Dir axis;                                // out of the material
  std::optional<gp_Pnt> exit = std::nullopt;  // centre of the other opening, of a through hole
  // How far the normal of the face it opens in leans from its axis; nothing for a mouth in no single plane.
  std::optional<double> entry_slope_rad = std::nullopt, exit_slope_rad = std::nullopt;
  double diameter_mm = 0;  // of the main bore: the narrowest cylinder the rest opens into
  double depth_mm = 0;
  bool through = false;
  bool full_turn = true;             // false: open along its side
  bool round = true;                 // false: an ellipse square to its axis
  double long_mm = 0, short_mm = 0;  // both axes of the ellipse; the diameter twice when it is round
  gp_Dir long_direction;             // of the ellipse
  std::vector<HoleStep> steps;       // from the opening down
  std::vector<int> faces;            // indices into the part's topology
  double deviation_mm = 0;           // of faces stored as splines: how closely they are what is told
};

struct Slot {
  std::string name;
  int body = -1;
  gp_Pnt centre_a, centre_b;  // at the opening
  gp_Dir axis;                // out of the material
  gp_Dir direction;           // from a to b
  double width_mm = 0;
  double length_mm = 0;  // over both round ends
  double depth_mm = 0;
  bool through = false;
  bool open_end = false;  // b lies in the face that it runs out of: there is no round end there
  std::vector<int> faces;
};

// What a hole looks like in a view along a direction, as an ellipse: a round hole seen aslant is narrower one
// way, and an ellipse may look round.
struct ApparentShape {
  double long_mm = 0, short_mm = 0;
};
ApparentShape seen_along(const Hole& hole, const gp_Dir& view);

struct HoleGroup {
  std::string name;  // "H1"
  std::string form;  // "Ø6.6 through, counterbore Ø11 × 6.8"
  std::vector<int> holes;
};

// How far a hole of a pattern is from where the best fit of the pattern has it.
struct HoleDeviation {
  double along_mm =
      0;  // row: along it; grid: along its first pitch; circle: around it; mirror pair: along the plane
  double across_mm = 0;  // square to that: from the line, along the second pitch, away from the centre
  gp_Vec mend;           // the move that would put it there
};

// Holes of one group in a row, on a grid or a circle, or in pairs mirrored at one plane. A row, grid or
// circle is evenly meant when no hole is farther than half a millimetre, or a tenth of the pitch, from its
// even place; where it is not, only what leads across counts.
struct HolePattern {
  enum class Kind { kRow, kGrid, kCircle, kMirror } kind = Kind::kRow;
  std::vector<int> holes;  // along the row, around the circle, grid row by row, mirror pair by pair
  double pitch_mm =
      0;  // row: mean distance; grid: along direction; circle: pitch diameter; mirror: of the first pair
  double second_pitch_mm = 0;  // grid: square to direction
  int columns = 0, rows = 0;   // grid: along direction, square to it
  double start_angle_rad = 0;  // circle: of its first hole, from `direction`, anticlockwise seen from outside
  bool even = true;            // within 0.01 mm
  double largest_deviation_mm = 0;  // the largest of all
  gp_Pnt centre;     // mean of a row, middle of a circle, first place of a grid, a point of the mirror
  gp_Dir normal;     // out of the material; mirror: of the mirror
  gp_Dir direction;  // of a row or grid; circle: where angles are counted from, X where it is not square
  std::vector<HoleDeviation> deviations;  // of each of `holes`
};
const char* pattern_name(HolePattern::Kind kind);  // "row", "grid", "circle", "mirror"

struct HoleReport {
  std::vector<Hole> holes;
  std::vector<Slot> slots;
  std::vector<HoleGroup> groups;
  std::vector<HolePattern> patterns;
  std::vector<int> not_judged;  // faces of free form: whether a hole is among them was not looked at
};

// In part coordinates. Linear in faces. Refuses only when cancelled.
Result<HoleReport> find_holes(const Part& part, const Progress& progress = {});

// The hole that a face belongs to, as find_holes() reads it but without name and group; looks at what lies on
// its axis alone. Nothing for faces of no hole.
std::optional<Hole> hole_of_face(const Part& part, int face);

// The best row, grid or circle through chosen holes (indices), whichever group they are of. Refuses fewer
// than three, holes whose axes are not parallel, and what is no such pattern.
Result<HolePattern> line_up(const HoleReport& report, const std::vector<int>& holes, HolePattern::Kind kind);

// The same report with every point and direction moved.
HoleReport moved(const HoleReport& report, const gp_Trsf& placement);

}  // namespace anvil
