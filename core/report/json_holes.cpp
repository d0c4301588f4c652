#include "inspect/hole_text.h"
#include "inspect/standard_sizes.h"
#include "report/json_pieces.h"
#include "report/json_reports.h"

namespace anvil {
namespace {

json slope(const std::optional<double>& rad) {
  return rad ? angle(*rad) : json(nullptr);
}

json could_be_json(double diameter_mm) {
  json all = json::array();
  for (const StandardSize& size : could_be(diameter_mm))
    all.push_back({{"size", size.size}, {"use", size.use}, {"standard", size.standard}});
  return all;
}

json apparent_json(const Hole& hole, const In& in) {
  json views = json::object();
  for (const auto& [name, along] :
       {std::pair("along_x", gp_Dir(1, 0, 0)), std::pair("along_y", gp_Dir(0, 1, 0)),
        std::pair("along_z", gp_Dir(0, 0, 1))}) {
    const ApparentShape seen = seen_along(hole, along);
    views[name] = {in.length(seen.long_mm), in.length(seen.short_mm)};
  }
  return views;
}

json wall_json(const std::optional<WallThickness>& wall, const In& in) {
  if (!wall) return nullptr;
  return {{"thickness", in.length(wall->thickness_mm)},
          {"face", wall->face},
          {"from", in.point(wall->on_hole)},
          {"to", in.point(wall->on_face)}};
}

json around_json(const HoleReport& report, const HoleSurroundings& s, const In& in) {
  json next = nullptr, edge = nullptr, crossed = json::array();
  if (s.next)
    next = {{"hole", report.holes[s.next->hole].name}, {"distance", in.length(s.next->distance_mm)}};
  if (s.edge) edge = {{"distance", in.length(s.edge->distance_mm)}, {"at", in.point(s.edge->at)}};
  for (const CrossedHole& c : s.crossed)
    crossed.push_back({{"hole", report.holes[c.hole].name}, {"place", in.point(c.place)}});
  return {{"next_hole", next},
          {"edge", edge},
          {"wall", wall_json(s.wall, in)},
          {"floor", wall_json(s.floor, in)},
          {"crosses", crossed}};
}

json hole_json(const Part& part, const HoleReport& report, const Hole& hole, const In& in) {
  json steps = json::array();
  for (const HoleStep& s : hole.steps)
    steps.push_back({{"kind", step_name(s.kind)},
                     {"diameter", in.length(s.diameter_mm)},
                     {"end_diameter", in.length(s.end_diameter_mm)},
                     {"depth", in.length(s.depth_mm)},
                     {"angle", angle(s.angle_rad)}});
  return {{"name", hole.name},
          {"body", part.bodies()[hole.body].name},
          {"entry", in.point(hole.entry)},
          {"axis", direction(hole.axis)},
          {"exit", hole.exit ? in.point(*hole.exit) : json(nullptr)},
          {"entry_slope", slope(hole.entry_slope_rad)},
          {"exit_slope", slope(hole.exit_slope_rad)},
          {"diameter", in.length(hole.diameter_mm)},
          {"depth", in.length(hole.depth_mm)},
          {"through", hole.through},
          {"full_turn", hole.full_turn},
          {"round", hole.round},
          {"axes", {in.length(hole.long_mm), in.length(hole.short_mm)}},
          {"polar",
           {in.length(std::hypot(hole.entry.X(), hole.entry.Y())),
            angle(std::atan2(hole.entry.Y(), hole.entry.X()))}},
          {"apparent", apparent_json(hole, in)},
          {"deviation", in.length(hole.deviation_mm)},
          {"could_be", hole.round ? could_be_json(hole.diameter_mm) : json::array()},
          {"group", report.groups[hole.group].name},
          {"steps", steps}};
}

json slot_json(const Part& part, const Slot& s, const In& in) {
  return {{"name", s.name},
          {"body", part.bodies()[s.body].name},
          {"centres", {in.point(s.centre_a), in.point(s.centre_b)}},
          {"axis", direction(s.axis)},
          {"direction", direction(s.direction)},
          {"width", in.length(s.width_mm)},
          {"length", in.length(s.length_mm)},
          {"depth", in.length(s.depth_mm)},
          {"through", s.through},
          {"open_end", s.open_end}};
}

json pattern_json(const HoleReport& report, const HolePattern& pattern, const In& in) {
  json names = json::array(), deviations = json::array();
  for (int hole : pattern.holes) names.push_back(report.holes[hole].name);
  for (const HoleDeviation& d : pattern.deviations)
    deviations.push_back({{"along", in.length(d.along_mm)},
                          {"across", in.length(d.across_mm)},
                          {"mend", in.point(gp_Pnt(d.mend.XYZ()))}});
  json j{{"kind", pattern_name(pattern.kind)}, {"holes", names}};
  switch (pattern.kind) {
    case HolePattern::Kind::kCircle:
      j["centre"] = in.point(pattern.centre);
      j["pitch_diameter"] = in.length(pattern.pitch_mm);
      j["start_angle"] = angle(pattern.start_angle_rad);
      j["angles_from"] = direction(pattern.direction);
      break;
    case HolePattern::Kind::kGrid:
      j["pitches"] = {in.length(pattern.pitch_mm), in.length(pattern.second_pitch_mm)};
      j["count"] = {pattern.columns, pattern.rows};
      j["direction"] = direction(pattern.direction);
      break;
    case HolePattern::Kind::kMirror:
      j["plane"] = {{"point", in.point(pattern.centre)}, {"normal", direction(pattern.normal)}};
      j["distance"] = in.length(pattern.pitch_mm);
      break;
    case HolePattern::Kind::kRow:
      j["pitch"] = in.length(pattern.pitch_mm);
      j["direction"] = direction(pattern.direction);
      break;
  }
  j["even"] = pattern.even;
  j["largest_deviation"] = in.length(pattern.largest_deviation_mm);
  j["deviations"] = deviations;
  return j;
}

json compared_json(const ComparedHole& row, const In& in) {
  const auto name = [](const std::string& text) { return text.empty() ? json(nullptr) : json(text); };
  json j{{"listed", name(row.listed)}, {"found", name(row.found)}, {"state", state_name(row.state)}};
  if (row.state != ComparedHole::State::kPass && row.state != ComparedHole::State::kFail) return j;
  j["dx"] = in.length(row.deviation.X());
  j["dy"] = in.length(row.deviation.Y());
  j["dz"] = in.length(row.deviation.Z());
  j["diameter_deviation"] = in.length(row.diameter_deviation_mm);
  j["depth_deviation"] = in.length(row.depth_deviation_mm);
  j["true_position"] = in.length(row.true_position_mm);
  json fails = json::array();
  for (const auto& [what, is] :
       {std::pair("position", row.position_fails), std::pair("diameter", row.diameter_fails),
        std::pair("depth", row.depth_fails), std::pair("through", row.through_fails),
        std::pair("axis", row.axis_fails)})
    if (is) fails.push_back(what);
  j["fails"] = fails;
  return j;
}

}  // namespace

std::string holes_json(const Part& part, const HoleReport& report, const std::string& frame, Unit unit,
                       const HoleAnswers& answers) {
  const In in(unit);
  json holes = json::array(), slots = json::array(), groups = json::array(), patterns = json::array(),
       compared = json::array();
  for (size_t i = 0; i < report.holes.size(); ++i) {
    holes.push_back(hole_json(part, report, report.holes[i], in));
    if (i < answers.around.size()) holes.back()["around"] = around_json(report, answers.around[i], in);
  }
  for (const Slot& s : report.slots) slots.push_back(slot_json(part, s, in));
  for (const HoleGroup& g : report.groups) {
    json names = json::array();
    for (int hole : g.holes) names.push_back(report.holes[hole].name);
    groups.push_back({{"name", g.name},
                      {"form", form_text(report, g, unit)},
                      {"count", g.holes.size()},
                      {"holes", names}});
  }
  for (const HolePattern& p : report.patterns) patterns.push_back(pattern_json(report, p, in));
  for (const ComparedHole& row : answers.comparison) compared.push_back(compared_json(row, in));
  return text_of({{"unit", unit_name(unit)},
                  {"frame", frame},
                  {"holes", holes},
                  {"slots", slots},
                  {"groups", groups},
                  {"patterns", patterns},
                  {"faces_not_judged", report.not_judged.size()},
                  {"comparison", compared}});
}

}  // namespace anvil
