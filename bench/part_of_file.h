// A part file read and meshed as the programs do it; null where it cannot be read.
#pragma once

#include "base/file.h"
#include "exchange/read_here.h"
#include "part/mesh_once.h"

namespace anvil::bench {

inline PartPtr part_of_file(const char* file) {
  const TemporaryFolder folder;
  HereRequest request;
  request.file = file;
  request.scratch = folder.path();
  auto read = read_for_numbers(request);
  if (!read) return nullptr;
  auto part = std::make_shared<const Part>(read->source, read->bodies);
  mesh_once(*part);
  return part;
}

}  // namespace anvil::bench
