// Checks by what they are made of: of a part that differs in one body only that one is judged anew, and of
// one that was looked at before (undone, exchanged back, read along another axis and back) none. Each is
// found and kept where it is not known. From any thread.
#pragma once

#include "inspect/corners.h"
#include "inspect/holes.h"
#include "job/result_cache.h"
#include "part/soundness.h"

namespace anvil {

// As check_soundness_of_all().
Result<std::vector<Finding>> soundness_once(ResultCache& cache, const Part& part, double tolerance_mm,
                                            const Progress& progress);

using HolesPtr = std::shared_ptr<const HoleReport>;
using CornersPtr = std::shared_ptr<const CornerReport>;
// As find_holes() and find_corners(); null from the first two where it is not known.
HolesPtr known_holes(ResultCache& cache, const Part& part);
CornersPtr known_corners(ResultCache& cache, const Part& part, const CornerOptions& options);
Result<HolesPtr> holes_once(ResultCache& cache, const Part& part, const Progress& progress);
Result<CornersPtr> corners_once(ResultCache& cache, const Part& part, const CornerOptions& options,
                                const HoleReport* holes, const Progress& progress);

}  // namespace anvil
