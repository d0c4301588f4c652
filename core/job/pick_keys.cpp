#include "job/pick_keys.h"

#include "construct/registry.h"
#include "construct/solve.h"
#include "geom/guard.h"
#include "inspect/hole_ends.h"
#include "job/result_cache.h"
#include "part/element_content.h"
#include "pick/follow.h"

namespace anvil {
namespace {

struct FoundPick {
  Result<Located> located = Located();
  ContentKey element;  // of what was found
};

void add_description(KeyMaker& maker, const TopologyReference& pick) {
  for (const int number :
       {static_cast<int>(pick.kind), static_cast<int>(pick.snap), pick.body, pick.index_hint, pick.made_on})
    maker.add(number);
  maker.add(pick.shape);
  add_to(maker, pick.where.XYZ());
  add_to(maker, pick.direction.XYZ());
  add_to(maker, pick.axis_at.XYZ());
  maker.add(pick.size_mm);
}

// What a pick gives, and nothing else of the part: itself, and where the hole it belongs to begins and ends.
ContentKey element_key(const Part& part, TopologyKind kind, int index) {
  KeyMaker maker;
  maker.add(static_cast<int>(kind));
  if (kind == TopologyKind::kVertex) add_vertex(maker, part.topology(), index);
  if (kind == TopologyKind::kEdge) add_edge(maker, part.topology(), index);
  if (kind != TopologyKind::kFace) return maker.key();
  add_face(maker, part.topology(), index);
  if (const auto ends = hole_ends(part, index)) {
    add_to(maker, ends->opening.XYZ());
    add_to(maker, ends->bottom.XYZ());
    add_to(maker, ends->out.XYZ());
    maker.add(ends->through);
  }
  return maker.key();
}

std::shared_ptr<const FoundPick> find_pick(const Evaluation& evaluation, const TopologyReference& pick,
                                           const std::optional<gp_Pnt>& clicked) {
  KeyMaker maker;
  maker.add(evaluation.part_key);
  add_description(maker, pick);
  if (evaluation.states.size() > 1 && clicked) add_to(maker, clicked->XYZ());
  const ContentKey key = maker.key();
  if (auto known = evaluation.cache ? evaluation.cache->find<FoundPick>(key) : nullptr) return known;
  FoundPick found;
  found.located = guarded("finding the pick", [&] {
    auto located = follow(evaluation.states, pick, clicked);
    if (located) found.element = element_key(*evaluation.part, pick.kind, located->index);
    return located;
  });
  if (!evaluation.cache) return std::make_shared<const FoundPick>(std::move(found));
  return evaluation.cache->keep(key, std::move(found), sizeof(FoundPick));
}

std::optional<int> place_of_body(const Part& part, int delivered) {
  for (size_t i = 0; i < part.bodies().size(); ++i)
    if (part.bodies()[i].delivered == delivered) return static_cast<int>(i);
  return std::nullopt;
}

void add_body(KeyMaker& maker, const Part& part, int delivered) {
  const auto place = place_of_body(part, delivered);
  if (place) maker.add(part.geometry()->body_id(*place));
}

bool add_topology(KeyMaker& maker, const Evaluation& evaluation, const Reference& reference, Need need) {
  if (!evaluation.part) return false;
  const auto& pick = std::get<TopologyReference>(reference.target);
  const auto found = find_pick(evaluation, pick, reference.clicked);
  if (!found->located) return false;
  maker.add(found->element);
  maker.add(static_cast<int>(pick.snap));
  maker.add(static_cast<int>(found->located->how));
  maker.add(found->located->moved_mm);
  maker.add(found->located->candidates.size());
  if (need == Need::kOfBody) add_body(maker, *evaluation.part, pick.body);
  return true;
}

bool add_region(KeyMaker& maker, const Evaluation& evaluation, const RegionReference& region) {
  if (!evaluation.part) return false;
  add_body(maker, *evaluation.part, region.body);
  add_to(maker, region.wish.at.XYZ());
  add_to(maker, region.wish.seen_from.XYZ());
  maker.add(region.wish.within_mm);
  maker.add(region.wish.as ? static_cast<int>(*region.wish.as) : -1);
  return true;
}

bool add_entry(KeyMaker& maker, const Evaluation& evaluation, const EntryReference& entry) {
  maker.add(entry.element);
  maker.add(static_cast<int>(entry.snap));
  if (entry.entry == kReadPlaced || entry.entry == kReadDelivered) {
    maker.add(entry.entry);
    return true;
  }
  const auto at = evaluation.entries.find(entry.entry);
  if (at == evaluation.entries.end() || !at->second.fresh || !at->second.value) return false;
  maker.add(at->second.key);
  return true;
}

bool add_pick(KeyMaker& maker, const Evaluation& evaluation, const Reference& pick, Need need) {
  maker.add(pick.target.index());
  maker.add(pick.clicked.has_value());
  if (pick.clicked) add_to(maker, pick.clicked->XYZ());
  if (const auto* entry = std::get_if<EntryReference>(&pick.target)) {
    if (entry->entry == kReadDelivered || pick.clicked) add_to(maker, evaluation.placement);
    return add_entry(maker, evaluation, *entry);
  }
  add_to(maker, evaluation.placement);
  if (const auto* region = std::get_if<RegionReference>(&pick.target))
    return add_region(maker, evaluation, *region);
  return add_topology(maker, evaluation, pick, need);
}

}  // namespace

Result<Located> located_pick(const Evaluation& evaluation, const Reference& pick) {
  if (!evaluation.part) return refuse(RefusalCode::kUnknownName, "there is no part");
  const auto* topology = std::get_if<TopologyReference>(&pick.target);
  return topology ? find_pick(evaluation, *topology, pick.clicked)->located : locate(*evaluation.part, pick);
}

TopologyReference describe_now(const Evaluation& evaluation, int part_entry, TopologyKind kind, int index,
                               Snap snap) {
  TopologyReference pick = describe(*evaluation.part, part_entry, kind, index, snap);
  pick.made_on = made_on(evaluation.states);
  return pick;
}

bool add_recipe(KeyMaker& maker, const Job& job, const Evaluation& evaluation, const Recipe& recipe,
                const Names& names) {
  const Construction* construction = find_construction(recipe.construction);
  if (!construction || !takes(*construction, recipe.inputs.size())) return false;
  maker.add(recipe.construction);
  maker.add(recipe.flipped);
  maker.add(static_cast<int>(recipe.unit));
  maker.add(recipe.parameters);
  maker.add(names);
  maker.add(static_cast<int>(job.display.unit));
  maker.add(job.display.decimals);
  maker.add(job.display.angle_decimals);
  maker.add(job.tolerance.linear_mm);
  maker.add(job.tolerance.angular_rad);
  // A plan counts faces, so it holds for this numbering alone; and it is in part coordinates.
  if (construction->makes == Makes::kCorrection) {
    maker.add(evaluation.part_key);
    add_to(maker, evaluation.placement);
  }
  for (size_t role = 0; role < recipe.inputs.size(); ++role)
    if (!add_pick(maker, evaluation, recipe.inputs[role], need_of(*construction, role))) return false;
  return true;
}

ContentKey key_after(const ContentKey& before, const PartState& state) {
  KeyMaker maker;
  maker.add(before);
  maker.add(state.made_by);
  if (state.recipe) {
    maker.add(*state.recipe);
    return maker.key();
  }
  maker.add(state.part->geometry()->id());
  for (const Body& body : state.part->bodies()) {
    maker.add(body.delivered);
    add_to(maker, body.arranged);
  }
  return maker.key();
}

}  // namespace anvil
