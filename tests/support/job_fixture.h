// A job on a block 80 x 40 x 20 with a hole of 10 through (20, 20), and short ways to add to it.
#pragma once

#include "demo/shapes.h"
#include "job/edits.h"
#include "job/evaluate.h"
#include "job/setup_edits.h"
#include "support/fixtures.h"

namespace anvil::test {

class JobFixture {
 public:
  JobFixture() {
    part = part_of(demo::cut(demo::block({0, 0, 0}, {80, 40, 20}),
                             {demo::rod(gp_Ax2(gp_Pnt(20, 20, 20), gp_Dir(0, 0, -1)), 10, 20)}));
    job = with_part({}, part, std::make_shared<const std::string>("source"), "block");
  }

  Reference face(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) const {
    return {describe(*part, job.first_part()->id, TopologyKind::kFace, face_at(*part, at, kind)), {}};
  }
  static Recipe recipe(const char* id, std::vector<Reference> inputs, ParameterTexts parameters = {}) {
    Recipe r;
    r.construction = id;
    r.inputs = std::move(inputs);
    r.parameters = std::move(parameters);
    return r;
  }
  int keep(const Recipe& r) {
    int id = 0;
    job = with_datum(job, r, &id);
    return id;
  }
  int midway() { return keep(recipe("plane.midway", {face({40, 0, 10}), face({40, 40, 10})})); }
  int offset_from(int entry, const char* distance = "5") {
    return keep(recipe("plane.offset", {{EntryReference{entry}, {}}}, {{"distance", distance}}));
  }
  // Zero at the corner in the origin's column, X along the length.
  int frame_on_top() {
    return keep(recipe("frame.on-face", {face({60, 20, 20}), {EntryReference{kReadPlaced}, {}}},
                       {{"zero", "corner −X −Y"}, {"x", "longest edge"}}));
  }
  int setup_on_top() {
    int id = 0;
    const int frame = frame_on_top();
    job = with_setup(job, frame, &id);
    return id;
  }
  void face_down() { job = with_placement_step(job, recipe("place.face-down", {face({60, 20, 20})})); }

  PartPtr part;
  Job job;
};

}  // namespace anvil::test
