// Regions of scans among the picks: grown behind the window when they take a while.
#include "app/state/pick_tray.h"

namespace anvil::app {

namespace {

// Regions that grow from one place, however far and as whatever.
bool begins_as(const Reference& a, const Reference& b) {
  const auto* one = std::get_if<RegionReference>(&a.target);
  const auto* other = std::get_if<RegionReference>(&b.target);
  return one && other && one->body == other->body && one->wish.at.Distance(other->wish.at) == 0;
}

}  // namespace

// A region is picked again by a click anywhere on it; a piece of the part by what it is now, whichever state
// of the part it was picked on.
int PickTray::pick_of(const Reference& reference) const {
  const auto* region = std::get_if<RegionReference>(&reference.target);
  const auto* topology = std::get_if<TopologyReference>(&reference.target);
  const auto now =
      topology && !picks_.empty() ? located_pick(evaluation(), reference) : Result<Located>(Located());
  for (size_t i = 0; i < picks_.size(); ++i) {
    const Pick& pick = picks_[i];
    if (pick.reference.same_target(reference)) return static_cast<int>(i);
    const auto* other = std::get_if<TopologyReference>(&pick.reference.target);
    if (topology && other && now && now->index == pick.index && topology->kind == other->kind &&
        topology->snap == other->snap)
      return static_cast<int>(i);
    if (region && reference.clicked && pick.given.region && body_of(pick.reference) == region->body &&
        covers(*pick.given.region, reference.clicked->Transformed(evaluation().placement)))
      return static_cast<int>(i);
  }
  return -1;
}

// Whatever waits for regions that are still being grown goes on waiting, for those as well; only an earlier
// wish for the same pick is given up.
void PickTray::grow_then(std::vector<RegionReference> regions, std::function<void()> then, int regrown) {
  const PartPtr on = document_.part();
  const auto known = [&](const RegionReference& region) { return !on || is_region_known(*on, region); };
  if (regrown >= 0)
    grow_.erase(
        std::remove_if(grow_.begin(), grow_.end(), [&](const Growing& g) { return g.regrown == regrown; }),
        grow_.end());
  if (std::all_of(regions.begin(), regions.end(), known)) {
    if (grow_.empty()) growing_.cancel();
    return then();
  }
  grow_.push_back({std::move(regions), std::move(then), regrown});
  std::vector<RegionReference> wanted;
  for (const Growing& growing : grow_)
    wanted.insert(wanted.end(), growing.regions.begin(), growing.regions.end());
  growing_.start_patiently<bool>(
      tr("Growing the region"), document_.patience(),
      [on, wanted](const Progress& progress) {
        for (const RegionReference& region : wanted)
          if (!region_of(*on, region, progress) && progress.stop()) return false;
        return true;
      },
      [this](bool) { take_grown(); });
}

void PickTray::take_grown() {
  const std::vector<Growing> grown = std::exchange(grow_, {});
  for (const Growing& growing : grown) growing.then();
}

void PickTray::regrow(int index, double within_mm, std::optional<SurfaceKind> as) {
  if (index < 0 || index >= static_cast<int>(picks_.size())) return;
  Reference reference = picks_[static_cast<size_t>(index)].reference;
  auto* region = std::get_if<RegionReference>(&reference.target);
  if (!region) return;
  region->wish.within_mm = within_mm;
  region->wish.as = as;
  const auto take = [this, index, reference] {
    auto pick = make_pick(reference);
    const bool there = index < static_cast<int>(picks_.size()) &&
                       begins_as(picks_[static_cast<size_t>(index)].reference, reference);
    if (pick && there) picks_[static_cast<size_t>(index)] = std::move(*pick);
    if (!pick) bus_.tell(QString::fromStdString(pick.error().sentence));
    refresh_offers();
  };
  grow_then({*region}, take, index);
}

}  // namespace anvil::app
