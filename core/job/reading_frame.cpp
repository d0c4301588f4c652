#include "geom/primitives.h"
#include "job/evaluate.h"

namespace anvil {

gp_Ax2 reading_frame(const Job& job, const Evaluation& evaluation) {
  if (job.reading_frame == kReadDelivered) return world_frame().Transformed(evaluation.placement);
  const auto at = evaluation.entries.find(job.reading_frame);
  if (at == evaluation.entries.end() || !at->second.value) return world_frame();
  const auto* frame = std::get_if<FrameDatum>(&*at->second.value);
  return frame ? frame->frame : world_frame();
}

gp_Trsf part_to_reading(const Job& job, const Evaluation& evaluation) {
  return into_frame(reading_frame(job, evaluation)) * evaluation.placement;
}

gp_Ax2 active_tool_plane(const Job& job, const Evaluation& evaluation) {
  const auto at = evaluation.entries.find(job.reading_frame);
  const auto plane = static_cast<size_t>(std::max(0, job.tool_plane));
  if (at == evaluation.entries.end() || !at->second.setup || plane >= at->second.setup->planes.size())
    return reading_frame(job, evaluation);
  return at->second.setup->planes[plane].frame;
}

std::string tool_plane_name(const Job& job) {
  const Entry* entry = job.find(job.reading_frame);
  std::string reading = reading_frame_name(job, job.reading_frame);
  const auto plane = static_cast<size_t>(std::max(0, job.tool_plane));
  if (!entry || !entry->setup() || plane == 0 || plane > entry->setup()->planes.size()) return reading;
  return entry->setup()->planes[plane - 1].name + " of " + reading;
}

std::string reading_frame_name(const Job& job, int frame) {
  if (frame == kReadDelivered) return "Part as delivered";
  const Entry* entry = job.find(frame);
  if (!entry || (!entry->is_frame() && !entry->setup())) return "Part as placed";
  return entry->setup() ? entry->name + " · " + entry->setup()->offset : entry->name;
}

}  // namespace anvil
