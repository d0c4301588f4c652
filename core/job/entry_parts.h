// What an entry holds that concerns others, whatever kind of entry it is: the picks it is made from, the
// other entries it names, and the texts that may hold expressions. Whoever needs these asks here and nowhere
// else; a new kind of entry is added in these functions.
//
//   each_reference(entry, [](const Reference& pick) { … });
//   each_entry_named(entry, [&](int& id) { if (id == old) id = other; });
//   each_text(entry, [](const std::string& field, const std::string& text) { … });
#pragma once

#include "job/entry.h"

namespace anvil {

namespace detail {

// The content of an entry as T, const where the entry is.
template <class T, class SomeEntry>
auto* content_of(SomeEntry& entry) {
  return std::get_if<T>(&entry.content);
}

}  // namespace detail

// Parts first, then healing, placement, datums and setups: the order in which they build on each other.
inline int section(const Entry& entry) {
  return kind_of(entry).section;
}

// Its picks, in order.
template <class SomeEntry, class See>
void each_reference(SomeEntry& entry, See&& see) {
  if (auto* datum = detail::content_of<DatumEntry>(entry))
    for (auto& input : datum->recipe.inputs) see(input);
  if (auto* placement = detail::content_of<PlacementEntry>(entry))
    for (auto& step : placement->steps)
      for (auto& input : step.inputs) see(input);
  if (auto* setup = detail::content_of<Setup>(entry)) {
    see(setup->frame);
    for (auto& plane : setup->planes) see(plane.frame);
  }
}

// The ids of the entries it is made from: above zero, or a reading frame that is no entry.
template <class SomeEntry, class See>
void each_entry_named(SomeEntry& entry, See&& see) {
  each_reference(entry, [&](auto& reference) {
    if (auto* to = std::get_if<EntryReference>(&reference.target)) see(to->entry);
  });
  if (auto* setup = detail::content_of<Setup>(entry))
    if (setup->stock.kind == Stock::Kind::kOfSetup) see(setup->stock.setup);
}

// Its texts, each with the name of its field.
template <class SomeEntry, class See>
void each_text(SomeEntry& entry, See&& see) {
  const auto each = [&](auto& texts, const std::string& prefix) {
    for (auto& [field, text] : texts) see(prefix + field, text);
  };
  if (auto* datum = detail::content_of<DatumEntry>(entry)) each(datum->recipe.parameters, "");
  if (auto* placement = detail::content_of<PlacementEntry>(entry))
    for (auto& step : placement->steps) each(step.parameters, "");
  if (auto* setup = detail::content_of<Setup>(entry)) {
    each(setup->place, "");
    each(setup->stock.texts, "stock ");
  }
}

}  // namespace anvil
