// Triangle files: STL (text and binary), PLY and OBJ in, STL out. They name no unit: millimetres are taken,
// and said.
#pragma once

#include "exchange/format.h"

namespace anvil {

bool looks_like_stl(const FileHead& head);
bool looks_like_ply(const FileHead& head);
bool looks_like_obj(const FileHead& head);
// Every solid of the file is kept as a body of its own. Refuses files that are cut off, and coordinates that
// are no numbers.
Result<ImportedBodies> read_stl(const std::string& bytes, const std::string& name, const Reading& reading);
Result<ImportedBodies> read_ply(const std::string& bytes, const std::string& name, const Reading& reading);
Result<ImportedBodies> read_obj(const std::string& bytes, const std::string& name, const Reading& reading);
Result<void> write_stl(const std::vector<Body>& bodies, const WriteOptions& options,
                       const std::filesystem::path& path);

}  // namespace anvil
