// Bodies of triangles, broken in one way each.
#include <gtest/gtest.h>

#include "part/mesh.h"
#include "part/soundness.h"

namespace anvil {
namespace {

// A cube of side 10 at `low`, two triangles a side, facing outward.
struct Triangles {
  std::vector<gp_Pnt> nodes;
  std::vector<std::array<int, 3>> triangles;

  void add_cube(const gp_Pnt& low, double side = 10) {
    const int first = static_cast<int>(nodes.size());
    for (int i = 0; i < 8; ++i)
      nodes.push_back(low.Translated(gp_Vec(side * (i & 1), side * (i >> 1 & 1), side * (i >> 2 & 1))));
    const int sides[6][4] = {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4},
                             {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
    for (const auto& s : sides) {
      triangles.push_back({first + s[0], first + s[1], first + s[2]});
      triangles.push_back({first + s[0], first + s[2], first + s[3]});
    }
  }
  [[nodiscard]] std::vector<Finding> findings() const {
    Handle(Poly_Triangulation) mesh =
        new Poly_Triangulation(static_cast<int>(nodes.size()), static_cast<int>(triangles.size()), false);
    for (size_t i = 0; i < nodes.size(); ++i) mesh->SetNode(static_cast<int>(i) + 1, nodes[i]);
    for (size_t i = 0; i < triangles.size(); ++i)
      mesh->SetTriangle(static_cast<int>(i) + 1,
                        Poly_Triangle(triangles[i][0] + 1, triangles[i][1] + 1, triangles[i][2] + 1));
    Body body;
    body.name = "cube";
    body.kind = BodyKind::kMesh;
    body.shape = mesh_body({mesh});
    return check_soundness(Part(SourceInfo{}, {body}), 0);
  }
};

Triangles cube() {
  Triangles mesh;
  mesh.add_cube({0, 0, 0});
  return mesh;
}

const Finding* only(const std::vector<Finding>& findings, FindingKind kind) {
  EXPECT_EQ(findings.size(), 1u);
  for (const Finding& finding : findings)
    if (finding.kind == kind) return &finding;
  ADD_FAILURE() << "not found: " << finding_name(kind);
  return nullptr;
}

TEST(MeshSoundness, AClosedCubeIsSound) {
  EXPECT_TRUE(cube().findings().empty());
}

TEST(MeshSoundness, AHoleIsOneBorderWithItsLength) {
  Triangles mesh = cube();
  mesh.triangles.erase(mesh.triangles.begin(), mesh.triangles.begin() + 2);  // the bottom
  const auto findings = mesh.findings();
  const Finding* hole = only(findings, FindingKind::kOpenEdge);
  ASSERT_TRUE(hole && hole->where && hole->amount);
  EXPECT_EQ(hole->count, 4);
  EXPECT_NEAR(*hole->amount, 40, 1e-12);
  EXPECT_NEAR(hole->where->Z(), 0, 1e-12);
}

TEST(MeshSoundness, TriangleTurnedOverDisagreesWithItsNeighbours) {
  Triangles mesh = cube();
  std::swap(mesh.triangles[4][1], mesh.triangles[4][2]);
  const auto findings = mesh.findings();
  const Finding* turned = only(findings, FindingKind::kWrongOrientation);
  ASSERT_TRUE(turned);
  EXPECT_EQ(turned->count, 3);
}

TEST(MeshSoundness, InsideOutDoubleFlatAndSeparateOnesAreTold) {
  Triangles inside_out = cube();
  for (auto& t : inside_out.triangles) std::swap(t[1], t[2]);
  EXPECT_TRUE(only(inside_out.findings(), FindingKind::kInverted));

  Triangles twice = cube();
  twice.triangles.push_back({twice.triangles[3][1], twice.triangles[3][2], twice.triangles[3][0]});
  const auto doubles = twice.findings();
  const Finding* found = only(doubles, FindingKind::kDuplicateTriangle);
  ASSERT_TRUE(found);
  EXPECT_EQ(found->count, 1);

  Triangles flat = cube();
  flat.triangles.push_back({0, 1, 1});
  flat.nodes.push_back(gp_Pnt(5, 0, 0));
  flat.triangles.push_back({0, static_cast<int>(flat.nodes.size()) - 1, 1});
  const auto degenerate = flat.findings();
  const Finding* without_area = only(degenerate, FindingKind::kDegenerateTriangle);
  ASSERT_TRUE(without_area);
  EXPECT_EQ(without_area->count, 2);

  Triangles two = cube();
  two.add_cube({100, 0, 0}, 4);
  const auto shells = two.findings();
  const Finding* apart = only(shells, FindingKind::kSeparateShell);
  ASSERT_TRUE(apart && apart->where);
  EXPECT_EQ(apart->count, 12);
  EXPECT_GT(apart->where->X(), 99);  // the smaller one
}

TEST(MeshSoundness, EdgesOfMoreThanTwoTrianglesAreTold) {
  Triangles mesh = cube();
  mesh.nodes.push_back(gp_Pnt(5, -8, 20));
  mesh.triangles.push_back({4, 5, 8});  // a fin on the edge from 4 to 5
  const auto findings = mesh.findings();
  const auto has = [&](FindingKind kind) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.kind == kind; });
  };
  EXPECT_TRUE(has(FindingKind::kNonManifoldEdge));
  EXPECT_TRUE(has(FindingKind::kOpenEdge));  // the fin's other two sides
}

}  // namespace
}  // namespace anvil
