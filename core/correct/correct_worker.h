// A correction carried out in the worker process: it can be ended at once, and what ends the kernel there
// costs a sentence.
#pragma once

#include "correct/carry_out.h"
#include "exchange/worker_client.h"

namespace anvil {

// As carry_out(), from another process. Blocking.
Result<CorrectedBody> carry_out_apart(const Part& part, const PlanStep& step, const Progress& progress,
                                      const WorkerLimits& limits = {});

// For the hand-over: a step with faces by their place in its body, which is the first one of the other end's
// part; and what is told beside the shapes. Reading refuses (kUnreadable) what it does not understand.
std::string to_json_text(const Part& part, const PlanStep& step);
Result<PlanStep> plan_step_from(const std::string& text);

// What came of corrections, as bodies and a text that tell the same: three bodies each. Reading refuses
// (kUnreadable) what does not belong together.
std::vector<Body> bodies_of(const CorrectedBody& corrected);
std::string to_json_text(const CorrectedBody& corrected);
Result<CorrectedBody> corrected_from(const std::vector<Body>& bodies, size_t first, const std::string& text);

// The worker's end: the body and the step in a hand-over folder, its answer into FOLDER/last.
Result<void> carry_out_in(const std::filesystem::path& folder, const std::string& step_text,
                          const Progress& progress);

}  // namespace anvil
