// Solids meshed while the ones after them are still being built.
#include <gtest/gtest.h>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Iterator.hxx>

#include "base/file.h"
#include "demo/demo_part.h"
#include "exchange/mesh_ahead.h"
#include "exchange/step_format.h"
#include "part/measure.h"
#include "part/mend.h"

namespace anvil {
namespace {

// A mesh with a hole or a turned triangle in it misses the volume of the solid by more.
void expect_drawn_right(const TopoDS_Shape& solid) {
  const double exact = volume_properties(solid).volume_mm3;
  EXPECT_NEAR(mesh_volume_mm3(solid), exact, 0.01 * exact);
}

TEST(MeshAhead, BodiesOfAFileAreTheSameAndSomeAreMeshedWhenItIsRead) {
  const TemporaryFolder folder;
  const auto path = folder.path() / "plates.step";
  constexpr int kPlates = 20;
  ASSERT_TRUE(write_step(demo::stack_of_plates(kPlates), {}, path));
  Reading reading;
  reading.mesh_ahead = kCoarseMesh;
  const auto ahead = read_part_file(path, reading), plain = read_part_file(path, {});
  ASSERT_TRUE(ahead && plain);
  ASSERT_EQ(ahead->bodies.size(), size_t{kPlates});
  size_t meshed = 0;
  for (size_t i = 0; i < ahead->bodies.size(); ++i) {
    const TopoDS_Shape& solid = ahead->bodies[i].shape;
    EXPECT_EQ(ahead->bodies[i].name, plain->bodies[i].name);
    EXPECT_DOUBLE_EQ(volume_properties(solid).volume_mm3,
                     volume_properties(plain->bodies[i].shape).volume_mm3);
    EXPECT_EQ(triangles_of(plain->bodies[i].shape).size(), 0u);
    if (triangles_of(solid).empty()) continue;
    ++meshed;
    expect_drawn_right(solid);
  }
  EXPECT_GT(meshed, 0u);
  const TopoDS_Shape all = compound_of(ahead->bodies);
  EXPECT_EQ(mesh_shape(all, kCoarseMesh), 0);
  for (TopoDS_Iterator bodies(all); bodies.More(); bodies.Next()) expect_drawn_right(bodies.Value());
}

TEST(MeshAhead, WhatTheKernelCannotMeshStopsNeitherTheThreadNorTheOthers) {
  const Body good = demo::stack_of_plates(1).front();
  MeshAhead ahead(kCoarseMesh);
  TopoDS_Face without_surface;
  BRep_Builder().MakeFace(without_surface);
  ahead.add(without_surface);
  ahead.add(good.shape);
  for (int i = 0; i < 1000 && triangles_of(good.shape).empty(); ++i)
    std::this_thread::sleep_for(std::chrono::milliseconds(10));
  ahead.finish();
  expect_drawn_right(good.shape);
}

}  // namespace
}  // namespace anvil
