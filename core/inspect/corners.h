// Interior corners of a part for one tool axis: the unit vector from the part towards the spindle.
//
// A wall is a face square to nothing but the axis (its normal is square to the axis everywhere, within 0.05
// degrees), of whatever kind; a floor is planar and faces the spindle. Levels are measured along the axis
// from the origin of the part. Everything but `undercut` and `reach` (from the display mesh, on the safe
// side) comes from the exact surfaces.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

enum class CornerKind { kWallRound, kWallSharp, kTaper, kFreeForm, kFloorRound, kFloorSharp };
const char* corner_name(CornerKind kind);  // "wall-round", …

struct Corner {
  std::string name;  // "C1"
  CornerKind kind = CornerKind::kWallRound;
  double radius_mm = 0;          // taper: the smallest; sharp: 0
  double largest_radius_mm = 0;  // taper only, else as radius
  double angle_rad = 0;          // round: sweep; sharp: angle between the faces through the void
  gp_Pnt position;               // on the corner's axis or edge, at its bottom
  double top_mm = 0, bottom_mm = 0;
  double depth_mm = 0;              // from its bottom to the highest level of the walls it joins
  double reach_mm = 0;              // from its bottom to the highest material within the holder radius
  bool reach_is_from_mesh = false;  // what reaches highest is curved: the mesh's deviation was added
  std::optional<double> floor_radius_mm = std::nullopt;  // of the rounding at its foot
  bool leans = false;       // between walls with draft, or of free form that is not upright
  bool undercut = false;    // a cutter of its radius cannot come down to it along the axis
  double deviation_mm = 0;  // of faces stored as splines: how closely they are what is told
  int pocket = -1;
  std::vector<int> faces, edges;  // of the part's topology

  [[nodiscard]] bool is_wall() const {
    return kind != CornerKind::kFloorRound && kind != CornerKind::kFloorSharp;
  }
};

// The smallest gap between two facing walls, of whatever kind.
struct Narrow {
  double width_mm = 0;
  gp_Pnt on_a, on_b;  // the nearest points of both
  int face_a = -1, face_b = -1;
  bool approximate = false;  // of free form, or leaning: as good as the sections it was found in
};

struct Pocket {
  std::string name;       // "P1"
  bool open = false;      // a cutter can come in from the side, at its floor
  bool round = false;     // a full turn and nothing else
  bool undercut = false;  // all its corners are: it cannot be cut on this axis and limits no cutter
  bool through = false;   // it has no floor
  double top_mm = 0, bottom_mm = 0, depth_mm = 0;
  double reach_mm = 0;                       // the most that any of its corners asks for
  std::optional<double> smallest_corner_mm;  // round, tapered, of free form, slot end, relief or round wall
  bool smallest_is_approximate = false;
  bool has_sharp_corner = false;
  std::optional<double> floor_radius_mm;  // smallest
  bool has_sharp_floor = false;
  std::optional<Narrow> narrowest;
  std::optional<double> largest_cutter_mm;  // diameter
  std::string largest_cutter_why;           // what limits it, or why there is none: never empty
  std::vector<int> corners, faces;
};

struct CornerOptions {
  gp_Dir axis{0, 0, 1};
  double margin = 1.0;  // largest cutter = margin * 2 * radius; 0.9 keeps it from dwelling in the corner
  double holder_radius_mm = 20;  // for reach
  // False: passages, and whether pockets are open, are not looked at, and there are no sections. For whoever
  // asks for the corners along many axes.
  bool with_sections = true;
};

struct HoleReport;
struct SectionStack;

// Material that a cutter leaves though no corner, passage or undercut of the report tells it.
struct Unexplained {
  double cutter_mm = 0, volume_mm3 = 0;
  gp_Pnt at;
};

struct CornerReport {
  CornerOptions options;
  std::vector<Corner> corners;  // wall corners first, smallest radius first; undercut ones last
  std::vector<Pocket> pockets;
  std::optional<double> smallest_wall_radius_mm;  // of wall corners that are not sharp and can be reached
  bool smallest_is_approximate = false;           // it is one of free form
  int sharp_wall_corners = 0;
  std::optional<double> smallest_slot_end_mm;
  std::optional<double> largest_cutter_mm;  // diameter; limited by corners, slot ends and passages
  std::string largest_cutter_why;           // what limits it, or why there is none: never empty
  std::optional<Narrow> narrowest_passage;
  bool has_passages_not_looked_at = false;       // everywhere: a narrower one may have been missed
  std::shared_ptr<const SectionStack> sections;  // for left_by_cutter()
  std::optional<Unexplained>
      unexplained;              // of the largest cutter, or of a common one where nothing limits it
  std::vector<int> not_judged;  // faces of free form that are no walls for this axis
};

// Whether a cutter of a diameter goes into a corner or a pocket, by all that limits it: the corners and the
// narrowest passage. Tight: within a tenth of its limit, so that it dwells.
enum class CutterFit { kFits, kTight, kDoesNot };
CutterFit fit_in(const CornerReport& report, const Corner& corner, double cutter_mm);
CutterFit fit_in(const CornerReport& report, const Pocket& pocket, double cutter_mm);
// The corners a cutter has to go into, each with how it fits: those of walls that it can come down to.
std::vector<std::pair<const Corner*, CutterFit>> judged_walls(const CornerReport& report, double cutter_mm);

// What stands beside the largest cutter: "passages not looked at everywhere", "3 of 412 faces not judged";
// empty when there is nothing to add.
std::string reservations_text(const CornerReport& report, size_t faces);
// "3 of 412 faces not judged"; empty for none.
std::string not_judged_text(size_t not_judged, size_t faces);

// Linear in faces, but for sorting. Refuses when cancelled.
// `holes`: the part's, from whoever has looked for them already; null: they are looked for.
Result<CornerReport> find_corners(const Part& part, const CornerOptions& options,
                                  const Progress& progress = {}, const HoleReport* holes = nullptr);

}  // namespace anvil
