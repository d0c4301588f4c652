// Speed of the core at growing sizes: the topology index, holes and corners must grow linearly with faces.
#include <benchmark/benchmark.h>

#include <TopExp_Explorer.hxx>

#include "construct/offers.h"
#include "demo/demo_part.h"
#include "demo/shapes.h"
#include "geom/primitives.h"
#include "inspect/corners.h"
#include "inspect/holes.h"
#include "inspect/left_by_cutter.h"
#include "inspect/section_stack.h"
#include "job/edits.h"
#include "job/evaluate.h"
#include "part/mesh.h"
#include "scan/region.h"
#include "setup/kinematics.h"
#include "setup/proposals.h"
#include "setup/shipped_machines.h"

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
  for ([[maybe_unused]] auto _ : state)
    benchmark::DoNotOptimize(build_topology_index({part->bodies().front().shape}));
  report_faces(state, *part);
}

void holes(benchmark::State& state) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  for ([[maybe_unused]] auto _ : state) benchmark::DoNotOptimize(find_holes(*part).has_value());
  report_faces(state, *part);
}

void corners(benchmark::State& state) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  for ([[maybe_unused]] auto _ : state) benchmark::DoNotOptimize(find_corners(*part, {}).has_value());
  report_faces(state, *part);
}

void offers_of_two_faces(benchmark::State& state) {
  const PartPtr part = plate_part(8);
  std::vector<Given> picks;
  for (size_t i = 0; i < part->topology().faces.size() && picks.size() < 2; ++i)
    if (part->topology().faces[i].surface.kind == SurfaceKind::kPlane)
      picks.push_back(given_by_face(*part, static_cast<int>(i), {}));
  for ([[maybe_unused]] auto _ : state) benchmark::DoNotOptimize(offers_for(picks, {}));
}

// Picks of all kinds on a part of some 5 000 faces; giving them is part of an answer.
void offers_of_five_picks(benchmark::State& state) {
  const PartPtr part = plate_part(34);
  const TopologyIndex& topology = part->topology();
  for ([[maybe_unused]] auto _ : state) {
    std::vector<Given> picks;
    for (int i = 0; i < static_cast<int>(state.range(0)); ++i) {
      const auto spread = [&](size_t count) {
        return static_cast<int>(count / 6 * static_cast<size_t>(i + 1));
      };
      if (i % 3 == 0) picks.push_back(given_by_face(*part, spread(topology.faces.size()), {}));
      if (i % 3 == 1) picks.push_back(given_by_edge(*part, spread(topology.edges.size()), Snap::kWhole, {}));
      if (i % 3 == 2) picks.push_back(given_by_vertex(*part, spread(topology.vertices.size()), {}));
    }
    benchmark::DoNotOptimize(offers_for(picks, {}));
  }
  report_faces(state, *part);
}

// Planes, axes and points on the saddle plate, each on its own face, and all of them placed anew.
void evaluate_datums(benchmark::State& state) {
  const demo::DemoPart demo = demo::saddle_plate();
  const auto part = std::make_shared<const Part>(SourceInfo{}, demo.bodies);
  Job job = with_part({}, part, std::make_shared<const std::string>(), "plate");
  const int part_entry = job.first_part()->id;
  const auto faces = static_cast<int>(part->topology().faces.size());
  int before = 0;
  for (int i = 0; i < static_cast<int>(state.range(0)); ++i) {
    Recipe recipe;
    const Reference face{describe(*part, part_entry, TopologyKind::kFace, i % faces), {}};
    const SurfaceKind kind = part->topology().faces[static_cast<size_t>(i % faces)].surface.kind;
    recipe.construction = kind == SurfaceKind::kPlane ? "plane.offset" : "axis.of";
    recipe.inputs = {face};
    if (kind == SurfaceKind::kPlane && before && i % 2) recipe.inputs = {{EntryReference{before}, {}}};
    if (kind == SurfaceKind::kPlane) recipe.parameters = {{"distance", "1/4in + 2"}};
    int added = 0;
    job = with_datum(std::move(job), recipe, &added);
    if (kind == SurfaceKind::kPlane) before = added;
  }
  for ([[maybe_unused]] auto _ : state) benchmark::DoNotOptimize(evaluate(job).computed);
}

// The side of the counterweight's scan, by the number of its triangles: the first region of a body, which
// learns who lies beside whom, and the next.
void region_of_a_scan(benchmark::State& state) {
  const demo::DemoScan scan = demo::counterweight_scan(static_cast<double>(state.range(0)) / 100);
  const RegionWish wish{gp_Pnt(-45, 0, 20).Transformed(scan.placement),
                        gp_Dir(-1, 0, 0).Transformed(scan.placement)};
  const MeshGraph graph = mesh_graph(scan.bodies.front().shape);
  size_t grown = 0;
  for ([[maybe_unused]] auto _ : state) grown = grow_region(graph, wish)->triangles.size();
  state.counters["triangles"] = static_cast<double>(graph.triangles.size());
  state.counters["in the region"] = static_cast<double>(grown);
}

void neighbours_in_a_scan(benchmark::State& state) {
  const demo::DemoScan scan = demo::counterweight_scan(static_cast<double>(state.range(0)) / 100);
  size_t triangles = 0;
  for ([[maybe_unused]] auto _ : state) triangles = mesh_graph(scan.bodies.front().shape).triangles.size();
  state.counters["triangles"] = static_cast<double>(triangles);
}

// Over all levels; tilted, so that every level is cut through and nothing is the same as above.
void left(benchmark::State& state, bool tilted, LeftDetail detail) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  CornerOptions options;
  if (tilted) options.axis = gp_Dir(0.3, 0.1, 1);
  const auto report = find_corners(*part, options);
  for ([[maybe_unused]] auto _ : state)
    benchmark::DoNotOptimize(left_by_cutter(*report->sections, 7, detail)->volume_mm3);
  state.counters["levels"] = static_cast<double>(report->sections->slabs.size());
  report_faces(state, *part);
}
void left_along(benchmark::State& state) {
  left(state, false, LeftDetail::kFull);
}
void left_tilted(benchmark::State& state) {
  left(state, true, LeftDetail::kFull);
}
void left_tilted_dragging(benchmark::State& state) {
  left(state, true, LeftDetail::kWhileDragging);
}
void corners_tilted(benchmark::State& state) {
  const PartPtr part = plate_part(static_cast<int>(state.range(0)));
  CornerOptions options;
  options.axis = gp_Dir(0.3, 0.1, 1);
  for ([[maybe_unused]] auto _ : state) benchmark::DoNotOptimize(find_corners(*part, options).has_value());
  report_faces(state, *part);
}

// A dodecahedron with 25 blind holes in each of its twelve faces.
PartPtr twelve_sided() {
  static PartPtr part;
  if (part) return part;
  constexpr double kFar = 60, kBig = 400, kPitch = 9;
  const double golden = (1 + std::sqrt(5.0)) / 2;
  std::vector<gp_Dir> normals;
  for (const double a : {1.0, -1.0})
    for (const double b : {golden, -golden})
      for (const gp_Dir& normal : {gp_Dir(0, a, b), gp_Dir(a, b, 0), gp_Dir(b, 0, a)})
        normals.push_back(normal);
  std::vector<TopoDS_Shape> outside, drills;
  for (const gp_Dir& normal : normals) {
    const gp_Ax2 face = make_frame(gp_Pnt(gp_Vec(normal).XYZ() * kFar), normal, gp_Dir(0.3, 0.5, 0.8));
    gp_Trsf to_face;
    to_face.SetTransformation(gp_Ax3(face), gp_Ax3());
    outside.push_back(
        demo::block(gp_Pnt(-kBig, -kBig, 0), gp_Pnt(kBig, kBig, kBig)).Moved(TopLoc_Location(to_face)));
    for (int i = -2; i <= 2; ++i)
      for (int j = -2; j <= 2; ++j) {
        const gp_Pnt at = gp_Pnt(i * kPitch, j * kPitch, 0).Transformed(to_face);
        drills.push_back(demo::rod(gp_Ax2(at, normal.Reversed()), 4, 10));
      }
  }
  Body body;
  body.name = "twelve sides";
  body.shape =
      demo::cut(demo::cut(demo::block(gp_Pnt(-100, -100, -100), gp_Pnt(100, 100, 100)), outside), drills);
  for (TopExp_Explorer solids(body.shape, TopAbs_SOLID); solids.More(); solids.Next())
    body.shape = solids.Current();
  mesh_shape(body.shape);
  part = std::make_shared<const Part>(SourceInfo{}, std::vector<Body>{body});
  return part;
}

void proposals_for_twelve_sides(benchmark::State& state) {
  const PartPtr part = twelve_sided();
  const auto holes = find_holes(*part);
  size_t axes = 0;
  for ([[maybe_unused]] auto _ : state) axes = propose_axes(*part, *holes)->axes.size();
  state.counters["holes"] = static_cast<double>(holes->holes.size());
  state.counters["axes"] = static_cast<double>(axes);
}

void poses_on_the_cradle(benchmark::State& state) {
  const Machine& cradle = shipped_machines()[2];
  double turn = 0;
  for ([[maybe_unused]] auto _ : state) {
    turn += 0.01;
    benchmark::DoNotOptimize(poses_for(cradle, gp_Dir(std::cos(turn), std::sin(turn), 0.7)).has_value());
  }
}

}  // namespace

BENCHMARK(proposals_for_twelve_sides)->Unit(benchmark::kMillisecond);
BENCHMARK(poses_on_the_cradle)->Unit(benchmark::kMicrosecond);
BENCHMARK(region_of_a_scan)->Arg(160)->Arg(60)->Arg(35)->Unit(benchmark::kMillisecond);
BENCHMARK(neighbours_in_a_scan)->Arg(160)->Arg(60)->Arg(35)->Unit(benchmark::kMillisecond);
BENCHMARK(topology_index)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(holes)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(corners_tilted)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(left_along)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(left_tilted)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(left_tilted_dragging)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(corners)->Arg(6)->Arg(12)->Arg(24)->Unit(benchmark::kMillisecond);
BENCHMARK(offers_of_two_faces)->Unit(benchmark::kMillisecond);
BENCHMARK(offers_of_five_picks)->Arg(2)->Arg(3)->Arg(5)->Unit(benchmark::kMillisecond);
BENCHMARK(evaluate_datums)->Arg(500)->Unit(benchmark::kMillisecond);
BENCHMARK_MAIN();
