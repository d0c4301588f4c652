#include "inspect/holes.h"

#include "geom/guard.h"
#include "inspect/hole_chain.h"
#include "inspect/hole_form.h"
#include "inspect/hole_groups.h"
#include "inspect/slots.h"

namespace anvil {

Result<HoleReport> find_holes(const Part& part, const Progress& progress) {
  return guarded("looking for holes", [&]() -> Result<HoleReport> {
    HoleReport report;
    const TopologyIndex& topology = part.topology();
    std::vector<bool> used(topology.patches.size(), false);
    progress.say("slots", 0.1);
    report.slots = find_slots(topology, used);
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    progress.say("holes", 0.3);
    for (const Chain& chain : find_chains(part, used)) {
      if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
      if (auto hole = hole_from(topology, chain)) report.holes.push_back(std::move(*hole));
    }
    progress.say("groups and patterns", 0.9);
    group_holes(report);
    find_patterns(report);
    return report;
  });
}

}  // namespace anvil
