#include "correct/correct_worker.h"

#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <chrono>
#include <nlohmann/json.hpp>
#include <sstream>

#include "base/file.h"
#include "base/quoted.h"
#include "exchange/heal_worker.h"
#include "exchange/part_file.h"
#include "exchange/worker_run.h"
#include "geom/guard.h"

namespace anvil {
namespace {

using nlohmann::json;

// --- a step as JSON

json numbers(const gp_XYZ& v) {
  return {v.X(), v.Y(), v.Z()};
}
gp_XYZ xyz_from(const json& j) {
  return {j.at(0), j.at(1), j.at(2)};
}

json to_json(const gp_Ax2& at) {
  return {numbers(at.Location().XYZ()), numbers(at.Direction().XYZ()), numbers(at.XDirection().XYZ())};
}
gp_Ax2 axes_from(const json& j) {
  return gp_Ax2(gp_Pnt(xyz_from(j.at(0))), gp_Dir(xyz_from(j.at(1))), gp_Dir(xyz_from(j.at(2))));
}

json to_json(const HoleForm& form) {
  json steps = json::array();
  for (const HoleStep& s : form.steps)
    steps.push_back({static_cast<int>(s.kind), s.diameter_mm, s.end_diameter_mm, s.depth_mm, s.angle_rad});
  return {{"steps", steps}, {"through", form.through}};
}
HoleForm form_from(const json& j) {
  HoleForm form;
  form.through = j.at("through");
  for (const json& s : j.at("steps"))
    form.steps.push_back({static_cast<StepKind>(s.at(0).get<int>()), s.at(1), s.at(2), s.at(3), s.at(4)});
  return form;
}

// Faces by their place in the body.
struct Places {
  FacePlaces places;
  [[nodiscard]] json operator()(const std::vector<int>& faces) const {
    json all = json::array();
    for (const int face : faces) all.push_back(places.of(face));
    return all;
  }
  [[nodiscard]] json operator()(const Feature& feature) const {
    return {{"faces", (*this)(feature.faces)}, {"free", feature.stands_free}};
  }
};
Feature feature_from(const json& j) {
  return {j.at("faces").get<std::vector<int>>(), j.at("free")};
}

struct StepJson {
  Places places;
  json operator()(const CloseFeature& step) const {
    json tries = json::array();
    for (const Feature& feature : step.tries) tries.push_back(places(feature));
    return {{"close", tries}, {"expected", static_cast<int>(step.expected)}};
  }
  json operator()(const MoveFaces& step) const {
    json sets = json::array();
    for (const MovedFaces& set : step.sets)
      sets.push_back({{"faces", places(set.faces)}, {"by", numbers(set.by.XYZ())}});
    return {{"move", sets}, {"walls", step.with_walls}};
  }
  json operator()(const RoundAnew& step) const {
    return {{"round", places(step.faces)}, {"radius", step.radius_mm}};
  }
  json operator()(const CombineWith& step) const {
    json tools = json::array();
    for (const TopoDS_Shape& tool : step.tools) tools.push_back(text_of(tool));
    return {{"tools", tools}, {"how", static_cast<int>(step.how)}};
  }
  json operator()(const LayFaces& step) const {
    return {{"lay", places(step.faces)}, {"onto", text_of(step.onto)}};
  }
  json operator()(const SplitFaces& step) const {
    return {{"split", places(step.faces)}, {"at", to_json(step.at.Position().Ax2())}};
  }
  json operator()(const RemakeHoles& step) const {
    json made = json::array();
    for (const HoleToMake& hole : step.made) {
      json j{{"form", to_json(hole.form)},
             {"at", to_json(hole.at)},
             {"above", hole.above_mm},
             {"below", hole.below_mm}};
      if (hole.instead_of)
        j["there"] = {{"form", to_json(hole.instead_of->form)},
                      {"at", to_json(hole.instead_of->at)},
                      {"faces", places(hole.instead_of->faces)}};
      made.push_back(std::move(j));
    }
    return {{"holes", made}, {"closed", places(step.closed)}};
  }
};

CloseFeature close_from(const json& j) {
  CloseFeature step;
  for (const json& feature : j.at("close")) step.tries.push_back(feature_from(feature));
  step.expected = static_cast<Expected>(j.at("expected").get<int>());
  return step;
}

MoveFaces moves_from(const json& j) {
  MoveFaces step;
  for (const json& set : j.at("move"))
    step.sets.push_back({set.at("faces").get<std::vector<int>>(), gp_Vec(xyz_from(set.at("by")))});
  step.with_walls = j.at("walls");
  return step;
}

TopoDS_Shape shape_from(const json& j) {
  TopoDS_Shape shape;
  std::istringstream text(j.get<std::string>());
  BRepTools::Read(shape, text, BRep_Builder());
  if (shape.IsNull()) throw std::runtime_error("a shape is not there");
  return shape;
}

CombineWith combine_from(const json& j) {
  CombineWith step;
  for (const json& tool : j.at("tools")) step.tools.push_back(shape_from(tool));
  step.how = static_cast<Combining>(j.at("how").get<int>());
  return step;
}

RemakeHoles holes_from(const json& j) {
  RemakeHoles step{feature_from(j.at("closed")), {}};
  for (const json& hole : j.at("holes")) {
    HoleToMake made{
        form_from(hole.at("form")), axes_from(hole.at("at")), hole.at("above"), hole.at("below"), {}};
    if (hole.contains("there")) {
      const json& there = hole["there"];
      made.instead_of = HoleThere{form_from(there.at("form")), axes_from(there.at("at")), there.at("faces")};
    }
    step.made.push_back(std::move(made));
  }
  return step;
}

// --- the hand-over

Refusal in_our_words(const Refusal& why) {
  if (why.code != RefusalCode::kReaderDied) return why;
  return {why.code, why.sentence + " Try it in smaller steps, or another way."};
}

Body as_body(const TopoDS_Shape& shape, BodyKind kind) {
  Body body;
  body.kind = kind;
  body.shape = shape;
  return body;
}

Result<CorrectedBody> answer_in(const std::filesystem::path& folder) {
  auto bodies = read_part_folder(folder / "last");
  if (!bodies) return refuse(bodies);
  const auto text = read_file(folder / "report.json");
  if (!text) return refuse(text);
  return corrected_from(bodies->bodies, 0, *text);
}

}  // namespace

std::string to_json_text(const Part& part, const PlanStep& step) {
  return std::visit(StepJson{{FacePlaces(part, step.body)}}, step.what).dump();
}

std::vector<Body> bodies_of(const CorrectedBody& corrected) {
  return {as_body(corrected.shape, BodyKind::kSolid), as_body(corrected.added, BodyKind::kShell),
          as_body(corrected.removed, BodyKind::kShell)};
}

std::string to_json_text(const CorrectedBody& corrected) {
  return json{{"added", corrected.added_mm3},
              {"removed", corrected.removed_mm3},
              {"map", to_json_text(std::vector<BodyMap>{corrected.map})}}
      .dump();
}

Result<CorrectedBody> corrected_from(const std::vector<Body>& bodies, size_t first, const std::string& text) {
  try {
    const json report = json::parse(text);
    auto maps = body_maps_from(report.at("map"));
    if (!maps) return refuse(maps);
    if (bodies.size() < first + 3 || maps->size() != 1)
      return refuse(RefusalCode::kUnreadable, "what came of a correction is not complete");
    return CorrectedBody{bodies[first].shape,  std::move(maps->front()), report.at("added"),
                         report.at("removed"), bodies[first + 1].shape,  bodies[first + 2].shape};
  } catch (const std::exception& error) {
    return refuse(RefusalCode::kUnreadable, std::string("what came of a correction cannot be understood: ") +
                                                cut_short(error.what(), 200));
  }
}

Result<PlanStep> plan_step_from(const std::string& text) {
  try {
    const json j = json::parse(text);
    PlanStep step;
    step.body = 0;
    if (j.contains("close"))
      step.what = close_from(j);
    else if (j.contains("round"))
      step.what = RoundAnew{j.at("round").get<std::vector<int>>(), j.at("radius")};
    else if (j.contains("tools"))
      step.what = combine_from(j);
    else if (j.contains("lay"))
      step.what = LayFaces{j.at("lay"), TopoDS::Face(shape_from(j.at("onto")))};
    else if (j.contains("split"))
      step.what = SplitFaces{j.at("split"), gp_Pln(gp_Ax3(axes_from(j.at("at"))))};
    else if (j.contains("move"))
      step.what = moves_from(j);
    else
      step.what = holes_from(j);
    return step;
  } catch (const std::exception& error) {
    return refuse(RefusalCode::kUnreadable,
                  std::string("the correction cannot be understood: ") + cut_short(error.what(), 200));
  }
}

namespace {

Result<CorrectedBody> once_apart(const Part& part, const PlanStep& step, const Progress& progress,
                                 const WorkerLimits& limits) {
  return guarded("the correction", [&]() -> Result<CorrectedBody> {
    const TemporaryFolder folder;
    progress.say("preparing", 0.05);
    if (auto handed = write_part_folder({part.source(), {part.bodies()[step.body]}}, folder.path()); !handed)
      return refuse(handed);
    const auto ran = run_worker({"correct", folder.path().string(), to_json_text(part, step)},
                                {"correcting", part.bodies()[step.body].name}, progress, limits);
    keep_worker_ready();
    if (!ran) return refuse(in_our_words(ran.error()));
    return answer_in(folder.path());
  });
}

// Extending the faces around a feature may never end; what else there is to try gets its turn then.
std::chrono::seconds patience_with_one_try(const Part& part) {
  constexpr long kLeast_s = 60, kFacesPerSecond = 100;
  return std::chrono::seconds(kLeast_s + static_cast<long>(part.topology().faces.size()) / kFacesPerSecond);
}

}  // namespace

Result<CorrectedBody> carry_out_apart(const Part& part, const PlanStep& step, const Progress& progress,
                                      const WorkerLimits& limits) {
  const auto* closing = std::get_if<CloseFeature>(&step.what);
  if (!closing) return once_apart(part, step, progress, limits);
  WorkerLimits of_one = limits;
  of_one.time = std::min(limits.time, patience_with_one_try(part));
  Result<CorrectedBody> done = refuse(RefusalCode::kGeometry, "there is nothing to close");
  for (const Feature& feature : closing->tries) {
    done = once_apart(part, {step.body, CloseFeature{{feature}, closing->expected}}, progress, of_one);
    if (done || progress.stop()) return done;
  }
  return done;
}

Result<void> carry_out_in(const std::filesystem::path& folder, const std::string& step_text,
                          const Progress& progress) {
  auto step = plan_step_from(step_text);
  if (!step) return refuse(step);
  auto bodies = read_part_folder(folder);
  if (!bodies) return refuse(bodies);
  const Part part(bodies->source, std::move(bodies->bodies));
  auto corrected = carry_out(part, *step, progress);
  if (!corrected) return refuse(corrected);
  if (auto told = write_file_atomically(folder / "report.json", to_json_text(*corrected)); !told)
    return refuse(told);
  std::error_code error;
  std::filesystem::create_directories(folder / "last", error);
  return write_part_folder({part.source(), bodies_of(*corrected)}, folder / "last");
}

}  // namespace anvil
