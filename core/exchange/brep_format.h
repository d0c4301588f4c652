// BREP: OpenCASCADE's own exchange form, as text and binary. It holds neither unit nor names: millimetres are
// taken, and said.
#pragma once

#include "exchange/format.h"

namespace anvil {

bool looks_like_brep(const FileHead& head);
Result<ImportedBodies> read_brep(const std::string& bytes, const std::string& name, const Reading& reading);
Result<void> write_brep(const std::vector<Body>& bodies, const WriteOptions& options,
                        const std::filesystem::path& path);

}  // namespace anvil
