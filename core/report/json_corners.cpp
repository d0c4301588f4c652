#include "report/json_pieces.h"
#include "report/json_reports.h"

namespace anvil {
namespace {

json corner_json(const CornerReport& report, const Corner& c, const In& in) {
  json j{{"name", c.name}, {"kind", corner_name(c.kind)}, {"radius", in.length(c.radius_mm)}};
  if (c.kind == CornerKind::kTaper) j["largest_radius"] = in.length(c.largest_radius_mm);
  j["angle"] = angle(c.angle_rad);
  j["position"] = in.point(c.position);
  j["top"] = in.length(c.top_mm);
  j["bottom"] = in.length(c.bottom_mm);
  j["depth"] = in.length(c.depth_mm);
  j["reach"] = in.length(c.reach_mm);
  j["deviation"] = in.length(c.deviation_mm);
  j["floor_radius"] = in.length(c.floor_radius_mm);
  j["approximate"] = c.kind == CornerKind::kFreeForm;
  j["reach_approximate"] = c.reach_is_from_mesh;
  j["undercut"] = c.undercut;
  j["pocket"] = c.pocket >= 0 ? json(report.pockets[c.pocket].name) : json(nullptr);
  return j;
}

std::optional<double> width_of(const std::optional<Narrow>& narrow) {
  return narrow ? std::optional(narrow->width_mm) : std::nullopt;
}

json passage_json(const std::optional<Narrow>& narrow, const In& in) {
  if (!narrow) return nullptr;
  return {{"width", in.length(narrow->width_mm)},
          {"between", json::array({in.point(narrow->on_a), in.point(narrow->on_b)})},
          {"faces", json::array({narrow->face_a, narrow->face_b})},
          {"approximate", narrow->approximate}};
}

// That there is no largest cutter means either of two things, which are never mixed.
const char* why_name(const CornerReport& report, const std::optional<double>& largest_cutter_mm) {
  if (largest_cutter_mm) return "limited";
  return !report.sections || report.has_passages_not_looked_at ? "not-looked-at" : "nothing-limits";
}

json pocket_json(const CornerReport& report, const Pocket& p, const In& in) {
  json corners = json::array();
  for (int corner : p.corners) corners.push_back(report.corners[corner].name);
  return {{"name", p.name},
          {"open", p.open},
          {"through", p.through},
          {"undercut", p.undercut},
          {"top", in.length(p.top_mm)},
          {"bottom", in.length(p.bottom_mm)},
          {"depth", in.length(p.depth_mm)},
          {"smallest_corner", in.length(p.smallest_corner_mm)},
          {"sharp_corner", p.has_sharp_corner},
          {"floor_radius", in.length(p.floor_radius_mm)},
          {"sharp_floor", p.has_sharp_floor},
          {"narrowest_passage", in.length(width_of(p.narrowest))},
          {"passage", passage_json(p.narrowest, in)},
          {"reach", in.length(p.reach_mm)},
          {"round", p.round},
          {"largest_cutter", in.length(p.largest_cutter_mm)},
          {"largest_cutter_why", why_name(report, p.largest_cutter_mm)},
          {"largest_cutter_by", p.largest_cutter_why},
          {"corners", corners}};
}

json cutter_json(const Cutter& c, const In& in) {
  return {{"number", c.number},
          {"name", c.name},
          {"diameter", in.length(c.diameter_mm)},
          {"corner_radius", in.length(c.corner_radius_mm)}};
}

// Which cutter of the list fits a pocket, and why the others do not.
void add_cutters(json& pocket, const PocketCutters& judged, const std::vector<Cutter>& cutters,
                 const In& in) {
  pocket["cutter"] = judged.largest ? cutter_json(cutters[*judged.largest], in) : json(nullptr);
  pocket["cutters"] = json::array();
  for (const CutterInPocket& tried : judged.tried) {
    json fails = json::array();
    for (const CutterFailure& f : tried.failures)
      fails.push_back({{"limit", limit_name(f.limit)},
                       {"allowed", in.length(f.allowed_mm)},
                       {"has", in.length(f.has_mm)}});
    pocket["cutters"].push_back({{"number", cutters[tried.cutter].number},
                                 {"fits", tried.failures.empty()},
                                 {"fails", fails},
                                 {"left_at_floor", in.length(tried.left_at_floor_mm)}});
  }
}

json left_json(const std::optional<LeftByCutter>& left, const In& in) {
  if (!left) return nullptr;
  json levels = json::array();
  for (const LeftLayer& layer : left->layers)
    levels.push_back({{"bottom", in.length(layer.bottom_mm)},
                      {"top", in.length(layer.top_mm)},
                      {"area", in.area(layer.area_mm2)}});
  return {{"diameter", in.length(left->diameter_mm)},
          {"volume", in.volume(left->volume_mm3)},
          {"largest_thickness", in.length(left->largest_thickness_mm)},
          {"thickest_at", left->layers.empty() ? json(nullptr) : in.point(left->thickest)},
          {"bound", in.length(left->bound_mm)},
          {"levels", levels}};
}

json unexplained_json(const std::optional<Unexplained>& left, const In& in) {
  if (!left) return nullptr;
  return {{"cutter", in.length(left->cutter_mm)},
          {"volume", in.volume(left->volume_mm3)},
          {"at", in.point(left->at)}};
}

}  // namespace

std::string corners_json(const Part& part, const CornerReport& report, Unit unit,
                         const CornerAnswers& answers) {
  const In in(unit);
  json corners = json::array(), pockets = json::array();
  for (const Corner& c : report.corners) corners.push_back(corner_json(report, c, in));
  for (const Pocket& p : report.pockets) pockets.push_back(pocket_json(report, p, in));
  for (const PocketCutters& judged : answers.judged)
    add_cutters(pockets[judged.pocket], judged, answers.cutters, in);
  for (size_t p = 0; p < answers.left_in_pockets.size(); ++p)
    pockets[p]["left"] = in.volume(answers.left_in_pockets[p]);
  return text_of({{"unit", unit_name(unit)},
                  {"file", part.source().file_name},
                  {"axis", direction(report.options.axis)},
                  {"margin", report.options.margin},
                  {"corners", corners},
                  {"pockets", pockets},
                  {"smallest_wall_radius", in.length(report.smallest_wall_radius_mm)},
                  {"sharp_wall_corners", report.sharp_wall_corners},
                  {"largest_cutter", in.length(report.largest_cutter_mm)},
                  {"largest_cutter_why", why_name(report, report.largest_cutter_mm)},
                  {"largest_cutter_by", report.largest_cutter_why},
                  {"smallest_approximate", report.smallest_is_approximate},
                  {"narrowest_passage", in.length(width_of(report.narrowest_passage))},
                  {"passage", passage_json(report.narrowest_passage, in)},
                  {"left_unexplained", unexplained_json(report.unexplained, in)},
                  {"not_judged", report.not_judged},
                  {"passages_not_looked_at", report.has_passages_not_looked_at},
                  {"faces_not_judged", report.not_judged.size()},
                  {"left_by_cutter", left_json(answers.left, in)}});
}

std::string hollows_json(const Part& part, const HollowReport& report, Unit unit) {
  const In in(unit);
  json groups = json::array();
  for (const HollowGroup& g : report.groups)
    groups.push_back({{"kind", hollow_name(g.kind)},
                      {"radius", in.length(g.radius_mm)},
                      {"approximate", g.approximate},
                      {"direction", g.direction ? direction(*g.direction) : json(nullptr)},
                      {"count", g.count},
                      {"faces", g.faces},
                      {"edges", g.edges}});
  return text_of({{"unit", unit_name(unit)},
                  {"file", part.source().file_name},
                  {"axis", nullptr},
                  {"smallest_radius", in.length(report.smallest_radius_mm)},
                  {"hollows", groups}});
}

}  // namespace anvil
