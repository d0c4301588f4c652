// Writes bodies as STEP AP214 in mm, with names and colours, moved by a placement that is worked into the
// geometry (a reader that ignores assembly placements still sees the part where it belongs).
#pragma once

#include <filesystem>
#include <gp_Trsf.hxx>
#include <vector>

#include "base/refusal.h"
#include "part/part.h"

namespace anvil {

struct StepWriteOptions {
  gp_Trsf placement;               // from part coordinates to the written ones
  std::string product = "part";    // written in the header
  std::string time_stamp;          // ISO 8601; empty: now
  std::string schema = "AP214IS";  // OpenCASCADE's name: AP203, AP214IS, AP242DIS
  std::string unit = "MM";         // MM or INCH
};

// Atomic: the file appears whole or not at all. Refuses (kCannotWrite) with the reason.
Result<void> write_step(const std::vector<Body>& bodies, const StepWriteOptions& options,
                        const std::filesystem::path& path);

// The bodies moved for good: geometry transformed, face colours kept.
std::vector<Body> moved_bodies(const std::vector<Body>& bodies, const gp_Trsf& placement);

}  // namespace anvil
