// bench_corrections FILE…: what share of single corrections works on real parts. Every hole of every solid is
// closed, moved and made wider alone, every flat face pushed, each in a process of its own that may take half
// a minute, so that a crash is counted and not suffered. What is kept is judged by the kernel's checker over
// the whole body. A row for each file, as Markdown; then the reasons why the others refuse.
#include <sys/wait.h>
#include <unistd.h>

#include <BRepCheck_Analyzer.hxx>
#include <STEPControl_Reader.hxx>
#include <chrono>
#include <cstdio>
#include <filesystem>
#include <map>

#include "base/file.h"
#include "construct/corrections.h"
#include "construct/offers.h"
#include "construct/registry.h"
#include "construct/solve.h"
#include "correct/correct_worker.h"
#include "demo/demo_part.h"
#include "exchange/read_here.h"
#include "exchange/step_format.h"
#include "geom/quiet.h"
#include "part/measure.h"
#include "part/mesh_once.h"
#include "part_of_file.h"
#include "seconds.h"

namespace {

using namespace anvil;
using bench::seconds;
using Clock = std::chrono::steady_clock;

constexpr unsigned kMost_s = 30;
constexpr int kMostHoles = 60, kMostFaces = 40;  // of a file, evenly among them

struct Shares {
  int sound = 0, unsound = 0, refused = 0, crashed = 0, late = 0;
  double seconds = 0;
  std::map<std::string, int> reasons;
};

std::string without_numbers(std::string reason) {
  for (const char* told : {" (at ", " at X "})
    if (const auto place = reason.find(told); place != std::string::npos) reason.resize(place);
  return reason;
}

// "" for sound, "!" for what the checker does not like, else why it was refused.
std::string outcome(const Part& part, const Solutions& solutions) {
  if (!solutions) return solutions.error().sentence;
  const auto& plan = *std::get<PlannedCorrection>(solutions->front().value).plan;
  for (const PlanStep& step : plan.steps) {
    const bool was_valid = BRepCheck_Analyzer(part.bodies()[step.body].shape).IsValid();
    const auto done = carry_out(part, step);
    if (!done) return done.error().sentence;
    if (was_valid && !BRepCheck_Analyzer(done->shape).IsValid()) return "!";
  }
  return "";
}

void count(Shares& shares, const std::string& outcome) {
  if (outcome.empty()) {
    ++shares.sound;
  } else if (outcome == "!") {
    ++shares.unsound;
  } else {
    ++shares.refused;
    ++shares.reasons[without_numbers(outcome)];
  }
}

void tried(Shares& shares, const std::function<std::string()>& work) {
  int pipes[2];
  if (pipe(pipes) != 0) return;
  const auto start = Clock::now();
  const pid_t child = fork();
  if (child == 0) {
    alarm(kMost_s);
    const std::string text = work() + "\n";
    const auto written = write(pipes[1], text.data(), text.size());
    _exit(written < 0);
  }
  close(pipes[1]);
  std::string text;
  char buffer[512];
  for (ssize_t got = 0; (got = read(pipes[0], buffer, sizeof buffer)) > 0;)
    text.append(buffer, static_cast<size_t>(got));
  close(pipes[0]);
  int status = 0;
  waitpid(child, &status, 0);
  shares.seconds += std::chrono::duration<double>(Clock::now() - start).count();
  if (WIFSIGNALED(status))
    ++(WTERMSIG(status) == SIGALRM ? shares.late : shares.crashed);
  else
    count(shares, text.substr(0, text.find('\n')));
}

Solutions solved(const char* id, const std::vector<Given>& picks, const ParameterTexts& numbers) {
  const Construction& c = *find_construction(id);
  ParameterTexts texts = initial_parameters(c);
  for (const auto& [name, text] : numbers) texts[name] = text;
  std::vector<const Given*> inputs;
  inputs.reserve(picks.size());
  for (const Given& given : picks) inputs.push_back(&given);
  return solve(c, inputs, texts, {});
}

void row(const char* kind, const Shares& s) {
  const int all = s.sound + s.unsound + s.refused + s.crashed + s.late;
  std::printf(" %s %d of %d, unsound %d, crashed %d, late %d, %.2f s each |", kind, s.sound, all, s.unsound,
              s.crashed, s.late, all ? s.seconds / all : 0.0);
}

constexpr const char* kKinds[] = {"closed", "moved", "resized", "pushed", "with roundings", "with walls"};
using Tried = std::map<std::string, Shares>;  // by kind

void try_hole(const Part& part, const Hole& hole, Tried& shares) {
  const std::vector<Given> pick{given_by_face(part, hole.faces.front(), gp_Trsf())};
  tried(shares["closed"], [&] { return outcome(part, solved("correct.close", pick, {})); });
  const gp_Ax2 across(hole.entry, hole.axis);
  const gp_Vec by = gp_Vec(across.XDirection()) * (hole.diameter_mm / 20);
  Given frame;
  frame.frame = gp_Ax2();
  const auto text = [](double v) { return std::to_string(v); };
  tried(shares["moved"], [&] {
    return outcome(part, solved("correct.move-by", {frame, pick.front()},
                                {{"dx", text(by.X())}, {"dy", text(by.Y())}, {"dz", text(by.Z())}}));
  });
  tried(shares["resized"], [&] {
    return outcome(part, solved("correct.resize", pick, {{"diameter", text(hole.diameter_mm * 1.05)}}));
  });
}

// By a hundredth of the root of its area.
void try_push(const Part& part, int face, Tried& shares) {
  const std::vector<Given> pick{given_by_face(part, face, gp_Trsf())};
  const double by = std::sqrt(area_properties(part.topology().faces[face].face).area_mm2) / 100;
  const auto pushed = [&](const char* with) {
    return outcome(part,
                   solved("correct.face-push", pick, {{"distance", std::to_string(by)}, {"with", with}}));
  };
  tried(shares["pushed"], [&] { return pushed("this alone"); });
  // As the refusal advises.
  tried(shares["with roundings"], [&] {
    const std::string alone = pushed("this alone");
    return alone.empty() ? alone : pushed("the roundings beside it too");
  });
  tried(shares["with walls"], [&] {
    const std::string alone = pushed("this alone");
    return alone.empty() ? alone : pushed("this alone, with walls beside it");
  });
}

void print(const std::string& name, size_t faces, Tried& shares) {
  std::printf("| %s | %zu |", name.c_str(), faces);
  for (const char* kind : kKinds) row(kind, shares[kind]);
  std::printf("\n");
  std::fflush(stdout);
}

void try_file(const char* file, Tried& all) {
  const PartPtr part = bench::part_of_file(file);
  if (!part) return;
  Tried own;
  if (const auto holes = find_holes(*part)) {
    const size_t step = std::max<size_t>(1, holes->holes.size() / kMostHoles);
    for (size_t i = 0; i < holes->holes.size(); i += step) try_hole(*part, holes->holes[i], own);
  }
  std::vector<int> flat;
  for (size_t i = 0; i < part->topology().faces.size(); ++i)
    if (part->topology().faces[i].surface.kind == SurfaceKind::kPlane) flat.push_back(static_cast<int>(i));
  const size_t step = std::max<size_t>(1, flat.size() / kMostFaces);
  for (size_t i = 0; i < flat.size(); i += step) try_push(*part, flat[i], own);
  print(std::filesystem::path(file).filename().string(), part->topology().faces.size(), own);
  for (const auto& [kind, shares] : own) {
    Shares& sum = all[kind];
    sum.sound += shares.sound, sum.unsound += shares.unsound, sum.refused += shares.refused;
    sum.crashed += shares.crashed, sum.late += shares.late, sum.seconds += shares.seconds;
    for (const auto& [reason, times] : shares.reasons) sum.reasons[reason] += times;
  }
}

int try_plate(int rows, int columns) {
  Body body;
  body.name = "plate";
  body.shape = demo::plate_of_holes(rows, columns);
  const TemporaryFolder folder;
  const std::string file = (folder.path() / "plate.step").string();
  if (!write_step({body}, {}, file)) return 1;
  const double plain = seconds([&] {
    STEPControl_Reader reader;
    if (reader.ReadFile(file.c_str()) == IFSelect_RetDone) reader.TransferRoots();
  });
  const auto part = std::make_shared<const Part>(SourceInfo{}, std::vector<Body>{body});
  mesh_once(*part);
  const auto holes = find_holes(*part);
  if (!holes || holes->holes.empty()) return 1;
  const Hole& hole = holes->holes[holes->holes.size() / 2];
  const std::vector<Given> pick{given_by_face(*part, hole.faces.front(), gp_Trsf())};
  size_t top = 0;
  for (size_t i = 0; i < part->topology().faces.size(); ++i)
    if (part->topology().faces[i].edges.size() > part->topology().faces[top].edges.size()) top = i;
  const std::vector<Given> face{given_by_face(*part, static_cast<int>(top), gp_Trsf())};
  const double offers_hole = seconds([&] { static_cast<void>(offers_for(pick, {})); });
  const double offers_top = seconds([&] { static_cast<void>(offers_for(face, {})); });
  Given frame;
  frame.frame = gp_Ax2();
  const Solutions moved = solved("correct.move-by", {frame, pick.front()}, {{"dx", "0.1"}});
  if (!moved) return 1;
  const PlanStep& step = std::get<PlannedCorrection>(moved->front().value).plan->steps.front();
  std::string refused;
  bool is_direct = false;
  const double here = seconds([&] { is_direct = carry_out_directly(*part, step).has_value(); });
  const double apart = seconds([&] {
    if (const auto done = carry_out_apart(*part, step, {}); !done) refused = done.error().sentence;
  });
  std::printf(
      "faces %zu, plain reading %.2f s, offers for a hole %.3f s, for the top %.3f s, moved directly %.2f "
      "s%s, "
      "in the worker %.2f s %s\n",
      part->topology().faces.size(), plain, offers_hole, offers_top, here,
      is_direct ? "" : " (it does not do)", apart, refused.c_str());
  return 0;
}

}  // namespace

int main(int argc, char** argv) {
  quiet_kernel();
  if (argc == 4 && std::string(argv[1]) == "--plate")
    return try_plate(std::atoi(argv[2]), std::atoi(argv[3]));
  Tried all;
  for (int i = 1; i < argc; ++i) try_file(argv[i], all);
  print("all", 0, all);
  for (const auto& [kind, shares] : all)
    for (const auto& [reason, times] : shares.reasons)
      std::printf("%s: %d × %s\n", kind.c_str(), times, reason.c_str());
}
