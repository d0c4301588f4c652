// What two and three quick clicks take: what goes on smoothly, and the hole, pocket or boss.
#include <gtest/gtest.h>

#include <TopExp_Explorer.hxx>
#include <algorithm>

#include "demo/shapes.h"
#include "part/part.h"
#include "pick/picked_together.h"

namespace anvil {
namespace {

// A block of 100 x 60 x 20 with a pocket of 50 x 30 x 8 about (40, 30): one sharp corner, three of 5, and a
// hole of 6 through its floor; a boss of 10 on the top beside it.
class PickedTogether : public testing::Test {
 protected:
  void SetUp() override {
    const gp_Ax2 top(gp_Pnt(40, 30, 20), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0));
    TopoDS_Shape shape = demo::cut(demo::block({0, 0, 0}, {100, 60, 20}),
                                   {demo::pocket(top, {50, 30, 8, {0, 5, 5, 5}, 0}),
                                    demo::rod(gp_Ax2(gp_Pnt(40, 30, -1), gp_Dir(0, 0, 1)), 6, 30)});
    shape = demo::join(shape, {demo::rod(gp_Ax2(gp_Pnt(85, 30, 19), gp_Dir(0, 0, 1)), 10, 11)});
    for (TopExp_Explorer ex(shape, TopAbs_SOLID); ex.More(); ex.Next()) shape = ex.Current();
    index = build_topology_index({shape});
  }

  // The one face or edge of that kind whose middle lies there.
  int edge_at(const gp_Pnt& middle) const {
    for (size_t i = 0; i < index.edges.size(); ++i)
      if (!index.edges[i].is_seam() && middle_of(index.edges[i].edge).Distance(middle) < 1e-6)
        return static_cast<int>(i);
    return -1;
  }

  TopologyIndex index;
};

TEST_F(PickedTogether, ARimGoesOnAroundRoundCornersAndStopsAtTheSharpOne) {
  // Straight sides of the rim: 50 - 5 and so on; low-left is sharp. Four sides and three arcs are one chain
  // that is open at the sharp corner.
  const int right_side = edge_at({65, 30, 20});
  ASSERT_GE(right_side, 0);
  const std::vector<int> chain = tangent_chain(index, TopologyKind::kEdge, right_side);
  EXPECT_EQ(chain.size(), 7u);
  for (const int edge : chain) EXPECT_NEAR(middle_of(index.edges[edge].edge).Z(), 20, 1e-9);
  // From any of them the same.
  for (const int edge : chain) EXPECT_EQ(tangent_chain(index, TopologyKind::kEdge, edge), chain);
}

TEST_F(PickedTogether, AStraightEdgeOfTheOutsideGoesOnNowhere) {
  const int edge = edge_at({50, 0, 20});
  ASSERT_GE(edge, 0);
  EXPECT_EQ(tangent_chain(index, TopologyKind::kEdge, edge), std::vector<int>{edge});
}

TEST_F(PickedTogether, WallsGoOnSmoothlyAndTheFloorDoesNot) {
  const int rim = edge_at({65, 30, 20});
  const EdgeInfo& info = index.edges[rim];
  const auto chain_of = [&](int face) { return tangent_chain(index, TopologyKind::kFace, face).size(); };
  EXPECT_EQ(std::max(chain_of(info.face_a), chain_of(info.face_b)), 7u);  // four walls, three corners
  EXPECT_EQ(std::min(chain_of(info.face_a), chain_of(info.face_b)), 1u);  // the top of the block
}

TEST_F(PickedTogether, APocketHasItsFloorAndTheHoleInItAndNoFaceOfTheOutside) {
  const int rim = edge_at({65, 30, 20});
  const std::vector<int> pocket = faces_of_feature(index, TopologyKind::kEdge, rim);
  EXPECT_EQ(pocket.size(), 9u);  // seven walls, the floor, the hole
  const int outside = edge_at({50, 0, 20});
  EXPECT_TRUE(faces_of_feature(index, TopologyKind::kEdge, outside).empty());
}

TEST_F(PickedTogether, AHoleInAFloorAndABossAreFeaturesOfTheirOwn) {
  int looked_at = 0;
  for (size_t i = 0; i < index.faces.size(); ++i) {
    const Surface& s = index.faces[i].surface;
    if (s.kind != SurfaceKind::kCylinder) continue;
    const bool hole = std::abs(s.radius_mm - 3)<1e-9, boss = s.axis().Location().X()> 80;
    if (!hole && !boss) continue;
    const size_t faces = faces_of_feature(index, TopologyKind::kFace, static_cast<int>(i)).size();
    EXPECT_EQ(faces, hole ? 1u : 2u);  // of the boss its side and its end
    ++looked_at;
  }
  EXPECT_EQ(looked_at, 2);
}

}  // namespace
}  // namespace anvil
