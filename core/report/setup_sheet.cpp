#include "report/setup_sheet.h"

#include <fmt/format.h>

#include "geom/primitives.h"
#include "inspect/hole_text.h"
#include "job/plane_checks.h"
#include "job/setup_on_machine.h"
#include "part/measure.h"
#include "report/markup.h"

namespace anvil {
namespace {

std::string row(const std::string& label, const std::string& value) {
  return fmt::format("<tr><td style='color:#6A7076'>{}&nbsp;&nbsp;</td><td>{}</td></tr>", label,
                     escaped(value));
}

std::string facts(const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const gp_XYZ size = s.box_max - s.box_min;
  std::string table = "<table cellspacing='0' cellpadding='2'>";
  table += row("Work offset", s.work_offset.empty() ? "none given" : s.work_offset);
  if (!s.machine.empty()) table += row("Machine", s.machine);
  if (!s.stock.empty()) table += row("Stock", s.stock);
  table += row("Source", s.source_file);
  table += row("SHA-256", s.checksum.substr(0, 16) + "…");
  table += row("Unit", s.unit);
  table += row("Size", fmt::format("{} × {} × {}", mm(size.X()), mm(size.Y()), mm(size.Z())));
  table +=
      row("From", fmt::format("X {}  Y {}  Z {}", mm(s.box_min.X()), mm(s.box_min.Y()), mm(s.box_min.Z())));
  table +=
      row("To", fmt::format("X {}  Y {}  Z {}", mm(s.box_max.X()), mm(s.box_max.Y()), mm(s.box_max.Z())));
  std::string corner = s.smallest_radius_mm ? "R " + mm(*s.smallest_radius_mm) : "none";
  if (s.sharp_corners > 0) corner += fmt::format(", and {} sharp", s.sharp_corners);
  table += row("Smallest wall corner", corner);
  table +=
      row("Largest cutter", s.largest_cutter_mm ? "Ø " + mm(*s.largest_cutter_mm) : "not limited by corners");
  table += row("Date", s.date);
  return table + "</table>";
}

// A page holds so many rows; more holes than that are told by group.
constexpr size_t kRowsOnPage = 26;

std::string cells(std::initializer_list<std::string> values) {
  std::string html = "<tr>";
  for (const std::string& value : values)
    html += "<td style='border-bottom:1px solid #D8D4CB; white-space:nowrap'>" + escaped(value) + "</td>";
  return html + "</tr>";
}

std::string hole_table(const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const bool by_group = s.holes.holes.size() > kRowsOnPage;
  std::string html = "<table width='100%' cellspacing='0' cellpadding='2'><tr>";
  for (const char* head : {"Hole", "X", "Y", "Z", "Form"})
    html += fmt::format("<th align='left'>{}</th>", head);
  html += "</tr>";
  if (by_group) {
    for (const HoleGroup& g : s.holes.groups)
      html += cells({fmt::format("{} ({}×)", g.name, g.holes.size()), "", "", "",
                     form_text(s.holes, g, s.display.unit)});
  } else {
    for (const Hole& h : s.holes.holes)
      html += cells({h.name, mm(h.entry.X()), mm(h.entry.Y()), mm(h.entry.Z()),
                     form_text(s.holes, h.group, s.display.unit)});
  }
  for (const Slot& slot : s.holes.slots) {
    const gp_Pnt middle = midpoint(slot.centre_a, slot.centre_b);
    const std::string form = fmt::format("slot {} × {}{}", mm(slot.width_mm), mm(slot.length_mm),
                                         slot.through ? " through" : " × " + mm(slot.depth_mm) + " deep");
    html += cells({slot.name, mm(middle.X()), mm(middle.Y()), mm(middle.Z()), form});
  }
  return html + "</table>" + (by_group ? "<p>Positions are in the hole list.</p>" : "");
}

std::string plane_table(const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const auto point = [&](const gp_Pnt& p) {
    return fmt::format("{}  {}  {}", mm(p.X()), mm(p.Y()), mm(p.Z()));
  };
  std::string html = "<table width='100%' cellspacing='0' cellpadding='2' style='font-size:7pt'><tr>";
  for (const char* head :
       {"Plane", "Zero X Y Z", "I J K", "Rotary", "Offset", "In the machine X Y Z", "Corner, cutter"})
    html += fmt::format("<th align='left'>{}</th>", head);
  html += "</tr>";
  for (const SheetPlane& plane : s.planes) {
    const gp_Dir z = plane.frame.Direction();
    std::string corner = plane.smallest_radius_mm ? "R " + mm(*plane.smallest_radius_mm) : "none";
    if (plane.sharp_corners > 0) corner += fmt::format(", {} sharp", plane.sharp_corners);
    if (plane.largest_cutter_mm) corner += ", Ø " + mm(*plane.largest_cutter_mm);
    html += cells({plane.name, point(plane.frame.Location()),
                   fmt::format("{:.4f} {:.4f} {:.4f}", z.X() + 0.0, z.Y() + 0.0, z.Z() + 0.0), plane.angles,
                   plane.offset, plane.offset_in_machine ? point(*plane.offset_in_machine) : "", corner});
    if (!plane.remark.empty())
      html += "<tr><td></td><td colspan='6' style='color:#B3261E'>" + escaped(plane.remark) + "</td></tr>";
  }
  return html + "</table>";
}

void tell_setup(const Entry& entry, const Job& job, const Evaluation& evaluation, SetupSheet& sheet) {
  const Setup& setup = *entry.setup();
  sheet.work_offset = setup.offset;
  if (const Machine* machine = machine_of(job, setup))
    sheet.machine = machine->name + " (" + machine_summary(*machine) + ")";
  const auto at = evaluation.entries.find(entry.id);
  if (at == evaluation.entries.end() || !at->second.setup) return;
  if (at->second.setup->stock) sheet.stock = stock_text(*at->second.setup->stock, job.display);
}

// The planes of a setup as the sheet tells them, but for their corners.
std::vector<SheetPlane> planes_of(const Entry& entry, const Job& job, const Evaluation& evaluation,
                                  const SetupValue& value) {
  const Machine* machine = machine_of(job, *entry.setup());
  const auto on = setup_on_machine(job, evaluation, entry.id);
  std::vector<SheetPlane> planes;
  for (size_t i = 0; i < value.planes.size(); ++i) {
    const PlaneValue& plane = value.planes[i];
    SheetPlane told;
    told.name = plane.name;
    told.remark = plane.problem;
    told.frame = plane.in_setup;
    told.placed = plane.frame;
    told.picture = fmt::format("setup-{}-{}", entry.id, i);
    if (machine && plane.pose()) told.angles = angles_text(*machine, plane.pose()->angles);
    if (const IndexedOffset* offset = on ? on->offset_of(i) : nullptr) {
      told.offset = work_offset_text(offset->offset);
      told.offset_in_machine = offset->in_machine;
      if (!offset->remark.empty()) told.remark = offset->remark;
    }
    planes.push_back(std::move(told));
  }
  return planes;
}

}  // namespace

SetupSheet make_setup_sheet(const Job& job, const Evaluation& evaluation, const HoleReport& holes,
                            const CornerReport& corners, const std::string& date) {
  SetupSheet sheet;
  sheet.display = job.display;
  const gp_Ax2 frame = reading_frame(job, evaluation);
  const gp_Trsf into = into_frame(frame) * evaluation.placement;
  const Entry* entry = job.find(job.reading_frame);
  sheet.title = entry ? entry->name : reading_frame_name(job, job.reading_frame);
  if (entry && entry->setup()) tell_setup(*entry, job, evaluation, sheet);
  if (const Entry* part = job.first_part()) {
    const SourceInfo& source = part->part()->part()->source();
    sheet.source_file = source.file_name;
    sheet.checksum = source.sha256;
    const Box box = exact_box(evaluation.part->shape(), into);
    sheet.box_min = box.min.XYZ();
    sheet.box_max = box.max.XYZ();
  }
  sheet.unit = unit_name(job.display.unit);
  sheet.date = date;
  sheet.zero = frame.Location();
  sheet.holes = moved(holes, into);
  sheet.smallest_radius_mm = corners.smallest_wall_radius_mm;
  sheet.largest_cutter_mm = corners.largest_cutter_mm;
  sheet.sharp_corners = corners.sharp_wall_corners;
  return sheet;
}

Result<std::vector<SetupSheet>> make_setup_sheets(const Job& job, const Evaluation& evaluation,
                                                  const HoleReport& holes, const std::string& date,
                                                  const Progress& progress) {
  const auto checks = check_planes(job, evaluation, holes, progress);
  if (!checks) return refuse(checks);
  std::vector<SetupSheet> sheets;
  for (const Entry& entry : job.entries) {
    const auto at = evaluation.entries.find(entry.id);
    if (!entry.setup() || at == evaluation.entries.end() || !at->second.setup || !evaluation.part) continue;
    std::vector<SheetPlane> planes = planes_of(entry, job, evaluation, *at->second.setup);
    CornerReport own;
    for (const PlaneCheck& check : *checks) {
      if (check.setup != entry.id) continue;
      SheetPlane& plane = planes[static_cast<size_t>(check.plane)];
      plane.smallest_radius_mm = check.smallest_radius_mm;
      plane.largest_cutter_mm = check.largest_cutter_mm;
      plane.sharp_corners = check.sharp_corners;
      if (check.plane != 0) continue;
      own.smallest_wall_radius_mm = check.smallest_radius_mm;
      own.largest_cutter_mm = check.largest_cutter_mm;
      own.sharp_wall_corners = check.sharp_corners;
    }
    Job read = job;
    read.reading_frame = entry.id;
    SetupSheet sheet = make_setup_sheet(read, evaluation, holes, own, date);
    sheet.planes = std::move(planes);
    sheets.push_back(std::move(sheet));
  }
  if (sheets.empty()) return refuse(RefusalCode::kUnknownName, "the job has no setup to tell");
  return sheets;
}

std::string setup_sheets_html(const std::vector<SetupSheet>& sheets,
                              const std::function<std::string(const std::string& name)>& source_of,
                              int picture_width_px) {
  std::string html =
      "<html><head><meta charset='utf-8'><title>Setup sheets</title></head>"
      "<body style='font-family:Inter,sans-serif; font-size:9pt; color:#24282C'>";
  for (size_t i = 0; i < sheets.size(); ++i) {
    const SetupSheet& s = sheets[i];
    html += fmt::format("<div{}>", i ? " style='page-break-before:always'" : "");
    html += fmt::format(
        "<h1 style='font-size:16pt; margin-bottom:2px'>{} · {}</h1><p style='color:#6A7076; "
        "margin-top:0'>Setup "
        "sheet {} of {} · {}</p>",
        escaped(s.title), escaped(s.work_offset), i + 1, sheets.size(), escaped(s.source_file));
    html += facts(s) + "<h2 style='font-size:11pt'>Tool planes</h2>" + plane_table(s);
    std::string pictures;
    for (size_t k = 0; k < s.planes.size(); ++k) {
      const std::string source = source_of ? source_of(s.planes[k].picture) : std::string();
      if (source.empty()) continue;
      if (k % 2 == 0) pictures += k ? "</tr><tr>" : "<tr>";
      pictures += fmt::format("<td><img src='{}' width='{}'><br>{}</td>", source, picture_width_px,
                              escaped(s.planes[k].name));
    }
    if (!pictures.empty()) html += "<table cellspacing='6'>" + pictures + "</tr></table>";
    html += fmt::format("<h2 style='font-size:11pt'>Holes: {} in {} groups</h2>{}</div>",
                        s.holes.holes.size(), s.holes.groups.size(), hole_table(s));
  }
  return html + "</body></html>\n";
}

std::string setup_sheet_html(const SetupSheet& s, const std::string& picture, int picture_width_px) {
  std::string title = escaped(s.title);
  if (!s.work_offset.empty()) title += " · " + s.work_offset;
  return fmt::format(
      "<html><body style='font-family:Inter; font-size:9pt; color:#24282C'>"
      "<h1 style='font-size:16pt; margin-bottom:2px'>{}</h1><p style='color:#6A7076; margin-top:0'>Setup "
      "sheet · {}</p>"
      "<table width='100%' cellspacing='0' cellpadding='0'><tr><td valign='top'><img src='{}' "
      "width='{}'></td><td valign='top'>{}</td></tr></table>"
      "<h2 style='font-size:11pt'>Holes: {} in {} groups</h2>{}</body></html>",
      title, escaped(s.source_file), picture, picture_width_px, facts(s), s.holes.holes.size(),
      s.holes.groups.size(), hole_table(s));
}

}  // namespace anvil
