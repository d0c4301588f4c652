#include "exchange/heal_worker.h"

#include <nlohmann/json.hpp>

#include "base/file.h"
#include "base/quoted.h"
#include "exchange/part_file.h"
#include "exchange/worker_run.h"
#include "geom/guard.h"

namespace anvil {
namespace {

using nlohmann::json;

template <class Value>
Result<Value> understood(const char* what, const std::function<Value()>& read) {
  try {
    return read();
  } catch (const std::exception& error) {
    return refuse(RefusalCode::kUnreadable,
                  std::string(what) + " cannot be understood: " + cut_short(error.what(), 200));
  }
}

SurfaceKind kind_from(const std::string& name) {
  for (const SurfaceKind kind :
       {SurfaceKind::kPlane, SurfaceKind::kCylinder, SurfaceKind::kCone, SurfaceKind::kSphere})
    if (name == surface_name(kind)) return kind;
  return SurfaceKind::kTorus;
}

}  // namespace

std::string to_json_text(const HealOptions& o) {
  return json{{"sew", o.sew},
              {"fix", o.fix},
              {"drop_slivers", o.drop_slivers},
              {"unify", o.unify},
              {"recognise", o.recognise},
              {"tolerance", o.tolerance_mm},
              {"limit", o.limit_mm}}
      .dump();
}

Result<HealOptions> heal_options_from(const std::string& text) {
  return understood<HealOptions>("the healing options", [&] {
    const json j = json::parse(text);
    return HealOptions{j.at("sew"),       j.at("fix"),       j.at("drop_slivers"), j.at("unify"),
                       j.at("recognise"), j.at("tolerance"), j.at("limit")};
  });
}

std::string to_json_text(const HealReport& r) {
  json recognised = json::array();
  for (const RecognisedFaces& k : r.recognised)
    recognised.push_back(
        {{"kind", surface_name(k.kind)}, {"faces", k.faces}, {"deviation", k.largest_deviation_mm}});
  return json{{"movement", r.largest_movement_mm}, {"faces_before", r.faces_before},
              {"faces_after", r.faces_after},      {"open_before", r.open_edges_before},
              {"open_after", r.open_edges_after},  {"slivers", r.slivers_dropped},
              {"unified", r.faces_unified},        {"solids", r.solids_made},
              {"recognised", recognised},          {"lines", r.lines}}
      .dump(-1, ' ', false, json::error_handler_t::replace);
}

Result<HealReport> heal_report_from(const std::string& text) {
  return understood<HealReport>("the healing report", [&] {
    const json j = json::parse(text);
    HealReport r;
    r.largest_movement_mm = j.at("movement");
    r.faces_before = j.at("faces_before");
    r.faces_after = j.at("faces_after");
    r.open_edges_before = j.at("open_before");
    r.open_edges_after = j.at("open_after");
    r.slivers_dropped = j.at("slivers");
    r.faces_unified = j.at("unified");
    r.solids_made = j.at("solids");
    for (const json& k : j.at("recognised"))
      r.recognised.push_back({kind_from(k.at("kind")), k.at("faces"), k.at("deviation")});
    r.lines = j.at("lines").get<std::vector<std::string>>();
    return r;
  });
}

// By kind a list: a number, several, or null where it is not told.
std::string to_json_text(const std::vector<BodyMap>& maps) {
  json bodies = json::array();
  for (const BodyMap& map : maps) {
    json kinds = json::array();
    for (const std::vector<Went>& elements : map) {
      json list = json::array();
      for (const Went& went : elements)
        list.push_back(!went ? json() : went->size() == 1 ? json(went->front()) : json(*went));
      kinds.push_back(std::move(list));
    }
    bodies.push_back(std::move(kinds));
  }
  return bodies.dump();
}

Result<std::vector<BodyMap>> body_maps_from(const std::string& text) {
  return understood<std::vector<BodyMap>>("where healing took faces", [&] {
    std::vector<BodyMap> maps;
    for (const json& kinds : json::parse(text)) {
      BodyMap& map = maps.emplace_back();
      for (size_t kind = 0; kind < map.size(); ++kind)
        for (const json& went : kinds.at(kind)) {
          if (went.is_null())
            map[kind].emplace_back();
          else
            map[kind].push_back(went.is_array() ? went.get<std::vector<int>>()
                                                : std::vector<int>{went.get<int>()});
        }
    }
    return maps;
  });
}

Result<HealedPart> heal_part(const Part& part, const HealOptions& options, const Progress& progress,
                             const WorkerLimits& limits) {
  return guarded("healing", [&]() -> Result<HealedPart> {
    const TemporaryFolder folder;
    progress.say("preparing", 0.05);
    if (auto handed = write_part_folder({part.source(), part.bodies()}, folder.path()); !handed)
      return refuse(handed);
    const auto ran = run_worker({"heal", folder.path().string(), to_json_text(options)},
                                {"healing", part.source().file_name}, progress, limits);
    if (!ran) return refuse(ran);
    auto text = read_file(folder.path() / "report.json");
    if (!text) return refuse(text);
    auto report = heal_report_from(*text);
    if (!report) return refuse(report);
    auto maps_text = read_file(folder.path() / "maps.json");
    if (!maps_text) return refuse(maps_text);
    auto maps = body_maps_from(*maps_text);
    if (!maps) return refuse(maps);
    auto healed = read_part_folder(folder.path() / "last");
    if (!healed) return refuse(healed);
    for (Body& body : healed->bodies) body.meshed = true;  // by the worker
    return HealedPart{std::make_shared<const Part>(part.sources(), std::move(healed->bodies)),
                      std::move(*report), std::move(*maps)};
  });
}

}  // namespace anvil
