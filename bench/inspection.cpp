// bench_inspection FILE…: what inspection costs beside reading the file with OpenCASCADE's own STEP reader
// (entities and shapes, no mesh), turn by turn in one process, the best of two each. A row for each file, as
// Markdown, seconds; corners and what is left along each file's axes X, Y and Z, the slowest of them.
#include <STEPControl_Reader.hxx>
#include <chrono>
#include <cstdio>
#include <filesystem>

#include "base/file.h"
#include "exchange/read_here.h"
#include "geom/quiet.h"
#include "inspect/hole_surroundings.h"
#include "inspect/left_in_pockets.h"
#include "part/mesh_once.h"

namespace {

using namespace anvil;

template <class Work>
double seconds(Work&& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

double plain_reading(const char* file) {
  return seconds([&] {
    STEPControl_Reader reader;
    if (reader.ReadFile(file) == IFSelect_RetDone) reader.TransferRoots();
  });
}

struct Costs {
  double holes = 1e9, corners = 1e9, around = 1e9, left = 1e9, dragged = 1e9, mesh = 0;
  size_t faces = 0, found = 0;
};

// On a part of its own each time, so that nothing is kept from before.
void measure(const std::vector<Body>& bodies, const SourceInfo& source, Costs& best) {
  const Part part(source, bodies);
  best.faces = part.topology().faces.size();
  best.mesh = seconds([&] { mesh_once(part); });
  Result<HoleReport> holes = HoleReport();
  best.holes = std::min(best.holes, seconds([&] { holes = find_holes(part); }));
  if (!holes) return;
  best.found = holes->holes.size();
  double corners = 0, left = 0, dragged = 0;
  for (const gp_Dir& axis : {gp_Dir(1, 0, 0), gp_Dir(0, 1, 0), gp_Dir(0, 0, 1)}) {
    CornerOptions options;
    options.axis = axis;
    Result<CornerReport> report = CornerReport();
    corners = std::max(corners, seconds([&] { report = find_corners(part, options, {}, &*holes); }));
    if (!report || !report->sections) continue;
    left = std::max(left, seconds([&] {
                      if (const auto all = left_by_cutter(*report->sections, 8))
                        left_in_pockets(part, *report, *all);
                    }));
    dragged = std::max(dragged, seconds([&] {
                         static_cast<void>(left_by_cutter(*report->sections, 8, LeftDetail::kWhileDragging));
                       }));
  }
  best.corners = std::min(best.corners, corners);
  best.left = std::min(best.left, left);
  best.dragged = std::min(best.dragged, dragged);
  best.around = std::min(best.around, seconds([&] { static_cast<void>(look_around(part, *holes)); }));
}

}  // namespace

int main(int argc, char** argv) {
  quiet_kernel();
  std::printf("| file | faces | reading | holes | corners | ratio | around %s | left by Ø8 | dragged |\n",
              "holes");
  std::printf("|---|---|---|---|---|---|---|---|---|\n");
  for (int i = 1; i < argc; ++i) {
    const TemporaryFolder folder;
    HereRequest request;
    request.file = argv[i];
    request.scratch = folder.path();
    double plain = 1e9;
    Costs costs;
    for (int turn = 0; turn < 2; ++turn) {
      plain = std::min(plain, plain_reading(argv[i]));
      const auto read = read_for_numbers(request);
      if (!read) {
        std::fprintf(stderr, "%s: %s\n", argv[i], read.error().sentence.c_str());
        break;
      }
      measure(read->bodies, read->source, costs);
    }
    std::printf("| %s | %zu | %.3f | %.3f | %.3f | %.2f | %.3f (%zu) | %.3f | %.3f |\n",
                std::filesystem::path(argv[i]).stem().c_str(), costs.faces, plain, costs.holes, costs.corners,
                (costs.holes + costs.corners) / plain, costs.around, costs.found, costs.left, costs.dragged);
    std::fflush(stdout);
  }
  return 0;
}
