#include "store/job_json.h"

#include <fmt/format.h>

#include <filesystem>
#include <nlohmann/json.hpp>
#include <set>

#include "base/file.h"
#include "base/json_limits.h"
#include "base/quoted.h"
#include "exchange/heal_worker.h"
#include "geom/guard.h"
#include "job/edits.h"
#include "job/gate.h"
#include "store/recipe_json.h"

namespace anvil {
namespace {

using nlohmann::json;

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
  if (j.contains("colour")) s.colour = colour_from(j["colour"]);
  s.transparency = std::clamp(j.value("transparency", 0.0), 0.0, 1.0);
  s.name = j.value("name", std::string());
  return s;
}

json to_json(const PartEntry& part) {
  json files = json::array(), bodies = json::array();
  for (const SourceFile& file : part.sources)
    files.push_back({{"source", source_path(file)},
                     {"sha256", file.part->source().sha256},
                     {"scale", file.scale},
                     {"bodies", static_cast<int>(file.part->bodies().size()) + file.missing_bodies}});
  for (const BodySetting& setting : part.bodies) bodies.push_back(to_json(setting));
  return {{"files", files}, {"bodies", bodies}};
}

// Without the number a library gives its errors.
std::string in_words(const std::exception& error) {
  std::string_view text = error.what();
  if (text.substr(0, 1) == "[" && text.find("] ") != std::string_view::npos)
    text.remove_prefix(text.find("] ") + 2);
  return cut_short(text, 200);
}

// A file that cannot be read again: its bodies are missing, and those of the others keep their numbers.
SourceFile missing_file(const json& file, double scale) {
  SourceInfo source;
  source.file_name = safe_file_name(file.at("source").get<std::string>());
  source.sha256 = file.value("sha256", std::string());
  SourceFile missing{std::make_shared<const Part>(std::move(source), std::vector<Body>{}),
                     std::make_shared<const std::string>(), scale};
  missing.missing_bodies = std::clamp(file.value("bodies", 0), 0, 100000);
  return missing;
}

Result<SourceFile> file_from(const json& file, const JobLoader& load) {
  const double scale = file.value("scale", 1.0);
  if (!(scale > 0) || !std::isfinite(scale)) throw std::runtime_error("a file's scale is not above zero");
  const std::string inside = file.at("source");
  auto source = load.source(inside, scale);
  if (!source && source.error().code == RefusalCode::kCancelled) return source;
  const std::string checksum = file.value("sha256", std::string());
  if (source && (checksum.empty() || !source->bytes || sha256_hex(*source->bytes) == checksum)) return source;
  std::string why =
      source ? fmt::format("{} is not the file the job was made from", inside) : source.error().sentence;
  if (PartPtr stored = load.shapes ? load.shapes(inside, scale, checksum) : nullptr) {
    load.left_out(why + "; its bodies are shown as they were stored");
    return SourceFile{std::move(stored), std::make_shared<const std::string>(), scale};
  }
  load.left_out(why);
  return missing_file(file, scale);
}

Result<PartEntry> part_from(const json& j, const JobLoader& load) {
  PartEntry part;
  const json files = j.contains("files") ? j["files"] : json::array({j});  // version 1 held one file
  for (const json& file : files) {
    auto source = file_from(file, load);
    if (!source) return refuse(source);
    part.sources.push_back(std::move(*source));
  }
  if (part.sources.empty()) throw std::runtime_error("the part entry names no file");
  for (const json& setting : j.value("bodies", json::array())) part.bodies.push_back(setting_from(setting));
  return compose(std::move(part));
}

Result<HealingEntry> healing_from(const json& j) {
  auto options = heal_options_from(j.at("options").dump());
  if (!options) return refuse(options);
  return HealingEntry{*options};
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
    if (!job.entries[i].is_frame()) continue;
    auto* datum = std::get_if<DatumEntry>(&job.entries.edit(i).content);
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

json to_json(const HealingEntry& healing) {
  return {{"options", json::parse(to_json_text(healing.options))}};
}

json to_json(const PlacementEntry& placement) {
  json steps = json::array();
  for (const Recipe& step : placement.steps) steps.push_back(to_json(step));
  return {{"steps", steps}};
}

json to_json(const DatumEntry& datum) {
  json j = to_json(datum.recipe);
  j["makes"] = makes_name(datum.makes);
  return j;
}

json to_json(const Entry& entry) {
  json j{{"id", entry.id}, {"name", entry.name}, {"visible", entry.visible}};
  j[kind_of(entry).name] = std::visit([](const auto& content) { return to_json(content); }, entry.content);
  if (entry.suppressed) j["suppressed"] = true;
  if (!entry.group.empty()) j["group"] = entry.group;
  if (entry.colour) j["colour"] = {entry.colour->r, entry.colour->g, entry.colour->b};
  return j;
}

Makes makes_from(const std::string& name) {
  for (const Makes makes : {Makes::kPoint, Makes::kAxis, Makes::kPlane, Makes::kFrame, Makes::kMeasurement,
                            Makes::kFigure, Makes::kCorrection})
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
  if (j.contains("colour")) entry.colour = colour_from(j["colour"]);
  if (j.contains("part")) {
    auto part = part_from(j["part"], load);
    if (!part) return refuse(part);
    entry.content = std::move(*part);
  } else if (j.contains("healing")) {
    auto healing = healing_from(j["healing"]);
    if (!healing) return refuse(healing);
    entry.content = *healing;
  } else if (j.contains("placement")) {
    PlacementEntry placement;
    for (const json& step : j["placement"].at("steps"))
      placement.steps.push_back(recipe_from(step, job.display.unit));
    entry.content = placement;
  } else if (j.contains("setup")) {
    entry.content = setup_from(j["setup"], job.display.unit);
  } else if (!j.contains("datum")) {
    throw std::runtime_error("it is of a kind that is not known here");
  } else {
    entry.content =
        DatumEntry{makes_from(j.at("datum").at("makes")), recipe_from(j["datum"], job.display.unit)};
  }
  return entry;
}

// What is made from an entry that is not there goes as well.
void leave_out_orphans(Job& job, const JobLoader& load) {
  for (bool more = true; more;) {
    std::set<int> known{kReadPlaced, kReadDelivered};
    for (const Entry& entry : job.entries) known.insert(entry.id);
    const auto is_orphan = [&](const Entry& entry) {
      const auto inputs = inputs_of(entry);
      return std::any_of(inputs.begin(), inputs.end(),
                         [&](const Reference& input) { return !known.count(entry_of(input)); });
    };
    for (const Entry& entry : job.entries)
      if (is_orphan(entry)) load.left_out(fmt::format("\"{}\" is made from what is left out", entry.name));
    more = job.entries.erase_if(is_orphan) > 0;
  }
}

// One of the entries of the text; nothing where it is left out.
Result<std::optional<Entry>> entry_or_none(const json& j, const std::string& path, const JobLoader& load,
                                           const Job& job) {
  const auto leave_out = [&](const std::string& why) {
    const std::string name = j.is_object() ? j.value("name", std::string()) : std::string();
    load.left_out(name.empty() || name.size() > kLongestName_bytes ? fmt::format("{}: {}", path, why)
                                                                   : fmt::format("\"{}\": {}", name, why));
    return std::optional<Entry>();
  };
  try {
    if (const std::string beyond = beyond_limits(j, path); !beyond.empty()) return leave_out(beyond);
    auto entry = entry_from(j, load, job);
    if (!entry && entry.error().code == RefusalCode::kCancelled) return refuse(entry);
    if (!entry) return leave_out(entry.error().sentence);
    if (entry->id <= 0 || job.find(entry->id)) return leave_out("its number is none, or taken");
    return std::optional<Entry>(std::move(*entry));
  } catch (const std::exception& error) {
    return leave_out(in_words(error));
  } catch (const Standard_Failure&) {
    return leave_out("it holds a direction of no length");
  }
}

KeptView view_from(const json& j) {
  return {j.at("name"), gp_Pnt(triple_from(j.at("eye"))), gp_Pnt(triple_from(j.at("centre"))),
          gp_Dir(triple_from(j.at("up"))), j.at("scale")};
}

void read_views(const json& all, Job& job, const JobLoader& load) {
  for (const json& j : all.value("views", json::array())) {
    const auto view = guarded("reading a view", [&]() -> Result<KeptView> {
      const std::string beyond = beyond_limits(j, "views");
      return beyond.empty() ? Result<KeptView>(view_from(j)) : refuse(RefusalCode::kLimit, beyond);
    });
    if (view)
      job.views.push_back(*view);
    else
      load.left_out(view.error().sentence);
  }
}

void read_machines(const json& all, Job& job, const JobLoader& load) {
  const json machines = all.value("machines", json::object());
  for (const auto& [id, described] : machines.items()) {
    auto machine = machine_from_json(described.dump(), safe_file_name(id));
    if (machine)
      job.machines[id] = std::move(*machine);
    else
      load.left_out(machine.error().sentence);
  }
}

json cutters_json(const std::vector<Cutter>& cutters) {
  json list = json::array();
  const auto length = [](const std::optional<double>& v) { return v ? json(*v) : json(nullptr); };
  for (const Cutter& c : cutters)
    list.push_back({{"number", c.number},
                    {"name", c.name},
                    {"diameter", c.diameter_mm},
                    {"corner_radius", c.corner_radius_mm},
                    {"flute_length", length(c.flute_mm)},
                    {"reach", length(c.reach_mm)},
                    {"holder_diameter", length(c.holder_mm)}});
  return list;
}

void read_inspection(const json& all, Job& job, const JobLoader& load) {
  if (!all.contains("inspection")) return;
  const json& told = all["inspection"];
  Inspection inspection;
  inspection.margin = told.value("margin", inspection.margin);
  inspection.holder_mm = told.value("holder_diameter", inspection.holder_mm);
  auto cutters = read_cutters(told.value("cutters", json::array()).dump());
  if (cutters)
    inspection.cutters = std::move(*cutters);
  else
    load.left_out("inspection/cutters: " + cutters.error().sentence);
  job = with_inspection(std::move(job), std::move(inspection));
}

void read_hole_names(const json& all, Job& job, const JobLoader& load) {
  for (const json& j : all.value("hole_names", json::array())) {
    const auto given = guarded("reading a hole's name", [&]() -> Result<HoleName> {
      const std::string beyond = beyond_limits(j, "hole_names");
      if (!beyond.empty()) return refuse(RefusalCode::kLimit, beyond);
      const Reference face = reference_from(j.at("face"));
      const auto* on_part = std::get_if<TopologyReference>(&face.target);
      if (!on_part || on_part->kind != TopologyKind::kFace)
        return refuse(RefusalCode::kUnreadable, "hole_names: a hole is named by one of its faces");
      return HoleName{*on_part, j.at("name")};
    });
    if (given)
      job.hole_names.push_back(*given);
    else
      load.left_out(given.error().sentence);
  }
}

Result<Job> read_job(const json& all, const JobLoader& load) {
  Job job;
  job.display.unit = unit_from_name(all.at("unit").get<std::string>()).value_or(Unit::kMillimetre);
  job.display.decimals = std::clamp(all.at("decimals").get<int>(), 0, 6);
  job.reading_frame = all.at("reading_frame");
  if (all.contains("tolerance"))
    job.tolerance = sensible({all["tolerance"].at("linear"), all["tolerance"].at("angular")});
  read_views(all, job, load);
  read_inspection(all, job, load);
  read_hole_names(all, job, load);
  const json& entries = all.at("entries");
  constexpr size_t kMostEntries = 100000;
  if (!entries.is_array() || entries.size() > kMostEntries)
    return refuse(RefusalCode::kLimit,
                  fmt::format("job.json: entries: a list of at most {} is wanted", kMostEntries));
  for (size_t i = 0; i < entries.size(); ++i) {
    auto entry = entry_or_none(entries[i], fmt::format("entries/{}", i), load, job);
    if (!entry) return refuse(entry);
    if (*entry) job.entries.push_back(std::move(**entry));
  }
  read_machines(all, job, load);
  job.tool_plane = std::max(0, all.value("tool_plane", 0));
  job.next_id = 1;
  for (const Entry& entry : job.entries) job.next_id = std::max(job.next_id, entry.id + 1);
  if (const int told = all.at("next_id"); told < 1000000000) job.next_id = std::max(job.next_id, told);
  if (all.at("version") < 3) make_setups_of_old_frames(job);
  leave_out_orphans(job, load);
  auto passed = through_gate(std::move(job));
  if (!passed) return refuse(RefusalCode::kUnreadable, "job.json: " + passed.error().sentence);
  return passed;
}

// Nothing where it is no job.
std::optional<int> version_of(const json& all) {
  if (!all.is_object() || all.value("format", json()) != "true-anvil-job" ||
      !all.value("version", json()).is_number_integer())
    return std::nullopt;
  return all.at("version").get<int>();
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
  // Another way of meshing is another path: what was meshed more coarsely is not taken for as good.
  constexpr const char* kMeshedBodyByBody = "2";
  return fmt::format("shapes/{}-{}-{}", std::filesystem::path(path_in_file).parent_path().filename().string(),
                     scale, kMeshedBodyByBody);
}

std::string job_to_json(const Job& job) {
  json entries = json::array(), views = json::array(), hole_names = json::array();
  for (const HoleName& given : job.hole_names)
    hole_names.push_back({{"face", to_json(Reference{given.face, {}})}, {"name", given.name}});
  for (const KeptView& v : job.views)
    views.push_back({{"name", v.name},
                     {"eye", triple(v.eye.XYZ())},
                     {"centre", triple(v.centre.XYZ())},
                     {"up", triple(v.up.XYZ())},
                     {"scale", v.scale_mm}});
  for (const Entry& entry : job.entries) entries.push_back(to_json(entry));
  json machines = json::object();
  for (const auto& [id, machine] : job.machines) machines[id] = json::parse(machine_to_json(machine));
  const json all{{"format", "true-anvil-job"},
                 {"version", kJobFormatVersion},
                 {"unit", unit_name(job.display.unit)},
                 {"decimals", job.display.decimals},
                 {"reading_frame", job.reading_frame},
                 {"tolerance", {{"linear", job.tolerance.linear_mm}, {"angular", job.tolerance.angular_rad}}},
                 {"tool_plane", job.tool_plane},
                 {"inspection",
                  {{"margin", job.inspection.margin},
                   {"holder_diameter", job.inspection.holder_mm},
                   {"cutters", cutters_json(job.inspection.cutters)}}},
                 {"hole_names", hole_names},
                 {"machines", machines},
                 {"next_id", job.next_id},
                 {"views", views},
                 {"entries", entries}};
  return all.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

std::optional<int> job_version(const std::string& text) {
  const auto all = json_from(text);
  return all ? version_of(*all) : std::nullopt;
}

Result<Job> job_from_json(const std::string& text, const JobLoader& load) {
  const auto all = json_from(text);
  if (!all) return refuse(all.error().code, "job.json: " + all.error().sentence);
  if (!version_of(*all)) return refuse(RefusalCode::kUnreadable, "job.json is not a True Anvil job");
  try {
    return read_job(*all, load);
  } catch (const std::exception& error) {
    return refuse(RefusalCode::kUnreadable,
                  fmt::format("job.json cannot be understood: {}", in_words(error)));
  } catch (const Standard_Failure&) {
    return refuse(RefusalCode::kUnreadable, "job.json holds a direction of no length");
  }
}

}  // namespace anvil
