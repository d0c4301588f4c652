#include "job/job_json.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

namespace anvil {
namespace {

using nlohmann::json;

json triple(const gp_XYZ& p) {
  return json::array({p.X(), p.Y(), p.Z()});
}
gp_XYZ triple_from(const json& j) {
  return {j.at(0).get<double>(), j.at(1).get<double>(), j.at(2).get<double>()};
}

const char* const kTopologyNames[] = {"face", "edge", "vertex"};
const char* const kSnapNames[] = {"whole", "middle", "centre"};

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
         {"size", t.size_mm}};
  }
  if (reference.clicked) j["clicked"] = triple(reference.clicked->XYZ());
  return j;
}

Reference reference_from(const json& j) {
  Reference reference;
  if (j.contains("entry")) {
    reference.target = EntryReference{j.at("entry").get<int>()};
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
    reference.target = t;
  }
  if (j.contains("clicked")) reference.clicked = gp_Pnt(triple_from(j["clicked"]));
  return reference;
}

json to_json(const Recipe& recipe) {
  json inputs = json::array();
  for (const Reference& input : recipe.inputs) inputs.push_back(to_json(input));
  return {{"construction", recipe.construction},
          {"inputs", inputs},
          {"parameters", recipe.parameters},
          {"choice", recipe.choice},
          {"flipped", recipe.flipped}};
}

Recipe recipe_from(const json& j) {
  Recipe recipe;
  recipe.construction = j.at("construction");
  for (const json& input : j.at("inputs")) recipe.inputs.push_back(reference_from(input));
  recipe.parameters = j.at("parameters").get<ParameterTexts>();
  recipe.choice = j.at("choice");
  recipe.flipped = j.at("flipped");
  return recipe;
}

json to_json(const Entry& entry) {
  json j{{"id", entry.id}, {"name", entry.name}, {"visible", entry.visible}};
  if (const PartEntry* part = entry.part()) {
    j["part"] = {{"source", source_path(*part)}, {"sha256", part->part->source().sha256}};
  } else if (const PlacementEntry* placement = entry.placement()) {
    json steps = json::array();
    for (const Recipe& step : placement->steps) steps.push_back(to_json(step));
    j["placement"] = {{"steps", steps}};
  } else {
    j["datum"] = to_json(entry.datum()->recipe);
    j["datum"]["makes"] = makes_name(entry.datum()->makes);
  }
  return j;
}

Makes makes_from(const std::string& name) {
  for (const Makes makes : {Makes::kPoint, Makes::kAxis, Makes::kPlane, Makes::kFrame, Makes::kMeasurement})
    if (name == makes_name(makes)) return makes;
  throw std::runtime_error(fmt::format("kind of datum \"{}\" is not known", name));
}

Result<Entry> entry_from(const json& j, const SourceLoader& load_part) {
  Entry entry;
  entry.id = j.at("id");
  entry.name = j.at("name");
  entry.visible = j.at("visible");
  if (j.contains("part")) {
    auto source = load_part(j["part"].at("source"));
    if (!source) return refuse(source);
    entry.content = PartEntry{source->part, source->bytes};
  } else if (j.contains("placement")) {
    PlacementEntry placement;
    for (const json& step : j["placement"].at("steps")) placement.steps.push_back(recipe_from(step));
    entry.content = placement;
  } else {
    entry.content = DatumEntry{makes_from(j.at("datum").at("makes")), recipe_from(j["datum"])};
  }
  return entry;
}

// A reference may only point backward; anything else would make evaluation depend on itself.
Result<void> check_order(const Job& job) {
  std::vector<int> seen;
  for (const Entry& entry : job.entries) {
    for (const Reference& input : inputs_of(entry)) {
      const auto* to_entry = std::get_if<EntryReference>(&input.target);
      const int target = to_entry ? to_entry->entry : std::get<TopologyReference>(input.target).part_entry;
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

std::string source_path(const PartEntry& part) {
  const SourceInfo& source = part.part->source();
  return fmt::format("sources/{}/{}", source.sha256.substr(0, 12), source.file_name);
}

std::string job_to_json(const Job& job) {
  json entries = json::array();
  for (const Entry& entry : job.entries) entries.push_back(to_json(entry));
  const json all{{"format", "true-anvil-job"},
                 {"version", kJobFormatVersion},
                 {"unit", unit_name(job.display.unit)},
                 {"decimals", job.display.decimals},
                 {"reading_frame", job.reading_frame},
                 {"next_id", job.next_id},
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

Result<Job> job_from_json(const std::string& text, const SourceLoader& load_part) {
  if (!job_version(text)) return refuse(RefusalCode::kUnreadable, "job.json is not a True Anvil job");
  try {
    const json all = json::parse(text);
    Job job;
    job.display.unit = unit_from_name(all.at("unit").get<std::string>()).value_or(Unit::kMillimetre);
    job.display.decimals = std::clamp(all.at("decimals").get<int>(), 0, 6);
    job.reading_frame = all.at("reading_frame");
    job.next_id = all.at("next_id");
    for (const json& j : all.at("entries")) {
      auto entry = entry_from(j, load_part);
      if (!entry) return refuse(entry);
      job.next_id = std::max(job.next_id, entry->id + 1);
      job.entries.push_back(std::move(*entry));
    }
    if (auto order = check_order(job); !order) return refuse(order);
    return job;
  } catch (const std::exception& error) {
    return refuse(RefusalCode::kUnreadable, fmt::format("job.json cannot be understood: {}", error.what()));
  } catch (const Standard_Failure&) {
    return refuse(RefusalCode::kUnreadable, "job.json holds a direction of no length");
  }
}

}  // namespace anvil
