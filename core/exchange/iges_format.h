// IGES 5.3: solids and loose surfaces, in and out, with names and colours.
#pragma once

#include "exchange/format.h"

namespace anvil {

bool looks_like_iges(const FileHead& head);
// Surfaces that make no shell come as one body of kind kShell; sewing them is healing (part/heal.h).
Result<ImportedBodies> read_iges(const std::string& bytes, const std::string& name, const Reading& reading);
Result<void> write_iges(const std::vector<Body>& bodies, const WriteOptions& options,
                        const std::filesystem::path& path);

}  // namespace anvil
