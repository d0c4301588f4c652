// A job on one solid, corrections made on it, and what comes out compared with the same part built directly.
#pragma once

#include <gtest/gtest.h>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp_Explorer.hxx>
#include <cstdlib>
#include <set>
#include "base/file.h"
#include "construct/registry.h"
#include "correct/carry_out.h"
#include "demo/shapes.h"
#include "inspect/holes.h"
#include "job/correcting.h"
#include "job/edits.h"
#include "part/measure.h"
#include "part/mend.h"
#include "store/job_file.h"
#include "support/fixtures.h"

namespace anvil::test {

using namespace anvil::demo;  // NOLINT: the shapes that cases are built from

const gp_Dir kDown(0, 0, -1);

// A job on one solid, its picks and corrections.
class Mending {
 public:
  explicit Mending(const TopoDS_Shape& shape) {
    const auto bytes = std::make_shared<const std::string>("source");
    SourceInfo source;
    source.file_name = "block.step";
    source.sha256 = sha256_hex(*bytes);
    part = std::make_shared<const Part>(source, part_of(shape)->bodies());
    job = with_part({}, part, bytes, "block");
    if (face_at(*part, {0, 20, 10}, SurfaceKind::kPlane) >= 0 &&
        face_at(*part, {80, 20, 10}, SurfaceKind::kPlane) >= 0)
      middle = keep("plane.midway", {face({0, 20, 10}), face({80, 20, 10})});
  }
  [[nodiscard]] Reference face(const gp_Pnt& at, SurfaceKind kind = SurfaceKind::kPlane) const {
    return pick(TopologyKind::kFace, face_at(*part, at, kind));
  }
  [[nodiscard]] Reference bore(const gp_Pnt& at) const { return face(at, SurfaceKind::kCylinder); }
  [[nodiscard]] Reference vertex(const gp_Pnt& at) const {
    return pick(TopologyKind::kVertex, vertex_at(*part, at));
  }
  [[nodiscard]] Reference edge(const gp_Pnt& at) const {
    return pick(TopologyKind::kEdge, edge_at(*part, at));
  }
  [[nodiscard]] Reference centre(const gp_Pnt& at) const {
    return pick(TopologyKind::kEdge, edge_at(*part, at), Snap::kCentre);
  }
  static Reference clicked(Reference pick, const gp_Pnt& at) {
    pick.clicked = at;
    return pick;
  }
  static Reference reading() { return {EntryReference{kReadPlaced}, {}}; }

  int keep(const char* id, std::vector<Reference> inputs, const ParameterTexts& numbers = {}) {
    Recipe recipe;
    recipe.construction = id;
    recipe.inputs = std::move(inputs);
    recipe.parameters = initial_parameters(*find_construction(id));
    for (const auto& [name, text] : numbers) recipe.parameters[name] = text;
    int added = 0;
    job = with_datum(job, recipe, &added);
    return added;
  }

  PartPtr part;
  Job job;
  int middle = 0;  // the plane in the middle of its length

 private:
  // As the window makes it: it says which state of the part it is on.
  [[nodiscard]] Reference pick(TopologyKind kind, int index, Snap snap = Snap::kWhole) const {
    EXPECT_GE(index, 0) << "nothing there, or several";
    Reference reference{describe(*part, job.first_part()->id, kind, std::max(index, 0), snap), {}};
    std::get<TopologyReference>(reference.target).made_on = job.first_part()->id;
    return reference;
  }
};

inline const Evaluated& current(const Evaluation& evaluation, int id) {
  const Evaluated& evaluated = evaluation.entries.at(id);
  EXPECT_EQ(evaluated.state, EntryState::kCurrent) << evaluated.reason;
  return evaluated;
}

inline void expect_same_holes(const HoleReport& now, const HoleReport& then) {
  ASSERT_EQ(now.holes.size(), then.holes.size());
  for (const Hole& hole : then.holes)
    EXPECT_TRUE(std::any_of(now.holes.begin(), now.holes.end(),
                            [&](const Hole& other) {
                              return other.entry.Distance(hole.entry) < 1e-6 &&
                                     std::abs(other.diameter_mm - hole.diameter_mm) < 1e-6 &&
                                     std::abs(other.depth_mm - hole.depth_mm) < 1e-6 &&
                                     other.steps.size() == hole.steps.size();
                            }))
        << "no hole at " << hole.entry.X() << " " << hole.entry.Y() << " " << hole.entry.Z();
}

// Each of its solids a body.
inline PartPtr part_of_solids(const TopoDS_Shape& shape) {
  std::vector<Body> bodies;
  for (TopExp_Explorer solids(shape, TopAbs_SOLID); solids.More(); solids.Next()) {
    Body body;
    body.shape = solids.Current();
    bodies.push_back(std::move(body));
  }
  return std::make_shared<const Part>(SourceInfo{}, std::move(bodies));
}

inline void expect_same_part(const PartPtr& now, const TopoDS_Shape& made) {
  ASSERT_TRUE(now);
  // What lies on one surface is one face.
  ShapeUpgrade_UnifySameDomain unify(made);
  unify.Build();
  const PartPtr expected = part_of_solids(unify.Shape());
  const double volume = volume_properties(made).volume_mm3;
  EXPECT_NEAR(volume_properties(now->shape()).volume_mm3, volume, 1e-6 * volume);
  EXPECT_EQ(now->topology().faces.size(), expected->topology().faces.size());
  const auto holes = find_holes(*now), wanted = find_holes(*expected);
  ASSERT_TRUE(holes && wanted);
  expect_same_holes(*holes, *wanted);
}

inline TopoDS_Shape plain() {
  return block({0, 0, 0}, {80, 40, 20});
}
inline TopoDS_Shape drilled(const TopoDS_Shape& from, const gp_Pnt& top, double diameter, double depth) {
  return cut(from, {rod(gp_Ax2(top, kDown), diameter, depth)});
}
// Ø6 through with a counterbore of Ø11 × 5.
inline TopoDS_Shape counterbored(const TopoDS_Shape& from, const gp_Pnt& top) {
  return cut(from, {rod(gp_Ax2(top, kDown), 6, 20), rod(gp_Ax2(top, kDown), 11, 5)});
}
inline PocketShape small_pocket() {
  return {20, 14, 8, {3, 3, 3, 3}};
}

}  // namespace anvil::test
