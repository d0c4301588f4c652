#include "job/known_checks.h"

#include "part/element_content.h"

namespace anvil {
namespace {

// What reports take for a face, by experience: of corners the sections are the most of it.
constexpr size_t kHoles_bytes = 1000, kCorners_bytes = 20000;

ContentKey key_of(const char* what, const Part& part) {
  KeyMaker maker;
  maker.add(what);
  maker.add(part.geometry()->id());
  for (const Body& body : part.bodies()) maker.add(static_cast<int>(body.kind));
  return maker.key();
}

ContentKey key_of(const Part& part, const CornerOptions& options) {
  KeyMaker maker;
  maker.add(key_of("corners", part));
  add_to(maker, options.axis.XYZ());
  maker.add(options.margin);
  maker.add(options.holder_radius_mm);
  maker.add(options.with_sections);
  return maker.key();
}

// The numbers that the faces and edges of each body have in the part, in their order.
struct Numbers {
  std::vector<int> faces, edges;
};
std::vector<Numbers> numbers_by_body(const Part& part) {
  std::vector<Numbers> all(part.bodies().size());
  const TopologyIndex& topology = part.topology();
  for (size_t i = 0; i < topology.faces.size(); ++i)
    all[topology.faces[i].body].faces.push_back(static_cast<int>(i));
  for (size_t i = 0; i < topology.edges.size(); ++i)
    all[topology.edges[i].body].edges.push_back(static_cast<int>(i));
  return all;
}

int place_in(const std::vector<int>& numbers, int number) {
  const auto at = std::lower_bound(numbers.begin(), numbers.end(), number);
  return at != numbers.end() && *at == number ? static_cast<int>(at - numbers.begin()) : -1;
}

// Findings of a body by the places of its faces and edges in it, whatever part it is in.
std::vector<Finding> by_place(std::vector<Finding> findings, const Numbers& numbers) {
  for (Finding& finding : findings) {
    finding.face = place_in(numbers.faces, finding.face);
    finding.edge = place_in(numbers.edges, finding.edge);
  }
  return findings;
}

std::vector<Finding> in_part(std::vector<Finding> findings, const Numbers& numbers, int body) {
  for (Finding& finding : findings) {
    finding.body = body;
    if (finding.face >= 0) finding.face = numbers.faces[finding.face];
    if (finding.edge >= 0) finding.edge = numbers.edges[finding.edge];
  }
  return findings;
}

}  // namespace

Result<std::vector<Finding>> soundness_once(ResultCache& cache, const Part& part, double tolerance_mm,
                                            const Progress& progress) {
  const std::vector<Numbers> numbers = numbers_by_body(part);
  const auto of_body = [&](const Part& whole, int body, double tolerance) {
    KeyMaker maker;
    maker.add("soundness");
    maker.add(whole.geometry()->body_id(body));
    maker.add(static_cast<int>(whole.bodies()[body].kind));
    maker.add(whole.bodies()[body].found_valid);
    maker.add(tolerance);
    auto known = cache.find<std::vector<Finding>>(maker.key());
    if (!known) {
      std::vector<Finding> found = by_place(check_soundness(whole, body, tolerance), numbers[body]);
      const size_t bytes = found.size() * (sizeof(Finding) + 100);
      known = cache.keep(maker.key(), std::move(found), bytes);
    }
    return in_part(*known, numbers[body], body);
  };
  return check_soundness_of_all(part, tolerance_mm, progress, of_body);
}

HolesPtr known_holes(ResultCache& cache, const Part& part) {
  return cache.find<HoleReport>(key_of("holes", part));
}

CornersPtr known_corners(ResultCache& cache, const Part& part, const CornerOptions& options) {
  return cache.find<CornerReport>(key_of(part, options));
}

Result<HolesPtr> holes_once(ResultCache& cache, const Part& part, const Progress& progress) {
  if (HolesPtr known = known_holes(cache, part)) return known;
  auto found = find_holes(part, progress);
  if (!found) return refuse(found);
  return cache.keep(key_of("holes", part), std::move(*found), part.topology().faces.size() * kHoles_bytes);
}

Result<CornersPtr> corners_once(ResultCache& cache, const Part& part, const CornerOptions& options,
                                const HoleReport* holes, const Progress& progress) {
  if (CornersPtr known = known_corners(cache, part, options)) return known;
  auto found = find_corners(part, options, progress, holes);
  if (!found) return refuse(found);
  return cache.keep(key_of(part, options), std::move(*found), part.topology().faces.size() * kCorners_bytes);
}

}  // namespace anvil
