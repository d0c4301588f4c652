#include "demo/demo_job.h"

#include "base/file.h"
#include "demo/demo_part.h"
#include "exchange/step_format.h"
#include "job/setup_edits.h"

namespace anvil::demo {
namespace {

// Picks by where things are on the drawing.
class Picker {
 public:
  Picker(const Part& part, int entry, const gp_Trsf& placement)
      : part_(part), entry_(entry), placement_(placement) {}

  Reference flat(const gp_Dir& normal, double level) const {
    const gp_Dir n = normal.Transformed(placement_);
    for (size_t i = 0; i < part_.topology().faces.size(); ++i) {
      const Surface& s = part_.topology().faces[i].surface;
      if (s.kind != SurfaceKind::kPlane || !s.position.Direction().IsEqual(n, 1e-6)) continue;
      const gp_Pnt drawn = s.position.Location().Transformed(placement_.Inverted());
      if (std::abs(gp_Vec(gp_Pnt(), drawn).Dot(gp_Vec(normal)) - level) < 1e-4)
        return make(TopologyKind::kFace, static_cast<int>(i), {});
    }
    return {};
  }

  Reference vertex(const gp_Pnt& drawn) const {
    const gp_Pnt at = drawn.Transformed(placement_);
    for (size_t i = 0; i < part_.topology().vertices.size(); ++i)
      if (part_.topology().vertices[i].point.Distance(at) < 1e-4)
        return make(TopologyKind::kVertex, static_cast<int>(i), at);
    return {};
  }

  Reference straight_edge(const gp_Pnt& drawn_middle) const {
    const gp_Pnt at = drawn_middle.Transformed(placement_);
    for (size_t i = 0; i < part_.topology().edges.size(); ++i) {
      const EdgeInfo& edge = part_.topology().edges[i];
      const BRepAdaptor_Curve curve(edge.edge);
      if (edge.kind == CurveKind::kLine &&
          curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter())).Distance(at) < 1e-4)
        return make(TopologyKind::kEdge, static_cast<int>(i), at);
    }
    return {};
  }

  Reference bore(const gp_Pnt& drawn_axis_point, double diameter) const {
    const gp_Pnt at = drawn_axis_point.Transformed(placement_);
    for (size_t i = 0; i < part_.topology().faces.size(); ++i) {
      const Surface& s = part_.topology().faces[i].surface;
      if (s.kind == SurfaceKind::kCylinder && s.inside && std::abs(2 * s.radius_mm - diameter) < 1e-4 &&
          gp_Lin(s.axis()).Distance(at) < 1e-4)
        return make(TopologyKind::kFace, static_cast<int>(i), {});
    }
    return {};
  }

 private:
  Reference make(TopologyKind kind, int index, std::optional<gp_Pnt> clicked) const {
    return {describe(part_, entry_, kind, index), clicked};
  }

  const Part& part_;
  int entry_;
  gp_Trsf placement_;
};

Recipe recipe(const char* construction, std::vector<Reference> inputs, ParameterTexts parameters = {}) {
  Recipe r;
  r.construction = construction;
  r.inputs = std::move(inputs);
  r.parameters = std::move(parameters);
  return r;
}

Job kept(Job job, const Recipe& r, const char* name) {
  int id = 0;
  job = with_datum(std::move(job), r, &id);
  return with_name(std::move(job), id, name);
}

}  // namespace

Result<Job> saddle_plate_job(const std::filesystem::path& step_file) {
  auto bytes = read_file(step_file);
  if (!bytes) return refuse(bytes);
  auto imported = read_part_file(step_file, {});
  if (!imported) return refuse(imported);
  const auto part = std::make_shared<const Part>(std::move(imported->source), std::move(imported->bodies));
  Job job = with_part({}, part, std::make_shared<const std::string>(std::move(*bytes)), "saddle plate");
  const Picker pick(*part, job.first_part()->id, saddle_plate().placement);

  job = with_placement_step(std::move(job), recipe("place.face-down", {pick.flat(gp_Dir(0, 0, -1), 0)}));
  job = with_placement_step(std::move(job), recipe("place.along-x", {pick.straight_edge({90, 0, 22})}));
  job = with_placement_step(std::move(job), recipe("place.point-to-zero", {pick.vertex({0, 0, 0})}));
  job = kept(std::move(job),
             recipe("plane.midway", {pick.flat(gp_Dir(0, -1, 0), 0), pick.flat(gp_Dir(0, 1, 0), 90)}),
             "Middle of width");
  job = kept(std::move(job), recipe("axis.of", {pick.bore({10, 20, 0}, 8)}), "Dowel 1");
  job = kept(std::move(job),
             recipe("measure.distance", {pick.bore({10, 20, 0}, 8), pick.bore({170, 20, 0}, 8)}),
             "Dowel pitch");
  int frame = 0;
  job = with_datum(
      std::move(job),
      recipe("frame.on-face", {pick.flat(gp_Dir(0, 0, 1), 22), Reference{EntryReference{kReadPlaced}, {}}},
             {{"zero", "corner −X −Y"}, {"x", "longest edge"}}),
      &frame);
  job = with_name(std::move(job), frame, "Top, near left");
  return with_setup(std::move(job), frame);
}

}  // namespace anvil::demo
