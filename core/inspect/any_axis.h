// Every concave rounding and every sharp inner edge of a part, whichever way a tool comes: what is the
// smallest cutter this part ever needs?
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

enum class HollowKind { kFillet, kBall, kTaper, kFreeForm, kSharp };
const char* hollow_name(HollowKind kind);  // "fillet", "ball", "taper", "free-form", "sharp"

// Those of one kind, radius (within 1e-3 mm) and direction (within 1e-3 rad).
struct HollowGroup {
  HollowKind kind = HollowKind::kFillet;
  double radius_mm = 0;      // sharp: 0; taper and free form: the smallest
  bool approximate = false;  // of free form: from the surface's derivatives
  std::optional<gp_Dir>
      direction;  // of the fillet's axis or the straight edge; nothing for rings, balls, free form
  std::vector<int> faces, edges;  // of the part's topology
  int count = 0;                  // merged faces, or edges
};

struct HollowReport {
  std::vector<HollowGroup> groups;           // the smallest radius first, sharp ones last
  std::optional<double> smallest_radius_mm;  // of what is not sharp
};

// Linear in faces, but for sorting. Refuses only when cancelled.
Result<HollowReport> find_hollows(const Part& part, const Progress& progress = {});

}  // namespace anvil
