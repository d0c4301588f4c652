#include "store/recipe_json.h"

namespace anvil {
namespace {

using nlohmann::json;

const char* const kRegionName = "region";
const char* const kTopologyNames[] = {topology_name(TopologyKind::kFace), topology_name(TopologyKind::kEdge),
                                      topology_name(TopologyKind::kVertex)};
const char* const kSnapNames[] = {"whole",      "middle",     "centre",     "start",     "end",
                                  "quadrant-1", "quadrant-2", "quadrant-3", "quadrant-4"};

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

}  // namespace

json triple(const gp_XYZ& p) {
  return json::array({p.X(), p.Y(), p.Z()});
}
gp_XYZ triple_from(const json& j) {
  return {j.at(0).get<double>(), j.at(1).get<double>(), j.at(2).get<double>()};
}

Colour colour_from(const json& j) {
  const auto share = [&](size_t i) {
    const double value = j.at(i).get<double>();
    if (!(value >= 0 && value <= 1))
      throw std::runtime_error(fmt::format("colour {} of {} is not from 0 to 1", i + 1, j.dump()));
    return value;
  };
  return {share(0), share(1), share(2)};
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
         {"kind", topology_name(t.kind)},
         {"point", kSnapNames[static_cast<int>(t.snap)]},
         {"body", t.body},
         {"index", t.index_hint},
         {"shape", t.shape},
         {"where", triple(t.where.XYZ())},
         {"direction", triple(t.direction.XYZ())},
         {"size", t.size_mm},
         {"axis_at", triple(t.axis_at.XYZ())}};
    if (t.made_on != 0) j["made_on"] = t.made_on;
  }
  if (reference.clicked) j["clicked"] = triple(reference.clicked->XYZ());
  return j;
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
    t.made_on = j.value("made_on", 0);
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

}  // namespace anvil
