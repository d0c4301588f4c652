#include "job/ready_recipes.h"

#include <fmt/format.h>

#include <cmath>

#include "base/units.h"
#include "construct/offers.h"
#include "job/edits.h"
#include "job/setup_edits.h"

namespace anvil {
namespace {

int part_entry_of(const Job& job) {
  const Entry* entry = job.first_part();
  return entry ? entry->id : 0;
}

Recipe usual(const char* construction, std::vector<Reference> inputs) {
  Recipe recipe;
  recipe.construction = construction;
  recipe.inputs = std::move(inputs);
  recipe.parameters = initial_parameters(*find_construction(construction));
  return recipe;
}

std::string millimetres(double mm) {
  return fmt::format("{:.9f}mm", mm);
}

}  // namespace

Job with_seat(Job job, const Evaluation& evaluation, const Seat& seat) {
  const auto on = [&](TopologyKind kind, int index) {
    return std::vector<Reference>{{describe_now(evaluation, part_entry_of(job), kind, index), {}}};
  };
  std::vector<Recipe> steps{usual("place.face-down", on(TopologyKind::kFace, seat.down_face))};
  if (seat.along_x_edge >= 0)
    steps.push_back(usual("place.along-x", on(TopologyKind::kEdge, seat.along_x_edge)));
  if (job.placement()) job = with_placement_steps(std::move(job), {});
  for (const Recipe& step : steps) job = with_placement_step(std::move(job), step);
  return job;
}

Recipe frame_along(const Job& job, const Evaluation& evaluation, const ProposedAxis& axis,
                   const Reference& reading) {
  const int face = axis.hole_face >= 0 ? axis.hole_face : axis.flat_face;
  Recipe recipe =
      usual(axis.hole_face >= 0 ? "frame.of-hole" : "frame.on-face",
            {{describe_now(evaluation, part_entry_of(job), TopologyKind::kFace, face), {}}, reading});
  if (axis.hole_face < 0) recipe.parameters["x"] = "X of the reading frame";
  const auto solutions = solve_recipe(job, evaluation, recipe);
  if (solutions)
    recipe.flipped = std::get<FrameDatum>(solutions->front().value)
                         .frame.Direction()
                         .Dot(axis.towards_tool.Transformed(evaluation.placement)) < 0;
  return recipe;
}

int plane_along(const Evaluation& evaluation, int setup, const ProposedAxis& axis) {
  const auto at = evaluation.entries.find(setup);
  if (at == evaluation.entries.end() || !at->second.setup) return -1;
  const auto& planes = at->second.setup->planes;
  const gp_Dir placed = axis.towards_tool.Transformed(evaluation.placement);
  for (size_t i = 0; i < planes.size(); ++i)
    if (planes[i].frame.Direction().Angle(placed) < 1e-3) return static_cast<int>(i);
  return -1;
}

Job with_proposed_planes(Job job, const Evaluation& evaluation, int setup,
                         const std::vector<ProposedAxis>& axes, int& kept) {
  kept = 0;
  for (const ProposedAxis& axis : axes) {
    if (plane_along(evaluation, setup, axis) >= 0 || (axis.hole_face < 0 && axis.flat_face < 0)) continue;
    int frame = 0;
    job = with_datum(job, frame_along(job, evaluation, axis, job.find(setup)->setup()->frame), &frame);
    const size_t number = job.find(setup)->setup()->planes.size() + 1;
    job = with_name(std::move(job), frame, fmt::format("TP{}", number));
    job = with_group(std::move(job), frame, "Tool planes");
    job = with_visible(std::move(job), frame, false);  // the setup shows it
    job = with_tool_plane(std::move(job), setup, frame);
    ++kept;
  }
  return job;
}

Job with_probed_frame(Job job, const Evaluation& evaluation, const std::vector<gp_Pnt>& contacts,
                      const std::vector<Touch>& touched) {
  Recipe frame = usual("frame.paired", {});
  std::string measured;
  const double per = mm_per(job.display.unit);
  for (size_t i = 0; i < touched.size(); ++i) {
    const gp_Pnt at = contacts[i].Transformed(evaluation.placement);
    Recipe point;
    point.construction = "point.typed";
    point.inputs = {Reference{EntryReference{kReadPlaced}, {}}};
    point.parameters = {{"x", millimetres(at.X())}, {"y", millimetres(at.Y())}, {"z", millimetres(at.Z())}};
    int id = 0;
    job = with_datum(std::move(job), point, &id);
    job = with_group(with_visible(std::move(job), id, false), id, "Probed");
    frame.inputs.push_back({EntryReference{id}, {}});
    const gp_Pnt& found = touched[i].at;
    measured += fmt::format("{:.9f} {:.9f} {:.9f}; ", found.X() / per, found.Y() / per, found.Z() / per);
  }
  frame.parameters["measured"] = measured;
  frame.unit = job.display.unit;
  int id = 0;
  job = with_datum(std::move(job), frame, &id);
  return with_name(std::move(job), id, "Machine, as probed");
}

ParameterTexts place_as_probed(ParameterTexts place, const gp_Pnt& zero, const gp_Dir& x) {
  place["x"] = fmt::format("{:.6f}mm", zero.X());
  place["y"] = fmt::format("{:.6f}mm", zero.Y());
  place["z"] = fmt::format("{:.6f}mm", zero.Z());
  place["turn"] = fmt::format("{:.9f}", degrees(std::atan2(x.Y(), x.X())));
  return place;
}

}  // namespace anvil
