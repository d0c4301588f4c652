// How a part is likely to sit: a face it can stand on, and what then lies along X.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/units.h"
#include "inspect/holes.h"

namespace anvil {

struct Seat {
  int down_face = -1;          // of the part's topology: this face down at Z 0
  int along_x_edge = -1;       // this straight edge along X; -1: none
  double score = 0;            // higher is likelier
  double face_area_mm2 = 0;    // that it stands on
  bool is_largest = false;     // no other flat side is larger
  double upright_bore_mm = 0;  // diameter of the main bore, where it stands upright
  double edge_mm = 0;          // length of the one along X
  size_t holes = 0;            // of the part
  int holes_from_above = 0;    // that open upwards then
  int holes_upright = 0;       // holes whose axis is then vertical
};

// "On its largest flat side; main bore Ø40.000 upright; 3 of 4 holes from above; longest edge (80.000) along
// X"
std::string seat_text(const Seat& seat, const Display& display);

// The likeliest seats, best first, at most `most`; each stands on another direction. Standing needs a flat
// outer face that the rest of its body lies wholly on one side of. Score: share of the part's footprint the
// face covers, share of holes that stand upright, and whether the main bore (the largest full hole) does.
std::vector<Seat> likely_seats(const Part& part, const HoleReport& holes, size_t most = 6);

}  // namespace anvil
