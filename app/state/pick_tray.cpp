#include "app/state/pick_tray.h"

#include "job/names.h"

namespace anvil::app {

PickTray::PickTray(Document& document, ChangeBus& bus) : document_(document), bus_(bus) {
  connect(&document_, &Document::opened, this, &PickTray::forget);
  connect(&document_, &Document::stepped, this, [this] { draft_.reset(); });
  connect(&document_, &Document::set_out, this, &PickTray::refresh_offers);
  connect(&document_, &Document::evaluated, this, &PickTray::refresh_picks);
  connect(&drafting_, &Background::cancelled, this, &PickTray::drop);
  connect(&growing_, &Background::cancelled, this, [this] { grow_.clear(); });
  typed_.setSingleShot(true);
  connect(&typed_, &QTimer::timeout, this, &PickTray::refresh_draft);
  for (Background* background : {&drafting_, &correcting_, &growing_})
    connect(background, &Background::failed, &bus_, &ChangeBus::tell);
}

void PickTray::forget() {
  picks_.clear();
  growing_.cancel();
  grow_.clear();
  draft_.reset();
}

Result<Pick> PickTray::make_pick(const Reference& reference) const {
  auto given = give(job(), evaluation(), reference);
  if (!given) return refuse(given);
  Pick pick{reference, std::move(*given), {}};
  if (const auto* entry = std::get_if<EntryReference>(&reference.target)) {
    pick.text = QString::fromStdString(pick_name(job(), *entry));
  } else if (pick.given.region) {
    pick.text = QString::fromStdString(region_text(*pick.given.region, job().display));
  } else if (const PartPtr p = document_.part()) {
    const auto& topology = std::get<TopologyReference>(reference.target);
    if (const auto located = located_pick(evaluation(), reference)) {
      pick.index = located->index;
      pick.text =
          QString::fromStdString(pick_text(*p, topology.kind, located->index, topology.snap, job().display));
    }
  }
  return pick;
}

bool PickTray::is_picked(const Reference& reference) const {
  return pick_of(reference) >= 0;
}

void PickTray::add_pick(const Reference& reference) {
  if (const int picked = pick_of(reference); picked >= 0) return remove_pick(picked);
  const auto* region = std::get_if<RegionReference>(&reference.target);
  if (!region) return take_pick(reference);
  grow_then({*region}, [this, reference] { take_pick(reference); });
}

void PickTray::take_pick(const Reference& reference) {
  auto pick = make_pick(reference);
  if (!pick) {
    bus_.tell(QString::fromStdString(pick.error().sentence));
    return;
  }
  if (replacing_ >= 0 && replacing_ < static_cast<int>(picks_.size()))
    picks_[static_cast<size_t>(replacing_)] = std::move(*pick);
  else
    picks_.push_back(std::move(*pick));
  replacing_ = -1;
  refresh_offers();
}

void PickTray::add_picks(const std::vector<Reference>& references) {
  constexpr size_t kMost = 500;
  if (references.size() > kMost)
    return bus_.tell(
        tr("%1 things are meant; up to %2 are picked at once: point at fewer, or draw a smaller rectangle.")
            .arg(references.size())
            .arg(kMost));
  for (const Reference& reference : references)
    if (!is_picked(reference))
      if (auto pick = make_pick(reference)) picks_.push_back(std::move(*pick));
  replacing_ = -1;
  refresh_offers();
}

void PickTray::remove_picks(const std::vector<Reference>& references) {
  for (const Reference& reference : references)
    if (const int picked = pick_of(reference); picked >= 0) picks_.erase(picks_.begin() + picked);
  replacing_ = -1;
  refresh_offers();
}

void PickTray::replace_pick_next(int index) {
  replacing_ = index == replacing_ ? -1 : index;
  bus_.announce(Change::kPicks | Change::kDraft);
}

void PickTray::replace_last_pick(const Reference& reference) {
  if (!picks_.empty()) picks_.pop_back();
  if (is_picked(reference)) return refresh_offers();
  add_pick(reference);
}

void PickTray::remove_pick(int index) {
  if (index < 0 || index >= static_cast<int>(picks_.size())) return;
  picks_.erase(picks_.begin() + index);
  replacing_ = -1;
  refresh_offers();
}

void PickTray::remove_last_pick() {
  remove_pick(static_cast<int>(picks_.size()) - 1);
}

void PickTray::move_pick(int from, int to) {
  const int count = static_cast<int>(picks_.size());
  if (from < 0 || from >= count || to < 0 || to >= count || from == to) return;
  Pick pick = std::move(picks_[from]);
  picks_.erase(picks_.begin() + from);
  picks_.insert(picks_.begin() + to, std::move(pick));
  refresh_offers();
}

void PickTray::clear_picks() {
  picks_.clear();
  replacing_ = -1;
  refresh_offers();
}

void PickTray::refresh_picks() {
  std::vector<RegionReference> regions;
  for (const Pick& pick : picks_)
    if (const auto* region = std::get_if<RegionReference>(&pick.reference.target)) regions.push_back(*region);
  grow_then(std::move(regions), [this] {
    std::vector<Pick> kept;
    for (const Pick& pick : picks_)
      if (auto again = make_pick(pick.reference)) kept.push_back(std::move(*again));
    if (kept.size() != picks_.size()) replacing_ = -1;  // it counts picks
    picks_ = std::move(kept);
    refresh_offers();
  });
}

std::vector<Given> PickTray::givens() const {
  std::vector<Given> all;
  for (const Pick& pick : picks_) all.push_back(pick.given);
  return all;
}

Asking PickTray::asking() const {
  return {job().display, document_.frame(), job().tolerance, seen()};
}

void PickTray::refresh_offers() {
  const ChangeBus::Hold hold(bus_);
  previewed_ = -1;
  offers_ = offers_for(givens(), asking());
  Leaning leaning = leaning_ ? leaning_() : Leaning{};
  leaning.used = memory_.used_with(givens());
  likely_ = likely_offers(offers_, leaning);
  if (draft_) assign_draft();
  bus_.announce(Change::kPicks);
  refresh_draft();
}

void PickTray::preview(int offer) {
  if (offer == previewed_) return;
  previewed_ = offer;
  try_correction();
  bus_.announce(Change::kDraft);
}

void PickTray::drop() {
  if (!draft_) return clear_picks();
  const bool editing = draft_->editing_entry || draft_->editing_step >= 0;
  draft_.reset();
  if (editing) picks_.clear();
  look_as_edited();
  refresh_offers();
}

void PickTray::drop_all() {
  draft_.reset();
  look_as_edited();
  clear_picks();
}

}  // namespace anvil::app
