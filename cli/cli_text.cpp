#include "cli/cli_text.h"

#include "geom/primitives.h"
#include "inspect/corner_summary.h"
#include "inspect/hole_text.h"
#include "part/measure.h"

namespace anvil::cli {

std::string info_text(const Part& part, const Display& d, double tolerance_mm) {
  const SourceInfo& s = part.source();
  std::string text = fmt::format("{}: {} {}, source unit {}\n", s.file_name, s.format, s.schema, s.unit_name);
  for (const std::string& warning : s.warnings) text += "  note: " + warning + "\n";
  for (size_t i = 0; i < part.bodies().size(); ++i) {
    const Body& body = part.bodies()[i];
    const Box box = exact_box(body.shape);
    const std::vector<Finding> findings = check_soundness(part, static_cast<int>(i), tolerance_mm);
    text +=
        fmt::format("  {}: {}, {}, {} × {} × {} {}\n", body.name, body_kind_name(body.kind),
                    findings.empty() ? "sound" : "not sound", format_length(box.size().X(), d),
                    format_length(box.size().Y(), d), format_length(box.size().Z(), d), unit_name(d.unit));
    for (const Finding& f : findings)
      text +=
          fmt::format("    {}{}\n", f.text, f.where ? ", at " + point_text(*f.where, world_frame(), d) : "");
  }
  return text;
}

namespace {

std::string around_line(const HoleReport& report, const HoleSurroundings& s, const Display& d) {
  std::string text = "         ";
  const auto add = [&](const std::string& words, double mm) {
    text += " " + words + " " + format_length(mm, d);
  };
  if (s.next) add("next " + report.holes[s.next->hole].name, s.next->distance_mm);
  if (s.edge) add("edge", s.edge->distance_mm);
  if (s.wall) add("wall", s.wall->thickness_mm);
  if (s.floor) add("floor", s.floor->thickness_mm);
  for (const CrossedHole& c : s.crossed) text += " crosses " + report.holes[c.hole].name;
  return text + "\n";
}

}  // namespace

std::string holes_text(const HoleReport& report, size_t faces, const std::string& frame, const Display& d,
                       const HoleAnswers& answers) {
  const size_t holes = report.holes.size(), slots = report.slots.size();
  std::string text = fmt::format("{} hole{}, {} slot{}, read in {}, {}\n", holes, holes == 1 ? "" : "s",
                                 slots, slots == 1 ? "" : "s", frame, unit_name(d.unit));
  for (size_t i = 0; i < report.holes.size(); ++i) {
    const Hole& h = report.holes[i];
    text += fmt::format(
        "  {:<7} {:<44} {}\n", h.name, point_text(h.entry, world_frame(), d),
        form_text(report, h.group, d.unit) +
            (h.deviation_mm > 0 ? fmt::format(" (within {:.4f} mm)", std::max(1e-4, h.deviation_mm)) : ""));
    if (i < answers.around.size()) text += around_line(report, answers.around[i], d);
  }
  for (const Slot& s : report.slots)
    text +=
        fmt::format("  {:<7} {:<44} slot {} × {}{}\n", s.name, point_text(s.centre_a, world_frame(), d),
                    format_length(s.width_mm, d), format_length(s.length_mm, d), s.through ? " through" : "");
  if (const std::string but = not_judged_text(report.not_judged.size(), faces); !but.empty())
    text += "note: " + but + "\n";
  for (const ComparedHole& row : answers.comparison)
    text += fmt::format("  {:<8} {:<10} {:<8} true position {}\n", state_name(row.state), row.listed,
                        row.found, format_length(row.true_position_mm, d));
  return text;
}

namespace {

std::string pocket_line(const CornerReport& report, const Pocket& p, const CornerAnswers& answers,
                        const Display& d) {
  const auto mm = [&](double v) { return format_length(v, d); };
  std::string text = fmt::format("  {:<5} {} {}, {} deep", p.name, p.open ? "open" : "closed",
                                 p.round ? "round pocket" : "pocket", mm(p.depth_mm));
  if (p.undercut) return text + ", undercut\n";
  if (p.narrowest)
    text += fmt::format(", passage {}{}", p.narrowest->approximate ? "≈ " : "", mm(p.narrowest->width_mm));
  text += p.largest_cutter_mm ? fmt::format(", cutter to Ø {}{}", p.smallest_is_approximate ? "≈ " : "",
                                            mm(*p.largest_cutter_mm))
                              : ", no largest cutter: " + p.largest_cutter_why;
  const auto at = static_cast<size_t>(&p - report.pockets.data());
  if (at < answers.left_in_pockets.size() && answers.left_in_pockets[at] > 0)
    text += fmt::format(
        ", left {} {}³",
        format_plain(std::round(answers.left_in_pockets[at] / std::pow(mm_per(d.unit), 3) * 1e3) / 1e3),
        unit_name(d.unit));
  text += "\n";
  const int own = static_cast<int>(&p - report.pockets.data());
  for (const PocketCutters& judged : answers.judged) {
    if (judged.pocket != own) continue;
    for (const CutterInPocket& tried : judged.tried) {
      const Cutter& cutter = answers.cutters[tried.cutter];
      if (judged.largest == tried.cutter) {
        text += "          fits: " + cutter_text(cutter, d) + "\n";
        break;
      }
      text +=
          "          not " + cutter_text(cutter, d) + ": " + failure_text(tried.failures.front(), d) + "\n";
    }
  }
  return text;
}

}  // namespace

std::string hollows_text(const HollowReport& report, const Display& d) {
  std::string text = fmt::format("whichever way a tool comes, {}\n", unit_name(d.unit));
  for (const HollowGroup& g : report.groups)
    text +=
        fmt::format("  {:<10} {}R {:<9} × {:<5} {}\n", hollow_name(g.kind), g.approximate ? "≈ " : "",
                    format_length(g.radius_mm, d), g.count, g.direction ? direction_text(*g.direction) : "");
  text += report.smallest_radius_mm ? "smallest radius " + format_length(*report.smallest_radius_mm, d) + "\n"
                                    : "nothing hollow is round\n";
  return text;
}

std::string corners_text(const CornerReport& report, size_t faces, const Display& d,
                         const CornerAnswers& answers) {
  const auto mm = [&](double v) { return format_length(v, d); };
  std::string text =
      fmt::format("tool axis {}, {}\n", direction_text(report.options.axis), unit_name(d.unit));
  for (const Corner& c : report.corners)
    text += fmt::format(
        "  {:<5} {:<12} R {:<9} depth {:<9} reach {:<9}{}{}{}\n", c.name, corner_name(c.kind),
        mm(c.radius_mm), mm(c.depth_mm), mm(c.reach_mm), c.pocket >= 0 ? report.pockets[c.pocket].name : "-",
        c.undercut ? "  undercut" : "",
        c.deviation_mm > 0 ? fmt::format("  (within {:.4f} mm)", std::max(1e-4, c.deviation_mm)) : "");
  text += report.smallest_wall_radius_mm
              ? "smallest wall radius " + mm(*report.smallest_wall_radius_mm) + "\n"
              : "no round wall corner\n";
  if (report.sharp_wall_corners) text += fmt::format("sharp wall corners {}\n", report.sharp_wall_corners);
  text += largest_cutter_text(summary_of(report, faces), d) + "\n";
  for (const Pocket& pocket : report.pockets) text += pocket_line(report, pocket, answers, d);
  if (answers.left)
    text += fmt::format(
        "Ø {} leaves {} {}³, {} thick at most\n", mm(answers.left->diameter_mm),
        format_plain(std::round(answers.left->volume_mm3 / std::pow(mm_per(d.unit), 3) * 1e3) / 1e3),
        unit_name(d.unit), mm(answers.left->largest_thickness_mm));
  if (const std::string but = reservations_text(report, faces); !but.empty()) text += "note: " + but + "\n";
  return text;
}

std::string proposals_text(const Proposals& proposals) {
  std::string text = fmt::format("{} tool axes\n", proposals.axes.size());
  for (const ProposedAxis& axis : proposals.axes)
    text += fmt::format("  {:<28} {}\n", direction_text(axis.towards_tool), axis.summary);
  for (size_t i = 0; i < proposals.unreached.size(); ++i)
    text += fmt::format("  not reached: {}: {}\n", proposals.features[proposals.unreached[i]].name,
                        proposals.why[i]);
  return text;
}

std::string problems_text(const Job& job, const Evaluation& evaluation) {
  std::string text;
  for (const Entry& entry : job.entries) {
    const Evaluated& evaluated = evaluation.entries.at(entry.id);
    if (evaluated.state == EntryState::kCurrent || evaluated.state == EntryState::kSuppressed) continue;
    text += fmt::format("  {:<20} {:<10} {}\n", entry.name, state_name(evaluated.state), evaluated.reason);
  }
  return text.empty() ? "everything is as it was meant\n" : text;
}

std::string job_text(const Job& job, const Evaluation& evaluation) {
  std::string text =
      "read in " + reading_frame_name(job, job.reading_frame) + ", " + unit_name(job.display.unit) + "\n";
  for (const Entry& entry : job.entries) {
    const auto& evaluated = evaluation.entries.at(entry.id);
    text += fmt::format("  {:<20} {:<10} {}{}\n", entry.name, state_name(evaluated.state),
                        value_text(job, evaluation, entry),
                        evaluated.reason.empty() ? "" : "  " + evaluated.reason);
  }
  return text;
}

}  // namespace anvil::cli
