#include "job/healing.h"

#include "part/element_content.h"

namespace anvil {
namespace {

// What a face with its edges, curves and triangles takes, by experience.
constexpr size_t kFace_bytes = 6000;

size_t bytes_of(const Result<HealedPart>& healed) {
  return healed ? healed->part->topology().faces.size() * kFace_bytes : sizeof healed;
}

}  // namespace

ContentKey healing_key(const Part& part, const HealOptions& options) {
  KeyMaker maker;
  maker.add("healed");
  maker.add(part.geometry()->id());
  for (const Body& body : part.bodies()) {
    maker.add(static_cast<int>(body.kind));
    for (const auto& [face, colour] : body.face_colours) {
      maker.add(face);
      add_to(maker, gp_XYZ(colour.r, colour.g, colour.b));
    }
  }
  maker.add(to_json_text(options));
  return maker.key();
}

std::shared_ptr<const Result<HealedPart>> known_healing(ResultCache& cache, const Part& part,
                                                        const HealOptions& options) {
  return cache.find<Result<HealedPart>>(healing_key(part, options));
}

void keep_healing(ResultCache& cache, const ContentKey& key, Result<HealedPart> healed) {
  const size_t bytes = bytes_of(healed);
  cache.keep(key, std::move(healed), bytes);
}

Result<HealedPart> heal_once(ResultCache& cache, const Part& part, const HealOptions& options,
                             const Progress& progress) {
  if (const auto known = known_healing(cache, part, options)) return *known;
  auto healed = heal_part(part, options, progress);
  if (healed || is_lasting(healed.error().code)) keep_healing(cache, healing_key(part, options), healed);
  return healed;
}

PartState healed_state(const PartPtr& before, const HealedPart& healed, int entry) {
  std::vector<Body> bodies = before->bodies();
  for (size_t i = 0; i < bodies.size() && i < healed.part->bodies().size(); ++i) {
    const Body& mended = healed.part->bodies()[i];
    bodies[i].shape = mended.shape;
    bodies[i].kind = mended.kind;
    bodies[i].face_colours = mended.face_colours;
    bodies[i].found_valid = mended.found_valid;
    bodies[i].meshed = mended.meshed;
  }
  auto part = std::make_shared<const Part>(before->sources(), std::move(bodies),
                                           std::vector{healed.part->geometry()});
  ShapeMap map(*before, *part, healed.maps);
  return {std::move(part), entry, std::move(map)};
}

}  // namespace anvil
