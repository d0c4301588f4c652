// What somebody wants to know of a part they have never seen, beyond its holes: how it could stand, and what
// limits the cutter along its main directions.
#pragma once

#include "inspect/corner_summary.h"
#include "inspect/seats.h"
#include "job/entry.h"
#include "job/known_checks.h"

namespace anvil {

struct DirectionCheck {
  std::string name;  // of the placed part: "+Z"
  CornerSummary corners;
  bool is_last_word = false;  // passages have been looked at too
};

struct FirstLook {
  std::vector<Seat> seats;  // best first
  bool stands = false;      // on one of the two likeliest already, at Z 0
};

// `placement`: where the part lies.
FirstLook first_look(const Part& part, const HoleReport& holes, const gp_Trsf& placement);

// Along X, Y and Z of the placed part, either way; only those with something to tell, the smallest radius
// first. Margin and holder are the job's, so that it is the answer that everybody else gets. With `passages`
// the last word, which takes longer; without them what corners alone say. From the cache where it is known.
// Refuses when cancelled.
enum class Passages { kNotYet, kLookedAt };
Result<std::vector<DirectionCheck>> check_directions(ResultCache& cache, const Part& part,
                                                     const HoleReport& holes, const gp_Trsf& placement,
                                                     const Inspection& by, Passages passages,
                                                     const Progress& progress);

}  // namespace anvil
