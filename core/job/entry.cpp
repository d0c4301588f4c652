#include "job/entry.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "job/entry_parts.h"
#include "job/names.h"

namespace anvil {
namespace {

// Of one file, the bodies that are included, called and numbered as the job has them.
std::vector<Body> chosen_bodies(const SourceFile& file, int source, size_t first,
                                const std::vector<BodySetting>& settings) {
  std::vector<Body> bodies;
  for (size_t i = 0; i < file.part->bodies().size(); ++i) {
    const BodySetting& setting = settings[first + i];
    if (!setting.included) continue;
    Body body = file.part->bodies()[i];
    body.source = source;
    body.delivered = static_cast<int>(first + i);
    if (!setting.name.empty()) body.name = setting.name;
    bodies.push_back(std::move(body));
  }
  return bodies;
}

bool is_as_delivered(const PartEntry& entry) {
  return entry.sources.size() == 1 && entry.sources.front().missing_bodies == 0 &&
         std::all_of(entry.bodies.begin(), entry.bodies.end(),
                     [](const BodySetting& setting) { return setting.included && setting.name.empty(); });
}

PartPtr make_part(const PartEntry& entry, const GeometryPtr& like) {
  if (is_as_delivered(entry)) return entry.sources.front().part;
  std::vector<SourceInfo> sources;
  std::vector<Body> bodies;
  std::vector<GeometryPtr> donors{like};
  size_t first = 0;
  for (const SourceFile& file : entry.sources) {
    for (Body& body : chosen_bodies(file, static_cast<int>(sources.size()), first, entry.bodies))
      bodies.push_back(std::move(body));
    first += file.part->bodies().size() + static_cast<size_t>(file.missing_bodies);
    sources.push_back(file.part->source());
    donors.push_back(file.part->geometry());
  }
  return std::make_shared<const Part>(std::move(sources), std::move(bodies), donors);
}

}  // namespace

const Entry* Job::find(int id) const {
  for (const Entry& entry : entries)
    if (entry.id == id) return &entry;
  return nullptr;
}

const Entry* Job::first_part() const {
  for (const Entry& entry : entries)
    if (entry.part()) return &entry;
  return nullptr;
}

const Entry* Job::placement() const {
  for (const Entry& entry : entries)
    if (entry.placement()) return &entry;
  return nullptr;
}

const Entry* Job::healing() const {
  for (const Entry& entry : entries)
    if (entry.healing()) return &entry;
  return nullptr;
}

PartPtr Job::part() const {
  const Entry* entry = first_part();
  if (!entry) return nullptr;
  return entry->part()->part();
}

const char* kind_name(const Entry& entry) {
  return entry.datum() ? makes_name(entry.datum()->makes) : kind_of(entry).name;
}

PartPtr in_chosen_colours(const PartPtr& part, const Job& job) {
  std::vector<Body> bodies = part->bodies();
  bool any = false;
  for (Body& body : bodies) {
    const BodySetting setting = job.body(body.delivered);
    if (!setting.colour) continue;
    any = true;
    body.colour = setting.colour;
    body.face_colours.clear();
  }
  return any ? std::make_shared<const Part>(part->sources(), std::move(bodies), std::vector{part->geometry()})
             : part;
}

PartEntry compose(PartEntry entry) {
  size_t delivered = 0;
  for (const SourceFile& file : entry.sources)
    delivered += file.part->bodies().size() + static_cast<size_t>(file.missing_bodies);
  if (entry.bodies.size() < delivered) entry.bodies.resize(delivered);
  entry.composed = std::make_shared<ComposedPart>(entry.composed ? entry.composed->geometry() : nullptr);
  return entry;
}

PartPtr PartEntry::part() const {
  return composed->get([&](const GeometryPtr& like) { return make_part(*this, like); });
}

BodySetting Job::body(int delivered) const {
  if (const Entry* maker = find(maker_of(delivered))) {
    BodySetting setting;
    setting.visible = maker->visible;
    setting.colour = maker->colour;
    return setting;
  }
  const Entry* entry = first_part();
  if (!entry || delivered < 0 || delivered >= static_cast<int>(entry->part()->bodies.size())) return {};
  return entry->part()->bodies[delivered];
}

std::vector<Reference> inputs_of(const Entry& entry) {
  std::vector<Reference> all;
  each_reference(entry, [&](const Reference& input) { all.push_back(input); });
  if (const Setup* setup = entry.setup(); setup && setup->stock.kind == Stock::Kind::kOfSetup)
    all.push_back({EntryReference{setup->stock.setup}, {}});
  return all;
}

ParameterTexts texts_of(const Entry& entry) {
  ParameterTexts texts;
  int count = 0;
  each_text(entry, [&](const std::string& field, const std::string& text) {
    if (!texts.emplace(field, text).second) texts.emplace(fmt::format("{} {}", field, ++count), text);
  });
  return texts;
}

namespace {

// In an expression.
bool names_one_of(const Job& job, const Entry& entry, const std::set<int>& ids) {
  const std::set<std::string> words = words_in(texts_of(entry));
  return !words.empty() && std::any_of(ids.begin(), ids.end(), [&](int id) {
    const Entry* named = job.find(id);
    return named && id != entry.id &&
           (words.count(word_of(named->name)) > 0 || (named->setup() && words.count(kStockWord) > 0));
  });
}

}  // namespace

// Backwards through the job, once: what an entry is made from stands before it.
std::vector<int> sources_of(const Job& job, int id) {
  std::set<int> wanted{id};
  std::set<std::string> words;
  const auto is_named = [&](const Entry& entry) {
    return !words.empty() &&
           (words.count(word_of(entry.name)) > 0 || (entry.setup() && words.count(kStockWord) > 0));
  };
  std::vector<int> found;
  for (size_t i = job.entries.size(); i-- > 0;) {
    const Entry& entry = job.entries[i];
    if (!wanted.count(entry.id) && !is_named(entry)) continue;
    if (entry.id != id) found.push_back(entry.id);
    for (const Reference& input : inputs_of(entry)) wanted.insert(entry_of(input));
    words.merge(words_in(texts_of(entry)));
  }
  std::reverse(found.begin(), found.end());
  return found;
}

namespace {

std::vector<int> followers(const Job& job, int id, bool of_planes) {
  std::set<int> touched{id};
  std::vector<int> found;
  for (const Entry& entry : job.entries) {
    if (names_one_of(job, entry, touched) && touched.insert(entry.id).second) {
      found.push_back(entry.id);
      continue;
    }
    std::vector<Reference> inputs = inputs_of(entry);
    if (const Setup* setup = entry.setup(); setup && !of_planes)
      inputs.erase(inputs.begin() + 1, inputs.begin() + 1 + static_cast<long>(setup->planes.size()));
    for (const Reference& input : inputs) {
      if (touched.count(entry_of(input))) {
        if (touched.insert(entry.id).second) found.push_back(entry.id);
        break;
      }
    }
  }
  return found;
}

}  // namespace

std::vector<int> dependents(const Job& job, int id) {
  return followers(job, id, true);
}

std::vector<int> lost_with(const Job& job, int id) {
  return followers(job, id, false);
}

}  // namespace anvil
