#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "base/file.h"
#include "exchange/part_file.h"
#include "exchange/worker_client.h"
#include "exchange/worker_run.h"
#include "geom/guard.h"

namespace anvil {
namespace {

using nlohmann::json;

std::vector<Body> chosen_bodies(const Part& part, const ExportRequest& request) {
  std::vector<Body> chosen;
  for (size_t i = 0; i < part.bodies().size(); ++i) {
    const bool wanted = request.bodies.empty() || std::find(request.bodies.begin(), request.bodies.end(),
                                                            static_cast<int>(i)) != request.bodies.end();
    if (wanted) chosen.push_back(part.bodies()[i]);
  }
  for (Body& body : chosen) body.shape = body.shape.Moved(TopLoc_Location(request.placement));
  return chosen;
}

}  // namespace

Result<ExportReport> export_part(const Part& part, const ExportRequest& request, const Progress& progress,
                                 const WorkerLimits& limits) {
  return guarded("exporting", [&]() -> Result<ExportReport> {
    const TemporaryFolder folder;
    progress.say("preparing", 0.1);
    auto handed = write_part_folder({part.source(), chosen_bodies(part, request)}, folder.path());
    if (!handed) return refuse(handed);
    const WriteOptions& o = request.options;
    const auto ran =
        run_worker({"write", folder.path().string(), std::filesystem::absolute(request.file).string(),
                    "--format", request.format, "--unit", o.unit, "--schema", o.schema, "--deviation",
                    fmt::format("{}", o.mesh_deviation_mm), "--angle", fmt::format("{}", o.mesh_angle_rad),
                    o.binary ? "--binary" : "--text"},
                   {"writing", request.file.filename().string()}, progress, limits);
    if (!ran) return refuse(ran);
    auto text = read_file(folder.path() / "report.json");
    if (!text) return refuse(text);
    const json report = json::parse(*text);
    return ExportReport{report.at("bodies"), report.at("faces"), report.at("volume"),
                        report.at("volume_difference"), report.at("box_difference")};
  });
}

}  // namespace anvil
