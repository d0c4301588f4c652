#include "job/job_json.h"

#include <fmt/format.h>

#include <filesystem>
#include <nlohmann/json.hpp>

#include "base/file.h"
#include "exchange/heal_worker.h"
#include "job/edits.h"

namespace anvil {
namespace {

using nlohmann::json;

json triple(const gp_XYZ& p) {
  return json::array({p.X(), p.Y(), p.Z()});
}
gp_XYZ triple_from(const json& j) {
  return {j.at(0).get<double>(), j.at(1).get<double>(), j.at(2).get<double>()};
}

const char* const kRegionName = "region";
const char* const kTopologyNames[] = {"face", "edge", "vertex"};
const char* const kSnapNames[] = {"whole",      "middle",     "centre",     "start",     "end",
                                  "quadrant-1", "quadrant-2", "quadrant-3", "quadrant-4"};

template <size_t N>
int index_of(const char* const (&names)[N], const std::string& name, const char* what) {
  for (size_t i = 0; i < N; ++i)
    if (name == names[i]) return static_cast<int>(i);
  throw std::runtime_error(fmt::format("{} \"{}\" is not known", what, name));
}

json to_json(const Reference& reference) {
  json j;
  if (const auto* entry = std::get_if<EntryReference>(&reference.target)) {
    j["entry"] = entry->entry;
    if (entry->element > 0) {
      j["element"] = entry->element;
      j["point"] = kSnapNames[static_cast<int>(entry->snap)];
    }
  } else if (const auto* region = std::get_if<RegionReference>(&reference.target)) {
    j = {{"part", region->part_entry},
         {"kind", kRegionName},
         {"body", region->body},
         {"where", triple(region->wish.at.XYZ())},
         {"seen_from", triple(region->wish.seen_from.XYZ())}};
    if (region->wish.within_mm > 0) j["within"] = region->wish.within_mm;
    if (region->wish.as) j["as"] = surface_name(*region->wish.as);
  } else {
    const auto& t = std::get<TopologyReference>(reference.target);
    j = {{"part", t.part_entry},
         {"kind", kTopologyNames[static_cast<int>(t.kind)]},
         {"point", kSnapNames[static_cast<int>(t.snap)]},
         {"body", t.body},
         {"index", t.index_hint},
         {"shape", t.shape},
         {"where", triple(t.where.XYZ())},
         {"direction", triple(t.direction.XYZ())},
         {"size", t.size_mm},
         {"axis_at", triple(t.axis_at.XYZ())}};
  }
  if (reference.clicked) j["clicked"] = triple(reference.clicked->XYZ());
  return j;
}

RegionReference region_from(const json& j) {
  RegionReference region{j.at("part"), j.at("body"), {}};
  region.wish.at = gp_Pnt(triple_from(j.at("where")));
  region.wish.seen_from = gp_Dir(triple_from(j.at("seen_from")));
  region.wish.within_mm = j.value("within", 0.0);
  if (!j.contains("as")) return region;
  region.wish.as = region_kind_from(j["as"].get<std::string>());
  if (!region.wish.as)
    throw std::runtime_error(fmt::format("kind of region \"{}\" is not known", j["as"].get<std::string>()));
  return region;
}

Reference reference_from(const json& j) {
  Reference reference;
  if (j.contains("entry")) {
    EntryReference to{j.at("entry").get<int>(), j.value("element", 0)};
    if (j.contains("point")) to.snap = static_cast<Snap>(index_of(kSnapNames, j["point"], "point of pick"));
    reference.target = to;
  } else if (j.at("kind") == kRegionName) {
    reference.target = region_from(j);
  } else {
    TopologyReference t;
    t.part_entry = j.at("part");
    t.kind = static_cast<TopologyKind>(index_of(kTopologyNames, j.at("kind"), "kind of pick"));
    t.snap = static_cast<Snap>(index_of(kSnapNames, j.at("point"), "point of pick"));
    t.body = j.at("body");
    t.index_hint = j.at("index");
    t.shape = j.at("shape");
    t.where = gp_Pnt(triple_from(j.at("where")));
    t.direction = gp_Dir(triple_from(j.at("direction")));
    t.size_mm = j.at("size");
    t.axis_at = j.contains("axis_at") ? gp_Pnt(triple_from(j["axis_at"])) : t.where;
    reference.target = t;
  }
  if (j.contains("clicked")) reference.clicked = gp_Pnt(triple_from(j["clicked"]));
  return reference;
}

json to_json(const Recipe& recipe) {
  json inputs = json::array();
  for (const Reference& input : recipe.inputs) inputs.push_back(to_json(input));
  return {{"construction", recipe.construction}, {"inputs", inputs},
          {"parameters", recipe.parameters},     {"choice", recipe.choice},
          {"flipped", recipe.flipped},           {"bodies", recipe.bodies},
          {"unit", unit_name(recipe.unit)}};
}

// Before version 5 bare lengths were read in the unit the job was shown in.
Unit unit_of(const json& j, Unit shown) {
  return j.contains("unit") ? unit_from_name(j["unit"].get<std::string>()).value_or(shown) : shown;
}

Recipe recipe_from(const json& j, Unit shown) {
  Recipe recipe;
  recipe.construction = j.at("construction");
  for (const json& input : j.at("inputs")) recipe.inputs.push_back(reference_from(input));
  recipe.parameters = j.at("parameters").get<ParameterTexts>();
  recipe.choice = j.at("choice");
  recipe.flipped = j.at("flipped");
  recipe.bodies = j.value("bodies", std::vector<int>());
  recipe.unit = unit_of(j, shown);
  return recipe;
}

json to_json(const BodySetting& s) {
  json j = json::object();
  if (!s.included) j["left_out"] = true;
  if (!s.visible) j["hidden"] = true;
  if (s.colour) j["colour"] = {s.colour->r, s.colour->g, s.colour->b};
  if (s.transparency > 0) j["transparency"] = s.transparency;
  if (!s.name.empty()) j["name"] = s.name;
  return j;
}

BodySetting setting_from(const json& j) {
  BodySetting s;
  s.included = !j.value("left_out", false);
  s.visible = !j.value("hidden", false);
  if (j.contains("colour")) s.colour = Colour{j["colour"].at(0), j["colour"].at(1), j["colour"].at(2)};
  s.transparency = std::clamp(j.value("transparency", 0.0), 0.0, 1.0);
  s.name = j.value("name", std::string());
  return s;
}

json to_json(const PartEntry& part) {
  json files = json::array(), bodies = json::array();
  for (const SourceFile& file : part.sources)
    files.push_back(
        {{"source", source_path(file)}, {"sha256", file.part->source().sha256}, {"scale", file.scale}});
  for (const BodySetting& setting : part.bodies) bodies.push_back(to_json(setting));
  return {{"files", files}, {"bodies", bodies}};
}

Result<PartEntry> part_from(const json& j, const JobLoader& load) {
  PartEntry part;
  const json files = j.contains("files") ? j["files"] : json::array({j});  // version 1 held one file
  for (const json& file : files) {
    const double scale = file.value("scale", 1.0);
    if (!(scale > 0) || !std::isfinite(scale)) throw std::runtime_error("a file's scale is not above zero");
    auto source = load.source(file.at("source"), scale);
    const std::string checksum = file.value("sha256", std::string());
    if (source && !checksum.empty() && source->bytes && sha256_hex(*source->bytes) != checksum)
      return refuse(RefusalCode::kUnreadable,
                    fmt::format("{} in the job file is not the file the job was made from: it is damaged",
                                file.at("source").get<std::string>()));
    if (!source) return refuse(source);
    part.sources.push_back(std::move(*source));
  }
  if (part.sources.empty()) throw std::runtime_error("the part entry names no file");
  for (const json& setting : j.value("bodies", json::array())) part.bodies.push_back(setting_from(setting));
  return compose(std::move(part));
}

json to_json(const HealingEntry& healing, const Job& job) {
  return {{"options", json::parse(to_json_text(healing.options))},
          {"report", json::parse(to_json_text(healing.report))},
          {"current", job.part() == healing.part}};
}

Result<HealingEntry> healing_from(const json& j, const JobLoader& load, const Job& job) {
  auto options = heal_options_from(j.at("options").dump());
  if (!options) return refuse(options);
  auto report = heal_report_from(j.at("report").dump());
  if (!report) return refuse(report);
  HealingEntry healing{*options, *report, load.healed(), nullptr};
  if (healing.part && j.at("current").get<bool>()) healing.made_from = job.part();
  return healing;
}

const char* const kStockNames[] = {"none", "allowance", "sizes", "body", "of setup"};

json to_json(const Setup& setup) {
  json planes = json::array();
  for (const ToolPlane& plane : setup.planes)
    planes.push_back({{"name", plane.name},
                      {"frame", to_json(plane.frame)},
                      {"pose", plane.pose},
                      {"work_offset", plane.offset}});
  json stock{{"kind", kStockNames[static_cast<int>(setup.stock.kind)]}};
  if (setup.stock.round) stock["round_along"] = std::string(1, setup.stock.along);
  if (!setup.stock.texts.empty()) stock["sizes"] = setup.stock.texts;
  if (setup.stock.kind == Stock::Kind::kBody) stock["body"] = setup.stock.body;
  if (setup.stock.kind == Stock::Kind::kOfSetup) stock["setup"] = setup.stock.setup;
  return {{"frame", to_json(setup.frame)},
          {"work_offset", setup.offset},
          {"machine", setup.machine},
          {"place", setup.place},
          {"stock", stock},
          {"tool_planes", planes},
          {"unit", unit_name(setup.unit)}};
}

Setup setup_from(const json& j, Unit shown) {
  Setup setup;
  setup.unit = unit_of(j, shown);
  setup.frame = reference_from(j.at("frame"));
  setup.offset = j.at("work_offset");
  setup.machine = j.at("machine");
  setup.place = j.at("place").get<ParameterTexts>();
  const json& stock = j.at("stock");
  setup.stock.kind = static_cast<Stock::Kind>(index_of(kStockNames, stock.at("kind"), "kind of stock"));
  setup.stock.round = stock.contains("round_along");
  const std::string along = stock.value("round_along", std::string("Z"));
  if (along != "X" && along != "Y" && along != "Z")
    throw std::runtime_error("a round stock lies along none of X, Y, Z");
  setup.stock.along = along[0];
  setup.stock.texts = stock.value("sizes", ParameterTexts());
  setup.stock.body = stock.value("body", -1);
  setup.stock.setup = stock.value("setup", 0);
  for (const json& plane : j.at("tool_planes"))
    setup.planes.push_back(
        {plane.at("name"), reference_from(plane.at("frame")), plane.at("pose"), plane.at("work_offset")});
  return setup;
}

// Before version 3 a frame with a work offset stood for a setup.
void make_setups_of_old_frames(Job& job) {
  for (size_t i = 0; i < job.entries.size(); ++i) {
    auto* datum = std::get_if<DatumEntry>(&job.entries[i].content);
    if (!datum || datum->makes != Makes::kFrame) continue;
    if (datum->recipe.construction == "frame.on-face") {
      datum->recipe.inputs.push_back({EntryReference{kReadPlaced}, {}});
      if (std::string& x = datum->recipe.parameters["x"]; x == "X of the part") x = "X of the reading frame";
    }
    const auto offset = datum->recipe.parameters.find("work_offset");
    if (offset == datum->recipe.parameters.end()) continue;
    const std::string code = offset->second;
    datum->recipe.parameters.erase(offset);
    if (code == "none") continue;
    const int frame = job.entries[i].id;
    const std::string name = job.entries[i].name;
    job = with_name(std::move(job), frame, name + " zero");
    Setup setup;
    setup.frame = Reference{EntryReference{frame}, {}};
    setup.offset = code;
    if (job.reading_frame == frame) job.reading_frame = job.next_id;
    job.entries.insert(job.entries.begin() + static_cast<long>(i) + 1,
                       Entry{job.next_id++, name, true, std::move(setup)});
  }
}

json to_json(const Entry& entry, const Job& job) {
  json j{{"id", entry.id}, {"name", entry.name}, {"visible", entry.visible}};
  if (const PartEntry* part = entry.part()) {
    j["part"] = to_json(*part);
  } else if (const HealingEntry* healing = entry.healing()) {
    j["healing"] = to_json(*healing, job);
  } else if (const PlacementEntry* placement = entry.placement()) {
    json steps = json::array();
    for (const Recipe& step : placement->steps) steps.push_back(to_json(step));
    j["placement"] = {{"steps", steps}};
  } else if (const Setup* setup = entry.setup()) {
    j["setup"] = to_json(*setup);
  } else {
    j["datum"] = to_json(entry.datum()->recipe);
    j["datum"]["makes"] = makes_name(entry.datum()->makes);
  }
  if (entry.suppressed) j["suppressed"] = true;
  if (!entry.group.empty()) j["group"] = entry.group;
  if (entry.colour) j["colour"] = {entry.colour->r, entry.colour->g, entry.colour->b};
  return j;
}

Makes makes_from(const std::string& name) {
  for (const Makes makes :
       {Makes::kPoint, Makes::kAxis, Makes::kPlane, Makes::kFrame, Makes::kMeasurement, Makes::kFigure})
    if (name == makes_name(makes)) return makes;
  throw std::runtime_error(fmt::format("kind of datum \"{}\" is not known", name));
}

Result<Entry> entry_from(const json& j, const JobLoader& load, const Job& job) {
  Entry entry;
  entry.id = j.at("id");
  entry.name = j.at("name");
  entry.visible = j.at("visible");
  entry.suppressed = j.value("suppressed", false);
  entry.group = j.value("group", std::string());
  if (j.contains("colour")) entry.colour = Colour{j["colour"].at(0), j["colour"].at(1), j["colour"].at(2)};
  if (j.contains("part")) {
    auto part = part_from(j["part"], load);
    if (!part) return refuse(part);
    entry.content = std::move(*part);
  } else if (j.contains("healing")) {
    auto healing = healing_from(j["healing"], load, job);
    if (!healing) return refuse(healing);
    entry.content = std::move(*healing);
  } else if (j.contains("placement")) {
    PlacementEntry placement;
    for (const json& step : j["placement"].at("steps"))
      placement.steps.push_back(recipe_from(step, job.display.unit));
    entry.content = placement;
  } else if (j.contains("setup")) {
    entry.content = setup_from(j["setup"], job.display.unit);
  } else {
    entry.content =
        DatumEntry{makes_from(j.at("datum").at("makes")), recipe_from(j["datum"], job.display.unit)};
  }
  return entry;
}

// A reference may only point backward; anything else would make evaluation depend on itself.
Result<void> check_order(const Job& job) {
  std::vector<int> seen;
  for (const Entry& entry : job.entries) {
    for (const Reference& input : inputs_of(entry)) {
      const int target = entry_of(input);
      const bool is_frame = std::holds_alternative<EntryReference>(input.target);
      if (is_frame && (target == kReadPlaced || target == kReadDelivered)) continue;
      if (std::find(seen.begin(), seen.end(), target) == seen.end())
        return refuse(
            RefusalCode::kUnreadable,
            fmt::format("\"{}\" refers to entry {}, which does not come before it", entry.name, target));
    }
    seen.push_back(entry.id);
  }
  return {};
}

}  // namespace

std::string source_path(const SourceFile& file) {
  const SourceInfo& source = file.part->source();
  return fmt::format("sources/{}/{}", source.sha256.substr(0, 12), source.file_name);
}

std::string shapes_path(const SourceFile& file) {
  return shapes_path(source_path(file), file.scale);
}

std::string shapes_path(const std::string& path_in_file, double scale) {
  return fmt::format("shapes/{}-{}", std::filesystem::path(path_in_file).parent_path().filename().string(),
                     scale);
}

std::string job_to_json(const Job& job) {
  json entries = json::array(), views = json::array();
  for (const KeptView& v : job.views)
    views.push_back({{"name", v.name},
                     {"eye", triple(v.eye.XYZ())},
                     {"centre", triple(v.centre.XYZ())},
                     {"up", triple(v.up.XYZ())},
                     {"scale", v.scale_mm}});
  for (const Entry& entry : job.entries) entries.push_back(to_json(entry, job));
  json machines = json::object();
  for (const auto& [id, machine] : job.machines) machines[id] = json::parse(machine_to_json(machine));
  const json all{{"format", "true-anvil-job"},
                 {"version", kJobFormatVersion},
                 {"unit", unit_name(job.display.unit)},
                 {"decimals", job.display.decimals},
                 {"reading_frame", job.reading_frame},
                 {"tolerance", {{"linear", job.tolerance.linear_mm}, {"angular", job.tolerance.angular_rad}}},
                 {"tool_plane", job.tool_plane},
                 {"machines", machines},
                 {"next_id", job.next_id},
                 {"views", views},
                 {"entries", entries}};
  return all.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

std::optional<int> job_version(const std::string& text) {
  const json all = json::parse(text, nullptr, false);
  if (!all.is_object() || !all.contains("format") || all["format"] != "true-anvil-job" ||
      !all.contains("version") || !all["version"].is_number_integer())
    return std::nullopt;
  return all["version"].get<int>();
}

Result<Job> job_from_json(const std::string& text, const JobLoader& load) {
  if (!job_version(text)) return refuse(RefusalCode::kUnreadable, "job.json is not a True Anvil job");
  try {
    const json all = json::parse(text);
    Job job;
    job.display.unit = unit_from_name(all.at("unit").get<std::string>()).value_or(Unit::kMillimetre);
    job.display.decimals = std::clamp(all.at("decimals").get<int>(), 0, 6);
    job.reading_frame = all.at("reading_frame");
    job.next_id = all.at("next_id");
    if (all.contains("tolerance"))
      job.tolerance = sensible({all["tolerance"].at("linear"), all["tolerance"].at("angular")});
    for (const json& v : all.value("views", json::array()))
      job.views.push_back({v.at("name"), gp_Pnt(triple_from(v.at("eye"))),
                           gp_Pnt(triple_from(v.at("centre"))), gp_Dir(triple_from(v.at("up"))),
                           v.at("scale")});
    for (const json& j : all.at("entries")) {
      auto entry = entry_from(j, load, job);
      if (!entry) return refuse(entry);
      job.next_id = std::max(job.next_id, entry->id + 1);
      job.entries.push_back(std::move(*entry));
    }
    const json machines = all.value("machines", json::object());
    for (const auto& [id, described] : machines.items()) {
      auto machine = machine_from_json(described.dump(), id);
      if (!machine) return refuse(machine);
      job.machines[id] = std::move(*machine);
    }
    job.tool_plane = std::max(0, all.value("tool_plane", 0));
    if (all.at("version") < 3) make_setups_of_old_frames(job);
    if (auto order = check_order(job); !order) return refuse(order);
    return job;
  } catch (const std::exception& error) {
    return refuse(RefusalCode::kUnreadable, fmt::format("job.json cannot be understood: {}", error.what()));
  } catch (const Standard_Failure&) {
    return refuse(RefusalCode::kUnreadable, "job.json holds a direction of no length");
  }
}

}  // namespace anvil
