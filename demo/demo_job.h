// The demo job: the saddle plate seated, zeroed and measured, as a programmer would leave it.
#pragma once

#include <filesystem>

#include "base/refusal.h"
#include "job/entry.h"

namespace anvil::demo {

// From the STEP file that was just written, so that the job holds what anyone would import.
Result<Job> saddle_plate_job(const std::filesystem::path& step_file);

}  // namespace anvil::demo
