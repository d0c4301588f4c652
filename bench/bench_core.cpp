// Speed of the core at growing sizes: the topology index, holes and corners must grow linearly with faces.
#include <benchmark/benchmark.h>

#include "construct/offers.h"
#include "demo/demo_part.h"
#include "inspect/corners.h"
#include "inspect/holes.h"
#include "part/mesh.h"

namespace {

using namespace anvil;

PartPtr plate_part(int rows) {
  static std::map<int, PartPtr> known;
  PartPtr& part = known[rows];
  if (part) return part;
  Body body;
  body.name = "plate";
  body.shape = demo::plate_of_holes(rows, rows);
  mesh_shape(body.shape);
  part = std::make_shared<const Part>(SourceInfo{}, std::vector<Body>{body});
  return part;
}

void report_faces(benchmark::State& state, const Part& part) {
  const auto faces = static_cast<double>(part.topology().faces.size());
  state.counters["faces"] = faces;
  state.counters["us/face"] = benchmark::Counter(
      faces / 1e6, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void topology_index(benchmark::State& state) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  for (auto _ : state) benchmark::DoNotOptimize(build_topology_index({part->bodies().front().shape}));
  report_faces(state, *part);
}

void holes(benchmark::State& state) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  for (auto _ : state) benchmark::DoNotOptimize(find_holes(*part).has_value());
  report_faces(state, *part);
}

void corners(benchmark::State& state) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  for (auto _ : state) benchmark::DoNotOptimize(find_corners(*part, {}).has_value());
  report_faces(state, *part);
}

void offers_of_two_faces(benchmark::State& state) {
  const PartPtr part = plate_part(8);
  std::vector<Given> picks;
  for (size_t i = 0; i < part->topology().faces.size() && picks.size() < 2; ++i)
    if (part->topology().faces[i].surface.kind == SurfaceKind::kPlane)
      picks.push_back(given_by_face(*part, static_cast<int>(i), {}));
  for (auto _ : state) benchmark::DoNotOptimize(offers_for(picks, {}));
}

}  // namespace

BENCHMARK(topology_index)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(holes)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(corners)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(offers_of_two_faces)->Unit(benchmark::kMillisecond);
BENCHMARK_MAIN();
