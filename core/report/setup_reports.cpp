#include "report/setup_reports.h"

#include "geom/primitives.h"
#include "job/setup_on_machine.h"
#include "report/json_pieces.h"

namespace anvil {
namespace {

json angles_json(const Machine& machine, const Angles& angles) {
  json j = json::object();
  for (size_t i = 0; i < angles.size(); ++i) j[machine.rotary[i].name] = angle(angles[i]);
  return j;
}

json offsets_json(const SetupOnMachine& on, const In& in) {
  json rows = json::array();
  for (const IndexedOffset& offset : on.offsets)
    rows.push_back({{"tool_plane", offset.plane},
                    {"work_offset", work_offset_text(offset.offset)},
                    {"rotary", angles_json(*on.machine, offset.angles)},
                    {"in_machine", in.point(offset.in_machine)},
                    {"turn", angle(offset.turn_rad)},
                    {"remark", offset.remark}});
  return rows;
}

json stock_json(const StockBlock& stock, const gp_Ax2& frame, const In& in) {
  const gp_Trsf out = into_frame(frame) * into_frame(stock.frame).Inverted();
  json j{{"min", in.point(stock.box.min.Transformed(out))},
         {"max", in.point(stock.box.max.Transformed(out))},
         {"round", stock.round}};
  if (stock.round) j["diameter"] = in.length(stock_diameter(stock));
  return j;
}

json plane_json(const PlaneValue& plane, const Machine* machine, const In& in) {
  json poses = json::array();
  for (size_t i = 0; i < plane.poses.size() && machine; ++i) {
    json pose{{"key", plane.poses[i].key},
              {"chosen", i == plane.chosen},
              {"singular", plane.poses[i].is_singular()},
              {"off", angle(plane.poses[i].off_rad)},
              {"beyond", plane.poses[i].out_of}};
    for (size_t k = 0; k < machine->rotary.size(); ++k)
      pose[machine->rotary[k].name] = angle(plane.poses[i].angles[k]);
    poses.push_back(pose);
  }
  return {{"name", plane.name},
          {"zero", in.point(plane.in_setup.Location())},
          {"x", direction(plane.in_setup.XDirection())},
          {"z", direction(plane.in_setup.Direction())},
          {"poses", poses},
          {"problem", plane.problem}};
}

}  // namespace

json setup_value_json(const Job& job, const Evaluation& evaluation, const Entry& entry, Unit unit) {
  const In in(unit);
  const Setup& setup = *entry.setup();
  const SetupValue& value = *evaluation.entries.at(entry.id).setup;
  const Machine* machine = machine_of(job, setup);
  json planes = json::array();
  for (const PlaneValue& plane : value.planes) planes.push_back(plane_json(plane, machine, in));
  json j{{"work_offset", setup.offset},
         {"machine", setup.machine},
         {"zero", in.point(value.frame.Location())},
         {"x", direction(value.frame.XDirection())},
         {"z", direction(value.frame.Direction())},
         {"tool_planes", planes}};
  if (value.stock) j["stock"] = stock_json(*value.stock, value.frame, in);
  if (machine) {
    const auto on = setup_on_machine(job, evaluation, entry.id);
    j["offsets"] = on ? offsets_json(*on, in) : json::array();
  }
  return j;
}

std::string setup_text(const Job& job, const Setup& setup, const Evaluated& evaluated) {
  const Machine* machine = machine_of(job, setup);
  std::string text = machine ? machine->name : "no machine";
  if (evaluated.setup && evaluated.setup->stock)
    text += ", stock " + stock_text(*evaluated.setup->stock, job.display);
  return text;
}

std::string setups_json(const Job& job, const Evaluation& evaluation, Unit unit) {
  json setups = json::array();
  for (const Entry& entry : job.entries) {
    const auto at = evaluation.entries.find(entry.id);
    if (!entry.setup() || at == evaluation.entries.end() || !at->second.setup) continue;
    json j = setup_value_json(job, evaluation, entry, unit);
    j["name"] = entry.name;
    setups.push_back(std::move(j));
  }
  return text_of({{"unit", unit_name(unit)}, {"setups", setups}});
}

std::string proposals_json(const Proposals& proposals, const Machine* machine, const gp_Trsf& placed,
                           Unit unit) {
  json axes = json::array(), unreached = json::array();
  for (const ProposedAxis& axis : proposals.axes) {
    json holes = json::array();
    int corners = 0;
    for (const size_t f : axis.reaches) {
      if (proposals.features[f].kind == ToolFeature::Kind::kCorner)
        ++corners;
      else
        holes.push_back(proposals.features[f].name);
    }
    json j{{"direction", direction(axis.towards_tool)}, {"holes", holes}, {"corners", corners}};
    if (machine)
      if (const auto poses = poses_for(*machine, axis.towards_tool.Transformed(placed)))
        j["rotary"] = angles_json(*machine, poses->front().angles);
    axes.push_back(std::move(j));
  }
  for (size_t i = 0; i < proposals.unreached.size(); ++i)
    unreached.push_back(
        {{"name", proposals.features[proposals.unreached[i]].name}, {"why", proposals.why[i]}});
  return text_of({{"unit", unit_name(unit)},
                  {"machine", machine ? json(machine->name) : json(nullptr)},
                  {"axes", axes},
                  {"unreached", unreached}});
}

}  // namespace anvil
