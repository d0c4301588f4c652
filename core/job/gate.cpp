#include "job/gate.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "base/quoted.h"
#include "job/entry_parts.h"
#include "job/names.h"

namespace anvil {
namespace {

bool is_reading_frame_only(int id) {
  return id == kReadPlaced || id == kReadDelivered;
}

enum class By { kPick, kPickOrWord };

// Places of the entries that each entry is made from.
std::vector<std::set<size_t>> made_from(const Job& job, By by = By::kPickOrWord) {
  std::map<int, size_t> place_of_id;
  std::map<std::string, size_t> place_of_word;
  for (size_t i = 0; i < job.entries.size(); ++i) {
    const Entry& entry = job.entries[i];
    place_of_id[entry.id] = i;
    if (section(entry) == 3) place_of_word.try_emplace(word_of(entry.name), i);
    if (entry.setup() && entry.setup()->stock.kind != Stock::Kind::kNone)
      place_of_word.try_emplace(kStockWord, i);
  }
  std::vector<std::set<size_t>> all(job.entries.size());
  for (size_t i = 0; i < job.entries.size(); ++i) {
    each_entry_named(job.entries[i], [&](int id) {
      if (const auto at = place_of_id.find(id); at != place_of_id.end()) all[i].insert(at->second);
    });
    // A pick on the part as a correction left it: found without it too, but meant after it.
    each_reference(job.entries[i], [&](const Reference& reference) {
      const auto* pick = std::get_if<TopologyReference>(&reference.target);
      const auto at = pick ? place_of_id.find(pick->made_on) : place_of_id.end();
      if (at != place_of_id.end() && at->second != i && job.entries[at->second].is_correction())
        all[i].insert(at->second);
    });
    if (by == By::kPick) continue;
    for (const std::string& word : words_in(texts_of(job.entries[i])))
      if (const auto at = place_of_word.find(word); at != place_of_word.end()) all[i].insert(at->second);
  }
  return all;
}

// The order with everything after what it is made from that changes least; what is left over is made from
// itself.
std::vector<size_t> sorted(const std::vector<std::set<size_t>>& from) {
  std::vector<size_t> order;
  std::vector<bool> placed(from.size(), false);
  const auto is_ready = [&](size_t i) {
    return std::all_of(from[i].begin(), from[i].end(), [&](size_t j) { return placed[j]; });
  };
  for (bool more = true; more;) {
    more = false;
    for (size_t i = 0; i < from.size(); ++i) {
      if (placed[i] || !is_ready(i)) continue;
      placed[i] = more = true;
      order.push_back(i);
    }
  }
  return order;
}

std::string cycle_sentence(const Job& job, const std::vector<std::set<size_t>>& from,
                           const std::vector<size_t>& placed) {
  const std::set<size_t> good(placed.begin(), placed.end());
  size_t at = 0;
  while (good.count(at)) ++at;
  std::vector<size_t> chain;
  while (std::find(chain.begin(), chain.end(), at) == chain.end()) {
    chain.push_back(at);
    at = *std::find_if(from[at].begin(), from[at].end(), [&](size_t j) { return !good.count(j); });
  }
  const Entry &first = job.entries[at], &last = job.entries[chain.back()];
  if (first.id == last.id)
    return fmt::format("{} would be made from itself: choose something that was there before it", first.name);
  return fmt::format("{} would be made from {}, which is itself made from {}: choose something else",
                     last.name, first.name, last.name);
}

Result<void> check_references(const Job& job) {
  std::set<int> known;
  for (const Entry& entry : job.entries)
    if (!known.insert(entry.id).second)
      return refuse(RefusalCode::kBadInput, fmt::format("two entries have the number {}", entry.id));
  for (const Entry& entry : job.entries) {
    std::optional<int> missing;
    each_entry_named(entry, [&](int id) {
      if (!is_reading_frame_only(id) && !known.count(id)) missing = id;
    });
    each_reference(entry, [&](const Reference& pick) {
      if (!std::holds_alternative<EntryReference>(pick.target) && !known.count(entry_of(pick)))
        missing = entry_of(pick);
    });
    if (missing)
      return refuse(RefusalCode::kBadInput,
                    fmt::format("\"{}\" refers to entry {}, which is not there", entry.name, *missing));
  }
  return {};
}

Result<void> check_placement(const Job& job) {
  const Entry* placement = job.placement();
  if (!placement) return {};
  const Entry* leaned_on = nullptr;
  each_entry_named(*placement, [&](int id) {
    if (!is_reading_frame_only(id)) leaned_on = job.find(id);
  });
  if (!leaned_on || section(*leaned_on) < 3) return {};
  return refuse(RefusalCode::kBadInput,
                fmt::format("the placement moves the part before {} is made from it, so no step of it can be "
                            "made from {}",
                            leaned_on->name, leaned_on->name));
}

void mend_reading(Job& job) {
  const Entry* read = job.find(job.reading_frame);
  if (!is_reading_frame_only(job.reading_frame) && !(read && (read->is_frame() || read->setup()))) {
    job.reading_frame = kReadPlaced;
    job.tool_plane = 0;
  }
  const Setup* setup = read ? read->setup() : nullptr;
  const int planes = setup ? static_cast<int>(setup->planes.size()) : 0;
  job.tool_plane = std::clamp(job.tool_plane, 0, planes);
}

// Word for word: references are equal already when they mean the same pick.
bool same_description(const Reference& a, const Reference& b) {
  const bool same_click =
      a.clicked.has_value() == b.clicked.has_value() && (!a.clicked || a.clicked->IsEqual(*b.clicked, 0));
  if (!(a == b) || !same_click) return false;
  const auto *x = std::get_if<TopologyReference>(&a.target), *y = std::get_if<TopologyReference>(&b.target);
  return !x || (x->made_on == y->made_on && x->shape == y->shape && x->where.IsEqual(y->where, 0) &&
                x->axis_at.IsEqual(y->axis_at, 0) && x->direction.XYZ().IsEqual(y->direction.XYZ(), 0) &&
                x->size_mm == y->size_mm);
}

bool same_recipe(const Recipe& a, const Recipe& b) {
  return a.construction == b.construction &&
         std::equal(a.inputs.begin(), a.inputs.end(), b.inputs.begin(), b.inputs.end(), same_description) &&
         a.parameters == b.parameters && a.choice == b.choice && a.flipped == b.flipped &&
         a.bodies == b.bodies && a.unit == b.unit;
}

struct SameContent {
  const Entry& other;
  bool operator()(const PartEntry& a) const {
    const PartEntry* b = other.part();
    if (!b || a.bodies != b->bodies || a.sources.size() != b->sources.size()) return false;
    return std::equal(a.sources.begin(), a.sources.end(), b->sources.begin(),
                      [](const SourceFile& x, const SourceFile& y) {
                        return x.part == y.part && x.bytes == y.bytes && x.scale == y.scale;
                      });
  }
  bool operator()(const HealingEntry& a) const { return other.healing() && a == *other.healing(); }
  bool operator()(const PlacementEntry& a) const {
    const PlacementEntry* b = other.placement();
    return b && std::equal(a.steps.begin(), a.steps.end(), b->steps.begin(), b->steps.end(), same_recipe);
  }
  bool operator()(const DatumEntry& a) const {
    const DatumEntry* b = other.datum();
    return b && a.makes == b->makes && same_recipe(a.recipe, b->recipe);
  }
  bool operator()(const Setup& a) const { return other.setup() && a == *other.setup(); }
};

bool same_entry(const Entry& a, const Entry& b) {
  return a.id == b.id && a.name == b.name && a.visible == b.visible && a.suppressed == b.suppressed &&
         a.colour == b.colour && a.group == b.group && std::visit(SameContent{b}, a.content);
}

bool same_view(const KeptView& a, const KeptView& b) {
  return a.name == b.name && a.eye.IsEqual(b.eye, 0) && a.centre.IsEqual(b.centre, 0) &&
         a.up.XYZ().IsEqual(b.up.XYZ(), 0) && a.scale_mm == b.scale_mm;
}

bool may_stand(const std::string& name) {
  return name.size() <= kLongestName_bytes && is_plain_text(name);
}

void make_fit(std::string& name) {
  if (!may_stand(name)) name = one_line(name, kLongestName_bytes);
}

template <class SomeEntry, class See>
void each_name(SomeEntry& entry, const See& see) {
  see(entry.name);
  see(entry.group);
  if (auto* part = std::get_if<PartEntry>(&entry.content))
    for (auto& body : part->bodies) see(body.name);
  if (auto* setup = std::get_if<Setup>(&entry.content)) {
    see(setup->offset);
    for (auto& plane : setup->planes) {
      see(plane.name);
      see(plane.offset);
    }
  }
}

// Names stand in programs, lists and sheets, whoever wrote them.
void make_names_fit(Job& job) {
  job.entries.edit_each(
      [](const Entry& entry) {
        bool all_fit = true;
        each_name(entry, [&](const std::string& name) { all_fit = all_fit && may_stand(name); });
        return !all_fit;
      },
      [](Entry& entry) {
        each_name(entry, make_fit);
        if (auto* part = std::get_if<PartEntry>(&entry.content)) *part = compose(std::move(*part));
      });
  job.hole_names.edit_each([](const HoleName& given) { return !may_stand(given.name); },
                           [](HoleName& given) { make_fit(given.name); });
  for (KeptView& view : job.views) make_fit(view.name);
  for (Cutter& cutter : job.inspection.cutters) {
    make_fit(cutter.number);
    make_fit(cutter.name);
  }
  for (auto& [id, machine] : job.machines) make_fit(machine.name);
}

}  // namespace

std::string out_of_order(const Job& job) {
  const auto from = made_from(job);
  for (size_t i = 0; i < from.size(); ++i)
    for (const size_t j : from[i])
      if (j >= i)
        return fmt::format("{} is made from {} and must stay after it", job.entries[i].name,
                           job.entries[j].name);
  return {};
}

Result<Job> through_gate(Job next) {
  if (auto good = check_references(next); !good) return refuse(good);
  if (auto good = check_placement(next); !good) return refuse(good);
  auto from = made_from(next);
  std::vector<size_t> order = sorted(from);
  // Expressions that name each other have no value and say so; they stand in nobody's way.
  if (order.size() < next.entries.size()) {
    from = made_from(next, By::kPick);
    order = sorted(from);
  }
  if (order.size() < next.entries.size())
    return refuse(RefusalCode::kBadInput, cycle_sentence(next, from, order));
  if (!std::is_sorted(order.begin(), order.end())) {
    next.entries.put_in_order(order);
  }
  make_names_fit(next);
  next.hole_names.erase_if([](const HoleName& given) { return given.name.empty(); });
  mend_reading(next);
  return next;
}

bool same_hole_name(const HoleName& a, const HoleName& b) {
  return a.name == b.name && same_description({a.face, {}}, {b.face, {}});
}

bool same_job(const Job& a, const Job& b) {
  const auto same_machine = [](const auto& x, const auto& y) {
    return x.first == y.first && x.second == y.second;
  };
  const auto all_same = [](const auto& x, const auto& y, auto same) {
    if (x.size() != y.size()) return false;
    for (size_t i = 0; i < x.size(); ++i)
      if (!x.shares(i, y) && !same(x[i], y[i])) return false;
    return true;
  };
  return a.reading_frame == b.reading_frame && a.tool_plane == b.tool_plane &&
         a.display.unit == b.display.unit && a.display.decimals == b.display.decimals &&
         a.display.angle_decimals == b.display.angle_decimals &&
         a.tolerance.linear_mm == b.tolerance.linear_mm &&
         a.tolerance.angular_rad == b.tolerance.angular_rad && a.inspection == b.inspection &&
         all_same(a.hole_names, b.hole_names, same_hole_name) &&
         std::equal(a.views.begin(), a.views.end(), b.views.begin(), b.views.end(), same_view) &&
         std::equal(a.machines.begin(), a.machines.end(), b.machines.begin(), b.machines.end(),
                    same_machine) &&
         all_same(a.entries, b.entries, same_entry);
}

}  // namespace anvil
