// bench_acts [ROWS] [DATUMS]: what acts on a large job cost (a plate of ROWS x ROWS holes, datums on its
// faces and on each other): through the gate, into the history, evaluated. A row for each act as Markdown:
// median and slowest in milliseconds, and what the history grew by an act. The defaults make some 5,000 faces
// and 500 datums.
#include <malloc.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <string>
#include <vector>

#include "base/file.h"
#include "demo/demo_part.h"
#include "geom/quiet.h"
#include "job/edits.h"
#include "job/evaluate.h"
#include "job/gate.h"
#include "job/history.h"
#include "part/mesh.h"
#include "store/job_file.h"

namespace {

using namespace anvil;
using Clock = std::chrono::steady_clock;

double ms_since(Clock::time_point start) {
  return std::chrono::duration<double, std::milli>(Clock::now() - start).count();
}

double heap_mb() {
  return static_cast<double>(mallinfo2().uordblks) / 1e6;
}

Recipe recipe(const char* id, std::vector<Reference> inputs, ParameterTexts parameters = {}) {
  Recipe r;
  r.construction = id;
  r.inputs = std::move(inputs);
  r.parameters = std::move(parameters);
  return r;
}

// The window's part of an act, without the window.
class Bench {
 public:
  Bench(int rows, int datums) {
    Body body;
    body.name = "plate";
    body.shape = demo::plate_of_holes(rows, rows);
    mesh_shape(body.shape);
    const auto part = std::make_shared<const Part>(SourceInfo{}, std::vector<Body>{body});
    faces_ = static_cast<int>(part->topology().faces.size());
    Job job = with_part({}, part, std::make_shared<const std::string>("source"), "plate");
    // Axes of bores, a point on every second, and chains of planes, each 1 above the last.
    const auto& faces = part->topology().faces;
    int last_plane = 0;
    for (int i = 0, n = 0; n < datums; ++i) {
      const int face = static_cast<int>((static_cast<long>(i) * 37) % faces_);
      const Reference picked{describe(*part, job.first_part()->id, TopologyKind::kFace, face), {}};
      int id = 0;
      if (faces[face].surface.kind == SurfaceKind::kCylinder) {
        job = with_datum(job, recipe("axis.of", {picked}), &id);
      } else if (faces[face].surface.kind == SurfaceKind::kPlane) {
        const bool is_chained = last_plane != 0 && n % 50 != 0;
        const Reference from = is_chained ? Reference{EntryReference{last_plane}, {}} : picked;
        job = with_datum(job, recipe("plane.offset", {from}, {{"distance", "1"}}), &id);
        if (!is_chained) first_planes_.push_back(id);
        last_plane = id;
      } else {
        continue;
      }
      ids_.push_back(id);
      ++n;
    }
    history_ = History(job);
    evaluation_ = evaluate(history_.now());
  }

  [[nodiscard]] int faces() const { return faces_; }
  [[nodiscard]] const std::vector<int>& ids() const { return ids_; }
  [[nodiscard]] const std::vector<int>& first_planes() const { return first_planes_; }
  [[nodiscard]] const Job& job() const { return history_.now(); }

  bool act(Job next) {
    auto passed = through_gate(std::move(next));
    if (!passed || same_job(*passed, history_.now())) return false;
    history_.act("act", std::move(*passed));
    evaluation_ = evaluate(history_.now(), &evaluation_);
    return true;
  }
  void undo() {
    history_.undo();
    evaluation_ = evaluate(history_.now(), &evaluation_);
  }

 private:
  int faces_ = 0;
  std::vector<int> ids_, first_planes_;
  History history_;
  Evaluation evaluation_;
};

template <class Act>
void row(const char* name, int times, Act&& act) {
  std::vector<double> took;
  const double before = heap_mb();
  for (int i = 0; i < times; ++i) {
    const auto start = Clock::now();
    act(i);
    took.push_back(ms_since(start));
  }
  const double grown = (heap_mb() - before) / times;
  std::sort(took.begin(), took.end());
  std::printf("| %s | %.2f ms | %.2f ms | %.3f MB |\n", name, took[took.size() / 2], took.back(), grown);
  std::fflush(stdout);
}

}  // namespace

int main(int argc, char** argv) {
  quiet_kernel();
  const int rows = argc > 1 ? std::atoi(argv[1]) : 34, datums = argc > 2 ? std::atoi(argv[2]) : 500;
  Bench bench(rows, datums);
  std::printf("%d faces, %zu datums\n\n| act | median | slowest | kept an act |\n|---|---|---|---|\n",
              bench.faces(), bench.ids().size());
  const auto some = [&](int i) { return bench.ids()[static_cast<size_t>(i * 7) % bench.ids().size()]; };
  row("hide or show a datum", 1000,
      [&](int i) { bench.act(with_visible(bench.job(), some(i), !bench.job().find(some(i))->visible)); });
  row("rename a datum", 200,
      [&](int i) { bench.act(with_name(bench.job(), some(i), "Renamed " + std::to_string(i))); });
  row("drag the number a chain of planes hangs on", 200, [&](int i) {
    const int id = bench.first_planes()[static_cast<size_t>(i) % bench.first_planes().size()];
    Recipe edited = bench.job().find(id)->datum()->recipe;
    edited.parameters["distance"] = std::to_string(i + 2);
    bench.act(with_recipe(bench.job(), id, edited));
  });
  row("rename a body", 20, [&](int i) {
    BodySetting setting = bench.job().body(0);
    setting.name = "plate " + std::to_string(i);
    bench.act(with_body(bench.job(), 0, setting));
  });
  row("hide or show a body", 20, [&](int) {
    BodySetting setting = bench.job().body(0);
    setting.visible = !setting.visible;
    bench.act(with_body(bench.job(), 0, setting));
  });
  row("undo", 200, [&](int) { bench.undo(); });
  const TemporaryFolder folder;
  const auto path = folder.path() / "acts.anvil";
  row("save", 3, [&](int) { static_cast<void>(save_job(bench.job(), path)); });
  row("open", 3, [&](int) { static_cast<void>(load_job(path, {}).has_value()); });
  return 0;
}
