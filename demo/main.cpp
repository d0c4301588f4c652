// true-anvil-demo-parts FOLDER: writes the demo parts and, beside each, what must be found on it.
#include <CLI/CLI.hpp>
#include <filesystem>
#include <iostream>

#include "base/file.h"
#include "demo/demo_job.h"
#include "demo/demo_part.h"
#include "exchange/mesh_formats.h"
#include "exchange/step_format.h"
#include "geom/quiet.h"
#include "store/job_file.h"

namespace {

using namespace anvil;

Result<void> write_demo(const demo::DemoPart& part, const std::filesystem::path& folder,
                        bool surface_curves) {
  WriteOptions options;
  options.surface_curves = surface_curves;
  options.product = part.bodies.front().name;
  options.time_stamp = "2026-01-01T00:00:00";  // the same bytes on every run
  const std::filesystem::path path = folder / part.file_name;
  if (auto written = write_step(part.bodies, options, path); !written) return written;
  std::filesystem::path beside = path;
  return write_file_atomically(beside.replace_extension(".expected.json"), demo::expected_json(part));
}

Result<void> write_demo_job(const std::filesystem::path& folder) {
  auto job = demo::saddle_plate_job(folder / "saddle-plate.step");
  if (!job) return refuse(job);
  const auto saved = save_job(*job, folder / "saddle-plate.anvil");
  return saved ? Result<void>() : refuse(saved);
}

}  // namespace

int main(int argc, char** argv) {
  CLI::App app("Writes the demo parts of True Anvil");
  std::string folder;
  int rows = 0;
  app.add_option("folder", folder, "where to")->required();
  app.add_option("--plate-rows", rows, "also a plate of holes with this many rows, for measuring");
  int plates = 0;
  app.add_option("--plates", plates,
                 "also a file of this many saddle plates (79 faces each), for measuring at scale");
  bool without_curves = false;
  app.add_flag("--without-surface-curves", without_curves, "as most writers write STEP, for measuring");
  CLI11_PARSE(app, argc, argv);
  quiet_kernel();
  std::filesystem::create_directories(folder);
  for (const demo::DemoPart& part : {demo::saddle_plate(), demo::declination_housing(), demo::worm_yoke_a(),
                                     demo::worm_yoke_b(), demo::finder_ring()}) {
    if (auto written = write_demo(part, folder, !without_curves); !written) {
      std::cerr << "true-anvil-demo-parts: " << written.error().sentence << "\n";
      return 1;
    }
  }
  if (auto written =
          write_step(demo::torn_bracket().bodies, {}, std::filesystem::path(folder) / "torn-bracket.step");
      !written) {
    std::cerr << "true-anvil-demo-parts: " << written.error().sentence << "\n";
    return 1;
  }
  if (auto written = write_stl(demo::counterweight_scan().bodies, {},
                               std::filesystem::path(folder) / "counterweight-scan.stl");
      !written) {
    std::cerr << "true-anvil-demo-parts: " << written.error().sentence << "\n";
    return 1;
  }
  for (const auto& [name, text] : {std::pair("saddle-plate-holes.csv", demo::saddle_plate_holes_csv()),
                                   std::pair("cutters.csv", demo::cutters_csv())}) {
    if (auto written = write_file_atomically(std::filesystem::path(folder) / name, text); !written) {
      std::cerr << "true-anvil-demo-parts: " << written.error().sentence << "\n";
      return 1;
    }
  }
  if (auto written = write_demo_job(folder); !written) {
    std::cerr << "true-anvil-demo-parts: " << written.error().sentence << "\n";
    return 1;
  }
  if (plates > 0) {
    auto stacked =
        write_step(demo::stack_of_plates(plates), {}, std::filesystem::path(folder) / "stack-of-plates.step");
    if (!stacked) std::cerr << "true-anvil-demo-parts: " << stacked.error().sentence << "\n";
  }
  if (rows <= 0) return 0;
  Body plate;
  plate.name = "plate of holes";
  WriteOptions plate_options;
  plate_options.surface_curves = !without_curves;
  plate.shape = demo::plate_of_holes(rows, rows);
  auto written = write_step({plate}, plate_options, std::filesystem::path(folder) / "plate-of-holes.step");
  if (!written) std::cerr << "true-anvil-demo-parts: " << written.error().sentence << "\n";
  return written ? 0 : 1;
}
