// Interior corners of a part for one tool axis: the unit vector from the part towards the spindle.
//
// A wall is a face square to nothing but the axis (its normal is square to the axis everywhere, within 0.05
// degrees); a floor is planar and faces the spindle. Levels are measured along the axis from the origin of
// the part. Everything but `undercut` and `reach` (from the display mesh, on the safe side) comes from the
// exact surfaces.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

enum class CornerKind { kWallRound, kWallSharp, kTaper, kFloorRound, kFloorSharp };
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
  bool undercut = false;            // a cutter of its radius cannot come down to it along the axis
  double deviation_mm = 0;          // of faces stored as splines: how closely they are what is told
  int pocket = -1;
  std::vector<int> faces, edges;  // of the part's topology

  [[nodiscard]] bool is_wall() const {
    return kind == CornerKind::kWallRound || kind == CornerKind::kWallSharp || kind == CornerKind::kTaper;
  }
};

struct Pocket {
  std::string name;       // "P1"
  bool open = false;      // a cutter can come in from the side
  bool undercut = false;  // all its corners are: it cannot be cut on this axis and limits no cutter
  bool through = false;   // it has no floor
  double top_mm = 0, bottom_mm = 0, depth_mm = 0;
  std::optional<double> smallest_corner_mm;  // round or slot end
  bool has_sharp_corner = false;
  std::optional<double> floor_radius_mm;    // smallest
  std::optional<double> narrowest_mm;       // between parallel facing walls
  bool has_passages_not_looked_at = false;  // between curved walls
  std::optional<double> largest_cutter_mm;  // diameter
  std::vector<int> corners, faces;
};

struct CornerOptions {
  gp_Dir axis{0, 0, 1};
  double margin = 1.0;  // largest cutter = margin * 2 * radius; 0.9 keeps it from dwelling in the corner
  double holder_radius_mm = 20;  // for reach
};

struct CornerReport {
  CornerOptions options;
  std::vector<Corner> corners;  // wall corners first, smallest radius first; undercut ones last
  std::vector<Pocket> pockets;
  std::optional<double> smallest_wall_radius_mm;  // round and tapered wall corners that can be reached
  int sharp_wall_corners = 0;
  std::optional<double> smallest_slot_end_mm;
  std::optional<double> largest_cutter_mm;  // diameter; limited by corners, slot ends and passages
  std::optional<double> narrowest_passage_mm;
  bool has_passages_not_looked_at =
      false;                    // of a pocket that can be reached: the largest cutter may not pass
  std::vector<int> not_judged;  // faces of free form
};

// What stands beside the largest cutter: "passages between curved walls not looked at", "3 of 412 faces not
// judged"; empty when there is nothing to add.
std::string reservations_text(const CornerReport& report, size_t faces);
// "3 of 412 faces not judged"; empty for none.
std::string not_judged_text(size_t not_judged, size_t faces);

// Linear in faces. Refuses when cancelled.
Result<CornerReport> find_corners(const Part& part, const CornerOptions& options,
                                  const Progress& progress = {});

}  // namespace anvil
