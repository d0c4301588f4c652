#include "exchange/read_here.h"

#include <fmt/format.h>
#include <sys/resource.h>

#include <cstdlib>

#include "base/sanitizers.h"
#include "exchange/step_format.h"
#include "part/mend.h"
#include "part/mesh.h"

namespace anvil {

Result<ImportedBodies> read_bodies(const HereRequest& request) {
  // What a reader leaves behind when it is ended goes with the folder.
  ::setenv("TMPDIR", request.scratch.c_str(), 1);
  leave_out_fixing(request.scratch);
  auto bodies = read_part_file(request.file, request.reading, request.scale);
  if (bodies && request.reading.way == ReadingWay::kPlainly)
    bodies->source.warnings.emplace_back(
        "The reader for names and colours failed on this file; it was read without them.");
  return bodies;
}

Result<ImportedBodies> read_for_numbers(const HereRequest& request) {
  auto bodies = read_bodies(request);
  if (!bodies) return bodies;
  if (request.surfaces_only) {
    turn_inside_out_ones(bodies->bodies);
    return bodies;
  }
  mend_with_notes(*bodies, request.reading.progress);
  request.reading.progress.say("meshing", 0.7);
  mesh_with_note(*bodies);
  return bodies;
}

void mesh_with_note(ImportedBodies& bodies, const MeshQuality& quality) {
  if (const int empty = mesh_shape(compound_of(bodies.bodies), quality); empty > 0)
    bodies.source.warnings.push_back(
        fmt::format("{} faces could not be drawn; they are there but invisible.", empty));
}

std::vector<int> mend_with_notes(ImportedBodies& bodies, const Progress& progress) {
  const MendReport report = mend_bodies(bodies.bodies, progress);
  bodies.source.warnings.insert(bodies.source.warnings.end(), report.sentences.begin(),
                                report.sentences.end());
  return report.mended;
}

void limit_this_process(const ProcessLimits& limits) {
  const auto limit = [](__rlimit_resource resource, rlim_t value) {
    const rlimit bounds{value, value};
    ::setrlimit(resource, &bounds);
  };
  // Sanitizers keep their books in terabytes of addresses that are never filled.
  if (!kHasSanitizer) limit(RLIMIT_AS, static_cast<rlim_t>(limits.memory_mb) << 20);
  limit(RLIMIT_CPU, limits.cpu_seconds);
  limit(RLIMIT_CORE, 0);
}

}  // namespace anvil
