// A construction: what picks it needs, what it makes, how many solutions it has, and why it can refuse.
//
// To add one: write a file with a function that returns the Construction, and name that function in
// constructions.def. Offers, tray, ledger, job file and command finder work from this description alone.
#pragma once

#include <TopoDS_Edge.hxx>
#include <functional>
#include <gp_Trsf.hxx>
#include <map>
#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "base/expression.h"
#include "base/refusal.h"
#include "base/tolerance.h"
#include "base/units.h"
#include "pick/given.h"

namespace anvil {

// What a role asks of a pick.
enum class Need {
  kPoint,
  kAxis,
  kDirection,
  kPlane,
  kFlatFace,
  kStraightEdge,
  kEdge,
  kCircle,
  kRevolution,
  kFrame,
  kMeasurable,
  kSpot,     // a point, or the opening of a hole
  kFitted,   // a spot, or a flat face
  kFace,     // any
  kCentred,  // a sphere, cone or torus: what has a middle or a tip
  kHole,     // a face of one
  kCylinder,
  kRound,  // a cylinder or cone
  kSphere,
  kRegion,   // of a scan
  kOfBody,   // anything picked on a body
  kSide,     // a straight edge or a plane: what distances are measured from
  kOutline,  // a whole figure, or a flat face for its outline
  kLimit,    // a plane or any face: where something ends
  kCorrection
};
bool gives(const Given& given, Need need);
const char* need_text(Need need);  // "a point", "an axis", …

// kCount: a whole number from 1; kView: a direction as three numbers, at first one of the view's, by the
// parameter's id: "towards" (the eye) or "right".
enum class Quantity { kLength, kAngle, kRatio, kCount, kChoice, kText, kView };

struct Parameter {
  std::string id;     // "distance"
  std::string label;  // "Distance"
  Quantity quantity = Quantity::kLength;
  std::string initial;  // an expression, or the first choice
  std::vector<std::string> choices = {};
  bool aside = false;         // seldom wanted: shown when asked for
  bool may_be_empty = false;  // empty means as it is: then there is no number of it
};

enum class Makes { kPoint, kAxis, kPlane, kFrame, kMeasurement, kPlacement, kFigure, kCorrection };
const char* makes_name(Makes makes);  // "point", …

struct PointDatum {
  gp_Pnt point;
};
struct AxisDatum {
  gp_Ax1 axis;
  double from_mm = -10, to_mm = 10;  // drawn between, from the axis's location
};
struct PlaneDatum {
  gp_Pln plane;
  gp_Pnt centre;  // drawn around, in the plane
  double half_x_mm = 10, half_y_mm = 10;
};
struct FrameDatum {
  gp_Ax2 frame;
};
struct Measurement {
  enum class Kind { kDistance, kAngle, kArea, kVolume } kind = Kind::kDistance;
  double value = 0;  // mm, radians, mm², mm³
  gp_Pnt from, to;   // where it is taken
  struct Detail {
    std::string name;  // a plain word, also in expressions: "along"
    Kind kind = Kind::kDistance;
    double value = 0;
  };
  std::vector<Detail> details = {};  // what was measured beside it
};
// Lines and arcs drawn on a plane. Each can be picked, with its ends, middle and centre.
struct FigureDatum {
  gp_Pln plane;
  std::vector<TopoDS_Edge> edges;  // in a stable order: kept references count them
};
struct PlacementStep {
  gp_Trsf motion;  // of the part as it stands before the step
};
struct PlannedCorrection {
  std::shared_ptr<const Plan> plan;  // carried out when the entry is evaluated
  std::vector<gp_Pnt> places;        // placed: where it is, to be taken hold of
};
using DatumValue = std::variant<PointDatum, AxisDatum, PlaneDatum, FrameDatum, Measurement, PlacementStep,
                                FigureDatum, PlannedCorrection>;

struct Solution {
  DatumValue value;
  std::string key;      // what characterises it ("x-first.z-up"), stable when the model changes
  std::string note;     // beside the offer: "40.000 from each"
  int worst_role = -1;  // best fits: the pick that is farthest off
  double off_mm = 0;    // best fits: RMS of what they miss
};

// What a solver works from. `numbers` hold mm and radians, already evaluated.
struct Inputs {
  std::vector<const Given*> picks;  // one per role, in role order
  std::map<std::string, double> numbers;
  std::map<std::string, std::string> choices;
  Display display;
  Unit typed_in = Unit::kMillimetre;  // what bare lengths in `choices` are in
  Tolerance tolerance;                // what counts as parallel, meeting, lying on

  [[nodiscard]] const Given& operator[](size_t role) const { return *picks[role]; }
};

struct Construction {
  std::string id;  // "plane.midway"
  Makes makes = Makes::kPoint;
  std::string sentence;  // "Plane midway between {1} and {2}"
  std::vector<Need> roles;
  int rank = 50;  // smaller is offered earlier
  std::vector<Parameter> parameters = {};
  std::function<Result<std::vector<Solution>>(const Inputs&)> solve;
  // Optional: another rank for these inputs (a distance of parallel planes is likelier than of crossing
  // ones).
  std::function<int(const Inputs&)> rank_for = {};
  bool ordered = false;  // the order of picks of one kind matters: each order is an offer of its own
  bool repeats = false;  // the last role takes any number of further picks; {all} in the sentence names every
                         // pick, {rest} those after the first
  // The last role (the first one where the last repeats) is a frame, and the reading frame when none is
  // picked.
  bool reads_frame = false;
  bool takes_time = false;                       // grows with the part: offered without being solved
  std::vector<std::string> steps_per_copy = {};  // with a "count": what grows from copy to copy
  bool own_colour = false;                       // each is drawn in the next colour of a row
  // What its entries are called, with a number: "Plane". described() takes what it makes, of measurements and
  // figures the first word of the sentence.
  std::string kept_as = {};
};

// "12.000, radius 3.000".
std::string measurement_text(const Measurement& measurement, const Display& display);

// "0, 0.5, 1": refuses (kBadInput) what is no direction.
Result<gp_Dir> direction_from(const std::string& text);
std::string direction_numbers(const gp_Dir& direction);

// Twelve or sixteen numbers, row by row, the last row 0 0 0 1; shifts in multiples of `mm_per_number`.
// Refuses (kBadInput) mirror images, scaling and skew, with the number.
Result<gp_Trsf> rigid_motion_from(const std::string& text, double mm_per_number);
std::string matrix_text(const gp_Trsf& motion);

using Solutions = Result<std::vector<Solution>>;

}  // namespace anvil
