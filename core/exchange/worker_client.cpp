#include "exchange/worker_client.h"

#include <fmt/format.h>

#include "base/file.h"
#include "exchange/part_file.h"
#include "exchange/worker_run.h"
#include "geom/guard.h"

namespace anvil {

namespace fs = std::filesystem;

namespace {

Result<PartPtr> take_over(const fs::path& folder) {
  auto bodies = read_part_folder(folder);
  if (!bodies) return refuse(bodies);
  for (Body& body : bodies->bodies) body.meshed = true;  // by the worker
  return PartPtr(std::make_shared<const Part>(std::move(bodies->source), std::move(bodies->bodies)));
}

Result<PartPtr> run_import(const ImportRequest& request, ReadingWay way, const Progress& progress,
                           const WorkerLimits& limits) {
  const TemporaryFolder folder;
  // Whole paths: a name that begins with a dash would be an option.
  std::vector<std::string> order{"read", fs::absolute(request.file).string(), folder.path().string(),
                                 "--scale", fmt::format("{}", request.scale)};
  if (way == ReadingWay::kCarefully) order.emplace_back("--carefully");
  if (way == ReadingWay::kPlainly) order.emplace_back("--plainly");
  Result<PartPtr> first = refuse(RefusalCode::kInternal, "the part was not handed over");
  const auto ran =
      run_worker(std::move(order), {"reading", request.file.filename().string()}, progress, limits, [&] {
        first = take_over(folder.path() / "first");
        if (first && request.first_picture) request.first_picture(*first);
      });
  // Whoever died while checking and mending had handed over a part that can be worked with.
  if (!ran && ran.error().code == RefusalCode::kReaderDied && first) return first;
  if (!ran) return refuse(ran);
  if (!ran->changed || !first) return first;
  progress.say("taking over", 0.95);
  return take_over(folder.path() / "last");
}

// A file is called damaged only when no way of reading it works.
Result<PartPtr> import_by_any_way(const ImportRequest& request, const Progress& progress,
                                  const WorkerLimits& limits) {
  const auto failed = [](const Result<PartPtr>& part) {
    return !part &&
           (part.error().code == RefusalCode::kReaderDied || part.error().code == RefusalCode::kInternal);
  };
  auto part = run_import(request, ReadingWay::kUsual, progress, limits);
  if (!failed(part)) return part;
  for (const ReadingWay way : {ReadingWay::kCarefully, ReadingWay::kPlainly})
    if (auto again = run_import(request, way, progress, limits); !failed(again)) return again;
  if (part.error().code == RefusalCode::kReaderDied) return part;
  return refuse(RefusalCode::kUnreadable,
                fmt::format("{} is damaged ({}): ask for the file again.", request.file.filename().string(),
                            part.error().sentence));
}

}  // namespace

Result<PartPtr> read_stored_part(const fs::path& folder, const std::string& name, const Progress& progress,
                                 const WorkerLimits& limits) {
  return guarded("reading stored shapes", [&]() -> Result<PartPtr> {
    const TemporaryFolder handed;
    const auto ran =
        run_worker({"stored", folder.string(), handed.path().string()}, {"reading", name}, progress, limits);
    if (!ran) return refuse(ran);
    return take_over(handed.path());
  });
}

Result<PartPtr> import_part(const ImportRequest& request, const Progress& progress,
                            const WorkerLimits& limits) {
  return guarded("importing", [&] { return import_by_any_way(request, progress, limits); });
}

}  // namespace anvil
