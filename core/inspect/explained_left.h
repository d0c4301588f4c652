// Whether what a cutter leaves is told by the report of corners: the one check of the other. Internal to
// core/inspect.
#pragma once

#include "inspect/corners.h"

namespace anvil {

// Looks with the largest cutter of the report, or where nothing limits one with a common one, at what it
// leaves; takes off all that lies at a corner that is told (sharp, tapered, of free form, undercut, the foot
// of a wall) or at a face that is told as not judged; and gives what stays, the largest piece's place.
// Nothing when all is explained, or there are no sections.
std::optional<Unexplained> unexplained_by(const Part& part, const CornerReport& report,
                                          const Progress& progress = {});

}  // namespace anvil
