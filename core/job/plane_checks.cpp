#include "job/plane_checks.h"

namespace anvil {
namespace {

// Corners and holes do not ask where along its axis, or how turned about it, a plane lies.
void take_same(const PlaneCheck& from, PlaneCheck& plane) {
  PlaneCheck same = from;
  same.setup = plane.setup;
  same.plane = plane.plane;
  same.setup_name = plane.setup_name;
  same.plane_name = plane.plane_name;
  plane = std::move(same);
}

}  // namespace

std::vector<PlaneCheck> planes_to_check(const Job& job, const Evaluation& evaluation) {
  std::vector<PlaneCheck> planes;
  for (const Entry& entry : job.entries) {
    const auto at = evaluation.entries.find(entry.id);
    if (!entry.setup() || at == evaluation.entries.end() || !at->second.setup) continue;
    const std::vector<PlaneValue>& values = at->second.setup->planes;
    for (size_t i = 0; i < values.size(); ++i) {
      if (!values[i].has_frame) continue;
      PlaneCheck plane;
      plane.setup = entry.id;
      plane.plane = static_cast<int>(i);
      plane.setup_name = entry.name;
      plane.plane_name = values[i].name;
      plane.towards_tool = values[i].frame.Direction().Transformed(evaluation.placement.Inverted());
      planes.push_back(std::move(plane));
    }
  }
  return planes;
}

bool same_planes(const std::vector<PlaneCheck>& a, const std::vector<PlaneCheck>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const PlaneCheck& x, const PlaneCheck& y) {
    return x.setup == y.setup && x.plane == y.plane && x.setup_name == y.setup_name &&
           x.plane_name == y.plane_name && x.towards_tool.IsEqual(y.towards_tool, 1e-9);
  });
}

Result<std::vector<PlaneCheck>> check_planes(const Job& job, const Evaluation& evaluation,
                                             const HoleReport& holes, const Progress& progress) {
  if (!evaluation.part) return std::vector<PlaneCheck>();
  std::vector<PlaneCheck> planes = planes_to_check(job, evaluation);
  for (size_t i = 0; i < planes.size(); ++i) {
    const auto done = planes.begin() + static_cast<std::ptrdiff_t>(i);
    const auto same = std::find_if(planes.begin(), done, [&](const PlaneCheck& before) {
      return before.towards_tool.IsEqual(planes[i].towards_tool, 1e-9);
    });
    if (same != done) {
      take_same(*same, planes[i]);
      continue;
    }
    progress.say(planes[i].plane_name, static_cast<double>(i) / static_cast<double>(planes.size()));
    const CornerOptions options{planes[i].towards_tool, job.inspection.margin, job.inspection.holder_mm / 2};
    const auto corners = find_corners(*evaluation.part, options, progress, &holes);
    if (!corners) return refuse(corners);
    planes[i].corners = summary_of(*corners, evaluation.part->topology().faces.size());
    planes[i].reach = reach_of_holes(*evaluation.part, holes, planes[i].towards_tool);
  }
  return planes;
}

}  // namespace anvil
