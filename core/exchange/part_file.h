// The hand-over between the import worker and the application: a folder with the shapes and their mesh in
// OpenCASCADE's binary form (shape.bin) and everything else as JSON (part.json). It lives for seconds; both
// ends are always the same build, so it carries no version.
#pragma once

#include <filesystem>

#include "base/refusal.h"
#include "exchange/format.h"

namespace anvil {

Result<void> write_part_folder(const ImportedBodies& bodies, const std::filesystem::path& folder);
Result<ImportedBodies> read_part_folder(const std::filesystem::path& folder);

}  // namespace anvil
