// One part as other writers would write it. Every dialect is a STEP file of the same solids; what is found on
// it must be the same.
#pragma once

#include <filesystem>
#include <functional>
#include <string>
#include <vector>

#include "part/part.h"
#include "support/expected_holes.h"

namespace anvil::test {

struct Dialect {
  const char* name;
  // Writes the bodies to the file and answers whether it could.
  std::function<bool(const std::vector<Body>& bodies, const std::filesystem::path& file)> write;
  Within within = {1e-4, 1e-6};  // what the text's digits and recognition leave
  gp_Trsf motion = {};           // where it puts the bodies
};

std::vector<Dialect> dialects();

// Written in a dialect and read as the import worker reads it; null (and a failure told) when either fails.
PartPtr written_and_read(const std::vector<Body>& bodies, const Dialect& dialect);

}  // namespace anvil::test
