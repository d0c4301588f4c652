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

constexpr const char* kQuiet = "color:#6A7076";
constexpr const char* kHeading = "font-size:11pt";

void row(Markup& page, const char* label, const std::string& value) {
  page.open("tr").element("td", {{"style", kQuiet}}, label + std::string("\u00A0\u00A0"));
  page.element("td", {}, value).close();
}

void facts(Markup& page, const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const auto point = [&](const gp_XYZ& p) {
    return fmt::format("X {}  Y {}  Z {}", mm(p.X()), mm(p.Y()), mm(p.Z()));
  };
  const gp_XYZ size = s.box_max - s.box_min;
  page.open("table", {{"cellspacing", "0"}, {"cellpadding", "2"}});
  row(page, "Work offset", s.work_offset.empty() ? "none given" : s.work_offset);
  if (!s.machine.empty()) row(page, "Machine", s.machine);
  if (!s.stock.empty()) row(page, "Stock", s.stock);
  row(page, "Source", s.source_file);
  row(page, "SHA-256", s.checksum.substr(0, 16) + "…");
  row(page, "Unit", s.unit);
  row(page, "Size", fmt::format("{} × {} × {}", mm(size.X()), mm(size.Y()), mm(size.Z())));
  row(page, "From", point(s.box_min));
  row(page, "To", point(s.box_max));
  row(page, "Corners", corner_text(s.corners, s.display));
  row(page, "Cutter", largest_cutter_text(s.corners, s.display));
  if (!s.corners.reservations.empty()) row(page, "But", s.corners.reservations);
  row(page, "Date", s.date);
  page.close();
}

// A page holds so many rows; more holes than that are told by group.
constexpr size_t kRowsOnPage = 26;

void cells(Markup& page, std::initializer_list<std::string> values) {
  page.open("tr");
  for (const std::string& value : values)
    page.element("td", {{"style", "border-bottom:1px solid #D8D4CB; white-space:nowrap"}}, value);
  page.close();
}

void heads(Markup& page, std::initializer_list<const char*> names) {
  page.open("tr");
  for (const char* name : names) page.element("th", {{"align", "left"}}, name);
  page.close();
}

void hole_table(Markup& page, const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const bool by_group = s.holes.holes.size() > kRowsOnPage;
  page.element("h2", {{"style", kHeading}},
               fmt::format("Holes: {} in {} groups", s.holes.holes.size(), s.holes.groups.size()));
  page.open("table", {{"width", "100%"}, {"cellspacing", "0"}, {"cellpadding", "2"}});
  heads(page, {"Hole", "X", "Y", "Z", "Form"});
  if (by_group) {
    for (const HoleGroup& g : s.holes.groups)
      cells(page, {fmt::format("{} ({}×)", g.name, g.holes.size()), "", "", "",
                   form_text(s.holes, g, s.display.unit)});
  } else {
    for (const Hole& h : s.holes.holes)
      cells(page, {h.name, mm(h.entry.X()), mm(h.entry.Y()), mm(h.entry.Z()),
                   form_text(s.holes, h.group, s.display.unit)});
  }
  for (const Slot& slot : s.holes.slots) {
    const gp_Pnt middle = midpoint(slot.centre_a, slot.centre_b);
    const std::string form = fmt::format("slot {} × {}{}", mm(slot.width_mm), mm(slot.length_mm),
                                         slot.through ? " through" : " × " + mm(slot.depth_mm) + " deep");
    cells(page, {slot.name, mm(middle.X()), mm(middle.Y()), mm(middle.Z()), form});
  }
  page.close();
  if (by_group) page.element("p", {}, "Positions are in the hole list.");
}

void plane_table(Markup& page, const SetupSheet& s) {
  const auto mm = [&](double v) { return format_length(v, s.display); };
  const auto point = [&](const gp_Pnt& p) {
    return fmt::format("{}  {}  {}", mm(p.X()), mm(p.Y()), mm(p.Z()));
  };
  page.element("h2", {{"style", kHeading}}, "Tool planes");
  page.open("table",
            {{"width", "100%"}, {"cellspacing", "0"}, {"cellpadding", "2"}, {"style", "font-size:7pt"}});
  heads(page, {"Plane", "Zero X Y Z", "I J K", "Rotary", "Offset", "In the machine X Y Z", "Corner, cutter"});
  for (const SheetPlane& plane : s.planes) {
    const gp_Dir z = plane.frame.Direction();
    const CornerSummary& c = plane.corners;
    std::string corner =
        c.smallest_radius_mm ? (c.approximate ? "≈ R " : "R ") + mm(*c.smallest_radius_mm) : "none";
    if (c.sharp > 0) corner += fmt::format(", {} sharp", c.sharp);
    corner += c.largest_cutter_mm ? ", Ø " + mm(*c.largest_cutter_mm) : ", " + c.largest_cutter_why;
    cells(page, {plane.name, point(plane.frame.Location()),
                 fmt::format("{:.4f} {:.4f} {:.4f}", z.X() + 0.0, z.Y() + 0.0, z.Z() + 0.0), plane.angles,
                 plane.offset, plane.offset_in_machine ? point(*plane.offset_in_machine) : "", corner});
    if (plane.remark.empty()) continue;
    page.open("tr").element("td", {}, "");
    page.element("td", {{"colspan", "6"}, {"style", "color:#B3261E"}}, plane.remark).close();
  }
  page.close();
}

using SourceOf = std::function<std::string(const std::string& name)>;

// Two side by side.
void plane_pictures(Markup& page, const SetupSheet& s, const SourceOf& source_of, int picture_width_px) {
  std::vector<std::pair<std::string, std::string>> pictures;  // source and name
  for (const SheetPlane& plane : s.planes)
    if (std::string source = source_of ? source_of(plane.picture) : ""; !source.empty())
      pictures.emplace_back(std::move(source), plane.name);
  if (pictures.empty()) return;
  page.open("table", {{"cellspacing", "6"}});
  for (size_t i = 0; i < pictures.size(); ++i) {
    if (i % 2 == 0) page.open("tr");
    page.open("td").empty("img",
                          {{"src", pictures[i].first}, {"width", fmt::format("{}", picture_width_px)}});
    page.empty("br").text(pictures[i].second).close();
    if (i % 2 == 1 || i + 1 == pictures.size()) page.close();
  }
  page.close();
}

void heading(Markup& page, const SetupSheet& s, const std::string& subtitle) {
  page.element("h1", {{"style", "font-size:16pt; margin-bottom:2px"}},
               s.work_offset.empty() ? s.title : s.title + " · " + s.work_offset);
  page.element("p", {{"style", "color:#6A7076; margin-top:0"}}, subtitle);
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
                            const CornerSummary& corners, const std::string& date) {
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
  sheet.corners = corners;
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
    CornerSummary own;
    for (const PlaneCheck& check : *checks) {
      if (check.setup != entry.id) continue;
      planes[static_cast<size_t>(check.plane)].corners = check.corners;
      if (check.plane == 0) own = check.corners;
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

std::string setup_sheets_html(const std::vector<SetupSheet>& sheets, const SourceOf& source_of,
                              int picture_width_px) {
  Markup page;
  page.open("html").open("head").empty("meta", {{"charset", "utf-8"}});
  page.element("title", {}, "Setup sheets").close();
  page.open("body", {{"style", "font-family:Inter,sans-serif; font-size:9pt; color:#24282C"}});
  for (size_t i = 0; i < sheets.size(); ++i) {
    const SetupSheet& s = sheets[i];
    page.open("div", {{"style", i > 0 ? "page-break-before:always" : ""}});
    heading(page, s, fmt::format("Setup sheet {} of {} · {}", i + 1, sheets.size(), s.source_file));
    facts(page, s);
    plane_table(page, s);
    plane_pictures(page, s, source_of, picture_width_px);
    hole_table(page, s);
    page.close();
  }
  return page.finished() + "\n";
}

std::string setup_sheet_html(const SetupSheet& s, const std::string& picture, int picture_width_px) {
  Markup page;
  page.open("html").open("body", {{"style", "font-family:Inter; font-size:9pt; color:#24282C"}});
  heading(page, s, "Setup sheet · " + s.source_file);
  page.open("table", {{"width", "100%"}, {"cellspacing", "0"}, {"cellpadding", "0"}}).open("tr");
  page.open("td", {{"valign", "top"}});
  page.empty("img", {{"src", picture}, {"width", fmt::format("{}", picture_width_px)}}).close();
  page.open("td", {{"valign", "top"}});
  facts(page, s);
  page.close().close().close();
  hole_table(page, s);
  return page.finished();
}

}  // namespace anvil
