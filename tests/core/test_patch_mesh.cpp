// Flat faces that win and lose holes keep most of their triangles: what is there afterwards must still cover
// exactly the face and join what lies beside it.
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include "part/mesh.h"
#include "part/mesh_soundness.h"
#include "support/mending.h"
#include "support/random.h"

namespace anvil::test {
namespace {

void expect_whole_mesh(const TopoDS_Shape& body) {
  std::vector<Handle(Poly_Triangulation)> meshes;
  for (TopExp_Explorer faces(body, TopAbs_FACE); faces.More(); faces.Next()) {
    const TopoDS_Face& face = TopoDS::Face(faces.Current());
    TopLoc_Location location;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, location)->Copy();
    int outlines = 0;
    for (TopoDS_Iterator wires(face); wires.More(); wires.Next()) ++outlines;
    // No points but on the outlines: of a polygon with n points and h holes come n + 2 h - 2 triangles.
    if (recognise_surface(face).kind == SurfaceKind::kPlane) {
      EXPECT_EQ(mesh->NbTriangles(), mesh->NbNodes() + 2 * (outlines - 1) - 2);
    }
    for (int i = 1; face.Orientation() == TopAbs_REVERSED && i <= mesh->NbTriangles(); ++i) {
      int a = 0, b = 0, c = 0;
      mesh->Triangle(i).Get(a, b, c);
      mesh->SetTriangle(i, Poly_Triangle(a, c, b));
    }
    meshes.push_back(mesh);
  }
  for (const Finding& finding : check_mesh(mesh_body(meshes), 0)) ADD_FAILURE() << finding.text;
}

TopoDS_Shape plate(Random& random, std::vector<gp_Pnt>& walls) {
  TopoDS_Shape solid = plain();
  for (int column = 0; column < 4; ++column)
    for (int row = 0; row < 2; ++row) {
      const gp_Pnt top(10 + 20 * column, 10 + 20 * row, 20);
      const double radius = random.between(2, 4.5), depth = random.whole(0, 1) ? 20 : 12;
      solid = drilled(solid, top, 2 * radius, depth);
      walls.push_back(top.Translated({radius, 0, -depth / 2}));
    }
  return solid;
}

TEST(PatchedMesh, CoversTheFaceAndJoinsWhatLiesBesideIt) {
  for (unsigned seed = 1; seed <= 12; ++seed) {
    SCOPED_TRACE(seed);
    Random random(seed);
    std::vector<gp_Pnt> walls;
    Mending m(plate(random, walls));
    for (int times = 0; times < 3; ++times) {
      const Reference wall = m.bore(walls[random.whole(0, 7)]);
      const int what = random.whole(0, 2);
      if (what == 0) m.keep("correct.close", {wall});
      if (what == 1) m.keep("correct.resize", {wall}, {{"diameter", std::to_string(random.between(3, 10))}});
      if (what == 2)
        m.keep(
            "correct.move-by", {Mending::reading(), wall},
            {{"dx", std::to_string(random.between(-4, 4))}, {"dy", std::to_string(random.between(-4, 4))}});
    }
    const Evaluation now = evaluate(m.job);
    ASSERT_TRUE(now.part);
    expect_whole_mesh(now.part->bodies().front().shape);
  }
}

}  // namespace
}  // namespace anvil::test
