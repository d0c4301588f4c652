#include "inspect/holes.h"

#include "geom/guard.h"
#include "inspect/hole_chain.h"
#include "inspect/hole_form.h"
#include "inspect/hole_groups.h"
#include "inspect/not_round.h"
#include "inspect/slots.h"

namespace anvil {
namespace {

// The sense that most other holes along the same line of direction open to, so that a plate's through holes
// are told from the side its counterbores are on.
class UsualSense {
 public:
  void count(const gp_Dir& axis) { votes_[line_of(axis)] += sense_of(axis); }
  [[nodiscard]] std::optional<gp_Dir> for_axis(const gp_Dir& axis) const {
    const auto at = votes_.find(line_of(axis));
    if (at == votes_.end() || at->second == 0) return std::nullopt;
    return (at->second > 0) == (sense_of(axis) > 0) ? axis : axis.Reversed();
  }

 private:
  using Line = std::array<long, 3>;
  static int sense_of(const gp_Dir& d) {
    for (const double component : {d.Z(), d.Y(), d.X()})
      if (std::abs(component) > 1e-6) return component > 0 ? 1 : -1;
    return 1;
  }
  static Line line_of(const gp_Dir& d) {
    const double s = sense_of(d) * 1e4;
    return {std::lround(s * d.X()), std::lround(s * d.Y()), std::lround(s * d.Z())};
  }
  std::map<Line, int> votes_;
};

// A through slot, told from its other side.
void turn_over(Slot& slot) {
  const gp_Vec down = gp_Vec(slot.axis) * -slot.depth_mm;
  slot.centre_a.Translate(down);
  slot.centre_b.Translate(down);
  slot.axis.Reverse();
}

}  // namespace

Result<HoleReport> find_holes(const Part& part, const Progress& progress) {
  return guarded("looking for holes", [&]() -> Result<HoleReport> {
    HoleReport report;
    const TopologyIndex& topology = part.topology();
    std::vector<bool> used(topology.patches.size(), false);
    progress.say("slots", 0.1);
    report.slots = find_slots(topology, used);
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    progress.say("holes", 0.3);
    UsualSense usual;
    std::vector<Chain> alike;
    for (Chain& chain : find_chains(part, used)) {
      if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
      if (looks_alike_from_both_ends(chain)) {
        alike.push_back(std::move(chain));
      } else if (auto hole = hole_from(topology, chain)) {
        usual.count(hole->axis);
        report.holes.push_back(std::move(*hole));
      }
    }
    for (const Chain& chain : alike)
      if (auto hole = hole_from(topology, chain, usual.for_axis(chain.axis.Direction())))
        report.holes.push_back(std::move(*hole));
    for (Slot& slot : report.slots)
      if (slot.through && usual.for_axis(slot.axis).value_or(slot.axis).Dot(slot.axis) < 0) turn_over(slot);
    for (Hole& hole : find_elliptic_holes(topology)) report.holes.push_back(std::move(hole));
    report.not_judged = faces_not_judged(topology);
    for (const Hole& hole : report.holes)  // of free form, but understood
      if (!hole.round)
        for (const int face : hole.faces)
          report.not_judged.erase(std::remove(report.not_judged.begin(), report.not_judged.end(), face),
                                  report.not_judged.end());
    progress.say("groups and patterns", 0.9);
    group_holes(report);
    find_patterns(report);
    return report;
  });
}

}  // namespace anvil
