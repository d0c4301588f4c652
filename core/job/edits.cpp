#include "job/edits.h"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>
#include <set>

#include "construct/registry.h"
#include "construct/skipped_places.h"
#include "job/entry_parts.h"
#include "job/gate.h"
#include "job/names.h"

namespace anvil {
namespace {

// To be edited.
Entry* find(Job& job, int id) {
  return job.entries.edit_where([&](const Entry& entry) { return entry.id == id; });
}

Entry* find_datum(Job& job, int id) {
  return job.entries.edit_where([&](const Entry& entry) { return entry.id == id && entry.datum(); });
}

PartEntry* find_parts(Job& job) {
  Entry* entry = job.entries.edit_where([](const Entry& e) { return e.part() != nullptr; });
  return entry ? std::get_if<PartEntry>(&entry->content) : nullptr;
}

bool name_taken(const Job& job, const std::string& name) {
  return std::any_of(job.entries.begin(), job.entries.end(), [&](const Entry& e) { return e.name == name; });
}

std::string free_name(const Job& job, const std::string& kind) {
  for (int n = 1;; ++n) {
    std::string name = kind + " " + fmt::format("{}", n);
    if (!name_taken(job, name)) return name;
  }
}

// Told apart from each other and from the picks, on light and dark.
Colour next_colour(const Job& job) {
  static const Colour kColours[] = {{0.10, 0.48, 0.63}, {0.72, 0.33, 0.10}, {0.36, 0.52, 0.13},
                                    {0.62, 0.25, 0.52}, {0.33, 0.36, 0.72}, {0.60, 0.47, 0.05}};
  const auto drawn = std::count_if(job.entries.begin(), job.entries.end(), [](const Entry& entry) {
    const Construction* made =
        entry.datum() ? find_construction(entry.datum()->recipe.construction) : nullptr;
    return made && made->own_colour;
  });
  return kColours[static_cast<size_t>(drawn) % std::size(kColours)];
}

// Whether an entry's texts would be others with `by` for `word`; and to have them so.
bool says_word(const Entry& entry, const std::string& word, const std::string& by) {
  bool says = false;
  each_text(entry, [&](const std::string&, const std::string& text) {
    says = says || with_word(text, word, by) != text;
  });
  return says;
}

void say_word(Entry& entry, const std::string& word, const std::string& by) {
  each_text(entry, [&](const std::string&, std::string& text) { text = with_word(text, word, by); });
}

void insert(Job& job, Entry entry) {
  const auto after = std::find_if(job.entries.begin(), job.entries.end(),
                                  [&](const Entry& e) { return section(e) > section(entry); });
  job.entries.insert(after, std::move(entry));
}

// Corrections and what they lean on first, then all that does not have to stand before them: so datums and
// setups follow what corrections do.
Job corrections_first(Job job) {
  std::set<int> first;
  for (const Entry& entry : job.entries) {
    if (!entry.is_correction()) continue;
    first.insert(entry.id);
    const std::vector<int> sources = sources_of(job, entry.id);
    first.insert(sources.begin(), sources.end());
  }
  std::vector<size_t> order(job.entries.size());
  std::iota(order.begin(), order.end(), 0);
  const auto datums =
      std::find_if(order.begin(), order.end(), [&](size_t i) { return section(job.entries[i]) == 3; });
  std::stable_partition(datums, order.end(), [&](size_t i) { return first.count(job.entries[i].id) > 0; });
  job.entries.put_in_order(order);
  return job;
}

}  // namespace

Job with_part(Job job, PartPtr part, std::shared_ptr<const std::string> source_bytes, const std::string& name,
              double scale) {
  SourceFile file{std::move(part), std::move(source_bytes), scale};
  if (PartEntry* known = find_parts(job)) {
    known->sources.push_back(std::move(file));
    *known = compose(std::move(*known));
    return job;
  }
  insert(job, {job.next_id++, name_taken(job, name) ? free_name(job, name) : name, true,
               compose({{std::move(file)}, {}, {}})});
  return job;
}

Job with_body(Job job, int delivered, const BodySetting& setting) {
  PartEntry* part = find_parts(job);
  if (!part || delivered < 0 || delivered >= static_cast<int>(part->bodies.size())) return job;
  const BodySetting before = part->bodies[delivered];
  part->bodies[delivered] = setting;
  if (before.included != setting.included || before.name != setting.name) *part = compose(std::move(*part));
  return job;
}

Job with_source(Job job, size_t index, SourceFile file) {
  PartEntry* part = find_parts(job);
  if (!part || index >= part->sources.size()) return job;
  part->sources[index] = std::move(file);
  *part = compose(std::move(*part));
  return job;
}

Job with_view(Job job, KeptView view) {
  std::erase_if(job.views, [&](const KeptView& known) { return known.name == view.name; });
  job.views.push_back(std::move(view));
  return job;
}

Job without_view(Job job, const std::string& name) {
  std::erase_if(job.views, [&](const KeptView& known) { return known.name == name; });
  return job;
}

Job with_collapsed_placement(Job job, const gp_Trsf& placement) {
  const Entry* entry = job.placement();
  if (!entry) return job;
  std::vector<Recipe> kept;
  for (const Recipe& step : entry->placement()->steps)
    if (!step.bodies.empty()) return job;  // bodies that moved on their own have no one motion
  Recipe whole;
  whole.construction = "place.by-matrix";
  whole.parameters["matrix"] = matrix_text(placement);
  return with_placement_steps(std::move(job), {whole});
}

Job with_healing(Job job, const HealOptions& options) {
  if (Entry* entry = job.entries.edit_where([](const Entry& e) { return e.healing() != nullptr; })) {
    entry->content = HealingEntry{options};
    return job;
  }
  insert(job, {job.next_id++, "Healing", true, HealingEntry{options}});
  return job;
}

Job with_checked_part(Job job, const PartPtr& as_shown, const PartPtr& checked) {
  PartEntry* part = find_parts(job);
  if (!part) return job;
  for (SourceFile& file : part->sources)
    if (file.part == as_shown) file.part = checked;
  *part = compose(std::move(*part));
  return job;
}

Job with_datum(Job job, const Recipe& recipe, int* added) {
  const Construction* construction = find_construction(recipe.construction);
  if (!construction || construction->makes == Makes::kPlacement) return job;
  const int id = job.next_id++;
  Entry entry{id, free_name(job, construction->kept_as), true, DatumEntry{construction->makes, recipe}};
  if (construction->own_colour) entry.colour = next_colour(job);
  insert(job, std::move(entry));
  if (construction->makes == Makes::kCorrection) job = corrections_first(std::move(job));
  if (added) *added = id;
  return job;
}

Job with_copies(Job job, const Recipe& recipe) {
  const Construction* construction = find_construction(recipe.construction);
  const auto count = recipe.parameters.find("count");
  if (!construction || construction->steps_per_copy.empty() || count == recipe.parameters.end())
    return with_datum(job, recipe);
  const auto copies = evaluate_number(count->second, {});
  if (!copies) return with_datum(job, recipe);
  const auto text = recipe.parameters.find("skip");
  const auto skipped = skipped_places(text == recipe.parameters.end() ? std::string() : text->second);
  if (!skipped) return with_datum(job, recipe);
  Recipe copy = recipe;
  copy.parameters["count"] = "1";
  if (text != recipe.parameters.end()) copy.parameters["skip"].clear();
  copy.choice.clear();
  for (int i = 1; i <= *copies; ++i) {
    if (skipped->count(i + 1)) continue;
    for (const std::string& step : construction->steps_per_copy)
      if (const auto typed = recipe.parameters.find(step); i > 1 && typed != recipe.parameters.end())
        copy.parameters[step] = fmt::format("{}*({})", i, typed->second);
    job = with_datum(std::move(job), copy);
  }
  return job;
}

Job with_recipe(Job job, int id, const Recipe& recipe) {
  const Construction* construction = find_construction(recipe.construction);
  Entry* entry = construction ? find_datum(job, id) : nullptr;
  if (!entry) return job;
  entry->content = DatumEntry{construction->makes, recipe};
  return job;
}

Job before_correction(Job job, int id) {
  const auto at = std::find_if(job.entries.begin(), job.entries.end(),
                               [&](const Entry& entry) { return entry.id == id; });
  const auto first = static_cast<size_t>(at - job.entries.begin());
  for (size_t i = first; i < job.entries.size(); ++i)
    if (job.entries[i].is_correction()) job.entries.edit(i).suppressed = true;
  return job;
}

Job with_placement_step(Job job, const Recipe& step) {
  if (Entry* entry = job.entries.edit_where([](const Entry& e) { return e.placement() != nullptr; })) {
    std::get<PlacementEntry>(entry->content).steps.push_back(step);
    return job;
  }
  insert(job, {job.next_id++, "Placement", true, PlacementEntry{{step}}});
  return job;
}

Job with_placement_steps(Job job, std::vector<Recipe> steps) {
  const Entry* placement = job.placement();
  if (!placement) return job;
  const int id = placement->id;
  if (steps.empty()) {
    job.entries.erase_if([&](const Entry& e) { return e.id == id; });
    return job;
  }
  find(job, id)->content = PlacementEntry{std::move(steps)};
  return job;
}

std::string name_for(const Job& job, int id, const std::string& wanted) {
  const auto taken = [&](const std::string& name) {
    return std::any_of(job.entries.begin(), job.entries.end(), [&](const Entry& other) {
      const std::string word = word_of(name);
      return other.id != id && (other.name == name || (!word.empty() && word_of(other.name) == word));
    });
  };
  std::string name = wanted;
  for (int n = 2; taken(name); ++n) name = fmt::format("{} ({})", wanted, n);
  return name;
}

Job with_name(Job job, int id, const std::string& wanted) {
  Entry* entry = find(job, id);
  if (!entry || wanted.empty()) return job;
  const std::string name = name_for(job, id, wanted);
  const std::string before = word_of(entry->name), after = word_of(name);
  entry->name = name;
  if (before == after) return job;
  job.entries.edit_each([&](const Entry& other) { return says_word(other, before, after); },
                        [&](Entry& other) { say_word(other, before, after); });
  return job;
}

Job with_visible(Job job, int id, bool visible) {
  if (Entry* entry = find(job, id)) entry->visible = visible;
  return job;
}

Job with_picks_as_found(Job job, int id, const Evaluation& evaluation) {
  Entry* entry = find_datum(job, id);
  if (!entry || !evaluation.part) return job;
  auto* datum = std::get_if<DatumEntry>(&entry->content);
  for (Reference& input : datum->recipe.inputs) {
    if (auto* region = std::get_if<RegionReference>(&input.target))
      if (const auto grown = region_of(*evaluation.part, *region))
        region->wish.at = as_delivered(*evaluation.part, *region, (*grown)->seed);
    auto* topology = std::get_if<TopologyReference>(&input.target);
    const auto located = topology ? located_pick(evaluation, input) : Result<Located>(Located());
    if (topology && located)
      *topology =
          describe_now(evaluation, topology->part_entry, topology->kind, located->index, topology->snap);
  }
  return job;
}

Job with_suppressed(Job job, int id, bool suppressed) {
  if (Entry* entry = find_datum(job, id)) entry->suppressed = suppressed;
  return job;
}

Job with_colour(Job job, int id, std::optional<Colour> colour) {
  if (Entry* entry = find_datum(job, id)) entry->colour = colour;
  return job;
}

Job with_group(Job job, int id, const std::string& group) {
  if (Entry* entry = find_datum(job, id)) entry->group = group;
  return job;
}

Job with_duplicate(Job job, int id, int* added) {
  const auto at =
      std::find_if(job.entries.begin(), job.entries.end(), [&](const Entry& e) { return e.id == id; });
  if (at == job.entries.end() || !at->datum()) return job;
  Entry copy = *at;
  copy.id = job.next_id++;
  const Construction* construction = find_construction(copy.datum()->recipe.construction);
  copy.name = free_name(job, construction ? construction->kept_as : copy.name);
  if (added) *added = copy.id;
  job.entries.insert(at + 1, std::move(copy));
  return job;
}

Result<Job> with_moved(Job job, int id, int by) {
  const auto at =
      std::find_if(job.entries.begin(), job.entries.end(), [&](const Entry& e) { return e.id == id; });
  if (at == job.entries.end() || section(*at) < 3) return job;
  // The neighbour of its own kind: setups are listed apart from datums.
  auto other = at;
  do {
    const auto end = by < 0 ? job.entries.begin() : job.entries.end() - 1;
    if (other == end) return job;
    other += by < 0 ? -1 : 1;
  } while ((other->setup() != nullptr) != (at->setup() != nullptr));
  if (section(*other) < 3) return job;
  const auto place = [&](const auto& it) { return static_cast<size_t>(it - job.entries.begin()); };
  job.entries.swap_places(place(at), place(other));
  if (const std::string broken = out_of_order(job); !broken.empty())
    return refuse(RefusalCode::kBadInput, broken);
  return job;
}

Job with_visible_where(Job job, bool visible, const std::function<bool(const Entry&)>& which) {
  job.entries.edit_each(
      [&](const Entry& entry) { return entry.datum() && entry.visible != visible && which(entry); },
      [&](Entry& entry) { entry.visible = visible; });
  return job;
}

Result<Job> with_rebased(Job job, int id, int other) {
  const Entry* target = job.find(other);
  if (!target || other == id) return job;
  const std::string word = job.find(id) ? word_of(job.find(id)->name) : std::string(),
                    target_name = target->name, by = word_of(target_name);
  const auto leans_on_it = [&](const Entry& entry) {
    bool leans = says_word(entry, word, by);
    each_entry_named(entry, [&](int named) { leans = leans || named == id; });
    return leans && entry.id != id;
  };
  const auto until = std::find_if(job.entries.begin(), job.entries.end(),
                                  [&](const Entry& entry) { return entry.id == other; }) +
                     1;
  if (const auto early = std::find_if(job.entries.begin(), until, leans_on_it); early != until)
    return refuse(RefusalCode::kBadInput,
                  fmt::format("{} comes before {} and cannot be made from it", early->name, target_name));
  job.entries.edit_each(leans_on_it, [&](Entry& entry) {
    each_entry_named(entry, [&](int& named) { named = named == id ? other : named; });
    say_word(entry, word, by);
  });
  return job;
}

Job without(Job job, int id) {
  std::set<int> gone{id};
  for (int dependent : lost_with(job, id)) gone.insert(dependent);
  job.entries.erase_if([&](const Entry& e) { return gone.count(e.id) > 0; });
  const auto lost = [&](const ToolPlane& plane) {
    const auto* to = std::get_if<EntryReference>(&plane.frame.target);
    return to && gone.count(to->entry) > 0;
  };
  job.entries.edit_each(
      [&](const Entry& entry) {
        return entry.setup() && std::any_of(entry.setup()->planes.begin(), entry.setup()->planes.end(), lost);
      },
      [&](Entry& entry) {
        std::erase_if(std::get<Setup>(entry.content).planes, lost);
        job.tool_plane = 0;
      });
  if (gone.count(job.reading_frame)) {
    job.reading_frame = kReadPlaced;
    job.tool_plane = 0;
  }
  return job;
}

Job with_reading_frame(Job job, int frame) {
  const Entry* entry = job.find(frame);
  const bool is_frame = entry && (entry->is_frame() || entry->setup());
  if (frame != kReadPlaced && frame != kReadDelivered && !is_frame) return job;
  if (job.reading_frame != frame) job.tool_plane = 0;
  job.reading_frame = frame;
  return job;
}

Job with_tolerance(Job job, const Tolerance& tolerance) {
  job.tolerance = sensible(tolerance);
  return job;
}

Job with_inspection(Job job, Inspection inspection) {
  const auto kept = [](double value, double low, double high) {
    return value > low ? std::min(value, high) : low;
  };
  inspection.margin = kept(inspection.margin, 0.01, 1.0);
  inspection.holder_mm = kept(inspection.holder_mm, 0.01, 2000);
  job.inspection = std::move(inspection);
  return job;
}

Job with_display(Job job, const Display& display) {
  job.display = display;
  return job;
}

}  // namespace anvil
