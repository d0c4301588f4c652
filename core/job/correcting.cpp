#include "job/correcting.h"

#include <fmt/format.h>

#include <charconv>

#include "part/measure.h"

namespace anvil {
namespace {

using Done = Result<CorrectedBody>;

// What a face with its edges, curves and triangles takes, by experience; most are shared with the body
// before.
constexpr size_t kFace_bytes = 2000;

ContentKey key_of(const Part& part, const PlanStep& step) {
  KeyMaker maker;
  maker.add("corrected");
  maker.add(part.geometry()->body_id(step.body));
  maker.add(static_cast<int>(part.bodies()[step.body].kind));
  add_step(maker, part, step);
  return maker.key();
}

size_t bytes_of(const Done& done) {
  size_t bytes = sizeof done;
  if (!done) return bytes + done.error().sentence.size();
  for (const auto& kind : done->map) bytes += kind.size() * sizeof(Went);
  return bytes + done->map.front().size() * kFace_bytes;
}

std::shared_ptr<const Done> done_once(ResultCache& cache, const Part& part, const PlanStep& step,
                                      const Progress& progress) {
  const ContentKey key = key_of(part, step);
  if (auto known = cache.find<Done>(key)) return known;
  auto directly = carry_out_directly(part, step, progress);
  Done done = directly ? Done(std::move(*directly)) : carry_out_apart(part, step, progress);
  if (progress.stop()) return std::make_shared<const Done>(refuse(RefusalCode::kCancelled, "stopped"));
  if (!done && !is_lasting(done.error().code)) return std::make_shared<const Done>(std::move(done));
  const size_t bytes = bytes_of(done);
  return cache.keep(key, std::move(done), bytes);
}

std::map<int, Colour> colours_now(const std::map<int, Colour>& colours, const BodyMap& map) {
  std::map<int, Colour> now;
  const std::vector<Went>& faces = map.front();
  for (const auto& [face, colour] : colours)
    if (face < static_cast<int>(faces.size()) && faces[face])
      for (const int place : *faces[face]) now[place] = colour;
  return now;
}

std::optional<ContentKey> key_from(const std::string& hex) {
  ContentKey key;
  const char* text = hex.data();
  if (hex.size() != 32) return std::nullopt;
  for (const auto& [number, from] : {std::pair(&key.high, text), std::pair(&key.low, text + 16)})
    if (std::from_chars(from, from + 16, *number, 16).ptr != from + 16) return std::nullopt;
  return key;
}

// Untouched bodies keep where everything is.
BodyMap same_map(const TopoDS_Shape& shape) {
  return body_map(shape, shape, *Handle(BRepTools_History)(new BRepTools_History()));
}

// Called as the entry is; of several each with its number.
void add_own_bodies(const Correcting& what, std::vector<Body>& bodies, CorrectionReport& report) {
  const std::vector<TopoDS_Shape>& made = what.plan->bodies;
  // Copies that only lie elsewhere have one volume.
  std::map<const TopoDS_TShape*, double> volumes;
  const auto volume_of = [&](const TopoDS_Shape& solid) {
    const auto [at, is_new] = volumes.try_emplace(solid.TShape().get(), 0);
    if (is_new) at->second = volume_properties(solid).volume_mm3;
    return at->second;
  };
  for (size_t i = 0; i < made.size(); ++i) {
    Body body;
    body.name = made.size() == 1 ? what.name : fmt::format("{}.{}", what.name, i + 1);
    body.shape = made[i].Moved(TopLoc_Location(what.placement.Inverted()));
    body.delivered = made_by(what.entry, static_cast<int>(i));
    body.found_valid = true;
    body.meshed = true;
    report.added_mm3 += volume_of(made[i]);
    report.added.push_back(body.shape);
    bodies.push_back(std::move(body));
  }
}

}  // namespace

std::string change_text(const CorrectionReport& report, const Display& display) {
  const double cube = std::pow(mm_per(display.unit), 3);
  const auto told = [&](const char* what, double mm3) {
    return fmt::format("{} {:.{}f} {}³", what, mm3 / cube, display.decimals, unit_name(display.unit));
  };
  std::string text;
  if (report.added_mm3 > 0) text = told("adds", report.added_mm3);
  if (report.removed_mm3 > 0) text += (text.empty() ? "" : ", ") + told("removes", report.removed_mm3);
  return text;
}

bool is_known(ResultCache& cache, const Part& before, const Plan& plan) {
  return std::all_of(plan.steps.begin(), plan.steps.end(),
                     [&](const PlanStep& step) { return cache.find<Done>(key_of(before, step)) != nullptr; });
}

Result<CorrectedPart> corrected_once(ResultCache& cache, const Correcting& what,
                                     const std::vector<GeometryPtr>& donors, const Progress& progress) {
  const PartPtr& before = what.before;
  std::vector<Body> bodies = before->bodies();
  std::vector<BodyMap> maps(bodies.size());
  CorrectedPart corrected;
  for (const PlanStep& step : what.plan->steps) {
    if (progress.stop()) return refuse(RefusalCode::kCancelled, "stopped");
    const auto done = done_once(cache, *before, step, progress);
    if (!*done) return refuse(*done);
    const CorrectedBody& now = **done;
    Body& body = bodies[step.body];
    body.shape = now.shape;
    body.found_valid = true;
    body.face_colours = colours_now(body.face_colours, now.map);
    maps[step.body] = now.map;
    corrected.report.added_mm3 += now.added_mm3;
    corrected.report.removed_mm3 += now.removed_mm3;
    corrected.report.added.push_back(now.added);
    corrected.report.removed.push_back(now.removed);
  }
  const bool only_adds = what.plan->steps.empty();
  for (size_t i = 0; i < maps.size() && !only_adds; ++i)
    if (maps[i].front().empty()) maps[i] = same_map(bodies[i].shape);
  add_own_bodies(what, bodies, corrected.report);
  std::vector<GeometryPtr> all = donors;
  all.push_back(before->geometry());
  auto part = std::make_shared<const Part>(before->sources(), std::move(bodies), all);
  // Bodies that come last leave the others their numbers.
  ShapeMap map = only_adds ? ShapeMap() : ShapeMap(*before, *part, maps);
  corrected.state = {std::move(part), what.entry, std::move(map)};
  return corrected;
}

std::vector<KnownCorrection> known_corrections(const Job& job, const std::shared_ptr<ResultCache>& cache) {
  std::vector<KnownCorrection> all;
  const Evaluation known = evaluate(job, nullptr, {.only_known = true, .cache = cache});
  for (size_t i = 1; i < known.states.size(); ++i) {
    const auto entry = known.entries.find(known.states[i].made_by);
    if (entry == known.entries.end() || !entry->second.corrected) continue;
    const auto& planned = std::get<PlannedCorrection>(*entry->second.value);
    for (const PlanStep& step : planned.plan->steps) {
      const ContentKey key = key_of(*known.states[i - 1].part, step);
      if (auto done = cache->find<Done>(key)) all.push_back({key.hex(), std::move(done)});
    }
  }
  return all;
}

void keep_correction(ResultCache& cache, const std::string& key, CorrectedBody corrected) {
  const std::optional<ContentKey> known_by = key_from(key);
  if (!known_by) return;
  Done done = std::move(corrected);
  const size_t bytes = bytes_of(done);
  cache.keep(*known_by, std::move(done), bytes);
}

}  // namespace anvil
