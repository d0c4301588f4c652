#include "report/setup_sheet.h"

#include <fmt/format.h>

#include "geom/primitives.h"
#include "part/measure.h"

namespace anvil {
namespace {

std::string escaped(const std::string& text) {
  std::string result;
  for (char c : text) {
    if (c == '<')
      result += "&lt;";
    else if (c == '>')
      result += "&gt;";
    else if (c == '&')
      result += "&amp;";
    else if (c == '"')
      result += "&quot;";
    else
      result += c;
  }
  return result;
}

std::string row(const std::string& label, const std::string& value) {
  return fmt::format("<tr><td style='color:#6A7076'>{}&nbsp;&nbsp;</td><td>{}</td></tr>", label,
                     escaped(value));
}

std::string facts(const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const gp_XYZ size = s.box_max - s.box_min;
  std::string table = "<table cellspacing='0' cellpadding='2'>";
  table += row("Work offset", s.work_offset.empty() ? "none given" : s.work_offset);
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
    html += "<td style='border-bottom:1px solid #D8D4CB'>" + escaped(value) + "</td>";
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
      html += cells({fmt::format("{} ({}×)", g.name, g.holes.size()), "", "", "", g.form});
  } else {
    for (const Hole& h : s.holes.holes)
      html +=
          cells({h.name, mm(h.entry.X()), mm(h.entry.Y()), mm(h.entry.Z()), s.holes.groups[h.group].form});
  }
  for (const Slot& slot : s.holes.slots) {
    const gp_Pnt middle = midpoint(slot.centre_a, slot.centre_b);
    const std::string form = fmt::format("slot {} × {}{}", mm(slot.width_mm), mm(slot.length_mm),
                                         slot.through ? " through" : " × " + mm(slot.depth_mm) + " deep");
    html += cells({slot.name, mm(middle.X()), mm(middle.Y()), mm(middle.Z()), form});
  }
  return html + "</table>" + (by_group ? "<p>Positions are in the hole list.</p>" : "");
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
  if (entry && entry->setup()) sheet.work_offset = entry->setup()->offset;
  if (const Entry* part = job.first_part()) {
    const SourceInfo& source = part->part()->part->source();
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
