#include "inspect/corner_summary.h"

#include <fmt/format.h>

namespace anvil {
namespace {

// What limits something, the smallest first taken.
class Limit {
 public:
  void take(std::optional<double> width_mm, const std::string& why) {
    if (!width_mm || (width_mm_ && *width_mm_ <= *width_mm)) return;
    width_mm_ = width_mm;
    why_ = why;
  }
  [[nodiscard]] std::optional<double> width_mm() const { return width_mm_; }
  [[nodiscard]] const std::string& why() const { return why_; }

 private:
  std::optional<double> width_mm_;
  std::string why_;
};

const Corner* smallest_corner(const CornerReport& report, const Pocket* of = nullptr) {
  const Corner* smallest = nullptr;
  for (const Corner& corner : report.corners) {
    if (corner.undercut || !corner.is_wall() || corner.kind == CornerKind::kWallSharp) continue;
    if (of && (corner.pocket < 0 || &report.pockets[static_cast<size_t>(corner.pocket)] != of)) continue;
    if (!smallest || corner.radius_mm < smallest->radius_mm) smallest = &corner;
  }
  return smallest;
}

// A round end limits a pocket as its corners do.
void limit_pocket(const CornerReport& report, Pocket& pocket) {
  Limit limit;
  const Corner* corner = smallest_corner(report, &pocket);
  const bool by_corner =
      corner && pocket.smallest_corner_mm && corner->radius_mm <= *pocket.smallest_corner_mm;
  if (pocket.smallest_corner_mm)
    limit.take(2 * *pocket.smallest_corner_mm * report.options.margin,
               by_corner ? "corner " + corner->name : "the round end of " + pocket.name);
  if (pocket.narrowest) limit.take(pocket.narrowest->width_mm, "the passage of " + pocket.name);
  pocket.largest_cutter_mm = limit.width_mm();
  pocket.largest_cutter_why = limit.width_mm()          ? limit.why()
                              : pocket.has_sharp_corner ? "sharp corners only"
                              : !report.sections        ? "passages not looked at"
                                                        : "nothing limits it";
}

std::string why_nothing_limits(const CornerReport& report, bool is_mesh) {
  if (is_mesh) return "triangles have no walls";
  if (!report.sections) return "passages not looked at";
  if (report.has_passages_not_looked_at) return "passages not all looked at";
  if (report.sharp_wall_corners > 0) return "sharp corners only";
  const bool undercut = std::any_of(report.pockets.begin(), report.pockets.end(),
                                    [](const Pocket& pocket) { return pocket.undercut; });
  return undercut ? "undercut pockets only" : "nothing limits it";
}

}  // namespace

void sum_up(CornerReport& report, bool is_mesh) {
  for (const Corner& corner : report.corners)
    if (!corner.undercut && corner.kind == CornerKind::kWallSharp) ++report.sharp_wall_corners;
  if (const Corner* smallest = smallest_corner(report)) {
    report.smallest_wall_radius_mm = smallest->radius_mm;
    report.smallest_is_approximate = smallest->kind == CornerKind::kFreeForm;
  }
  Limit limit;
  if (report.narrowest_passage) limit.take(report.narrowest_passage->width_mm, "a passage");
  for (Pocket& pocket : report.pockets) {
    limit_pocket(report, pocket);
    if (pocket.undercut) continue;
    if (pocket.narrowest &&
        (!report.narrowest_passage || pocket.narrowest->width_mm < report.narrowest_passage->width_mm))
      report.narrowest_passage = pocket.narrowest;
    limit.take(pocket.largest_cutter_mm, pocket.largest_cutter_why);
  }
  report.largest_cutter_mm = limit.width_mm();
  report.largest_cutter_why = limit.width_mm() ? limit.why() : why_nothing_limits(report, is_mesh);
}

CornerSummary summary_of(const CornerReport& report, size_t faces) {
  CornerSummary summary;
  summary.smallest_radius_mm = report.smallest_wall_radius_mm;
  summary.approximate = report.smallest_is_approximate;
  summary.sharp = report.sharp_wall_corners;
  summary.largest_cutter_mm = report.largest_cutter_mm;
  summary.largest_cutter_why = report.largest_cutter_why;
  summary.narrowest = report.narrowest_passage;
  summary.not_judged = report.not_judged.size();
  summary.reservations = reservations_text(report, faces);
  if (const Corner* smallest = smallest_corner(report)) summary.faces = smallest->faces;
  return summary;
}

std::string corner_text(const CornerSummary& summary, const Display& display) {
  std::string text = "no round corner to reach";
  if (summary.smallest_radius_mm)
    text = fmt::format("smallest corner {}R {}", summary.approximate ? "≈ " : "",
                       format_length(*summary.smallest_radius_mm, display));
  return summary.sharp > 0 ? fmt::format("{} · {} sharp", text, summary.sharp) : text;
}

std::string largest_cutter_text(const CornerSummary& summary, const Display& display) {
  if (!summary.largest_cutter_mm) return "no largest cutter: " + summary.largest_cutter_why;
  return fmt::format("largest cutter Ø {} ({})", format_length(*summary.largest_cutter_mm, display),
                     summary.largest_cutter_why);
}

}  // namespace anvil
