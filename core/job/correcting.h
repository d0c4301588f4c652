// Corrections carried out, known by what they were made from: each once, then taken from the cache.
#pragma once

#include "base/units.h"
#include "correct/correct_worker.h"
#include "job/evaluate.h"
#include "job/result_cache.h"

namespace anvil {

// What a correction did to all bodies it concerns; faces are painted over the part before it is kept.
struct CorrectionReport {
  double added_mm3 = 0, removed_mm3 = 0;
  std::vector<TopoDS_Shape> added, removed;  // faces that bound it, in part coordinates
};

struct CorrectedPart {
  PartState state;
  CorrectionReport report;
};

// What is to be done, with what part, by which entry (0: it is tried) of what name.
struct Correcting {
  PartPtr before;
  std::shared_ptr<const Plan> plan;
  gp_Trsf placement;
  int entry = 0;
  std::string name = {};
};

// Every step of the plan, from the cache where it is known, then the bodies that are new. Whoever has
// geometry that the result may share gives it in `donors`. Refuses as carry_out(), with nothing changed.
// Blocking.
Result<CorrectedPart> corrected_once(ResultCache& cache, const Correcting& what,
                                     const std::vector<GeometryPtr>& donors, const Progress& progress);

// "adds 12.300 mm³, removes 45.600 mm³".
std::string change_text(const CorrectionReport& report, const Display& display);

// What is known of a job's corrections, to be stored with it and known again: under the key it is known by.
struct KnownCorrection {
  std::string key;
  std::shared_ptr<const Result<CorrectedBody>> done;
};
std::vector<KnownCorrection> known_corrections(const Job& job, const std::shared_ptr<ResultCache>& cache);
void keep_correction(ResultCache& cache, const std::string& key, CorrectedBody corrected);

// Whether nothing of it would have to be computed.
bool is_known(ResultCache& cache, const Part& before, const Plan& plan);

}  // namespace anvil
