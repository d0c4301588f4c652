#include "report/json_reports.h"

#include <fmt/format.h>

#include <gp_Quaternion.hxx>

#include "geom/coordinate.h"
#include "geom/primitives.h"
#include "job/correcting.h"
#include "job/names.h"
#include "part/measure.h"
#include "part/mesh.h"
#include "report/json_pieces.h"
#include "report/setup_reports.h"

namespace anvil {
namespace {

json body_json(const Part& part, size_t index, const In& in, double tolerance_mm) {
  const Body& body = part.bodies()[index];
  const auto belongs = [&](const auto& item) { return item.body == static_cast<int>(index); };
  const TopologyIndex& t = part.topology();
  const std::vector<Finding> findings = check_soundness(part, static_cast<int>(index), tolerance_mm);
  const bool mesh = body.kind == BodyKind::kMesh;
  const auto [volume, area] = mesh ? mesh_shape_properties(body.shape) : shape_properties(body.shape);
  const Box box = exact_box(body.shape);
  json list = json::array();
  for (const Finding& f : findings)
    list.push_back({{"kind", finding_name(f.kind)},
                    {"where", f.where ? in.point(*f.where) : json(nullptr)},
                    {"text", f.text},
                    {"amount", in.length(f.amount)},
                    {"count", f.count},
                    {"mendable", f.mendable}});
  return {{"name", body.name},
          {"kind", body_kind_name(body.kind)},
          {"path", body.path},
          {"sound", findings.empty()},
          {"faces", std::count_if(t.faces.begin(), t.faces.end(), belongs)},
          {"edges", std::count_if(t.edges.begin(), t.edges.end(), belongs)},
          {"vertices", std::count_if(t.vertices.begin(), t.vertices.end(), belongs)},
          {"volume", in.volume(body.kind == BodyKind::kShell ? 0.0 : volume.volume_mm3)},
          {"area", in.area(area.area_mm2)},
          {"box", {{"min", in.point(box.min)}, {"max", in.point(box.max)}}},
          {"centroid", in.point(body.kind == BodyKind::kShell ? area.centroid : volume.centroid)},
          {"findings", list}};
}

// Where an entry lies, told in the reading frame of the job.
struct ValueJson {
  const In& in;
  const gp_Ax2& frame;
  json at(const gp_Pnt& p) const { return in.point(read_in(frame, p)); }
  json along(const gp_Dir& d) const { return direction(read_in(frame, d)); }

  json operator()(const PointDatum& v) const { return {{"point", at(v.point)}}; }
  json operator()(const AxisDatum& v) const {
    return {{"point", at(v.axis.Location())}, {"direction", along(v.axis.Direction())}};
  }
  json operator()(const PlaneDatum& v) const {
    return {{"point", at(v.centre)}, {"normal", along(v.plane.Axis().Direction())}};
  }
  json operator()(const FrameDatum& v) const {
    return {{"zero", at(v.frame.Location())},
            {"x", along(v.frame.XDirection())},
            {"y", along(v.frame.YDirection())},
            {"z", along(v.frame.Direction())}};
  }
  json number(Measurement::Kind kind, double value) const {
    switch (kind) {
      case Measurement::Kind::kAngle:
        return angle(value);
      case Measurement::Kind::kArea:
        return in.area(value);
      case Measurement::Kind::kVolume:
        return in.volume(value);
      case Measurement::Kind::kDistance:
        break;
    }
    return in.length(value);
  }
  json operator()(const Measurement& v) const {
    json j;
    if (v.kind == Measurement::Kind::kDistance)
      j = {{"distance", in.length(v.value)}, {"from", at(v.from)}, {"to", at(v.to)}};
    else
      j[measured_name(v.kind)] = number(v.kind, v.value);
    for (const Measurement::Detail& detail : v.details) j[detail.name] = number(detail.kind, detail.value);
    return j;
  }
  json operator()(const FigureDatum& v) const {
    json corners = json::array();
    double length = 0;
    for (const TopoDS_Edge& edge : v.edges) {
      corners.push_back(at(*given_by_curve(edge, Snap::kStart).point));
      length += length_of(edge);
    }
    return {{"edges", v.edges.size()},
            {"starts", corners},
            {"length", in.length(length)},
            {"normal", along(v.plane.Axis().Direction())}};
  }
  json operator()(const PlannedCorrection& v) const {
    json bodies = json::array();
    for (const PlanStep& step : v.plan->steps) bodies.push_back(step.body);
    return {{"bodies", bodies}, {"new_bodies", v.plan->bodies.size()}};
  }
  json operator()(const PlacementStep& v) const {
    json matrix = json::array();
    const auto rows = rows_of(v.motion);
    for (size_t i = 0; i < rows.size(); ++i)
      matrix.push_back(i % 4 == 3 ? in.length(rows[i]) : json(rounded(rows[i])));
    for (double last : {0.0, 0.0, 0.0, 1.0}) matrix.push_back(last);
    return {{"matrix", matrix}};
  }
};

struct ValueText {
  const gp_Ax2& frame;
  const Display& display;
  std::string operator()(const PointDatum& v) const { return point_text(v.point, frame, display); }
  std::string operator()(const AxisDatum& v) const {
    return "along " + direction_text(read_in(frame, v.axis.Direction()));
  }
  std::string operator()(const PlaneDatum& v) const {
    const gp_Dir normal = read_in(frame, v.plane.Axis().Direction());
    const double level = gp_Vec(gp_Pnt(0, 0, 0), read_in(frame, v.plane.Location())).Dot(gp_Vec(normal));
    const std::string text = direction_text(normal);
    if (text.size() == 2)
      return text.substr(1) + " " + format_length(text[0] == '-' ? -level : level, display);
    return "normal " + text;
  }
  std::string operator()(const FrameDatum& v) const { return point_text(v.frame.Location(), frame, display); }
  std::string operator()(const Measurement& v) const {
    if (v.kind != Measurement::Kind::kDistance || !v.details.empty()) return measurement_text(v, display);
    const gp_Pnt a = read_in(frame, v.from), b = read_in(frame, v.to);
    return format_length(v.value, display) + "  (d" +
           point_text(gp_Pnt(b.XYZ() - a.XYZ()), world_frame(), display) + ")";
  }
  std::string operator()(const FigureDatum& v) const {
    double length = 0;
    for (const TopoDS_Edge& edge : v.edges) length += length_of(edge);
    return "length " + format_length(length, display) + "  " + point_text(v.plane.Location(), frame, display);
  }
  std::string operator()(const PlannedCorrection&) const { return {}; }
  std::string operator()(const PlacementStep& v) const {
    gp_Vec axis;
    double turn = 0;
    v.motion.GetRotation().GetVectorAndAngle(axis, turn);
    return "turned " + format_angle(turn, {display.unit, display.decimals, 1});
  }
};

}  // namespace

std::string point_text(const gp_Pnt& point, const gp_Ax2& frame, const Display& display) {
  const gp_Pnt p = read_in(frame, point);
  return "X " + format_length(p.X(), display) + "  Y " + format_length(p.Y(), display) + "  Z " +
         format_length(p.Z(), display);
}

std::string written_json(const std::filesystem::path& file, const std::string& format, Unit unit,
                         const ExportReport& report) {
  return text_of({{"written", file.filename().string()},
                  {"format", format},
                  {"unit", unit_name(unit)},
                  {"bodies", report.bodies},
                  {"faces", report.faces}});
}

std::string info_json(const Part& part, Unit unit, double tolerance_mm) {
  const In in(unit);
  const SourceInfo& source = part.source();
  json bodies = json::array();
  for (size_t i = 0; i < part.bodies().size(); ++i) bodies.push_back(body_json(part, i, in, tolerance_mm));
  return text_of({{"file", source.file_name},
                  {"format", source.format},
                  {"schema", source.schema},
                  {"source_unit", source.unit_name},
                  {"unit", unit_name(unit)},
                  {"warnings", source.warnings},
                  {"bodies", bodies}});
}

std::string job_list_json(const Job& job, const Evaluation& evaluation, Unit unit) {
  const In in(unit);
  const gp_Ax2 frame = reading_frame(job, evaluation);
  json entries = json::array();
  for (const Entry& entry : job.entries) {
    const auto at = evaluation.entries.find(entry.id);
    const Evaluated evaluated = at == evaluation.entries.end() ? Evaluated{} : at->second;
    json value = json::object();
    if (entry.part())
      value = {{"file", entry.part()->part()->source().file_name},
               {"bodies", entry.part()->part()->bodies().size()}};
    if (evaluated.healed)
      value = {{"largest_movement", in.length(evaluated.healed->largest_movement_mm)},
               {"changes", evaluated.healed->lines}};
    if (evaluated.value) value = std::visit(ValueJson{in, frame}, *evaluated.value);
    if (evaluated.corrected) {
      value["added"] = in.volume(evaluated.corrected->added_mm3);
      value["removed"] = in.volume(evaluated.corrected->removed_mm3);
    }
    entries.push_back({{"id", entry.id},
                       {"kind", kind_name(entry)},
                       {"name", entry.name},
                       {"state", state_name(evaluated.state)},
                       {"reason", evaluated.reason},
                       {"value", value}});
    if (evaluated.setup) entries.back()["value"] = setup_value_json(job, evaluation, entry, unit);
    if (entry.datum())
      entries.back()["tolerance"] = {{"linear", in.length(evaluated.tolerance.linear_mm)},
                                     {"angular", rounded(degrees(evaluated.tolerance.angular_rad))}};
  }
  return text_of({{"unit", unit_name(unit)},
                  {"reading_frame", reading_frame_name(job, job.reading_frame)},
                  {"entries", entries}});
}

namespace {

// "79 faces"; of scans their triangles: "33980 triangles".
std::string pieces_text(const Part& part) {
  size_t faces = 0, triangles = 0;
  for (const FaceInfo& info : part.topology().faces) {
    const bool is_mesh = part.bodies()[static_cast<size_t>(info.body)].kind == BodyKind::kMesh;
    is_mesh ? triangles += triangle_count(info.face) : ++faces;
  }
  const std::string exact = fmt::format("{} face{}", faces, faces == 1 ? "" : "s"),
                    scanned = fmt::format("{} triangles", triangles);
  return triangles == 0 ? exact : faces == 0 ? scanned : exact + ", " + scanned;
}

}  // namespace

std::string value_text(const Job& job, const Evaluation& evaluation, const Entry& entry) {
  if (const PartEntry* part = entry.part()) {
    const size_t bodies = part->part()->bodies().size();
    const std::string pieces = pieces_text(*part->part());
    return bodies == 1 ? pieces : fmt::format("{}", bodies) + " bodies, " + pieces;
  }
  const auto at = evaluation.entries.find(entry.id);
  if (entry.healing()) {
    const bool told =
        at != evaluation.entries.end() && at->second.healed && !at->second.healed->lines.empty();
    return told ? at->second.healed->lines.front() : std::string();
  }
  if (at == evaluation.entries.end() || !at->second.value) return {};
  if (at->second.corrected) return change_text(*at->second.corrected, job.display);
  if (entry.setup()) return setup_text(job, *entry.setup(), at->second);
  return std::visit(ValueText{reading_frame(job, evaluation), job.display}, *at->second.value);
}

}  // namespace anvil
