// What somebody wants to know of a part they have never seen, beyond its holes: how it could stand, and what
// limits the cutter along its main directions.
#pragma once

#include "inspect/seats.h"
#include "job/known_checks.h"

namespace anvil {

struct DirectionCheck {
  std::string name;                         // of the placed part: "+Z"
  double radius_mm = 0;                     // of the smallest wall corner that can be reached
  std::optional<double> largest_cutter_mm;  // diameter
  int sharp = 0;                            // corners that no cutter makes
  std::vector<int> faces;                   // of the smallest corner
};

struct FirstLook {
  std::vector<Seat> seats;  // best first
  bool stands = false;      // on one of the two likeliest already, at Z 0
};

// `placement`: where the part lies.
FirstLook first_look(const Part& part, const HoleReport& holes, const gp_Trsf& placement);

// Along X, Y and Z of the placed part, either way; only those with corners, the smallest radius first. From
// the cache where they are known. Of large faces of free form it takes seconds. Refuses when cancelled.
Result<std::vector<DirectionCheck>> check_directions(ResultCache& cache, const Part& part,
                                                     const HoleReport& holes, const gp_Trsf& placement,
                                                     const Progress& progress);

}  // namespace anvil
